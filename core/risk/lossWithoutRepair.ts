import { figuresOf } from '../drive/media';
import { factsOf } from '../layout/scheme';
import { independentGroups } from '../survival/independentGroups';
import { survivalTable } from '../survival/survivalTable';
import type { Pool, UnitState } from '../unit/state';
import { chanceOfUnreadableSector } from './chanceOfUnreadableSector';
import { FIELD_FACTOR } from './fieldFactor';

/**
 * The chance that a pool as it stands loses data by further failures within a time in which nothing is repaired, 0..1.
 *
 * Exact for drives that fail independently at a constant rate: the chain without repairs is a pure death process, the
 * number that fail is binomial with p = 1 − e^(−λt), and each number is weighed by the share of failure sets of that
 * size that lose something. Members that are missing are gone; each band may lose what is left to it. A step's own
 * repair counts as done only at its end, which errs on the careful side.
 *
 * @param hours 0 and up
 */
export function lossWithoutRepair(unit: UnitState, pool: Pool, hours: number): number {
  if (pool.lost.length > 0) return 1;
  const missing = new Set(pool.missing);
  const left = pool.bands.map((band) => {
    const members = band.members.filter((member) => !missing.has(member));
    return { ...band, members, redundancy: Math.max(0, band.redundancy - (band.members.length - members.length)) };
  });
  const members = [...new Set(left.flatMap((band) => band.members))];
  if (members.length === 0 || hours <= 0) return 0;
  const rate =
    members.reduce((sum, serial) => sum + 1 / figuresOf(unit.drives[serial]?.media ?? 'hard-disk').mttfHours, 0) /
    members.length;
  const fails = -Math.expm1(-rate * hours);
  let [chance, exactly] = [0, (1 - fails) ** members.length];
  for (const { failed, survived, of } of survivalTable(left, factsOf(pool.scheme).loses)) {
    if (failed > 0) exactly *= ((members.length - failed + 1) / failed) * (fails / (1 - fails));
    chance += exactly * (1 - Number(survived) / Number(of));
  }
  return Math.min(1, chance);
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
