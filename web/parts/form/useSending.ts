'use client';
import { useState } from 'react';
import type { OperationName } from '~/service/contract';
import { api, type AnswerOf, type AskedOf } from './api';

export interface Fault {
  readonly sentence: string;
  readonly fields: Readonly<Record<string, string>>;
}

/** Sends from a form: whether it is under way, and what was wrong with the last try. */
export function useSending() {
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<Fault | null>(null);
  const run = async <N extends OperationName>(name: N, asked: AskedOf<N>): Promise<AnswerOf<N> | null> => {
    setBusy(true);
    setFault(null);
    const sent = await api(name, asked);
    setBusy(false);
    if (sent.kind === 'done') return sent.answer;
    setFault(sent);
    return null;
  };
  return { busy, fault, run, setFault };
}
