'use client';
import { useState, type ReactNode } from 'react';
import { isRefusal, type Refusal } from '~/core/value/refusal';
import type { GrowthGround } from '~/service/units/growthGround';
import { Button } from '~/web/parts/form/Button';
import { Progress } from '~/web/parts/worker/Progress';
import type { GrownAsAsked } from './GrowthForm';
import type { GrowthFound } from './growthWorker';
import { useGrowthSearch } from './useGrowthSearch';

type Asked = GrownAsAsked['asked'];

/** The same question with one thing changed. */
const CHANGES: readonly { readonly words: string; readonly of: (asked: Asked) => Asked }[] = [
  { words: 'It grows twice as fast', of: (asked) => ({ ...asked, needPerYearBytes: asked.needPerYearBytes * 2 }) },
  {
    words: 'It grows half as fast',
    of: (asked) => ({ ...asked, needPerYearBytes: Math.round(asked.needPerYearBytes / 2) }),
  },
  {
    words: 'Prices fall half as fast',
    of: (asked) => ({ ...asked, declinePerYear: (asked.declinePerYear ?? 0) / 2 }),
  },
];

interface Props {
  readonly ground: GrowthGround;
  readonly of: GrownAsAsked;
  readonly money: (cents: number) => string;
  readonly when: (month: number) => string;
}

/** What another need or other prices would make of it: looked for one by one, and only when it is wanted. */
export function WhatChanges({ ground, of, money, when }: Props): ReactNode {
  const search = useGrowthSearch(ground);
  const [seen, setSeen] = useState<readonly (GrowthFound | Refusal)[] | null>(null);
  const look = async (from: readonly (GrowthFound | Refusal)[]): Promise<void> => {
    setSeen(from);
    const found = [...from];
    for (const change of CHANGES.slice(from.length)) {
      const one = await search.find(change.of(of.asked));
      if (one === null) return;
      found.push(one);
      setSeen([...found]);
    }
  };
  const { state } = search;
  return (
    <section aria-label="What changes the answer">
      {seen ? (
        <>
          <ul className="text-muted" data-what-changes>
            {CHANGES.map(({ words }, i) => (
              <li key={words}>
                {words}: {foundWords(seen[i], money, when)}
              </li>
            ))}
          </ul>
          {seen.length < CHANGES.length && (
            <p className="no-print flex flex-wrap items-center gap-3">
              {state.kind === 'busy' ? (
                <Progress label="Looked through" share={state.share} onStop={search.stop} />
              ) : (
                <Button onClick={() => void look(seen)}>Go on</Button>
              )}
            </p>
          )}
        </>
      ) : (
        <Button className="no-print" onClick={() => void look([])}>
          What would change it
        </Button>
      )}
    </section>
  );
}

function foundWords(found: GrowthFound | Refusal | undefined, money: Props['money'], when: Props['when']): string {
  if (!found) return 'reckoning …';
  if (isRefusal(found)) return found.sentence;
  const { best, why } = found;
  if (!best) return why ?? 'no way keeps it below the line';
  const first = best.steps[0]?.month;
  const begins =
    first === undefined
      ? 'nothing to buy'
      : first === 0
        ? 'the first drives now'
        : `the first drives by ${when(first)}`;
  return `${money(best.totalCents)}, ${begins}`;
}
