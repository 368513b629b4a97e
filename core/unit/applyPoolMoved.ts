import { marginOf } from '../survival/marginOf';
import { whyNotBands } from '../pool/whyNotBands';
import { frozen } from '../value/frozen';
import { freeName } from './freeName';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { isWorking, noteLoss, poolUnknown, withPool } from './applyPool';
import type { Of } from './event';
import { membersOf, ownerOf, type DataSet, type DriveInUnit, type Pool, type UnitState, type Volume } from './state';
import { isDown } from './margin';

/** A pool that leaves whole or arrives whole: nothing is lost and nothing erased; its age, its history and what is in it go along. */

/** What goes along with a pool. */
export interface PoolContents {
  readonly volumes: Readonly<Record<string, Volume>>;
  readonly dataSets: Readonly<Record<string, DataSet>>;
}

/** The volumes and data sets of a pool, by their ids; none of a pool that is not there. */
export function contentsOf(unit: UnitState, pool: string): PoolContents {
  const of = <T extends { readonly pool?: string }>(all: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(all).filter(([, one]) => one.pool === pool));
  return { volumes: of(unit.volumes), dataSets: of(unit.dataSets) };
}

/** It is no more of this unit; its drives stand idle until they are carried away. */
export function leavePool(unit: UnitState, { pool: id }: Of<'pool-left'>, at: string): UnitState | Refusal {
  const pool = entryOf(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  // What has lost more than it survives must not arrive elsewhere as if it were whole.
  if (isDown(pool))
    return refusal(
      'pool-lost',
      `${pool.name} has stopped: it does not leave as a whole. See the rescue desk before any drive is moved.`,
      '/pool',
    );
  const busy = Object.values(unit.jobs).find((job) => job.pool === id && job.task !== 'scrub' && job.task !== 'test');
  if (busy)
    return refusal(
      'work-runs',
      `${pool.name} is busy: its ${busy.task.replace('-', ' ')} runs to its end before it leaves.`,
      '/pool',
    );
  const { [id]: _gone, ...pools } = unit.pools;
  const without = <T extends { readonly pool?: string }>(all: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(all).filter(([, one]) => one.pool !== id));
  // With its last pool nothing of it is on the way any more.
  const { packed, ...rest } = unit;
  return frozen({
    ...rest,
    ...(packed === undefined || Object.keys(pools).length === 0 ? {} : { packed }),
    leftAt: at,
    pools,
    jobs: without(unit.jobs),
    volumes: without(unit.volumes),
    dataSets: without(unit.dataSets),
  });
}

/** It is there as it was built, over drives that stand in this unit and in no other pool. */
export function bringPool(unit: UnitState, event: Of<'pool-arrived'>, happenedAt: string): UnitState | Refusal {
  const { kind: _kind, pool: id, from, builtAt, missing = [], ...body } = event;
  if (entryOf(unit.pools, id)) return refusal('pool-exists', `${unit.name} has this pool already.`, '/pool');
  if (builtAt !== null && Date.parse(builtAt) > Date.parse(happenedAt))
    return refusal('built-later', 'It cannot have been built after it came here.', '/builtAt');
  const pool: Pool = {
    kind: 'pool',
    id,
    ...body,
    builtAt: builtAt === null ? null : new Date(builtAt).toISOString(),
    missing,
    lost: [],
    arrivedFrom: from,
  };
  const members = membersOf(pool);
  const stray = missing.find((serial) => !members.includes(serial));
  if (stray !== undefined)
    return refusal('not-a-member', `${stray} is said to be missing and is no member.`, '/missing');
  const here = [...members, ...body.spares].filter((serial) => !missing.includes(serial));
  const absent = here.find((serial) => entryOf(unit.drives, serial)?.bay == null);
  if (absent !== undefined)
    return refusal(
      'drive-not-here',
      `${absent} is not in any bay of ${unit.name}: the pool has not arrived whole.`,
      '/bands',
    );
  const taken = here.find((serial) => entryOf(unit.drives, serial)?.carries?.pool !== id && ownerOf(unit, serial));
  if (taken !== undefined)
    return refusal('drive-in-pool', `${taken} belongs to ${ownerOf(unit, taken) ?? ''} already.`, '/bands');
  const dead = here.find((serial) => !isWorking(unit, serial));
  if (dead !== undefined) return refusal('not-working', `${dead} does not work: say that it is missing.`, '/bands');
  const wrong = whyNotBands(
    unit.profile,
    body,
    body.usableBytes,
    (serial) => entryOf(unit.drives, serial)?.bytes ?? (missing.includes(serial) ? Infinity : 0),
  );
  // A member that died on the way is missing here, and what that costs is known.
  const found = from === null ? [...membersOf(pool), ...body.spares] : [];
  const drives = arrived(unit, membersOf(pool), found);
  return wrong ?? withPool({ ...unit, drives }, from === null ? pool : noteLoss(pool));
}

/** They are members here now, and carried no more; of those that were found there nobody knows since when. */
function arrived({ drives }: UnitState, serials: readonly string[], found: readonly string[]): UnitState['drives'] {
  const after: Record<string, DriveInUnit> = { ...drives };
  for (const serial of serials) {
    const here = entryOf(after, serial);
    if (!here) continue;
    const { carries: _carried, ...drive } = here;
    after[serial] = drive;
  }
  for (const serial of found) {
    const here = entryOf(after, serial);
    if (here) after[serial] = { ...here, foundThere: true };
  }
  return after;
}

/**
 * A pool as it arrives from the unit it was in: as it was built, with its age and what it is without; and without what does
 * not work where it arrives, or stayed behind.
 *
 * @param to the unit its drives stand in now
 */
export function arrivalOf(pool: Pool, from: string, to: UnitState): Of<'pool-arrived'> {
  const died = [
    ...pool.missing,
    ...membersOf(pool).filter((serial) => !pool.missing.includes(serial) && hasDied(to, serial)),
  ];
  const absent = membersOf(pool).filter((serial) => !died.includes(serial) && hasNotArrived(to, serial));
  // One that stayed behind is missing where the pool starts without it; where it does not, it has not arrived.
  const missing = marginOf(pool.bands, new Set([...died, ...absent])) < 0 ? died : [...died, ...absent];
  const { id, name, scheme, groupWidth, bands, spares, usableBytes, shownBytes, fileSystemReserveBytes } = pool;
  return {
    kind: 'pool-arrived',
    pool: id,
    from,
    builtAt: pool.builtAt,
    name,
    scheme,
    ...(groupWidth === undefined ? {} : { groupWidth }),
    bands: bands.map((band) => ({ ...band, members: [...band.members] })),
    spares: [...spares],
    ...(missing.length === 0 ? {} : { missing }),
    usableBytes,
    shownBytes,
    fileSystemReserveBytes,
  };
}

/** It stands in this unit, and has failed here: a pool that arrives is without it. */
function hasDied({ drives }: UnitState, serial: string): boolean {
  const drive = entryOf(drives, serial);
  return drive?.bay != null && drive.condition === 'failed';
}

/** It died on the way, or stayed behind: it stands in no bay of this unit, or has failed in one. */
export function hasNotArrived(unit: UnitState, serial: string): boolean {
  return entryOf(unit.drives, serial)?.bay == null || hasDied(unit, serial);
}

/** What was in it at the unit it left. */
export function fillPool(unit: UnitState, { pool: id, volumes, dataSets }: Of<'pool-contents'>): UnitState | Refusal {
  return entryOf(unit.pools, id)
    ? withContents(unit, id, { volumes, dataSets } as PoolContents)
    : poolUnknown(unit, id);
}

/** What was copied here, with its copies, is at home here from now on. */
export function takeInData(unit: UnitState, { from, dataSets }: Of<'data-arrived'>): UnitState | Refusal {
  const sets = Object.values(dataSets as PoolContents['dataSets']);
  const stray = sets.find(({ pool }) => pool !== undefined && !entryOf(unit.pools, pool));
  return stray
    ? poolUnknown(unit, stray.pool ?? '')
    : withContents(unit, from, { volumes: {}, dataSets: dataSets as PoolContents['dataSets'] });
}

/** What goes by a name that is taken is called by where it came from. */
function nameFrom(id: string, from: string): string {
  return `${id}-${from.slice(0, 8)}`;
}

/** The ids by which data sets of another unit stand here, once they have arrived: their own, or as it was taken the last that was given. */
export function idsArrived(unit: UnitState, from: string, ids: readonly string[]): readonly string[] {
  return ids.map(
    (id) =>
      Object.keys(unit.dataSets)
        .filter((one) => one.startsWith(nameFrom(id, from)))
        .at(-1) ?? id,
  );
}

function withContents(unit: UnitState, id: string, { volumes, dataSets }: PoolContents): UnitState {
  const taken = [
    ...Object.keys(volumes).filter((one) => entryOf(unit.volumes, one)),
    ...Object.keys(dataSets).filter((one) => entryOf(unit.dataSets, one)),
  ];
  // Names are given by each unit: one that is taken goes by where it came from as well.
  const named = <T extends { readonly id: string }>(all: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(
      Object.values(all).map((one) => {
        if (!taken.includes(one.id)) return [one.id, one];
        const by = nameFrom(one.id, id);
        const all = { ...unit.volumes, ...unit.dataSets };
        const free = Object.hasOwn(all, by) ? freeName(all, by) : by;
        return [free, { ...one, id: free }];
      }),
    );
  return frozen({
    ...unit,
    volumes: { ...unit.volumes, ...named(volumes) },
    dataSets: { ...unit.dataSets, ...named(dataSets) },
  });
}
