import { figuresOf } from '../drive/media';
import { independentGroups } from '../survival/independentGroups';
import type { Pool, UnitState } from '../unit/state';
import { chanceOfUnreadableSector } from './chanceOfUnreadableSector';
import { FIELD_FACTOR } from './fieldFactor';
import { alikeMembers, lifeOfGroup, LOST } from './memberChain';

/**
 * The chance that a pool as it stands loses data by further failures within a time in which nothing is repaired, 0..1.
 *
 * Exact for drives that fail independently, each at its own constant rate: the chain over which members are missing, without
 * repairs. Members that are missing are gone; each band may lose what is left to it. A step's own repair counts as done only
 * at its end, which errs on the careful side.
 *
 * @param hours 0 and up
 */
export function lossWithoutRepair(unit: UnitState, pool: Pool, hours: number): number {
  if (pool.lost.length > 0) return 1;
  if (hours <= 0) return 0;
  const missing = new Set(pool.missing);
  const left = pool.bands.map((band) => {
    const members = band.members.filter((member) => !missing.has(member));
    return { ...band, members, redundancy: Math.max(0, band.redundancy - (band.members.length - members.length)) };
  });
  const whole = independentGroups(left.filter(({ members }) => members.length > 0)).map(({ members, bands }) => {
    const kinds = alikeMembers(members, bands, (serial) => ({
      failureRate: 1 / figuresOf(unit.drives[serial]?.media ?? 'hard-disk').mttfHours,
      rebuildHours: 0,
      unreadablePerByte: 0,
    }));
    const group = bands.map(({ redundancy }) => ({ redundancy, readBytes: 0 }));
    // No drive ever comes: nothing is repaired.
    const life = lifeOfGroup({ kinds, bands: group, repairs: 'serial', spares: 0, orderHours: Infinity }, false);
    return Math.log1p(-Math.min(1, life.by(hours)[LOST] as number));
  });
  return -Math.expm1(whole.reduce((a, b) => a + b, 0));
}

/** The chance of an unreadable sector among the bytes a rebuild reads: at the data sheet's bound, and as it usually is. */
export function unreadableWhile(
  unit: UnitState,
  pool: Pool,
  readBytes: number,
): { readonly bound: number; readonly usual: number } {
  const media = independentGroups(pool.bands).flatMap(({ members }) =>
    members.map((serial) => figuresOf(unit.drives[serial]?.media ?? 'hard-disk')),
  );
  const perBit = Math.max(...media.map(({ unreadablePerBit }) => unreadablePerBit));
  return {
    bound: chanceOfUnreadableSector(readBytes, perBit),
    usual: chanceOfUnreadableSector(readBytes, perBit / FIELD_FACTOR),
  };
}
