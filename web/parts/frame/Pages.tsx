import type { ReactNode } from 'react';
import { ButtonLink } from '~/web/parts/form/Button';

interface Props {
  /** The address of the page that begins after so many rows. */
  readonly address: (from: number) => string;
  readonly from: number;
  readonly size: number;
  readonly total: number;
}

/** The way through a long list, a page at a time. */
export function Pages({ address, from, size, total }: Props): ReactNode {
  if (total <= size) return null;
  return (
    <nav aria-label="Pages" className="no-print flex items-center gap-3">
      {from > 0 && <ButtonLink href={address(Math.max(0, from - size))}>Before</ButtonLink>}
      <span className="text-muted">
        {from + 1} to {Math.min(total, from + size)} of {total}
      </span>
      {from + size < total && <ButtonLink href={address(from + size)}>After</ButtonLink>}
    </nav>
  );
}
