'use client';
import { useState, type ReactNode } from 'react';
import type { StepEvidence } from '~/core/plan/plan';
import { Button } from '~/web/parts/form/Button';

type Items = Extract<StepEvidence, { kind: 'items' }>;

interface Props {
  readonly items: readonly { readonly what: string; readonly count: number }[];
  readonly busy: boolean;
  readonly onEvidence: (evidence: Items) => void;
}

/** What there ought to be, line by line; of what is missing, how many. */
export function ItemsForm({ items, busy, onEvidence }: Props): ReactNode {
  const [there, setThere] = useState<Readonly<Record<string, number>>>({});
  const missing = items.flatMap(({ what, count }) => {
    const short = count - (there[what] ?? count);
    return short > 0 ? { what, count: short } : [];
  });
  return (
    <form
      data-evidence
      data-items={items.length}
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        onEvidence({ kind: 'items', missing });
      }}
    >
      <ul className="grid gap-1 border border-line bg-surface p-2" aria-label="What there ought to be">
        {items.map(({ what, count }) => {
          const now = there[what] ?? count;
          const set = (to: number): void => setThere({ ...there, [what]: Math.min(count, Math.max(0, to)) });
          return (
            <li key={what} className="flex min-h-11 flex-wrap items-center gap-x-3 px-2">
              <span className="min-w-0 flex-1">
                <strong>{count}</strong> {what}
              </span>
              <span className={now < count ? 'font-semibold text-thinned' : 'text-muted'}>
                {now < count ? `${String(count - now)} missing` : 'all there'}
              </span>
              <Button className="min-h-11 min-w-11" disabled={now === 0} onClick={() => set(now - 1)}>
                <span aria-hidden>−</span>
                <span className="sr-only">One of the {what} less</span>
              </Button>
              <Button className="min-h-11 min-w-11" disabled={now === count} onClick={() => set(now + 1)}>
                <span aria-hidden>+</span>
                <span className="sr-only">One of the {what} more</span>
              </Button>
            </li>
          );
        })}
      </ul>
      <div>
        <Button look="main" type="submit" className="min-h-11 min-w-[160px]" disabled={busy}>
          {missing.length === 0 ? 'All of it is there' : 'Go on without what is missing'}
        </Button>
      </div>
    </form>
  );
}
