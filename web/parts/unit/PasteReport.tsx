'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { eventWords } from '~/core/record/eventWords';
import type { Enclosure } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import type { AnswerOf } from '~/web/parts/form/api';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';

/** Pasted text against the record: every contradiction with both sides, each accepted or refused, then stored whole. */
export function PasteReport({
  id,
  enclosures,
}: {
  readonly id: string;
  readonly enclosures: readonly Enclosure[];
}): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const [text, setText] = useState('');
  const [compared, setCompared] = useState<AnswerOf<'POST /units/{id}/reports'> | null>(null);
  const [verdicts, setVerdicts] = useState<Readonly<Record<number, 'accepted' | 'refused'>>>({});

  const compare = async (): Promise<void> => {
    const answer = await run('POST /units/{id}/reports', { id, body: { text } });
    setCompared(answer);
    setVerdicts({});
  };
  const accepted = compared?.contradictions.filter((_, i) => verdicts[i] === 'accepted') ?? [];
  const store = async (): Promise<void> => {
    const events = accepted.flatMap(({ events: of }) => of);
    if (
      !compared ||
      !(await run('POST /units/{id}/entries', { id, body: { expectedVersion: compared.version, events } }))
    )
      return;
    tell(
      `${accepted.length === 1 ? 'One contradiction' : `${String(accepted.length)} contradictions`} settled in the record.`,
    );
    router.push(`/units/${id}`);
    router.refresh();
  };
  return (
    <div className="grid gap-4">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void compare();
        }}
      >
        <label htmlFor="report" className="sr-only">
          Text of its page
        </label>
        <textarea
          id="report"
          className="field font-mono"
          rows={8}
          value={text}
          placeholder={'Bay 1  QH8-04422-4KH2  7.3 TB  Normal\nBay 2  QH8-04417-77PX  7.3 TB  Failed\nRebuilding 42 %'}
          onChange={(event) => {
            setText(event.target.value);
            setCompared(null);
          }}
        />
        <div>
          <Button look="main" type="submit" disabled={busy || text.trim() === ''}>
            Hold it against the record
          </Button>
        </div>
      </form>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {compared && (
        <section aria-label="What differs" className="grid gap-3" data-compared>
          <h2 className="text-lg">
            {compared.report.bays.length} {compared.report.bays.length === 1 ? 'bay' : 'bays'} read,{' '}
            {compared.contradictions.length === 0
              ? 'and the record agrees'
              : `${String(compared.contradictions.length)} things differ`}
          </h2>
          {compared.report.unread.length > 0 && (
            <p className="text-muted">
              Not understood:{' '}
              {compared.report.unread.map(({ line, text: of }) => `line ${String(line)} “${of}”`).join('; ')}
            </p>
          )}
          <ul className="grid gap-2">
            {compared.contradictions.map((contradiction, i) => (
              <li key={contradiction.sentence} className="border border-line bg-surface px-4 py-3">
                <p className="font-semibold">{contradiction.sentence}</p>
                {contradiction.events.length === 0 ? (
                  <p className="text-muted">Look at the unit: this is not settled from here.</p>
                ) : (
                  <>
                    <p className="text-muted">
                      Accepting records:{' '}
                      {contradiction.events.map((event) => eventWords(event, { enclosures })).join(' ')}
                    </p>
                    <div className="mt-2 flex gap-2" role="group" aria-label={contradiction.sentence}>
                      {(['accepted', 'refused'] as const).map((verdict) => (
                        <Button
                          key={verdict}
                          aria-pressed={verdicts[i] === verdict}
                          className={verdicts[i] === verdict ? 'border-action bg-chosen' : ''}
                          onClick={() => setVerdicts({ ...verdicts, [i]: verdict })}
                        >
                          {verdict === 'accepted' ? 'The page is right' : 'The record is right'}
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
        </section>
      )}
    </div>
  );
}
