'use client';
import { useMemo, useRef, useState, type DragEvent, type ReactNode } from 'react';
import type { DriveList } from '~/core/drive/driveList';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { FileInput } from '~/web/parts/form/FileInput';
import { Serial } from '~/web/parts/unit/Serial';
import { readFile, readSheet } from './draft';

/** Rows drawn at once; the rest is counted. */
const MOST_ROWS = 200;
/** A file larger than this is no list of drives. */
const MOST_FILE_BYTES = 10e6;

/** Where the drives in hand are written down: pasted, dropped or typed as a sheet, read back row by row. */
export function SheetEditor({
  initial,
  sample,
  onUse,
  onCancel,
  children,
}: {
  readonly initial: string;
  readonly sample: string;
  readonly onUse: (text: string) => void;
  readonly onCancel?: () => void;
  readonly children?: ReactNode;
}): ReactNode {
  const [text, setText] = useState(initial);
  const [refused, setRefused] = useState<string | null>(null);
  const [isOver, setIsOver] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const list = useMemo(() => (text.trim() === '' ? null : readSheet(text)), [text]);

  const take = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    if (chosen.size > MOST_FILE_BYTES)
      setRefused(`${chosen.name} has ${formatBytes(chosen.size)}: that is no list of drives. Nothing was changed.`);
    else {
      setRefused(null);
      setText(await readFile(chosen));
    }
  };
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setIsOver(false);
    void take(event.dataTransfer.files[0]);
  };

  return (
    <div className="grid gap-4 p-5 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
      <div>
        <h2 className="text-lg">Drives in hand</h2>
        <p className="mt-1 mb-2 text-muted">
          Paste a sheet, drop a CSV file here, or type. A head row, then a drive a row, columns in any order:{' '}
          <span className="font-mono">bay, size or bytes, serial, model, kind, price</span>. Sizes as on the label (“12
          TB”), as a page shows them (“11.2 TiB”), or exact bytes, which always win.
        </p>
        <div
          onDragOver={(event) => (event.preventDefault(), setIsOver(true))}
          onDragLeave={() => setIsOver(false)}
          onDrop={drop}
          className={isOver ? 'outline-2 outline-action' : ''}
        >
          <label htmlFor="sheet" className="sr-only">
            The sheet, as CSV
          </label>
          <textarea
            id="sheet"
            value={text}
            onChange={(event) => setText(event.target.value)}
            rows={14}
            spellCheck={false}
            placeholder={'bay,size,serial,model,price\n1,12 TB,…'}
            className="field font-mono"
          />
        </div>
        <div className="mt-3 flex flex-wrap gap-2">
          <Button look="main" disabled={!list || list.drives.length === 0} onClick={() => onUse(text)}>
            {list && list.drives.length > 0
              ? `Use ${list.drives.length === 1 ? 'this drive' : `these ${String(list.drives.length)} drives`}`
              : 'Use these drives'}
          </Button>
          <Button onClick={() => file.current?.click()}>Choose a file…</Button>
          <Button onClick={() => setText(sample)}>Use the sample</Button>
          {onCancel && <Button onClick={onCancel}>Back without changes</Button>}
          <FileInput
            ref={file}
            label="CSV file"
            accept=".csv,.tsv,.txt,text/csv,text/plain"
            onFile={(chosen) => void take(chosen)}
          />
        </div>
      </div>
      <div className="grid content-start gap-3">
        {refused !== null && <Notice grave>{refused}</Notice>}
        {list && <Problems list={list} />}
        {list && list.drives.length > 0 && <ReadBack list={list} />}
        {children}
      </div>
    </div>
  );
}

function Problems({ list: { problems, drives } }: { readonly list: DriveList }): ReactNode {
  if (problems.length === 0) return null;
  const title =
    drives.length === 0
      ? 'Nothing could be read'
      : `${problems.length === 1 ? 'One cell is' : `${String(problems.length)} cells are`} not right; the other rows are kept`;
  return (
    <Notice grave title={title}>
      <ul className="mt-1 max-h-48 overflow-y-auto" data-problems tabIndex={0} aria-label="What is not right">
        {problems.slice(0, MOST_ROWS).map(({ row, column, reason }, i) => (
          <li key={i}>
            {row > 0 && <strong>Row {row}</strong>}
            {column !== undefined && <>, column “{column}”</>}
            {row > 0 && ': '}
            {reason}
          </li>
        ))}
        {problems.length > MOST_ROWS && <li>and {problems.length - MOST_ROWS} more.</li>}
      </ul>
    </Notice>
  );
}

function ReadBack({ list: { drives } }: { readonly list: DriveList }): ReactNode {
  return (
    <div
      className="max-h-[420px] overflow-y-auto border border-line bg-surface"
      tabIndex={0}
      role="region"
      aria-label="Drives as read"
    >
      <table className="w-full text-sm">
        <caption className="px-3 py-2 text-left font-semibold">
          Read as {drives.length === 1 ? 'one drive' : `${drives.length.toLocaleString('en')} drives`}. Nothing is
          stored yet.
        </caption>
        <thead className="text-left text-muted">
          <tr>
            {['Bay', 'Bytes', 'Known by', 'Serial', 'Model'].map((head) => (
              <th key={head} scope="col" className={`px-3 py-1 font-normal ${head === 'Bytes' ? 'text-right' : ''}`}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {drives.slice(0, MOST_ROWS).map((drive) => (
            <tr key={drive.row} className="border-t border-line">
              <td className="px-3 py-1">{drive.bay}</td>
              <td className="figures px-3 py-1 whitespace-nowrap">
                {drive.bytes.toLocaleString('en').replaceAll(',', '\u202f')}
              </td>
              <td className="px-3 py-1 whitespace-nowrap">
                {drive.basis === 'exact'
                  ? 'exact bytes'
                  : drive.basis === 'label'
                    ? `label, ${drive.label ?? ''}`
                    : `rounded, ${drive.label ?? ''}`}
              </td>
              <td className="px-3 py-1 whitespace-nowrap">
                {drive.serial === undefined ? (
                  <span className="text-muted">not read</span>
                ) : (
                  <Serial of={drive.serial} />
                )}
              </td>
              <td className="px-3 py-1">{drive.model}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {drives.length > MOST_ROWS && (
        <p className="border-t border-line px-3 py-2 text-muted">
          and {(drives.length - MOST_ROWS).toLocaleString('en')} more.
        </p>
      )}
    </div>
  );
}
