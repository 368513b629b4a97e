'use client';
import { useState, type ReactNode } from 'react';
import { eventWords } from '~/core/record/eventWords';
import type { Contradiction } from '~/core/observe/compareObservation';
import type { Enclosure } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { Sentence } from '~/web/parts/frame/Sentence';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly enclosures: readonly Enclosure[];
  readonly found: readonly Pick<Contradiction, 'sentence' | 'events'>[];
  /** Who says otherwise than the record. */
  readonly who: 'The page' | 'The unit' | 'The mail';
  readonly onSettled: () => void;
}

/** Every contradiction with both sides, each accepted or refused by a person, then stored whole. */
export function Contradictions({ id, version, enclosures, found, who, onSettled }: Props): ReactNode {
  const { busy, fault, run } = useSending();
  const [verdicts, setVerdicts] = useState<Readonly<Record<string, 'accepted' | 'refused'>>>({});
  const accepted = found.filter(({ sentence }) => verdicts[sentence] === 'accepted');
  const store = async (): Promise<void> => {
    const events = accepted.flatMap(({ events: of }) => of);
    const done = await run('POST /units/{id}/entries', { id, body: { expectedVersion: version, events } });
    if (!done) return;
    tell(
      `${accepted.length === 1 ? 'One contradiction' : `${String(accepted.length)} contradictions`} settled in the record.`,
    );
    onSettled();
  };
  return (
    <>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      <ul className="grid gap-2">
        {found.map(({ sentence, events }) => (
          <li key={sentence} className="border border-line bg-surface px-4 py-3">
            <p className="font-semibold">
              <Sentence of={sentence} />
            </p>
            {events.length === 0 ? (
              <p className="text-muted">Look at the unit: this is not settled from here.</p>
            ) : (
              <>
                <p className="text-muted">
                  Accepting records: {events.map((event) => eventWords(event, { enclosures })).join(' ')}
                </p>
                <div className="mt-2 flex gap-2" role="group" aria-label={sentence}>
                  {(['accepted', 'refused'] as const).map((verdict) => (
                    <Button
                      key={verdict}
                      aria-pressed={verdicts[sentence] === verdict}
                      className={verdicts[sentence] === verdict ? 'border-action bg-chosen' : ''}
                      onClick={() => setVerdicts({ ...verdicts, [sentence]: verdict })}
                    >
                      {verdict === 'accepted' ? `${who} is right` : 'The record is right'}
                    </Button>
                  ))}
                </div>
              </>
            )}
          </li>
        ))}
      </ul>
      {accepted.length > 0 && (
        <div>
          <Button look="main" disabled={busy} onClick={() => void store()}>
            Record the {accepted.length === 1 ? 'one' : accepted.length} accepted
          </Button>
        </div>
      )}
    </>
  );
}
