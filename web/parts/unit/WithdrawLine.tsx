'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import type { WrongEntry } from './Withdraw';

const Withdraw = dynamic(() => import('./Withdraw').then((part) => part.Withdraw), { ssr: false });

interface Props {
  /** The act it came by. */
  readonly act: string;
  readonly seq: number;
  readonly wrong: WrongEntry;
  readonly together: readonly WrongEntry[];
}

/** Beside an entry: the way to say that it was not so. */
export function WithdrawLine({ act, seq, wrong, together }: Props): ReactNode {
  const [isAsking, setIsAsking] = useState(false);
  return (
    <>
      <button
        type="button"
        className="text-sm text-action underline opacity-0 group-hover:opacity-100 focus-visible:opacity-100 max-lg:opacity-100 max-sm:min-h-11"
        onClick={() => setIsAsking(true)}
      >
        Withdraw<span className="sr-only"> entry {seq}</span>
      </button>
      {isAsking && <Withdraw act={act} wrong={wrong} together={together} onClose={() => setIsAsking(false)} />}
    </>
  );
}
