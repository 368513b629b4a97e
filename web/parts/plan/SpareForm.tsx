'use client';
import { useMemo, useState, type ReactNode } from 'react';
import { candidatesFor } from '~/core/plan/makers/candidates';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import type { HotSpareWish } from '~/core/plan/makers/hotSpare';
import { formatExactBytes } from '~/core/quantity/formatBytes';
import { bayName } from '~/core/unit/bayName';
import { fullMarginOfPool } from '~/core/unit/margin';
import { neededBytes } from '~/core/unit/neededBytes';
import { freeBays, membersOf, poolsOf } from '~/core/unit/state';
import type { DrawerDrive } from '~/core/upkeep/spareCoverage';
import { entryOf } from '~/core/value/entryOf';
import { PickLine } from '~/web/parts/form/PickLine';
import { fromDrawer, NewDriveChoice } from './NewDriveChoice';
import { PlanAsk, type PlanFormProps } from './PlanAsk';
import { PoolPick } from './PoolPick';
import { usePlanTried } from './usePlanTried';

interface Props extends PlanFormProps {
  readonly drawers: readonly DrawerDrive[];
  readonly first: string | undefined;
}

/** A spare that waits in the unit itself: which pool, which bay, and what lies in a drawer that really fits. */
export function SpareForm({ unit, drawers, first, ...at }: Props): ReactNode {
  const pools = poolsOf(unit).filter((pool) => fullMarginOfPool(pool) > 0);
  const [chosen, setPool] = useState(first ?? '');
  const [picked, setBay] = useState('');
  const pool = pools.find(({ id }) => id === chosen) ?? pools[0];
  const largest = useMemo(
    () =>
      (pool ? membersOf(pool) : [])
        .flatMap((serial) => entryOf(unit.drives, serial) ?? [])
        .sort((a, b) => neededBytes(unit, b.serial) - neededBytes(unit, a.serial))[0],
    [unit, pool],
  );
  const candidates = useMemo(
    () => (pool && largest ? candidatesFor(unit, pool, largest, drawers) : []),
    [unit, pool, largest, drawers],
  );
  // One that was sick is never chosen for anybody, tested or not.
  const best = candidates.find(({ fits, drive: of }) => fits && of.sick === undefined);
  const [drive, setDrive] = useState<NewDrive | null>(best ? fromDrawer(best.drive) : null);
  const free = freeBays(unit);
  const bay = free.includes(picked) ? picked : free[0];
  const wish: HotSpareWish | null = pool && drive && bay !== undefined ? { pool: pool.id, drive, bay } : null;
  const tried = usePlanTried('hot-spare', at.id, wish);
  if (!pool || !largest)
    return <p className="text-muted">No pool of this unit has protection: a spare has nothing to rebuild from.</p>;
  if (bay === undefined)
    return <p className="text-muted">No bay is free: keep the spare in a drawer beside the unit.</p>;
  return (
    <PlanAsk {...at} unit={unit} job="hot-spare" wish={wish} tried={tried}>
      <PoolPick pools={pools} value={pool.id} onPool={setPool} />
      <p>
        It has to stand in for every member: at least {formatExactBytes(neededBytes(unit, largest.serial))} bytes, as{' '}
        {bayName(unit, largest.bay)} needs.
      </p>
      {free.length > 1 && (
        <div className="max-w-[420px]">
          <PickLine
            label="Bay"
            value={bay}
            onValue={setBay}
            options={free.map((one) => ({ value: one, words: bayName(unit, one) }))}
          />
        </div>
      )}
      <NewDriveChoice candidates={candidates} first={best?.serial} onDrive={setDrive} />
    </PlanAsk>
  );
}
