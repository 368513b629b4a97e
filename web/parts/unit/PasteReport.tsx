'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import type { Enclosure } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import type { AnswerOf } from '~/web/parts/form/api';
import { useSending } from '~/web/parts/form/useSending';
import { Contradictions } from './Contradictions';

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

  const compare = async (): Promise<void> => {
    const answer = await run('POST /units/{id}/reports', { id, body: { text } });
    setCompared(answer);
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
          <Contradictions
            key={String(compared.version)}
            id={id}
            version={compared.version}
            enclosures={enclosures}
            found={compared.contradictions}
            who="The page"
            onSettled={() => {
              router.push(`/units/${id}`);
              router.refresh();
            }}
          />
        </section>
      )}
    </div>
  );
}
