'use client';
import { useState, type ReactNode } from 'react';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import { freeBays, poolsOf } from '~/core/unit/state';
import { entryOf } from '~/core/value/entryOf';
import type { ReplaceAllWish } from '~/core/plan/makers/replaceAll';
import { Radios } from '~/web/parts/form/Radios';
import { CopyProven } from './CopyProven';
import { MarginTimeline, RiskFigures } from './MarginTimeline';
import { NewDriveChoice } from './NewDriveChoice';
import { PlanAsk, type PlanFormProps } from './PlanAsk';
import { PoolPick } from './PoolPick';
import { usePlanTried, type Tried } from './usePlanTried';
import { hoursWords } from '~/core/quantity/hoursWords';
import { riskWords } from '~/web/parts/bench/words';

/** Larger drives for a pool, one at a time: the space after each, and the days it takes. */
export function LargerForm({ unit, first, ...at }: PlanFormProps & { readonly first: string | undefined }): ReactNode {
  const pools = poolsOf(unit);
  const [pool, setPool] = useState(entryOf(unit.pools, first ?? '')?.id ?? pools[0]?.id ?? '');
  const [drive, setDrive] = useState<NewDrive | null>(null);
  const hasFreeWay = unit.profile.rebuild.throughFreeBay && freeBays(unit).length > 0;
  // The way that never thins the pool, wherever the family has it.
  const [chosen, setWay] = useState<'in-place' | 'free-bay'>('free-bay');
  const [copyProven, setCopyProven] = useState(false);
  const way = hasFreeWay ? chosen : 'in-place';
  const inPlaceWish: ReplaceAllWish | null = drive
    ? { pool, drive, way: 'in-place', ...(copyProven ? { copyProven } : {}) }
    : null;
  const freeWish: ReplaceAllWish | null = drive && hasFreeWay ? { pool, drive, way: 'free-bay' } : null;
  const inPlace = usePlanTried('replace-all', at.id, inPlaceWish);
  const through = usePlanTried('replace-all', at.id, freeWish);
  const [wish, tried] = way === 'free-bay' ? [freeWish, through] : [inPlaceWish, inPlace];
  const risk = tried.kind === 'tried' ? tried.risks.find((one) => one.pool === pool) : undefined;
  if (pools.length === 0) return <p className="text-muted">This unit has no pool to grow.</p>;
  return (
    <PlanAsk {...at} unit={unit} job="replace-all" wish={wish} tried={tried} withSpace>
      <PoolPick pools={pools} value={pool} onPool={setPool} />
      <NewDriveChoice candidates={[]} first={undefined} onDrive={setDrive} />
      {drive && (
        <div data-larger-way>
          <Radios
            legend="By which way"
            name="way"
            value={way}
            onValue={(value) => setWay(value as typeof chosen)}
            options={[
              {
                value: 'free-bay',
                words: `Each through a free bay: the pool is never thinner${hasFreeWay ? '' : unit.profile.rebuild.throughFreeBay ? '; no bay is free' : '; this family does not do that'}`,
                detail: chanceOnTheWay(through, pool),
                isOff: !hasFreeWay,
              },
              {
                value: 'in-place',
                words: 'Each in its own bay: thinner while each is rebuilt',
                detail: chanceOnTheWay(inPlace, pool),
              },
            ]}
          />
        </div>
      )}
      {way === 'in-place' && <CopyProven tried={inPlace} isProven={copyProven} onProven={setCopyProven} />}
      {risk && (
        <section aria-label="Margin" className="max-w-[420px] border border-line bg-surface p-3">
          <MarginTimeline risk={risk} label="Margin against time" here={false} />
          <RiskFigures risk={risk} />
        </section>
      )}
    </PlanAsk>
  );
}

/** "never thinner; 1 in 1 G to 1 in 90 M that a failure loses it", for choosing between two ways. */
function chanceOnTheWay(tried: Tried, pool: string): string | undefined {
  const risk = tried.kind === 'tried' ? tried.risks.find((one) => one.pool === pool) : undefined;
  return (
    risk &&
    `${risk.thinHours === 0 ? 'never thinner' : `thinner for ${hoursWords(risk.thinHours)}`}; ${riskWords(risk.lossBetween)} that a failure loses it on the way`
  );
}
