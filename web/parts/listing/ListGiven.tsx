'use client';
import { useId, useRef, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { FileInput } from '~/web/parts/form/FileInput';

interface Props {
  readonly label: string;
  readonly text: string;
  readonly file: File | null;
  readonly onText: (text: string) => void;
  readonly onFile: (file: File | null) => void;
}

/** One list: pasted, or a file of any length. */
export function ListGiven({ label, text, file, onText, onFile }: Props): ReactNode {
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {file ? (
        <p className="flex min-h-11 items-center gap-3 border border-line bg-surface px-3">
          <span className="min-w-0 flex-1 truncate font-mono">{file.name}</span>
          <button type="button" className="min-h-9 text-action underline max-sm:min-h-11" onClick={() => onFile(null)}>
            Paste instead
          </button>
        </p>
      ) : (
        <textarea
          id={id}
          className="field h-36 w-full font-mono text-sm"
          value={text}
          spellCheck={false}
          onChange={(event) => onText(event.target.value)}
        />
      )}
      <div className="mt-2">
        <Button onClick={() => input.current?.click()}>Take a file…</Button>
        <FileInput
          ref={input}
          label={`${label}, as a file`}
          accept="text/*,.csv,.txt,.md5,.sha1,.sha256"
          onFile={onFile}
        />
      </div>
    </div>
  );
}
