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

/** How many of so many are missing; `null` where that is no number, or more than there ought to be. */
function missingOf(typed: string, count: number): number | null {
  if (typed.trim() === '') return 0;
  return /^\d{1,5}$/.test(typed.trim()) && Number(typed) <= count ? Number(typed) : null;
}

/** What there ought to be, line by line; of what is missing, how many. */
export function ItemsForm({ items, busy, onEvidence }: Props): ReactNode {
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const rows = items.map((item) => ({ ...item, short: missingOf(typed[item.what] ?? '', item.count) }));
  const missing = rows.flatMap(({ what, short }) => (short === null || short === 0 ? [] : { what, count: short }));
  const isReady = rows.every(({ short }) => short !== null);
  return (
    <form
      data-evidence
      data-items={items.length}
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) onEvidence({ kind: 'items', missing });
      }}
    >
      <ul className="grid gap-1 border border-line bg-surface p-2" aria-label="What there ought to be">
        {rows.map(({ what, count, short }) => (
          <li key={what} className="flex min-h-11 flex-wrap items-center gap-x-3 px-2">
            <span className="min-w-0 flex-1">
              <strong>{count}</strong> {what}
            </span>
            <label className={`flex items-center gap-2 ${short === 0 ? 'text-muted' : 'font-semibold text-thinned'}`}>
              missing
              <input
                className="field min-h-11 w-20 text-right"
                inputMode="numeric"
                autoComplete="off"
                placeholder="none"
                aria-label={`Missing of the ${what}`}
                aria-invalid={short === null}
                value={typed[what] ?? ''}
                onChange={(event) => setTyped({ ...typed, [what]: event.target.value })}
              />
            </label>
          </li>
        ))}
      </ul>
      <div>
        <Button look="main" type="submit" className="min-h-11 min-w-[160px]" disabled={busy || !isReady}>
          {missing.length === 0 ? 'All of it is there' : 'Go on without what is missing'}
        </Button>
      </div>
    </form>
  );
}
