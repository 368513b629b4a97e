import type { ReactNode } from 'react';
import { formatPercent } from '~/core/quantity/formatPercent';
import type { GroupRate } from '~/service/drives/ownRates';

const WORDS = { disks: ['disk', 'disks'], flash: ['flash drive', 'flash drives'] } as const;

/** How often one's own drives fail, beside what is usual: so few of them say little, and that is said. */
export function OwnRates({ rates }: { readonly rates: readonly GroupRate[] }): ReactNode {
  if (rates.length === 0) return null;
  return (
    <section aria-label="How often they fail" className="max-w-[72ch] border-l-4 border-line py-1 pl-4">
      {rates.map(({ group, drives, failures, years, likely, low, high }) => (
        <p key={group}>
          Your own {drives} {WORDS[group][drives === 1 ? 0 : 1]}: {failures === 0 ? 'no' : failures}{' '}
          {failures === 1 ? 'failure' : 'failures'} in {years < 10 ? years.toFixed(1) : Math.round(years)} drive-years.{' '}
          <strong className="font-semibold whitespace-nowrap">{formatPercent(likely)} a year</strong>, four times out of
          five between <span className="whitespace-nowrap">{formatPercent(low)}</span> and{' '}
          <span className="whitespace-nowrap">{formatPercent(high)}</span>.
        </p>
      ))}
      <p className="text-sm text-muted">
        Reckoned from 0.9 to 4 % a year, as data sheets and field studies of 2007 have it, and sharpened by what stands
        in your ledgers. A few drives over a few years move it little.
      </p>
    </section>
  );
}
