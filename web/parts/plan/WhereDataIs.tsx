import type { ReactNode } from 'react';
import type { DataWhere, Holding } from '~/core/plan/engine/whereData';
import type { PlanBody } from '~/core/plan/plan';
import { Sentence } from '~/web/parts/frame/Sentence';

const WORDS: Readonly<Record<Holding, string>> = {
  home: 'at home here',
  way: 'on its way',
  proven: 'a copy, proven',
  written: 'being written',
  hoped: 'a copy, not proven',
  none: '',
};
/** Said by words in every stretch; the ground only repeats them. */
const LOOKS: Readonly<Record<Holding, string>> = {
  home: 'bg-action text-on-action',
  way: 'border border-dashed border-thinned',
  proven: 'border-2 border-action bg-chosen',
  written: 'border border-dashed border-action',
  hoped: 'border border-line text-muted',
  none: '',
};

/** A stretch shorter than this has no room for words. */
const LEAST_SHARE = 0.2;

interface Props {
  readonly where: readonly DataWhere[];
  readonly plan: PlanBody;
}

interface Stretch {
  readonly holding: Holding;
  readonly from: number;
  readonly length: number;
}

/** Where the data is from here to the end of the plan: each place a bar, step by step, with the step there is no way back from. */
export function WhereDataIs({ where, plan }: Props): ReactNode {
  return (
    <section aria-label="Where the data is" className="mb-3 border-t border-line pt-3" data-where-data>
      <h3 className="font-semibold">Where the data is</h3>
      {where.map(({ names, places, noReturn }) => {
        const steps = places[0]?.holdings.length ?? 1;
        const title = plan.steps.find(({ id }) => id === noReturn)?.title;
        return (
          <div key={names.join()} className="mt-2">
            <p className="text-sm text-muted">{names.join(', ')}, from here to the end</p>
            <dl>
              {places.map(({ place, holdings }) => (
                <div key={place} className="mt-1.5">
                  <dt className="text-sm">{place}</dt>
                  <dd
                    className="grid h-6 text-xs leading-5"
                    style={{ gridTemplateColumns: `repeat(${String(steps)}, minmax(0, 1fr))` }}
                  >
                    {stretchesOf(holdings).map(({ holding, from, length }) => (
                      <span
                        key={from}
                        className={`truncate px-1 ${LOOKS[holding]}`}
                        style={{ gridColumn: `${String(from + 1)} / span ${String(length)}` }}
                        title={WORDS[holding]}
                      >
                        {/* Words that would be cut to a letter say less than none. */}
                        <span className={length / steps < LEAST_SHARE ? 'sr-only' : ''}>{WORDS[holding]}</span>
                      </span>
                    ))}
                  </dd>
                </div>
              ))}
            </dl>
            {title !== undefined && (
              <p className="mt-2 border-l-4 border-thinned pl-2 text-sm">
                <strong>No way back from</strong> “<Sentence of={title} />
                ”.
              </p>
            )}
          </div>
        );
      })}
    </section>
  );
}

function stretchesOf(holdings: readonly Holding[]): Stretch[] {
  const stretches: Stretch[] = [];
  for (const [i, holding] of holdings.entries()) {
    const last = stretches.at(-1);
    if (last?.holding === holding) stretches[stretches.length - 1] = { ...last, length: last.length + 1 };
    else stretches.push({ holding, from: i, length: 1 });
  }
  return stretches;
}
