import type { ReactNode } from 'react';

/** A serial in the typeface made for it, the last four strong: those are what people compare at the shelf. */
export function Serial({ of, large = false }: { readonly of: string; readonly large?: boolean }): ReactNode {
  return (
    <span className="font-mono whitespace-nowrap">
      {of.slice(0, -4)}
      <strong className={`font-bold ${large ? 'text-xl' : ''}`}>{of.slice(-4)}</strong>
    </span>
  );
}
