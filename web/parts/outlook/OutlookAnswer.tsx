import type { ReactNode } from 'react';
import { changeWords } from '~/core/outlook/changeWords';
import type { ChangeSeen } from '~/core/outlook/whatWouldChangeIt';
import { formatCount } from '~/core/quantity/formatCount';
import { formatPercent } from '~/core/quantity/formatPercent';
import type { Simulated } from '~/core/risk/simulate/simulate';
import type { UnitState } from '~/core/unit/state';
import { chanceWords, riskWords } from '~/web/parts/bench/words';
import type { OutlookSeen } from './outlookWorker';

interface Props {
  readonly unit: UnitState;
  readonly seen: OutlookSeen;
  readonly failuresPerYear: readonly [number, number];
  readonly isOwnRate: boolean;
  readonly inDrawer: number;
}

/** What the time ahead holds: three outcomes apart, what each change would win, and what all of it rests on. */
export function OutlookAnswer({
  unit,
  seen: { outlook, changes },
  failuresPerYear,
  isOwnRate,
  inDrawer,
}: Props): ReactNode {
  const [good, bad] = outlook.ends;
  const ahead = outlook.years === 1 ? 'the next 12 months' : `the next ${String(outlook.years)} years`;
  const figures = [
    {
      name: 'A drive fails',
      words: riskWords(outlook.oneFails),
      detail: `Somebody has to act within ${ahead}. No data is lost by that alone.`,
    },
    {
      name: outlook.unreadable === 'stops' ? 'A rebuild stops' : 'A file is lost',
      words: simulatedWords(good.met, bad.met),
      detail: `A rebuild that can lose none more meets an unreadable sector${outlook.unreadable === 'stops' ? ': it stops, and the pool has to be copied off' : ', and what stood there is gone'}.`,
    },
    {
      name: 'The pool is lost',
      words: simulatedWords(good.lost, bad.lost),
      detail: 'More drives are missing at once than may be.',
    },
  ];
  return (
    <>
      <dl className="grid gap-x-6 gap-y-3 sm:grid-cols-3" data-outlook-figures>
        {figures.map(({ name, words, detail }) => (
          <div key={name}>
            <dt className="text-muted">{name}</dt>
            <dd className="text-[22px] leading-tight font-semibold">{words}</dd>
            <dd className="text-sm text-muted">{detail}</dd>
          </div>
        ))}
      </dl>
      {changes.length > 0 && <Changes unit={unit} changes={changes} />}
      <p className="max-w-[760px] text-sm text-muted">
        Each figure spans what is thought possible of drives: {formatPercent(failuresPerYear[0])} to{' '}
        {formatPercent(failuresPerYear[1])} of them fail in a year (
        {isOwnRate ? 'the usual range, sharpened by what failed here' : 'data sheets to field studies of 2007'}), more
        as they age; one that shows signs 14 to 39 times as often; lots differ. Drives as old as their date of purchase
        says; {inDrawer === 0 ? 'no spare' : inDrawer === 1 ? 'one spare' : `${String(inDrawer)} spares`} in the drawer.{' '}
        {formatCount(good.lives)} and {formatCount(bad.lives)} lives were simulated
        {outlook.isCutShort && ', fewer than it takes for a steady figure: read it as an order of magnitude'}. Fire,
        theft, a surge or a wrong command takes all of it at once, and is not in any of this: that is what copies are
        for.
      </p>
    </>
  );
}

/** Both ends; what no life showed is said as less than could have been missed. */
function simulatedWords(good: Simulated, bad: Simulated): string {
  if (bad.trouble === 'none-seen') return `under ${chanceWords(bad.high)}`;
  const words = riskWords([good.likely, bad.likely]);
  return bad.trouble === 'few-carry-it' ? `about ${words}` : words;
}

function Changes({ unit, changes }: { readonly unit: UnitState; readonly changes: readonly ChangeSeen[] }): ReactNode {
  const before = changes[0]?.before ?? 0;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="What would change it">
      <table className="w-full min-w-[560px]" data-outlook-changes>
        <caption className="text-left font-semibold">
          What would change it: of {chanceWords(before)} at the bad end that data is lost or a rebuild stops, there
          would be
        </caption>
        <thead>
          <tr className="border-b border-line text-left text-sm text-muted">
            <th className="py-1 font-normal">If this were so</th>
            <th className="px-3 text-right font-normal whitespace-nowrap">To buy</th>
            <th className="px-3 text-right font-normal">Left</th>
            <th className="w-[28%] font-normal">Won</th>
          </tr>
        </thead>
        <tbody>
          {changes.map((one) => (
            <tr key={changeWords(one.change, unit)} className="border-b border-line">
              <td className="py-1.5">{changeWords(one.change, unit)}</td>
              <td className="px-3 text-right whitespace-nowrap">
                {one.drives === 0 ? 'nothing' : drivesWords(one.drives)}
              </td>
              <td className="px-3 text-right whitespace-nowrap">{chanceWords(Math.max(0, one.after))}</td>
              <td className="whitespace-nowrap">
                <Won {...one} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-muted">
        Replacing is itself a time with one drive less, unless the unit can do it through a free bay: that is not
        counted here, and the plan shows it.
      </p>
    </div>
  );
}

function Won({ before, wins, low, high }: ChangeSeen): ReactNode {
  if (low <= 0 && high >= 0) return <span className="text-muted">no difference that can be told</span>;
  if (wins < 0) return <span>nothing: it would be worse</span>;
  const share = Math.min(1, wins / before);
  return (
    <span className="flex items-center gap-2">
      <span className="h-2.5 bg-action" style={{ width: `${String(Math.max(1, share * 60))}%` }} aria-hidden />
      {share < 0.01 ? 'under 1 %' : `${String(Math.round(share * 100))} %`}
    </span>
  );
}

const drivesWords = (drives: number): string => `${String(drives)} ${drives === 1 ? 'drive' : 'drives'}`;
