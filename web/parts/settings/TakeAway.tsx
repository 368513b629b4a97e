'use client';
import { useRouter } from 'next/navigation';
import { useRef, useState, type ReactNode } from 'react';
import type { Imported } from '~/service/takeAway/importAll';
import { Button } from '~/web/parts/form/Button';
import { FileInput } from '~/web/parts/form/FileInput';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import type { ExportDocument } from '~/service/takeAway/importAll';
import type { Column } from '~/web/parts/table/DataTable';
import { ListHere } from '~/web/parts/table/ListHere';
import { tell } from '~/web/parts/tell/tell';

const SHEETS = [
  ['units', 'Units'],
  ['drives', 'Drives'],
  ['events', 'Entries'],
  ['readings', 'Readings'],
] as const;

const COLUMNS: readonly Column<Imported['rows'][number]>[] = [
  { id: 'what', head: 'What', value: ({ what }) => what },
  { id: 'name', head: 'Name', value: ({ name }) => name },
  {
    id: 'verdict',
    head: 'Would be',
    value: ({ verdict }) => verdict,
    cell: ({ verdict }) =>
      verdict === 'refused' ? <span className="font-semibold text-thinned">{verdict}</span> : verdict,
  },
  { id: 'why', head: 'Why', value: ({ detail = '' }) => detail },
];

/** Everything can be taken away, and brought back: tried first, then whole or not at all. */
export function TakeAway({ mayBringBack }: { readonly mayBringBack: boolean }): ReactNode {
  const router = useRouter();
  const { busy, fault, run, setFault } = useSending();
  const input = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState<{
    readonly name: string;
    readonly document: ExportDocument;
    readonly tried: Imported;
  } | null>(null);

  const tryIt = async (file: File): Promise<void> => {
    setChosen(null);
    let document: ExportDocument;
    try {
      document = JSON.parse(await file.text()) as ExportDocument;
    } catch {
      return setFault({ sentence: `${file.name} is not JSON: choose a file that was taken away here.`, fields: {} });
    }
    const tried = await run('POST /import', { body: { document, try: true } });
    if (tried) setChosen({ name: file.name, document, tried });
    return undefined;
  };
  const bringBack = async (): Promise<void> => {
    if (!chosen) return;
    const answer = await run('POST /import', { body: { document: chosen.document } });
    if (!answer) return;
    if (!answer.done) return setChosen({ ...chosen, tried: answer });
    tell(`${chosen.name} is brought back.`);
    setChosen(null);
    router.refresh();
    return undefined;
  };
  const rows = chosen?.tried.rows ?? [];
  const refused = rows.filter(({ verdict }) => verdict === 'refused');
  const count = (verdict: string): number => rows.filter((row) => row.verdict === verdict).length;
  // What stands in the way comes first.
  const ordered = [...refused, ...rows.filter(({ verdict }) => verdict !== 'refused')];
  const placeOf = new Map(ordered.map((row, i) => [row, i]));
  return (
    <section aria-label="Take everything away">
      <h2 className="mb-2 text-lg">Take everything away, bring it back</h2>
      <p className="max-w-[640px] text-muted">
        One JSON file holds every unit, drive, entry, reading and paper, by a{' '}
        <a href="/api/v1/schemas/export" className="text-action underline">
          published schema
        </a>
        . People and keys stay here.
      </p>
      <p className="my-3 flex flex-wrap items-center gap-4">
        <a href="/api/v1/export" download className="font-semibold text-action underline">
          Take everything away
        </a>
        {SHEETS.map(([path, words]) => (
          <a key={path} href={`/api/v1/${path}.csv`} download className="text-action underline">
            {words} as CSV
          </a>
        ))}
      </p>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {mayBringBack && (
        <>
          <FileInput
            ref={input}
            label="A file taken away before"
            accept="application/json,.json"
            onFile={(file) => void tryIt(file)}
          />
          <Button disabled={busy} onClick={() => input.current?.click()}>
            {busy ? 'Reading…' : 'Bring a file back…'}
          </Button>
        </>
      )}
      {chosen && (
        <div className="mt-4 grid gap-3" data-import>
          <p className="font-semibold">
            {chosen.name}: {count('added')} would be added, {count('changed')} changed, {count('unchanged')} are the
            same, {refused.length} refused.
          </p>
          <ListHere
            name="file-"
            label="What the file holds"
            columns={COLUMNS}
            rows={ordered}
            keyOf={(row) => String(placeOf.get(row))}
          />
          {refused.length > 0 ? (
            <Notice grave title="Nothing is brought back as long as a row is refused">
              <p>Settle what is named above, then choose the file again.</p>
            </Notice>
          ) : (
            <div className="flex gap-2">
              <Button look="main" disabled={busy} onClick={() => void bringBack()}>
                Bring it back, all of it
              </Button>
              <Button onClick={() => setChosen(null)}>Leave it</Button>
            </div>
          )}
        </div>
      )}
    </section>
  );
}
