'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import type { LedgerLine } from './ledgerLine';
import { LedgerWords } from './LedgerWords';
import { Moment } from './Moment';

const Withdraw = dynamic(() => import('./Withdraw').then((part) => part.Withdraw), { ssr: false });

/** Entered this much after it happened, an entry says so. */
const LATE_MS = 36e5;

/** The ledger as sentences, newest first; what was wrong is taken back, with all that was recorded with it, and never deleted. */
export function Ledger({
  lines,
  mayRecord,
}: {
  readonly lines: readonly LedgerLine[];
  readonly mayRecord: boolean;
}): ReactNode {
  const [wrong, setWrong] = useState<LedgerLine | null>(null);
  return (
    <>
      <table className="w-full border border-line bg-surface">
        <thead className="sr-only">
          <tr>
            <th scope="col">When</th>
            <th scope="col">What</th>
            <th scope="col">Recorded by</th>
            {mayRecord && <th scope="col">Correct</th>}
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.seq} className="group border-t border-line first:border-0">
              <td className="px-3 py-1 align-top whitespace-nowrap text-muted">
                <Moment at={line.happenedAt} />
              </td>
              <td className="px-3 py-1">
                <LedgerWords words={line.words} withdrawnFor={line.withdrawnFor} />
                {Date.parse(line.recordedAt) - Date.parse(line.happenedAt) > LATE_MS && (
                  <span className="text-sm text-muted">
                    {' '}
                    entered <Moment at={line.recordedAt} />
                  </span>
                )}
              </td>
              <td className="px-3 py-1 align-top whitespace-nowrap text-muted max-sm:hidden">{line.recordedBy}</td>
              {mayRecord && (
                <td className="no-print px-3 py-1 text-right align-top">
                  {line.mayWithdraw && line.withdrawnFor === undefined && (
                    <button
                      type="button"
                      className="text-sm text-action underline opacity-0 group-hover:opacity-100 focus-visible:opacity-100 max-lg:opacity-100"
                      onClick={() => setWrong(line)}
                    >
                      Withdraw<span className="sr-only"> entry {line.seq}</span>
                    </button>
                  )}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {wrong && <Withdraw wrong={wrong} lines={lines} onClose={() => setWrong(null)} />}
    </>
  );
}
