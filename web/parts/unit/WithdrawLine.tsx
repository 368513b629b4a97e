'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import type { WrongEntry } from './Withdraw';

const Withdraw = dynamic(() => import('./Withdraw').then((part) => part.Withdraw), { ssr: false });

/** Beside an entry: the way to say that it was not so. */
export function WithdrawLine({ wrong }: { readonly wrong: WrongEntry }): ReactNode {
  const [isAsking, setIsAsking] = useState(false);
  return (
    <>
      <button
        type="button"
        className="text-sm text-action underline opacity-0 group-hover:opacity-100 focus-visible:opacity-100 max-lg:opacity-100 max-sm:min-h-11"
        onClick={() => setIsAsking(true)}
      >
        Withdraw<span className="sr-only"> entry {wrong.seq}</span>
      </button>
      {isAsking && <Withdraw wrong={wrong} onClose={() => setIsAsking(false)} />}
    </>
  );
}
