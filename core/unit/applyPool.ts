import type { Band } from '../layout/band';
import type { PoolSpace } from '../layout/spaceOf';
import { factsOf } from '../layout/scheme';
import { parityOf } from '../pool/dedicatedParity';
import { whyNotBands, whyNotGrownFrom } from '../pool/whyNotBands';
import { membersLost } from '../survival/membersLost';
import { frozen } from '../value/frozen';
import { apart } from '../quantity/apart';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import type { Of } from './event';
import { fullMarginOfPool } from './margin';
import { membersOf, ownerOf, type DriveInUnit, type Pool, type UnitState } from './state';

/** What happens to a pool as a whole. */

/** The unit with this pool in place of the one of its id. */
export function withPool(unit: UnitState, pool: Pool): UnitState {
  return frozen({ ...unit, pools: { ...unit.pools, [pool.id]: pool } });
}

/** Members the unit has lost sight of are missing; once a band has lost more than it may, its data is gone. */
export function goMissing(unit: UnitState, serials: readonly string[]): UnitState {
  // They are carried: nothing is missing before it is known where they arrived.
  if (unit.packed) return unit;
  return Object.values(unit.pools).reduce((after, pool) => {
    const gone = serials.filter((serial) => membersOf(pool).includes(serial) && !pool.missing.includes(serial));
    return gone.length === 0 ? after : withPool(after, noteLoss({ ...pool, missing: [...pool.missing, ...gone] }));
  }, unit);
}

/** Once a band has lost more than it may, its data is gone, whatever is put back later. */
export function noteLoss(pool: Pool): Pool {
  const lost =
    pool.building === true
      ? lostWhileBuilding(pool)
      : membersLost(pool.bands, factsOf(pool.scheme).loses, new Set(pool.missing));
  return lost.length === 0 ? pool : { ...pool, lost: [...new Set([...pool.lost, ...lost])] };
}

/** Nothing is protected yet: all of the pool goes with a member, or its own files where each drive has some. */
function lostWhileBuilding(pool: Pool): readonly string[] {
  const { scheme, bands, missing } = pool;
  if (missing.length === 0) return [];
  if (factsOf(scheme).loses === 'pool') return [...new Set(bands.flatMap(({ members }) => members))];
  const parity = parityOf(pool);
  return missing.filter((serial) => !parity.includes(serial));
}

/**
 * A pool is made of drives that stand here, work and belong to nothing. Refused with the drive at fault; for bands that
 * its level cannot have; and when more is shown (bytes) than it holds.
 */
export function createPool(unit: UnitState, event: Of<'pool-created'>, happenedAt: string): UnitState | Refusal {
  const { kind: _kind, pool: id, ...body } = event;
  if (entryOf(unit.pools, id)) return refusal('pool-exists', `${unit.name} has a pool ${id} already.`, '/pool');
  const serials = [...new Set([...body.bands.flatMap(({ members }) => members), ...body.spares])];
  const absent = serials.find((serial) => entryOf(unit.drives, serial)?.bay == null);
  if (absent !== undefined) return refusal('drive-not-here', `${absent} is not in any bay of ${unit.name}.`, '/bands');
  const dead = serials.find((serial) => !isWorking(unit, serial));
  if (dead !== undefined) return refusal('not-working', `${dead} does not work: no pool is made with it.`, '/bands');
  const taken = serials.find((serial) => ownerOf(unit, serial));
  if (taken !== undefined)
    return refusal('drive-in-pool', `${taken} belongs to ${ownerOf(unit, taken) ?? ''} already.`, '/bands');
  const twice = body.spares.find((serial) => body.bands.some(({ members }) => members.includes(serial)));
  if (twice !== undefined) return refusal('drive-in-pool', `${twice} is named as member and as spare.`, '/spares');
  const wrong =
    whyNotBands(unit.profile, body, body.usableBytes, (serial) => entryOf(unit.drives, serial)?.bytes ?? 0) ??
    whyNotShown(body);
  if (wrong) return wrong;
  return withPool(unit, { kind: 'pool', id, ...body, builtAt: happenedAt, missing: [], lost: [] });
}

interface Reshaped {
  readonly pool: string;
  readonly bands: readonly Band[];
  readonly usableBytes: number;
  readonly shownBytes: number;
  readonly fileSystemReserveBytes: number;
}

/** Grown or converted: the bands as they are now, over drives that stand in this unit and in no other pool. */
export function reshapePool(unit: UnitState, event: Of<'pool-grown'> | Of<'pool-converted'>): UnitState | Refusal {
  const { pool: id, bands, usableBytes, shownBytes, fileSystemReserveBytes }: Reshaped = event;
  const pool = entryOf(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  const serials = [...new Set(bands.flatMap(({ members }) => members))];
  const known = new Set([...membersOf(pool), ...pool.spares]);
  const absent = serials.find((serial) => !known.has(serial) && entryOf(unit.drives, serial)?.bay == null);
  if (absent !== undefined) return refusal('drive-not-here', `${absent} is not in any bay of ${unit.name}.`, '/bands');
  const taken = serials.find((serial) => !known.has(serial) && ownerOf(unit, serial));
  if (taken !== undefined)
    return refusal('drive-in-pool', `${taken} belongs to ${ownerOf(unit, taken) ?? ''} already.`, '/bands');
  const left = membersOf(pool).find((serial) => !serials.includes(serial));
  if (left !== undefined)
    return refusal(
      'member-left-out',
      `${left} is a member of ${pool.name}${pool.missing.includes(left) ? ', and missing: it is rebuilt first' : ''}. A member leaves only by a rebuild onto another drive.`,
      '/bands',
    );
  const dead = serials.find((serial) => !known.has(serial) && !isWorking(unit, serial));
  if (dead !== undefined) return refusal('not-working', `${dead} does not work: no pool takes it in.`, '/bands');
  const isGrown = event.kind === 'pool-grown';
  if (!isGrown && pool.missing.length > 0)
    return refusal(
      'others-missing',
      `${pool.missing.join(', ')} is missing from ${pool.name}: it is rebuilt before the level is changed.`,
      '/pool',
    );
  const after = isGrown
    ? { ...pool, bands }
    : { bands, scheme: event.scheme, ...(event.groupWidth === undefined ? {} : { groupWidth: event.groupWidth }) };
  const wrong =
    whyNotBands(unit.profile, after, usableBytes, (serial) => entryOf(unit.drives, serial)?.bytes ?? 0) ??
    whyNotShown(event) ??
    (isGrown ? whyNotGrownFrom(pool, bands) : undefined);
  if (wrong) return wrong;
  const scheme = event.kind === 'pool-converted' ? { scheme: event.scheme } : {};
  const { groupWidth: before, ...rest } = pool;
  const width = event.kind === 'pool-converted' ? event.groupWidth : before;
  return withPool(unit, {
    ...rest,
    ...scheme,
    ...(width === undefined ? {} : { groupWidth: width }),
    bands,
    usableBytes,
    shownBytes,
    fileSystemReserveBytes,
    spares: pool.spares.filter((spare) => !serials.includes(spare)),
    missing: pool.missing.filter((serial) => serials.includes(serial)),
  });
}

/** The unit took members back with what is on them, as after a loose cable: they are whole again without a rebuild. */
export function restorePool(unit: UnitState, { pool: id, serials }: Of<'pool-restored'>): UnitState | Refusal {
  const pool = entryOf(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  const back = takenBack(unit, pool, serials);
  if ('code' in back) return back;
  const { stopped, gone, ...served } = back.pools[id] as Pool;
  // What is whole by its members is served again.
  return served.lost.length === 0
    ? withPool(back, served)
    : withPool(back, { ...served, ...(stopped ? { stopped } : {}), ...(gone ? { gone } : {}) });
}

/** The unit with missing members taken back into a pool, with what is on them; a refusal for one that cannot be. */
export function takenBack(unit: UnitState, pool: Pool, serials: readonly string[]): UnitState | Refusal {
  const stranger = serials.find((serial) => !pool.missing.includes(serial));
  if (stranger !== undefined)
    return refusal('not-missing', `${stranger} is not missing from ${pool.name}.`, '/serials');
  const absent = serials.find((serial) => entryOf(unit.drives, serial)?.bay == null);
  if (absent !== undefined)
    return refusal('drive-not-here', `${absent} is not in any bay of ${unit.name}.`, '/serials');
  const missing = pool.missing.filter((serial) => !serials.includes(serial));
  const drives = { ...unit.drives };
  for (const serial of serials) {
    const { backIn: _whole, ...drive } = drives[serial] as DriveInUnit;
    // What showed signs before it came out shows them still.
    drives[serial] = { ...drive, condition: drive.sick === undefined ? 'well' : 'suspected' };
  }
  return withPool({ ...unit, drives }, noteLoss({ ...pool, missing, lost: [] }));
}

/**
 * A pool is deleted with its volumes and running work; its drives stand there idle. Refused for a pool that is not
 * here. Whether its data has a proven copy elsewhere is asked before, by the plan.
 */
export function destroyPool(unit: UnitState, { pool: id }: Of<'pool-destroyed'>): UnitState | Refusal {
  if (!entryOf(unit.pools, id)) return poolUnknown(unit, id);
  const { [id]: _gone, ...pools } = unit.pools;
  const without = <T extends { readonly pool?: string }>(of: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(of).filter(([, { pool }]) => pool !== id));
  return frozen({ ...unit, pools, jobs: without(unit.jobs), volumes: without(unit.volumes) });
}

/**
 * A drive waits as spare of a pool. Refused for one that is not here, does not work or belongs to a pool, and for a
 * pool without protection. Whether it is large enough is `spareCoverage`'s to say: units take a small one too.
 */
export function assignSpare(unit: UnitState, { pool: id, serial }: Of<'spare-assigned'>): UnitState | Refusal {
  const pool = entryOf(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  if (entryOf(unit.drives, serial)?.bay == null)
    return refusal('drive-not-here', `${serial} is not in any bay of ${unit.name}.`, '/serial');
  if (!isWorking(unit, serial)) return refusal('not-working', `${serial} does not work: it is no spare.`, '/serial');
  if (ownerOf(unit, serial) !== undefined)
    return refusal('drive-in-pool', `${serial} belongs to ${ownerOf(unit, serial) ?? ''} already.`, '/serial');
  if (fullMarginOfPool(pool) === 0)
    return refusal(
      'nothing-to-rebuild',
      `${pool.name} has no protection: a spare has nothing to rebuild from.`,
      '/pool',
    );
  return withPool(unit, { ...pool, spares: [...pool.spares, serial] });
}

/** A drive waits as spare no more: it stands idle. Refused for one that is none of this pool. */
export function releaseSpare(unit: UnitState, { pool: id, serial }: Of<'spare-released'>): UnitState | Refusal {
  const pool = entryOf(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  return pool.spares.includes(serial)
    ? withPool(unit, { ...pool, spares: pool.spares.filter((one) => one !== serial) })
    : refusal('not-a-spare', `${serial} is not a spare of ${pool.name}.`, '/serial');
}

/** True for a drive that stands in a bay and has neither failed nor been taken out of service. */
export function isWorking(unit: UnitState, serial: string): boolean {
  const drive = entryOf(unit.drives, serial);
  return drive?.bay != null && drive.condition !== 'failed' && drive.condition !== 'out-of-service';
}

/** More is shown than there is, or more kept back than is shown. */
function whyNotShown({ usableBytes, shownBytes, fileSystemReserveBytes }: PoolSpace): Refusal | undefined {
  if (shownBytes > usableBytes)
    return refusal(
      'shown-too-large',
      `The unit’s page cannot show more than the pool holds: ${apart(usableBytes, shownBytes).join(', and not ')}.`,
      '/shownBytes',
    );
  return fileSystemReserveBytes > shownBytes
    ? refusal('reserve-too-large', 'The file system cannot keep back more than is shown.', '/fileSystemReserveBytes')
    : undefined;
}

/** The refusal for a pool that is not here. */
export function poolUnknown(unit: UnitState, id: string): Refusal {
  return refusal('pool-unknown', `${unit.name} has no pool ${id}.`, '/pool');
}
