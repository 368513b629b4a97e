'use client';
import { useState } from 'react';
import { send, type Sent } from './send';

export interface Fault {
  readonly sentence: string;
  readonly fields: Readonly<Record<string, string>>;
}

/** Sends from a form: whether it is under way, and what was wrong with the last try. */
export function useSending() {
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<Fault | null>(null);
  const run = async (method: Parameters<typeof send>[0], path: string, body?: unknown): Promise<Extract<Sent, { kind: 'done' }>['answer'] | null> => {
    setBusy(true);
    setFault(null);
    const sent = await send(method, path, body);
    setBusy(false);
    if (sent.kind === 'done') return sent.answer;
    setFault(sent);
    return null;
  };
  return { busy, fault, run, setFault };
}
