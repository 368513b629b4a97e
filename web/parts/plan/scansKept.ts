import { keepText } from '~/web/parts/form/kept';

/** Where this browser keeps what was read for a step, until it is confirmed. */
export function scansKey(plan: string, step: string): string {
  return `shelf-read:${plan}:${step}`;
}

/** Forgets what was read for a step: once it is confirmed; read anew when it is taken back. */
export function forgetScans(plan: string, step: string): void {
  keepText(scansKey(plan, step), '');
}
