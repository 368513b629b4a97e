'use client';
import dynamic from 'next/dynamic';
import { format } from 'date-fns';
import { useState, type ReactNode } from 'react';
import { crossingWords, findingWords, heldBeforeWords } from '~/core/forecast/forecastWords';
import type { Scheme } from '~/core/layout/scheme';
import { marginAhead } from '~/core/growth/marginAhead';
import { formatBytes } from '~/core/quantity/formatBytes';
import { fullMarginOfPool } from '~/core/unit/margin';
import { FULL_LINE } from '~/core/upkeep/need';
import type { KeptPrices } from '~/service/bench/priceOperations';
import type { GrowthGround } from '~/service/units/growthGround';
import type { PoolForecast } from '~/service/units/readForecast';
import { useSeen } from '~/web/parts/chart/useSeen';
import { Progress } from '~/web/parts/worker/Progress';
import { GrowthAnswer } from './GrowthAnswer';
import { GrowthForm, type GrownAsAsked } from './GrowthForm';
import type { FamilyToBuy } from './NewUnitFields';
import { useGrowthSearch } from './useGrowthSearch';

const FanDrawn = dynamic(() => import('./FanDrawn').then((part) => part.FanDrawn), { ssr: false });

export interface GrowingPoolProps {
  readonly unit: string;
  readonly version: number;
  readonly pool: {
    readonly id: string;
    readonly name: string;
    readonly scheme: Scheme;
    readonly mayConvert: boolean;
    readonly shownBytes: number;
    readonly isWhole: boolean;
  };
  readonly ground: GrowthGround;
  readonly families: readonly FamilyToBuy[];
  readonly extensionBays: number | null;
  readonly kept: KeptPrices | null;
  readonly page: { readonly counts: 'TiB' | 'TB'; readonly prints: 'TiB' | 'TB' };
  readonly history: readonly { readonly day: string; readonly usedBytes: number }[];
  readonly forecast: PoolForecast | null;
  /** Why there is none. */
  readonly unknown: string | null;
  readonly currency: string;
  readonly today: string;
  readonly mayRecord: boolean;
}

const monthWords = (day: string): string => format(new Date(`${day}T12:00:00Z`), 'MMMM yyyy');
const dayWords = (day: string): string => format(new Date(`${day}T12:00:00Z`), 'd MMMM yyyy');

/** One pool: its history with what will come of it, and the way to stay below the line. */
export function GrowingPool(of: GrowingPoolProps): ReactNode {
  const {
    unit,
    version,
    pool,
    ground,
    families,
    extensionBays,
    kept,
    history,
    forecast,
    unknown,
    currency,
    today,
    mayRecord,
  } = of;
  const [asked, setGrown] = useState<GrownAsAsked | null>(null);
  const search = useGrowthSearch(ground);
  const grown = asked?.grown;
  const [place, isSeen] = useSeen();
  const [low, likely, high] = forecast?.slopeBytesPerYear ?? [0, 0, 0];
  // Where it may fall as well as grow, each end says which.
  const spanEnd = (bytes: number): string =>
    `${low < 0 && high > 0 ? (bytes < 0 ? '−' : '+') : ''}${formatBytes(Math.abs(bytes))}`;
  const steps =
    grown?.best?.steps.map(({ month, shownAfterBytes, cents }) => ({ month, cents, bytes: shownAfterBytes })) ?? [];
  const built = ground.unit.pools[pool.id];
  const canLose = built ? fullMarginOfPool(built) : 0;
  const dips = marginAhead(canLose, grown?.best?.steps ?? []);
  return (
    <section aria-label={`${pool.name}, growing`} className="grid grid-cols-[minmax(0,1fr)] gap-3">
      <h2 className="text-lg">{pool.name}</h2>
      {forecast ? (
        <div>
          <p className="text-lg font-semibold" data-crossing>
            {crossingWords(forecast, FULL_LINE, monthWords)}
          </p>
          <p className="text-muted">
            {likely >= 0 ? 'Grows' : 'Falls'} by {formatBytes(Math.abs(likely))} a year, four times out of five between{' '}
            {spanEnd(low)} and {spanEnd(high)}.{' '}
            {findingWords(forecast)
              .filter((words) => !words.includes('the line already'))
              .join(' ')}
            {forecast.changedOn !== null && ` Since ${dayWords(forecast.changedOn)}.`}{' '}
            <span data-held-before>{heldBeforeWords(forecast.heldBefore)}</span>
          </p>
          {forecast.jumps.length > 0 && (
            <p className="text-sm text-muted">
              At once:{' '}
              {forecast.jumps
                .slice(-3)
                .map(({ on, bytes }) => `${dayWords(on)} ${bytes < 0 ? '−' : '+'}${formatBytes(Math.abs(bytes))}`)
                .join('; ')}
              {forecast.jumps.length > 3 && `, and ${String(forecast.jumps.length - 3)} before`}.
            </p>
          )}
        </div>
      ) : (
        <p>{unknown}</p>
      )}
      {(history.length > 1 || steps.length > 0) && (
        <figure aria-label={`Used and usable of ${pool.name}`}>
          <div ref={place} className={steps.length > 0 ? 'h-[380px]' : 'h-[240px]'} aria-hidden>
            {isSeen && (
              <FanDrawn
                history={history}
                fan={forecast?.fan ?? []}
                shownBytes={pool.shownBytes}
                line={FULL_LINE}
                steps={steps}
                margin={{ full: canLose, dips }}
                today={today}
                currency={currency}
              />
            )}
          </div>
          <figcaption className="text-sm text-muted">
            Ink: what was used. Band: what will be, four times out of five. Step line: what may be used at{' '}
            {String(FULL_LINE * 100)} %.
            {steps.length > 0 &&
              ` Below, how many more may fail${dips.some(({ thinHours }) => thinHours > 0) ? ' (a dip lasts hours: it is drawn wider than it is)' : ''}, and what is paid, in the money of that month.`}
          </figcaption>
        </figure>
      )}
      {pool.isWhole ? (
        <GrowthForm
          unit={unit}
          pool={pool.id}
          scheme={pool.scheme}
          families={families}
          extensionBays={extensionBays}
          mayConvert={pool.mayConvert}
          needPerYear={likely > 0 ? likely : null}
          isUsedKnown={ground.usedBytes !== null}
          kept={kept}
          mayKeep={mayRecord}
          search={search}
          onGrown={setGrown}
        />
      ) : (
        <p>A member is missing: rebuild first, then plan how it grows.</p>
      )}
      {search.state.kind === 'busy' && (
        <p className="flex flex-wrap items-center gap-3" aria-live="polite">
          Looking through the ways
          <Progress label="Looked through" share={search.state.share} onStop={search.stop} />
        </p>
      )}
      {asked && search.state.kind !== 'busy' && (
        <GrowthAnswer
          unit={unit}
          pool={pool}
          extensionBays={extensionBays}
          ground={ground}
          of={asked}
          version={version}
          currency={currency}
          today={today}
          mayRecord={mayRecord}
        />
      )}
    </section>
  );
}
