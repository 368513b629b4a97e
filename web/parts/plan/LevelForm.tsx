'use client';
import { useState, type ReactNode } from 'react';
import { schemeWords } from '~/core/layout/scheme';
import type { ChangeLevelWish } from '~/core/plan/makers/changeLevel';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import { idleAndWell } from '~/core/plan/makers/idleDrives';
import { levelsOf } from '~/core/plan/makers/plansThatFit';
import { conversionsOf } from '~/core/pool/converted';
import { formatBytes } from '~/core/quantity/formatBytes';
import { poolDrives } from '~/core/unit/grownByExpand';
import { freeBays, poolsOf } from '~/core/unit/state';
import { entryOf } from '~/core/value/entryOf';
import { Radios } from '~/web/parts/form/Radios';
import { CopyProven } from './CopyProven';
import { IdlePick } from './IdlePick';
import { NewDriveChoice } from './NewDriveChoice';
import { PlanAsk, type PlanFormProps } from './PlanAsk';
import { PoolPick } from './PoolPick';
import { usePlanTried } from './usePlanTried';

/** Another level for a pool that keeps its data: what the family offers, what it needs, and the plan. */
export function LevelForm({ unit, first, ...at }: PlanFormProps & { readonly first: string | undefined }): ReactNode {
  const pools = poolsOf(unit);
  const [chosen, setPool] = useState(first ?? '');
  const [level, setLevel] = useState('');
  const [drive, setDrive] = useState<NewDrive | null>(null);
  const [copyProven, setCopyProven] = useState(false);
  /** As long as nobody chooses, what stands idle is taken first. */
  const [chosenIdle, setIdle] = useState<readonly string[] | null>(null);
  const pool =
    entryOf(unit.pools, chosen) ??
    pools.find(({ scheme }) => unit.profile.growth.conversions.some(({ from }) => from === scheme)) ??
    pools[0];
  const kept = pool ? levelsOf(unit, pool) : [];
  const after = kept.find(({ to }) => to === level) ?? kept[0];
  const idle = idleAndWell(unit);
  const taken = (chosenIdle ?? idle).slice(0, after?.addedDrives ?? 0);
  const needs = (after?.addedDrives ?? 0) - taken.length;
  const wish: ChangeLevelWish | null =
    pool && after && (needs === 0 || drive)
      ? {
          pool: pool.id,
          to: after.to,
          ...(needs > 0 && drive ? { drive } : {}),
          ...(taken.length > 0 ? { idle: taken } : {}),
          ...(copyProven ? { copyProven } : {}),
        }
      : null;
  const tried = usePlanTried('convert', at.id, wish);
  if (!pool) return <p className="text-muted">This unit has no pool.</p>;
  const members = new Set(pool.bands.flatMap((band) => band.members)).size;
  const now = `${pool.name}: ${schemeWords(pool.scheme)}, ${members === 1 ? 'one drive' : `${String(members)} drives`}, ${formatBytes(pool.usableBytes)} usable.`;
  if (!after) {
    const { possible, not } = conversionsOf(
      unit.profile,
      pool,
      poolDrives(unit, pool),
      freeBays(unit).length + idle.length,
    );
    return (
      <div className="grid gap-5">
        <PoolPick pools={pools} value={pool.id} onPool={setPool} />
        <p>{now}</p>
        <p data-no-level>
          {not[0]?.why ??
            (possible.length > 0
              ? 'This family erases the pool for every change of level: copy it elsewhere, and make a new pool.'
              : 'This family changes the level of no such pool.')}
        </p>
      </div>
    );
  }
  return (
    <PlanAsk {...at} unit={unit} job="convert" wish={wish} tried={tried} withSpace>
      <PoolPick pools={pools} value={pool.id} onPool={setPool} />
      <p>{now}</p>
      <Radios
        legend="It becomes"
        name="level"
        value={after.to}
        onValue={setLevel}
        options={kept.map(({ to, addedDrives, usableBytes }) => ({
          value: to,
          words: schemeWords(to),
          detail: `${formatBytes(usableBytes)} usable${
            addedDrives === 0
              ? ', of the drives that are in'
              : `, with ${addedDrives === 1 ? 'one drive' : `${String(addedDrives)} drives`} more as large as those`
          }`,
        }))}
      />
      {after.addedDrives > 0 && <IdlePick unit={unit} idle={idle} chosen={taken} onChosen={setIdle} />}
      {needs > 0 && <NewDriveChoice candidates={[]} first={undefined} onDrive={setDrive} />}
      <CopyProven tried={tried} isProven={copyProven} onProven={setCopyProven} />
    </PlanAsk>
  );
}
