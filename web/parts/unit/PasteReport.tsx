'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { PAGE_COLUMNS, pageTable, type PageColumns } from '~/core/observe/pageTable';
import type { Enclosure } from '~/core/unit/state';
import type { KeptColumns } from '~/service/units/reportOperations';
import { api, type AnswerOf } from '~/web/parts/form/api';
import { Button } from '~/web/parts/form/Button';
import { AreaField } from '~/web/parts/form/fields/TextField';
import { FileInput } from '~/web/parts/form/FileInput';
import { rowsOf } from '~/web/parts/form/rowsOf';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import { COLUMN_LABELS, ColumnFields, NO_COLUMN, NO_COLUMNS, type ColumnValues } from './ColumnFields';
import { Contradictions } from './Contradictions';
import { Moment } from './Moment';

interface Values extends ColumnValues {
  readonly text: string;
}

interface Props {
  readonly id: string;
  readonly enclosures: readonly Enclosure[];
  /** Which columns of its list are what, as somebody has said before. */
  readonly kept: KeptColumns | null;
}

/** A list of its page has no more. */
const MOST_CHARACTERS = 100_000;

/** Pasted text against the record: every contradiction with both sides, each accepted or refused, then stored whole. */
export function PasteReport({ id, enclosures, kept: first }: Props): ReactNode {
  const router = useRouter();
  const file = useRef<HTMLInputElement>(null);
  const [kept, setKept] = useState(first);
  const [found, setFound] = useState<{
    readonly asked: string;
    readonly answer: AnswerOf<'POST /units/{id}/reports'>;
  } | null>(null);
  const columnsOf = (values: Values): PageColumns | null => {
    if (!pageTable(rowsOf(values.text)) || values.bay === NO_COLUMN) return null;
    return Object.fromEntries(
      PAGE_COLUMNS.flatMap((column) => (values[column] === NO_COLUMN ? [] : [[column, values[column]]])),
    ) as PageColumns;
  };
  const keep = async (columns: PageColumns): Promise<void> => {
    if (JSON.stringify(columns) === JSON.stringify(kept?.columns)) return;
    const sent = await api('PUT /units/{id}/report-columns', { id, body: columns });
    if (sent.kind === 'refused') return tell(sent.sentence);
    setKept(sent.answer.kept);
    tell('Kept: its next list is read by the same columns.');
  };
  const sheet = useSheet<Values, 'POST /units/{id}/reports'>({
    start: { text: '', ...NO_COLUMNS },
    keep: `report ${id}`,
    then: 'sent',
    sends: 'POST /units/{id}/reports',
    asks: (values) => {
      const { text } = values;
      if (text.trim() === '') return unread({ text: 'Paste what its page shows of its drives.' });
      const columns = columnsOf(values);
      return { id, body: { text, ...(columns ? { columns } : {}) } };
    },
    at: Object.fromEntries(PAGE_COLUMNS.map((column) => [column, `/columns/${column}`])),
    done: (answer, values) => {
      setFound({ asked: JSON.stringify(values), answer });
      const columns = columnsOf(values);
      // What leads to no bay is not what the next list should be read by.
      if (columns && answer.report.bays.length > 0) void keep(columns);
    },
  });
  const values = useWatch({ control: sheet.form.control }) as Values;
  const table = useMemo(() => pageTable(rowsOf(values.text)), [values.text]);
  // What was found is of what stood there then.
  const compared = found?.asked === JSON.stringify(values) ? found.answer : null;
  const take = async (chosen: File): Promise<void> => {
    if (chosen.size > MOST_CHARACTERS) return tell(`${chosen.name} is larger than a list of drives can be.`);
    sheet.form.setValue('text', await chosen.text(), { shouldDirty: true });
  };
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
        <div>
          <FileInput
            ref={file}
            label="A list it wrote out, as CSV"
            accept=".csv,.tsv,.txt,text/csv,text/plain"
            onFile={(chosen) => void take(chosen)}
          />
          <Button onClick={() => file.current?.click()}>Choose a file it wrote out…</Button>
        </div>
        {table && <ColumnFields table={table} kept={kept?.columns ?? null} />}
        {table && kept && (
          <p className="text-sm text-muted">
            As {kept.setBy} said (<Moment at={kept.setAt} />
            ): {columnWords(kept.columns)}.
          </p>
        )}
      </Sheet>
      {compared && (
        <section aria-label="What differs" className="grid gap-3" data-compared>
          <h2 className="text-lg">
            {compared.report.bays.length} {compared.report.bays.length === 1 ? 'bay' : 'bays'} read,{' '}
            {compared.contradictions.length === 0
              ? 'and the record agrees'
              : compared.contradictions.length === 1
                ? 'one thing differs'
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

/** "Bay under “Slot”, Serial under “S/N”." */
function columnWords(columns: PageColumns): string {
  return PAGE_COLUMNS.flatMap((column) =>
    columns[column] === undefined ? [] : [`${COLUMN_LABELS[column].toLowerCase()} under “${columns[column]}”`],
  ).join(', ');
}
