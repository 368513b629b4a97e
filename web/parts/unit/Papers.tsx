'use client';
import { useRouter } from 'next/navigation';
import { useRef, type ReactNode } from 'react';
import type { Paper } from '~/service/takeAway/paperOperations';
import { Button } from '~/web/parts/form/Button';
import { FileInput } from '~/web/parts/form/FileInput';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { Moment } from './Moment';

/** Reads a file as base64, in pieces a browser can take. */
export async function base64Of(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

/** Pictures and papers kept with a unit or a drive. */
export function Papers({
  of,
  papers,
  mayRecord,
}: {
  readonly of: { readonly unit: string } | { readonly serial: string };
  readonly papers: readonly Paper[];
  readonly mayRecord: boolean;
}): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const input = useRef<HTMLInputElement>(null);
  const add = async (file: File): Promise<void> => {
    const body = { name: file.name.slice(0, 120), base64: await base64Of(file) };
    const kept =
      'unit' in of
        ? run('POST /units/{id}/papers', { id: of.unit, body })
        : run('POST /drives/{serial}/papers', { serial: of.serial, body });
    if (!(await kept)) return;
    tell(`${file.name} is kept.`);
    router.refresh();
  };
  const remove = async ({ id, name }: Paper): Promise<void> => {
    if (!(await run('DELETE /papers/{id}', { id }))) return;
    tell(`${name} is thrown away.`);
    router.refresh();
  };
  return (
    <div className="grid gap-3">
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {papers.length === 0 && (
        <p className="text-muted">
          No picture or paper is kept here yet: an invoice, a photo of the cabling, a wipe record.
        </p>
      )}
      <ul className="flex flex-wrap gap-3">
        {papers.map((paper) => (
          <li key={paper.id} className="w-[180px] border border-line bg-surface p-2">
            <a
              href={`/api/v1/papers/${paper.id}`}
              className="block break-words text-action underline"
              {...(paper.type.startsWith('image/') ? { target: '_blank' } : { download: paper.name })}
            >
              {paper.type.startsWith('image/') && (
                // eslint-disable-next-line @next/next/no-img-element -- kept as it came: nothing is to resize it
                <img src={`/api/v1/papers/${paper.id}`} alt="" className="mb-1 h-24 w-full object-cover" />
              )}
              {paper.name}
            </a>
            <p className="text-sm text-muted">
              {Math.ceil(paper.size / 1000)} kB, {paper.addedBy}, <Moment at={paper.addedAt} />
            </p>
            {mayRecord && (
              <button
                type="button"
                className="no-print min-h-8 text-sm text-muted underline"
                disabled={busy}
                onClick={() => void remove(paper)}
              >
                Throw away<span className="sr-only"> {paper.name}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      {mayRecord && (
        <div className="no-print">
          <FileInput
            ref={input}
            label="A picture or a paper"
            accept="image/png,image/jpeg,image/webp,application/pdf,text/plain"
            onFile={(file) => void add(file)}
          />
          <Button disabled={busy} onClick={() => input.current?.click()}>
            {busy ? 'Keeping…' : 'Add a picture or a paper'}
          </Button>
          <p className="mt-1 text-sm text-muted">
            PNG, JPEG, WebP, PDF or text, up to 3 MB. Kept as it is; nothing in it is ever run.
          </p>
        </div>
      )}
    </div>
  );
}
