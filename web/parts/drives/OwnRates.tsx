import type { ReactNode } from 'react';
import { formatPercent } from '~/core/quantity/formatPercent';
import type { GroupRate } from '~/service/drives/ownRates';

const WORDS = { disks: ['disk', 'disks'], flash: ['flash drive', 'flash drives'] } as const;

/** "2 failures in 118 drive-years". */
function seenWords({ failures, years }: Pick<GroupRate, 'failures' | 'years'>): string {
  return `${failures === 0 ? 'no' : String(failures)} ${failures === 1 ? 'failure' : 'failures'} in ${years < 10 ? years.toFixed(1) : String(Math.round(years))} drive-years`;
}

/** "More than is usual: 0 to 4 were to be expected in that time." */
function differsWords(
  { differs, expected: [low, high] }: Pick<GroupRate, 'differs' | 'expected'>,
  than: 'is usual' | 'among the others',
): string {
  return `${differs === 'more' ? 'More' : 'Fewer'} than ${than}: ${low === high ? '' : `${String(low)} to `}${String(high)} ${high === 1 ? 'was' : 'were'} to be expected in that time.`;
}

/** How often one's own drives fail, beside what is usual: so few of them say little, and that is said. */
export function OwnRates({ rates }: { readonly rates: readonly GroupRate[] }): ReactNode {
  if (rates.length === 0) return null;
  return (
    <section aria-label="How often they fail" className="max-w-[72ch] border-l-4 border-line py-1 pl-4">
      {rates.map(({ group, likely, low, high, ...seen }) => (
        <p key={group}>
          Your own {seen.drives} {WORDS[group][seen.drives === 1 ? 0 : 1]}: {seenWords(seen)}.{' '}
          <strong className="font-semibold whitespace-nowrap">{formatPercent(likely)} a year</strong>, four times out of
          five between <span className="whitespace-nowrap">{formatPercent(low)}</span> and{' '}
          <span className="whitespace-nowrap">{formatPercent(high)}</span>.
          {seen.differs && ` ${differsWords(seen, 'is usual')}`}
        </p>
      ))}
      {rates.some(({ within }) => within.length > 0) && (
        <details>
          <summary className="cursor-pointer text-action underline max-sm:py-2.5">By model and lot</summary>
          <table className="my-2">
            <thead>
              <tr className="text-left text-sm text-muted">
                <th className="pr-4 font-normal">Model, lot</th>
                <th className="pr-4 font-normal">Seen</th>
                <th className="font-normal">A year</th>
              </tr>
            </thead>
            <tbody>
              {rates.flatMap(({ group, within }) =>
                within.map(({ of, likely, low, high, ...seen }) => (
                  <tr key={`${group} ${JSON.stringify(of)}`} className="border-t border-line align-top">
                    <td className={`py-1 pr-4 ${of.length > 1 ? 'pl-4' : ''}`}>
                      {of.length > 1 ? `lot ${of[1] ?? ''}` : of[0]}
                    </td>
                    <td className="py-1 pr-4">
                      {seen.drives} drives, {seenWords(seen)}
                      {seen.differs && <span className="block">{differsWords(seen, 'among the others')}</span>}
                    </td>
                    <td className="py-1 whitespace-nowrap">
                      {formatPercent(likely)} ({formatPercent(low)} to {formatPercent(high)})
                    </td>
                  </tr>
                )),
              )}
            </tbody>
          </table>
        </details>
      )}
      <p className="text-sm text-muted">
        Reckoned from 0.9 to 4 % a year, as data sheets and field studies of 2007 have it, and sharpened by what stands
        in your ledgers. A few drives over a few years move it little, unless they fail far more often than is usual.
      </p>
    </section>
  );
}
