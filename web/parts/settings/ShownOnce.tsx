'use client';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';

/** A secret that is shown this once, to copy. */
export function ShownOnce({
  title,
  text,
  onDone,
}: {
  readonly title: string;
  readonly text: string;
  readonly onDone: () => void;
}): ReactNode {
  const [copied, setCopied] = useState(false);
  const copy = async (): Promise<void> => {
    await navigator.clipboard.writeText(text);
    setCopied(true);
  };
  return (
    <Notice title={title}>
      <code data-secret className="my-2 block bg-surface px-2 py-1.5 font-mono break-all whitespace-pre-line text-ink">
        {text}
      </code>
      <div className="flex gap-2">
        <Button onClick={() => void copy()}>{copied ? 'Copied' : 'Copy'}</Button>
        <Button onClick={onDone}>Done</Button>
      </div>
    </Notice>
  );
}
