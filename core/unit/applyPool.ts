import type { Band } from '../layout/band';
import { factsOf } from '../layout/scheme';
import { membersLost } from '../survival/membersLost';
import { frozen } from '../value/frozen';
import { own } from '../value/own';
import { refusal, type Refusal } from '../value/refusal';
import type { Of } from './event';
import { membersOf, poolOfDrive, type DriveInUnit, type Pool, type UnitState } from './state';

/** What happens to a pool as a whole. */

export function withPool(unit: UnitState, pool: Pool): UnitState {
  return frozen({ ...unit, pools: { ...unit.pools, [pool.id]: pool } });
}

/** Members the unit has lost sight of are missing; once a band has lost more than it may, its data is gone. */
export function goMissing(unit: UnitState, serials: readonly string[]): UnitState {
  return Object.values(unit.pools).reduce((after, pool) => {
    const gone = serials.filter((serial) => membersOf(pool).includes(serial) && !pool.missing.includes(serial));
    return gone.length === 0 ? after : withPool(after, noteLoss({ ...pool, missing: [...pool.missing, ...gone] }));
  }, unit);
}

/** Once a band has lost more than it may, its data is gone, whatever is put back later. */
function noteLoss(pool: Pool): Pool {
  const lost = membersLost(pool.bands, factsOf(pool.scheme).loses, new Set(pool.missing));
  return lost.length === 0 ? pool : { ...pool, lost: [...new Set([...pool.lost, ...lost])] };
}

export function createPool(unit: UnitState, event: Of<'pool-created'>, happenedAt: string): UnitState | Refusal {
  const { kind: _kind, pool: id, ...body } = event;
  if (own(unit.pools, id)) return refusal('pool-exists', `${unit.name} has a pool ${id} already.`, '/pool');
  const serials = [...new Set([...body.bands.flatMap(({ members }) => members), ...body.spares])];
  const absent = serials.find((serial) => own(unit.drives, serial)?.bay == null);
  if (absent !== undefined) return refusal('drive-not-here', `${absent} is not in any bay of ${unit.name}.`, '/bands');
  const taken = serials.find((serial) => poolOfDrive(unit, serial));
  if (taken !== undefined) return refusal('drive-in-pool', `${taken} is in another pool of ${unit.name} already.`, '/bands');
  const wrong = whyNotBands(unit, body.bands, body.usableBytes);
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
  const pool = own(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  const serials = [...new Set(bands.flatMap(({ members }) => members))];
  const known = new Set([...membersOf(pool), ...pool.spares]);
  const absent = serials.find((serial) => !known.has(serial) && own(unit.drives, serial)?.bay == null);
  if (absent !== undefined) return refusal('drive-not-here', `${absent} is not in any bay of ${unit.name}.`, '/bands');
  const taken = serials.find((serial) => (poolOfDrive(unit, serial) ?? pool) !== pool);
  if (taken !== undefined) return refusal('drive-in-pool', `${taken} is in another pool of ${unit.name} already.`, '/bands');
  const wrong = whyNotBands(unit, bands, usableBytes);
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
  const pool = own(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  const stranger = serials.find((serial) => !pool.missing.includes(serial));
  if (stranger !== undefined) return refusal('not-missing', `${stranger} is not missing from ${pool.name}.`, '/serials');
  const absent = serials.find((serial) => own(unit.drives, serial)?.bay == null);
  if (absent !== undefined) return refusal('drive-not-here', `${absent} is not in any bay of ${unit.name}.`, '/serials');
  const missing = pool.missing.filter((serial) => !serials.includes(serial));
  const drives = { ...unit.drives };
  for (const serial of serials) drives[serial] = { ...(drives[serial] as DriveInUnit), condition: 'well' };
  return withPool({ ...unit, drives }, noteLoss({ ...pool, missing, lost: [] }));
}

export function destroyPool(unit: UnitState, { pool: id }: Of<'pool-destroyed'>): UnitState | Refusal {
  if (!own(unit.pools, id)) return poolUnknown(unit, id);
  const { [id]: _gone, ...pools } = unit.pools;
  const without = <T extends { readonly pool?: string }>(of: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(of).filter(([, { pool }]) => pool !== id));
  return frozen({ ...unit, pools, jobs: without(unit.jobs), volumes: without(unit.volumes) });
}

export function assignSpare(unit: UnitState, { pool: id, serial }: Of<'spare-assigned'>): UnitState | Refusal {
  const pool = own(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  if (own(unit.drives, serial)?.bay == null) return refusal('drive-not-here', `${serial} is not in any bay of ${unit.name}.`, '/serial');
  if (poolOfDrive(unit, serial)) return refusal('drive-in-pool', `${serial} is in a pool of ${unit.name} already.`, '/serial');
  return withPool(unit, { ...pool, spares: [...pool.spares, serial] });
}

export function poolUnknown(unit: UnitState, id: string): Refusal {
  return refusal('pool-unknown', `${unit.name} has no pool ${id}.`, '/pool');
}

/** Bands that cannot be: they do not add up, or reach higher than their drives. */
function whyNotBands(unit: UnitState, bands: readonly Band[], usableBytes: number): Refusal | undefined {
  const usable = bands.reduce((sum, band) => sum + band.usableBytes, 0);
  if (usable !== usableBytes)
    return refusal('bands-inconsistent', `The bands hold ${String(usable)} bytes together, not ${String(usableBytes)}.`, '/usableBytes');
  for (const band of bands) {
    const most = (band.toBytes - band.fromBytes) * band.members.length;
    if (band.redundancy >= band.members.length || band.usableBytes > most || new Set(band.members).size < band.members.length) {
      return refusal('bands-inconsistent', 'A band holds more than its members, or has fewer members than it may lose.', '/bands');
    }
    const short = band.members.find((serial) => (unit.drives[serial] as DriveInUnit).bytes < band.toBytes);
    if (short !== undefined || band.toBytes <= band.fromBytes) return refusal('band-too-high', `A band reaches higher than ${short ?? 'it starts'}.`, '/bands');
  }
  return undefined;
}
