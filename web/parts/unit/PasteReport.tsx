'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import type { Enclosure } from '~/core/unit/state';
import type { AnswerOf } from '~/web/parts/form/api';
import { AreaField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
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
  const [found, setFound] = useState<{
    readonly text: string;
    readonly answer: AnswerOf<'POST /units/{id}/reports'>;
  } | null>(null);
  const sheet = useSheet<{ readonly text: string }, 'POST /units/{id}/reports'>({
    start: { text: '' },
    keep: `report ${id}`,
    then: 'sent',
    sends: 'POST /units/{id}/reports',
    asks: ({ text }) =>
      text.trim() === '' ? unread({ text: 'Paste what its page shows of its drives.' }) : { id, body: { text } },
    done: (answer, { text }) => setFound({ text, answer }),
  });
  const typed = useWatch({ control: sheet.form.control, name: 'text' });
  // What was found is of what stood there then.
  const compared = found?.text === typed ? found.answer : null;
  return (
    <div className="grid gap-4">
      <Sheet of={sheet} sends="Hold it against the record">
        <AreaField
          name="text"
          label="Text of its page"
          className="font-mono"
          rows={8}
          placeholder={'Bay 1  QH8-04422-4KH2  7.3 TB  Normal\nBay 2  QH8-04417-77PX  7.3 TB  Failed\nRebuilding 42 %'}
        />
      </Sheet>
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
