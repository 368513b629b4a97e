'use client';
import Link from '~/web/parts/frame/Link';
import { useState, type ReactNode } from 'react';
import type { Wait } from '~/service/units/readShelf';
import { Moment } from '~/web/parts/unit/Moment';
import { FINDING_SHORT, WORK_WORDS } from './waitWords';

/** At the foot of every page: what is being waited for, the most urgent first, and when that was last heard of; on a phone the others on a tap. */
export function WaitingStrip({ waits }: { readonly waits: readonly Wait[] }): ReactNode {
  const [isAll, setIsAll] = useState(false);
  if (waits.length === 0) return null;
  return (
    <section
      aria-label="Waiting"
      className="no-print group flex items-center gap-6 overflow-x-auto bg-side-strong px-5 py-3 text-on-side max-md:flex-wrap max-md:gap-x-3 max-md:gap-y-1 max-md:overflow-y-auto max-md:py-1.5"
      data-all={isAll}
    >
      <h2 className="text-lg max-md:sr-only">Waiting</h2>
      {waits.map(({ unit, unitName, task, bay, job, percent, startedAt, heardAt, estimate, plan }, i) => {
        const what = `${WORK_WORDS[task]}${bay === null ? '' : ` ${bay}`}`;
        return (
          <Link
            key={unit + job}
            href={plan === null ? `/units/${unit}` : `/units/${unit}/plans/${plan}`}
            className={`min-w-0 flex-1 md:max-w-[520px] md:min-w-[300px] max-md:order-1 ${i === 0 ? 'max-md:basis-[60%]' : `max-md:order-3 max-md:basis-full ${isAll ? '' : 'max-md:hidden'}`}`}
          >
            <span className="flex flex-wrap justify-between gap-x-4 text-sm max-md:flex-col">
              <span>
                {unitName} · {what}
              </span>
              <span className="text-on-side-muted md:whitespace-nowrap">
                {percent} %
                {estimate ? (
                  <>
                    {' '}
                    · done about <Moment at={estimate.likely} /> (<Moment at={estimate.low} />–
                    <Moment at={estimate.high} />)
                    {estimate.found.map((finding) => (
                      <strong key={finding}>, {FINDING_SHORT[finding]}</strong>
                    ))}
                  </>
                ) : (
                  <>
                    {' '}
                    · since <Moment at={startedAt} />, heard <Moment at={heardAt} relative />
                  </>
                )}
              </span>
            </span>
            <span
              className="mt-1 block h-1.5 bg-black/40"
              role="progressbar"
              aria-label={`${unitName}, ${what}`}
              aria-valuenow={percent}
              aria-valuemin={0}
              aria-valuemax={100}
            >
              <span className="block h-full bg-[var(--board-from)]" style={{ width: `${String(percent)}%` }} />
            </span>
          </Link>
        );
      })}
      {waits.length > 1 && (
        <button
          type="button"
          aria-expanded={isAll}
          className="order-2 min-h-11 shrink-0 border border-on-side-muted px-3 text-sm md:hidden"
          onClick={() => setIsAll(!isAll)}
        >
          {isAll ? 'Fewer' : `${String(waits.length - 1)} more`}
        </button>
      )}
    </section>
  );
}
