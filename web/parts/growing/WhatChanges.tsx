'use client';
import { useState, type ReactNode } from 'react';
import { api } from '~/web/parts/form/api';
import { Button } from '~/web/parts/form/Button';
import { useAsked } from '~/web/parts/form/useAsked';
import type { GrownAsAsked } from './GrowthForm';

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
  readonly unit: string;
  readonly of: GrownAsAsked;
  readonly money: (cents: number) => string;
  readonly when: (month: number) => string;
}

/** What another need, other prices or another line would make of it: asked for one by one, and only when it is wanted. */
export function WhatChanges({ unit, of, money, when }: Props): ReactNode {
  const [isAsked, setIsAsked] = useState(false);
  return (
    <section aria-label="What changes the answer">
      {isAsked ? (
        <ul className="text-muted" data-what-changes>
          {CHANGES.map((change) => (
            <Changed key={change.words} {...{ unit, of, money, when, change }} />
          ))}
        </ul>
      ) : (
        <Button className="no-print" onClick={() => setIsAsked(true)}>
          What would change it
        </Button>
      )}
    </section>
  );
}

function Changed({ unit, of, money, when, change }: Props & { readonly change: (typeof CHANGES)[number] }): ReactNode {
  const asked = change.of(of.asked);
  const { answer, refusal } = useAsked(JSON.stringify(asked), (signal) =>
    api('POST /units/{id}/growth', { id: unit, body: asked }, signal),
  );
  const best = answer?.best;
  const first = best?.steps[0]?.month;
  return (
    <li>
      {change.words}:{' '}
      {refusal
        ? refusal.sentence
        : !answer
          ? 'reckoning …'
          : !best
            ? (answer.why ?? 'no way keeps it below the line')
            : `${money(best.totalCents)}, ${
                first === undefined
                  ? 'nothing to buy'
                  : first === 0
                    ? 'the first drives now'
                    : `the first drives by ${when(first)}`
              }`}
    </li>
  );
}
