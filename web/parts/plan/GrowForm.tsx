'use client';
import { useState, type ReactNode } from 'react';
import type { GrowWish } from '~/core/plan/makers/grow';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import { addedAtATime } from '~/core/pool/added';
import { bayName } from '~/core/unit/bayName';
import { baysOf, driveInBay, poolsOf, type UnitState } from '~/core/unit/state';
import { entryOf } from '~/core/value/entryOf';
import { PickLine } from '~/web/parts/form/PickLine';
import { BeginPlan } from './BeginPlan';
import { NewDriveChoice } from './NewDriveChoice';
import { PlanPreview } from './PlanPreview';
import { PoolPick } from './PoolPick';
import { usePlanTried } from './usePlanTried';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  /** The pool it was asked for. */
  readonly first: string | undefined;
  readonly mayRecord: boolean;
}

/** More drives for a pool, as many at a time as its family takes: what it holds then, and the plan. */
export function GrowForm({ id, version, unit, first, mayRecord }: Props): ReactNode {
  const pools = poolsOf(unit);
  const [chosen, setPool] = useState(first ?? '');
  const [drive, setDrive] = useState<NewDrive | null>(null);
  const [picked, setBay] = useState('');
  const pool = entryOf(unit.pools, chosen) ?? pools[0];
  const free = baysOf(unit).filter((bay) => !driveInBay(unit, bay));
  const count = pool ? addedAtATime(unit.profile, pool) : 0;
  const bay = free.includes(picked) ? picked : free[0];
  const wish: GrowWish | null =
    drive && pool ? { pool: pool.id, drive, ...(count === 1 && bay !== undefined ? { bays: [bay] } : {}) } : null;
  const tried = usePlanTried('grow', id, wish);
  if (!pool) return <p className="text-muted">This unit has no pool to grow.</p>;
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_380px]">
      <div className="grid gap-5">
        <PoolPick pools={pools} value={pool.id} onPool={setPool} />
        <p data-free-bays>
          {free.length === 0
            ? 'No bay is free: swap members for larger drives, or add an enclosure.'
            : `${String(free.length)} ${free.length === 1 ? 'bay is' : 'bays are'} free. ${
                count === 0
                  ? 'This family adds no drives to such a pool.'
                  : count === 1
                    ? 'Drives are added one at a time.'
                    : `Drives are added ${String(count)} at a time, all of one size${free.length < count ? ': that is too few' : ''}.`
              }`}
        </p>
        {count === 1 && free.length > 1 && (
          <div className="max-w-[420px]">
            <PickLine
              label="Bay"
              value={bay ?? ''}
              onValue={setBay}
              options={free.map((one) => ({ value: one, words: bayName(unit, one) }))}
            />
          </div>
        )}
        {count > 0 && free.length >= count && <NewDriveChoice candidates={[]} first={undefined} onDrive={setDrive} />}
        {mayRecord && count > 0 && free.length >= count && (
          <BeginPlan id={id} version={version} job="grow" wish={wish} isReady={tried.kind === 'tried'} />
        )}
      </div>
      <aside aria-label="The plan as it would be" className="border border-line bg-surface p-4" data-plan-preview>
        <h2 className="text-lg">The plan as it would be</h2>
        <PlanPreview tried={tried} withSpace />
      </aside>
    </div>
  );
}
