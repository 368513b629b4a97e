import type { ReactNode } from 'react';

/** A serial in the typeface made for it, the last four strong: those are what people compare at the shelf. */
export function Serial({ of }: { readonly of: string }): ReactNode {
  return (
    <span className="font-mono break-all">
      {of.slice(0, -4)}
      <strong className="font-bold whitespace-nowrap">{of.slice(-4)}</strong>
    </span>
  );
}
