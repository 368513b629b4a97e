'use client';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { Notice as Noticed } from '~/core/outlook/assumed';
import type { LotSeen } from '~/core/outlook/livesAhead';
import type { ThoughtRate } from '~/core/risk/thoughtRate';
import type { UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { PickLine } from '~/web/parts/form/PickLine';
import { Progress } from '~/web/parts/worker/Progress';
import { OutlookAnswer } from './OutlookAnswer';
import { useOutlook } from './useOutlook';

interface Props {
  /** What stands above it; nothing on a page that says it already. */
  readonly title?: string;
  readonly unit: UnitState;
  readonly pool: string;
  /** Share of it in use; 1 where nobody read it. */
  readonly usedShare: number;
  readonly rate: ThoughtRate;
  readonly lots: readonly LotSeen[];
  /** As the record has them. */
  readonly inDrawer: number;
  readonly scrubDays: number | null;
  readonly now: string;
  /** Where the replacement of a drive is planned, for whoever may. */
  readonly planAt?: string | null;
  readonly firstYears?: (typeof YEARS)[number]['value'];
  /** Where there is room for one column only. */
  readonly isNarrow?: boolean;
}

const YEARS = [
  { value: '1', words: '12 months' },
  { value: '3', words: '3 years' },
  { value: '5', words: '5 years' },
] as const;
const NOTICES: readonly { readonly value: Noticed; readonly words: string }[] = [
  { value: 'within-the-hour', words: 'within the hour' },
  { value: 'same-day', words: 'on the same day' },
  { value: 'after-a-weekend', words: 'after a weekend' },
  { value: 'after-weeks', words: 'after weeks' },
];
const ORDERS = [
  { value: '1', words: '1 day' },
  { value: '3', words: '3 days' },
  { value: '7', words: 'a week' },
  { value: '21', words: '3 weeks' },
] as const;
/** Nobody has published how often a box is lost: it is for whoever asks to say. */
const BOXES = [
  { value: '0', words: 'not counted' },
  { value: '0.001', words: 'one in 1,000 boxes a year' },
  { value: '0.01', words: 'one in 100 boxes a year' },
] as const;
const NEVER = 'never';
const SCRUBS = [
  { value: '7', words: 'every week' },
  { value: '30', words: 'every month' },
  { value: '91', words: 'every 3 months' },
  { value: NEVER, words: 'never' },
] as const;

/** The same chance every time: an answer changes only when the question does. */
const SEED = 15;
/** Lives at each end and for each change, and members of all pools lived a second's worth or so at a time. */
const MOST_LIVES = 20_000;
const LEAST_LIVES = 4000;
const MEMBER_LIVES = 240_000;

/** The planned one that is nearest to what the unit's upkeep has. */
function nearestScrub(days: number | null): string {
  if (days === null) return NEVER;
  const to = (value: string): number => (value === NEVER ? Infinity : Math.abs(Number(value) - days));
  return [...SCRUBS].sort((a, b) => to(a.value) - to(b.value))[0]?.value ?? NEVER;
}

/** What the time ahead of a pool holds, as it stands now and as it is looked after; simulated when it is opened. */
export function OutlookPool({
  title,
  unit,
  pool,
  usedShare,
  rate,
  lots,
  inDrawer,
  scrubDays,
  now,
  planAt = null,
  firstYears = '1',
  isNarrow = false,
}: Props): ReactNode {
  const [years, setYears] = useState<string>(firstYears);
  const [notice, setNotice] = useState<Noticed>('same-day');
  const [order, setOrder] = useState('3');
  const [scrub, setScrub] = useState(nearestScrub(scrubDays));
  const [boxes, setBoxes] = useState('0');
  const { state, start, stop } = useOutlook();
  const of = unit.pools[pool] as UnitState['pools'][string];
  const wanted = JSON.stringify({ years, notice, order, scrub, boxes });
  const members = Math.max(1, new Set(of.bands.flatMap((band) => band.members)).size);
  const foresee = (): void =>
    void start(unit, pool, {
      care: {
        notice,
        orderDays: Number(order),
        scrubDays: scrub === NEVER ? null : Number(scrub),
        inDrawer,
        boxLossesPerYear: Number(boxes),
      },
      now,
      lots,
      usedShare,
      years: Number(years),
      failuresPerYear: rate.failuresPerYear,
      seed: SEED,
      mostLives: Math.max(LEAST_LIVES, Math.min(MOST_LIVES, Math.round(MEMBER_LIVES / members))),
    });
  const again = useRef(foresee);
  useEffect(() => {
    again.current = foresee;
  });
  useEffect(() => again.current(), [wanted, unit, pool]);
  return (
    <section
      aria-label={`The time ahead of ${of.name}`}
      className={`grid grid-cols-[minmax(0,1fr)] gap-4 ${isNarrow ? '' : 'border border-line bg-surface p-4'}`}
      data-outlook={state.kind}
    >
      {title !== undefined && <h2 className="text-lg">{title}</h2>}
      <div className={`no-print grid gap-x-4 gap-y-2 ${isNarrow ? 'grid-cols-2 items-end' : 'sm:grid-cols-2'}`}>
        <PickLine label="How far ahead" options={YEARS} value={years} onValue={setYears} />
        <PickLine
          label="Somebody acts on a failure"
          options={NOTICES}
          value={notice}
          onValue={(value) => setNotice(value as Noticed)}
        />
        <PickLine label="A new drive comes in" options={ORDERS} value={order} onValue={setOrder} />
        <PickLine label="Everything is read (scrub)" options={SCRUBS} value={scrub} onValue={setScrub} />
        <PickLine label="A box is lost with its drives" options={BOXES} value={boxes} onValue={setBoxes} />
      </div>
      <div aria-live="polite" className="grid grid-cols-[minmax(0,1fr)] gap-4">
        {state.kind === 'busy' && (
          <p className="flex flex-wrap items-center gap-3">
            Living it some ten thousand times
            <Progress label="Lived" share={state.share} onStop={stop} />
          </p>
        )}
        {state.kind === 'idle' && (
          <div className="no-print">
            <Button onClick={foresee}>Simulate it</Button>
          </div>
        )}
        {state.kind === 'fault' && <Notice grave>{state.sentence}</Notice>}
        {state.kind === 'done' &&
          (isRefusal(state.seen) ? (
            <Notice grave>{state.seen.sentence}</Notice>
          ) : (
            <OutlookAnswer
              planAt={planAt}
              isNarrow={isNarrow}
              unit={unit}
              pool={of}
              seen={state.seen}
              rate={rate}
              inDrawer={inDrawer}
              areBoxesLost={boxes !== '0'}
            />
          ))}
      </div>
    </section>
  );
}
