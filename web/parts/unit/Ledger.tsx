'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { LedgerWords } from './LedgerWords';
import { Moment } from './Moment';

export interface LedgerLine {
  readonly seq: number;
  /** The act it came by. */
  readonly act: string;
  readonly happenedAt: string;
  readonly recordedAt: string;
  readonly recordedBy: string;
  readonly words: string;
  /** Why it does not count any more, where it does not. */
  readonly withdrawnFor: string | undefined;
  readonly mayWithdraw: boolean;
}

/** As many entries that go together are named. */
const MOST_TOGETHER = 6;
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
  const router = useRouter();
  const { busy, fault, run, setFault } = useSending();
  const [wrong, setWrong] = useState<LedgerLine | null>(null);
  const [reason, setReason] = useState('');
  const together = lines.filter((line) => line.act === wrong?.act && line.seq !== wrong.seq);
  const withdraw = async (): Promise<void> => {
    if (!wrong) return;
    if (!(await run('POST /acts/{id}/back', { id: wrong.act, body: { reason: reason.trim() } }))) return;
    setWrong(null);
    tell('Withdrawn. Both entries stay in the ledger.');
    // With its first entry the unit itself was not so.
    if ([wrong, ...together].some(({ seq }) => seq === 1)) router.push('/');
    else router.refresh();
  };
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
                      onClick={() => {
                        setReason('');
                        setFault(null);
                        setWrong(line);
                      }}
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
      <Dialog open={wrong !== null} onOpenChange={(open) => !open && setWrong(null)} title="Withdraw an entry">
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            void withdraw();
          }}
        >
          <p>“{wrong?.words}” stays in the ledger and no longer counts; everything after it is worked out anew.</p>
          {together.length > 0 && (
            <div data-together>
              <p>It was recorded together with what follows, which goes with it:</p>
              <ul className="list-disc pl-5">
                {together.slice(0, MOST_TOGETHER).map(({ seq, words }) => (
                  <li key={seq}>{words}</li>
                ))}
                {together.length > MOST_TOGETHER && <li>and {together.length - MOST_TOGETHER} more</li>}
              </ul>
            </div>
          )}
          {fault && <Notice grave>{fault.sentence}</Notice>}
          <Field
            label="Why it was not so"
            value={reason}
            required
            maxLength={400}
            autoFocus
            autoComplete="off"
            onChange={(event) => setReason(event.target.value)}
          />
          <div className="flex justify-end">
            <Button look="grave" type="submit" disabled={busy || reason.trim() === ''}>
              Withdraw it
            </Button>
          </div>
        </form>
      </Dialog>
    </>
  );
}
