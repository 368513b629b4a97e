import type { ReactNode } from 'react';
import { changeWords } from '~/core/outlook/changeWords';
import { turnsAt } from '~/core/outlook/turnsAt';
import type { ChangeSeen, Won } from '~/core/outlook/whatWouldChangeIt';
import { formatCount } from '~/core/quantity/formatCount';
import { formatPercent } from '~/core/quantity/formatPercent';
import type { ThoughtRate } from '~/core/risk/thoughtRate';
import type { Simulated } from '~/core/risk/simulate/simulate';
import { factsOf } from '~/core/layout/scheme';
import type { Pool, UnitState } from '~/core/unit/state';
import { Notice } from '~/web/parts/form/Notice';
import Link from '~/web/parts/frame/Link';
import { chanceWords, riskWords, unbroken } from '~/web/parts/bench/words';
import { simulatedWords } from './simulatedWords';
import { RateWords } from '~/web/parts/drives/RateWords';
import type { OutlookSeen } from './outlookWorker';

interface Props {
  /** Where the replacement of a drive is planned, for whoever may. */
  readonly planAt: string | null;
  readonly unit: UnitState;
  readonly pool: Pool;
  readonly seen: OutlookSeen;
  readonly rate: ThoughtRate;
  readonly inDrawer: number;
  readonly isNarrow: boolean;
  /** Boxes are lost now and then with all their drives, as whoever asked said. */
  readonly areBoxesLost: boolean;
}

/** What the time ahead holds: three outcomes apart, what each change would win, and what all of it rests on. */
export function OutlookAnswer({
  planAt,
  unit,
  pool,
  seen: { outlook, changes },
  rate,
  inDrawer,
  isNarrow,
  areBoxesLost,
}: Props): ReactNode {
  const losesPool = factsOf(pool.scheme).loses === 'pool';
  const [good, bad] = outlook.ends;
  const ahead = outlook.years === 1 ? 'the next 12 months' : `the next ${String(outlook.years)} years`;
  const figures = [
    {
      name: 'A drive fails',
      words: riskWords(outlook.oneFails),
      detail: `Somebody has to act within ${ahead}.${outlook.unreadable === null ? '' : ' No data is lost by that alone.'}`,
    },
    ...(outlook.unreadable === null
      ? []
      : [
          {
            name: MET[outlook.unreadable],
            words: simulatedWords(good.met, bad.met),
            detail: `A rebuild that can lose none more meets an unreadable sector${outlook.unreadable === 'stops' ? ': it stops, and the pool has to be copied off' : ', and what stood there is gone'}.`,
          },
        ]),
    {
      name: losesPool ? 'The pool is lost' : 'Files are lost',
      words: simulatedWords(good.lost, bad.lost),
      detail: losesPool
        ? 'More drives are missing at once than may be.'
        : 'More drives are missing at once than may be: what those hold is gone, the rest stays.',
    },
  ];
  const isThin = pool.missing.length > 0;
  return (
    <>
      <dl className={`grid gap-x-6 gap-y-3 ${isNarrow ? '' : 'sm:grid-cols-3'}`} data-outlook-figures>
        {figures.map(({ name, words, detail }) => (
          <div key={name}>
            <dt className="text-muted">{name}</dt>
            <dd className="text-[22px] leading-tight font-semibold">{unbroken(words)}</dd>
            <dd className="text-sm text-muted">{detail}</dd>
          </div>
        ))}
      </dl>
      {isThin && (
        <Notice grave>
          A drive is missing now: what comes first is to replace it and to sit the rebuild out. Nothing else of this
          pool is pulled before.
        </Notice>
      )}
      {outlook.unreadable === null && (
        <p>Nothing protects this pool but its copies: no spare and no scrub changes that.</p>
      )}
      {changes.length > 0 && (
        <Changes planAt={planAt} unit={unit} changes={changes} unreadable={outlook.unreadable} losesPool={losesPool} />
      )}
      {changes.length > 0 && <Order unit={unit} changes={changes} unreadable={outlook.unreadable} />}
      <p className="max-w-[760px] text-sm text-muted">
        Each figure spans what is thought possible of drives: <RateWords rate={rate} /> of them fail in a year, more as
        they age; one that shows signs 14 to 39 times as often; lots differ. Drives as old as their date of purchase
        says; {inDrawer === 0 ? 'no spare' : inDrawer === 1 ? 'one spare' : `${String(inDrawer)} spares`} in the drawer.{' '}
        {formatCount(good.lives)} and {formatCount(bad.lives)} lives were simulated{steadyWords(good.lost, bad.lost)}.{' '}
        {areBoxesLost
          ? 'A box that is lost with all its drives is counted as often as you say. Theft, a fire that takes every box, or a wrong command is not in any of this: that is what copies are for.'
          : 'Fire, theft, a surge or a wrong command takes all of it at once, and is not in any of this: that is what copies are for.'}
      </p>
    </>
  );
}

/** What the order is by, and where another weight would turn it. */
function Order({ unit, changes, unreadable }: Pick<ChangesProps, 'unit' | 'changes' | 'unreadable'>): ReactNode {
  const turns = unreadable === 'stops' ? turnsAt(changes) : null;
  return (
    <p className="max-w-[760px] text-sm text-muted" data-outlook-order>
      In the order of how much less likely it is that data is gone{unreadable === 'file-lost' && ', the pool or a file'}
      .
      {unreadable === 'stops' &&
        (turns === null
          ? ' A rebuild that stops loses none by itself; however it is weighed, the first stays first.'
          : ` A rebuild that stops loses none by itself. Whoever holds one for more than ${formatPercent(turns.weight)} as grave as a lost pool begins with: ${changeWords(turns.first.change, unit)}.`)}
    </p>
  );
}

/** How well the chance of loss is known by what was simulated, at the end that is known less. */
function steadyWords(...ends: readonly Simulated[]): string {
  if (ends.some(({ trouble }) => trouble)) return ', too few of which ended in a loss to say more than its order';
  const within = Math.max(...ends.map(({ low, high, likely }) => (high - low) / 2 / likely));
  return `, which give the chance of loss to within ${String(Math.max(1, Math.ceil(within * 100)))} % of itself`;
}

interface ChangesProps {
  readonly planAt: string | null;
  readonly unit: UnitState;
  readonly changes: readonly ChangeSeen[];
  readonly unreadable: 'stops' | 'file-lost' | null;
  readonly losesPool: boolean;
}

function Changes({ planAt, unit, changes, unreadable, losesPool }: ChangesProps): ReactNode {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="What would change it">
      <table className="w-full min-w-[520px]" data-outlook-changes>
        <caption className="text-left font-semibold">What would change it, at the bad end of the spans</caption>
        <thead>
          <tr className="border-b border-line text-left text-sm text-muted">
            <th className="py-1 font-normal">If this were so</th>
            <th className="px-3 text-right font-normal whitespace-nowrap">To buy</th>
            <th className="px-3 font-normal">{losesPool ? 'The pool is lost' : 'Files are lost'}</th>
            {unreadable && <th className="font-normal">{MET[unreadable]}</th>}
          </tr>
        </thead>
        <tbody>
          {changes.map((one) => (
            <tr key={changeWords(one.change, unit)} className="border-b border-line align-top">
              <td className="py-1.5">
                {changeWords(one.change, unit)}
                {planAt !== null && one.change.kind === 'replace' && one.change.serials.length === 1 && (
                  <>
                    {' '}
                    <Link
                      href={`${planAt}?serial=${encodeURIComponent(one.change.serials[0] ?? '')}`}
                      className="text-action underline"
                    >
                      Plan it
                    </Link>
                  </>
                )}
              </td>
              <td className="px-3 py-1.5 text-right whitespace-nowrap">
                {one.drives === 0 ? 'nothing' : `${String(one.drives)} ${one.drives === 1 ? 'drive' : 'drives'}`}
              </td>
              <td className="px-3 py-1.5">
                <WonOf won={one.lost} />
              </td>
              {unreadable && (
                <td className="py-1.5">
                  <WonOf won={one.met} />
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-muted">
        Replacing is itself a time with one drive less, unless the unit can do it through a free bay: that is not
        counted here, and the plan shows it. Never more than one at a time.
      </p>
    </div>
  );
}

/** "1 in 24,000" and how much less that is; where it could be nothing, that. */
function WonOf({ won: { before, after, wins, low, high } }: { readonly won: Won }): ReactNode {
  if (low <= 0 && high >= 0) return <span className="text-muted">no difference that can be told</span>;
  const share = Math.abs(wins) / before;
  return (
    <>
      <span className="block whitespace-nowrap">{chanceWords(Math.max(0, after))}</span>
      <span className="block text-sm whitespace-nowrap text-muted">
        {wins > 0 ? `${wholeWords(Math.min(1, share))} less` : `${wholeWords(share)} more`}
      </span>
    </>
  );
}

/** A share in whole per cent, never "100 %" of what is not all. */
function wholeWords(share: number): string {
  const percent = Math.round(share * 100);
  return percent < 1 ? 'under 1 %' : percent === 100 && share < 1 ? 'over 99 %' : `${String(percent)} %`;
}

const MET = { stops: 'A rebuild stops', 'file-lost': 'A file is lost' } as const;
