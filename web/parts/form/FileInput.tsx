'use client';
import type { ReactNode, Ref } from 'react';

/** A hidden file field, opened by a button; the same file can be chosen again, as after a correction. */
export function FileInput({
  ref,
  label,
  accept,
  onFile,
}: {
  readonly ref: Ref<HTMLInputElement>;
  readonly label: string;
  readonly accept: string;
  readonly onFile: (file: File) => void;
}): ReactNode {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      aria-label={label}
      className="sr-only"
      tabIndex={-1}
      onChange={(event) => {
        const file = event.target.files?.[0];
        event.target.value = '';
        if (file) onFile(file);
      }}
    />
  );
}
