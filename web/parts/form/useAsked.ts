'use client';
import { useEffect, useRef, useState } from 'react';
import type { NotDone, Sent } from './send';

/** A pause after a keystroke before anything is asked; a hand scanner types a whole serial in less. */
const PAUSE_MS = 150;

interface Asked<A> {
  /** The answer to what stands there now, and to nothing older. */
  readonly answer: A | null;
  readonly refusal: NotDone | null;
  /** The last answer there was, whatever it was to: for what may stay in view, marked, until the next one comes. */
  readonly last: A | null;
  readonly isAsking: boolean;
}

interface Options<A> {
  readonly pauseMs?: number;
  readonly onAnswer?: (answer: A) => void;
}

/**
 * Asks while something is typed or chosen: waits for a pause, cancels what was asked before, and never hands out an answer
 * to an older question.
 *
 * @param question what is asked, as text: another text is another question; null asks nothing
 */
export function useAsked<A>(
  question: string | null,
  ask: (signal: AbortSignal) => Promise<Sent<A>>,
  { pauseMs = PAUSE_MS, onAnswer }: Options<A> = {},
): Asked<A> {
  const [got, setGot] = useState<{ readonly of: string; readonly sent: Sent<A>; readonly last: A | null } | null>(null);
  const latest = useRef({ ask, onAnswer });
  useEffect(() => {
    latest.current = { ask, onAnswer };
  });
  useEffect(() => {
    if (question === null) return;
    const abort = new AbortController();
    const timer = setTimeout(() => {
      void latest.current.ask(abort.signal).then((sent) => {
        if (abort.signal.aborted) return;
        setGot((before) => ({ of: question, sent, last: sent.kind === 'done' ? sent.answer : (before?.last ?? null) }));
        if (sent.kind === 'done') latest.current.onAnswer?.(sent.answer);
      });
    }, pauseMs);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [question, pauseMs]);
  const sent = question !== null && got?.of === question ? got.sent : null;
  return {
    answer: sent?.kind === 'done' ? sent.answer : null,
    refusal: sent?.kind === 'refused' ? sent : null,
    last: got?.last ?? null,
    isAsking: question !== null && sent === null,
  };
}
