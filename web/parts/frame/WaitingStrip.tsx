import Link from 'next/link';
import type { ReactNode } from 'react';
import type { Wait } from '~/service/units/readShelf';
import { Moment } from '~/web/parts/unit/Moment';
import { FINDING_SHORT, WORK_WORDS } from './waitWords';

/** At the foot of every page: what is being waited for, and when that was last heard of. */
export function WaitingStrip({ waits }: { readonly waits: readonly Wait[] }): ReactNode {
  if (waits.length === 0) return null;
  return (
    <section aria-label="Waiting" className="no-print flex items-center gap-6 overflow-x-auto max-sm:gap-3 max-sm:py-2 bg-side-strong px-5 py-3 text-on-side">
      <h2 className="text-lg">Waiting</h2>
      {waits.map(({ unit, unitName, task, bay, job, percent, startedAt, heardAt, estimate, plan }) => {
        const what = `${WORK_WORDS[task]}${bay === null ? '' : ` ${bay}`}`;
        return (
          <Link key={unit + job} href={plan === null ? `/units/${unit}` : `/units/${unit}/plans/${plan}`} className="min-w-[300px] max-w-[520px] flex-1">
            <span className="flex justify-between gap-x-4 text-sm max-sm:flex-col">
              <span className="truncate">
                {unitName} · {what}
              </span>
              <span className="whitespace-nowrap text-on-side-muted">
                {percent} %
                {estimate ? (
                  <>
                    {' '}
                    · done about <Moment at={estimate.likely} /> (<Moment at={estimate.low} />–<Moment at={estimate.high} />)
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
    </section>
  );
}
