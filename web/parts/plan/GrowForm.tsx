'use client';
import { useState, type ReactNode } from 'react';
import { candidatesToAdd } from '~/core/plan/makers/candidates';
import type { GrowWish } from '~/core/plan/makers/grow';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import { idleAndWell } from '~/core/plan/makers/idleDrives';
import { addedAtATime } from '~/core/pool/added';
import type { DrawerDrive } from '~/core/upkeep/spareCoverage';
import { bayName } from '~/core/unit/bayName';
import { freeBays, poolsOf } from '~/core/unit/state';
import { entryOf } from '~/core/value/entryOf';
import { PickLine } from '~/web/parts/form/PickLine';
import { IdlePick } from './IdlePick';
import { NewDriveChoice } from './NewDriveChoice';
import { PlanAsk, type PlanFormProps } from './PlanAsk';
import { PoolPick } from './PoolPick';
import { usePlanTried } from './usePlanTried';

interface Props extends PlanFormProps {
  /** The pool it was asked for. */
  readonly first: string | undefined;
  readonly drawers: readonly DrawerDrive[];
}

/** More drives for a pool, as many at a time as its family takes: what it holds then, and the plan. */
export function GrowForm({ unit, first, drawers, ...at }: Props): ReactNode {
  const pools = poolsOf(unit);
  const [chosen, setPool] = useState(first ?? '');
  const [drive, setDrive] = useState<NewDrive | null>(null);
  const [picked, setBay] = useState('');
  const [taken, setTaken] = useState<readonly string[]>([]);
  const pool = entryOf(unit.pools, chosen) ?? pools[0];
  const free = freeBays(unit);
  const count = pool ? addedAtATime(unit.profile, pool) : 0;
  const bay = free.includes(picked) ? picked : free[0];
  const idle = idleAndWell(unit);
  // Of a set that is added together what stands idle fills up a part.
  const lacking = count > 0 ? (count - (taken.length % count)) % count : 0;
  const wanted = taken.length === 0 ? count : lacking;
  const wish: GrowWish | null =
    pool && (wanted === 0 ? taken.length > 0 : drive !== null)
      ? {
          pool: pool.id,
          ...(wanted > 0 && drive ? { drive } : {}),
          ...(taken.length > 0 ? { idle: taken } : {}),
          ...(wanted === 1 && count === 1 && bay !== undefined ? { bays: [bay] } : {}),
        }
      : null;
  // Of more than one at a time each would have to be named: they are bought as a set.
  const candidates = pool && count === 1 && bay !== undefined ? candidatesToAdd(unit, pool, bay, drawers) : [];
  const tried = usePlanTried('grow', at.id, wish);
  if (!pool) return <p className="text-muted">This unit has no pool to grow.</p>;
  return (
    <PlanAsk {...at} unit={unit} job="grow" wish={wish} tried={tried} withSpace>
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
      {count > 0 && <IdlePick unit={unit} idle={idle} chosen={taken} onChosen={setTaken} />}
      {count > 0 && idle.length > 0 && (
        <p className="text-muted">
          Drives that were kept out on purpose, while the first pool was filled from them, come in here; afterwards its
          level can be changed where the family offers it.
        </p>
      )}
      {wanted === 1 && count === 1 && free.length > 1 && (
        <div className="max-w-[420px]">
          <PickLine
            label="Bay"
            value={bay ?? ''}
            onValue={setBay}
            options={free.map((one) => ({ value: one, words: bayName(unit, one) }))}
          />
        </div>
      )}
      {wanted > 0 && free.length >= wanted && (
        <NewDriveChoice key={pool.id} candidates={candidates} first={drive?.serial} onDrive={setDrive} />
      )}
    </PlanAsk>
  );
}
