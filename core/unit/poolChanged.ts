import type { Scheme } from '../layout/scheme';
import { planLayout } from '../layout/planLayout';
import { addToPool, addedAtATime } from '../pool/added';
import type { PoolDrive } from '../pool/builtPool';
import { convertPool } from '../pool/converted';
import { entryOf } from '../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import { BayName } from './bayName';
import type { Of } from './event';
import { poolDrives, poolGrown } from './grownByExpand';
import { poolCreated } from './poolCreated';
import { baysOf, driveInBay, ownerOf, type DriveInUnit, type UnitState } from './state';

/** What was done to the pools of a unit in use, on its own page. Bays are those of the drives that came in. */
export type PoolChange =
  | {
      readonly kind: 'made';
      readonly name: string;
      readonly scheme: Scheme;
      readonly groupWidth?: number;
      readonly bays: readonly string[];
      readonly spares?: readonly string[];
    }
  | { readonly kind: 'added'; readonly pool: string; readonly bays: readonly string[] }
  | { readonly kind: 'became'; readonly pool: string; readonly to: Scheme; readonly bays: readonly string[] }
  | { readonly kind: 'erased'; readonly pool: string };

type Changed = Of<'pool-created'> | Of<'pool-grown'> | Of<'pool-converted'> | Of<'pool-destroyed'>;

/**
 * The event of a change to a unit's pools, by the one rule for built pools; or why that cannot have been.
 *
 * @param newPool an id for a pool that is made (uuid)
 * @param usedBytes what is in the pool that is changed, where that is known
 */
export function poolChanged(unit: UnitState, change: PoolChange, newPool: string, usedBytes = 0): Changed | Refusal {
  if (change.kind === 'made') return made(unit, change, newPool);
  const pool = entryOf(unit.pools, change.pool);
  if (!pool) return refusal('pool-unknown', `${unit.name} has no such pool.`, '/pool');
  if (change.kind === 'erased') return { kind: 'pool-destroyed', pool: pool.id };
  const fresh = idle(unit, change.bays);
  if (isRefusal(fresh)) return fresh;
  const members = poolDrives(unit, pool);
  if (change.kind === 'became') {
    const after = convertPool(unit.profile, pool, change.to, members, fresh.map(named), usedBytes);
    if (isRefusal(after)) return after;
    const { to, bands, usableBytes, shownBytes, fileSystemReserveBytes } = after;
    const copied = bands.map((band) => ({ ...band, members: [...band.members] }));
    return {
      kind: 'pool-converted',
      pool: pool.id,
      scheme: to,
      bands: copied,
      usableBytes,
      shownBytes,
      fileSystemReserveBytes,
    };
  }
  if (fresh.length === 0) return refusal('nothing-added', 'Say which drives were added.', '/bays');
  // As many at a time as the family takes; several times over where more came.
  const step = addedAtATime(unit.profile, pool) || fresh.length;
  let now = { ...pool };
  for (let i = 0; i < fresh.length; i += step) {
    const some = fresh.slice(i, i + step).map(named);
    const added = addToPool(unit.profile, now, members, some);
    if (isRefusal(added)) return { ...added, pointer: '/bays' };
    for (const drive of some) members.set(drive.name, drive);
    now = { ...now, bands: added.bands };
  }
  return poolGrown(unit.profile, pool, now.bands);
}

function made(
  unit: UnitState,
  { name, scheme, groupWidth, bays, spares = [] }: Extract<PoolChange, { kind: 'made' }>,
  pool: string,
): Changed | Refusal {
  const both = spares.find((bay) => bays.includes(bay));
  if (both !== undefined)
    return refusal('drive-in-pool', `${BayName(unit, both)} is named as member and as spare.`, '/spares');
  const members = idle(unit, bays);
  if (isRefusal(members)) return members;
  const waiting = idle(unit, spares);
  if (isRefusal(waiting)) return { ...waiting, pointer: '/spares' };
  const layout = planLayout(
    unit.profile,
    scheme,
    members.map(({ serial, bytes, media }) => ({ bay: serial, bytes, ...(media === undefined ? {} : { media }) })),
    0,
    groupWidth,
  );
  const event = poolCreated(layout, pool, name, new Map(members.map(({ serial }) => [serial, serial])));
  return isRefusal(event) ? event : { ...event, spares: waiting.map(({ serial }) => serial) };
}

/** The drives in these bays, which no pool has and which work. */
function idle(unit: UnitState, bays: readonly string[]): DriveInUnit[] | Refusal {
  const drives: DriveInUnit[] = [];
  for (const bay of bays) {
    const drive = driveInBay(unit, bay);
    if (!baysOf(unit).includes(bay) || !drive)
      return refusal('bay-empty', `${BayName(unit, bay)} is empty: record the drive in it first.`, '/bays');
    const owner = ownerOf(unit, drive.serial);
    if (owner !== undefined) return refusal('drive-in-pool', `${BayName(unit, bay)} belongs to ${owner}.`, '/bays');
    drives.push(drive);
  }
  return drives;
}

function named({ serial, bytes, media }: DriveInUnit): PoolDrive {
  return { name: serial, bytes, ...(media === undefined ? {} : { media }) };
}

/** Bays whose drives are in no pool and work: what a pool can be made of, or grow by. */
export function idleBays(unit: UnitState): string[] {
  return baysOf(unit).filter((bay) => {
    const drive = driveInBay(unit, bay);
    return drive !== undefined && drive.condition !== 'failed' && ownerOf(unit, drive.serial) === undefined;
  });
}
