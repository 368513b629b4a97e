import type { Logger } from 'pino';

export function scrubbed(text: string): string;
export function logLines(): Logger;
