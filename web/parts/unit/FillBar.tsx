import type { ReactNode } from 'react';
import { FULL_LINE } from '~/core/upkeep/need';

/** How full a pool is, with the line people plan to. */
export function FillBar({ share }: { readonly share: number }): ReactNode {
  return (
    <div className="relative h-[5px] bg-line" aria-hidden>
      <div className="h-full bg-ink" style={{ width: `${String(Math.min(100, share * 100))}%` }} />
      <div className="absolute -inset-y-[3px] w-[2px] bg-muted" style={{ left: `${String(FULL_LINE * 100)}%` }} />
    </div>
  );
}
