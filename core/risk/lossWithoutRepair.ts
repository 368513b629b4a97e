import { figuresOf } from '../drive/media';
import { independentGroups } from '../survival/independentGroups';
import type { Pool, UnitState } from '../unit/state';
import { chanceOfUnreadableSector } from './chanceOfUnreadableSector';
import { FIELD_FACTOR } from './fieldFactor';

/**
 * The chance that a pool as it stands loses data by further failures within a time in which nothing is repaired, 0..1.
 *
 * Exact for drives that fail independently, each with its own chance: members are gone through one after the other, with how
 * many each band has lost by then; what loses one more than it may is lost. Only sums of what is positive, so that 10⁻²⁰ has as
 * many true digits as a half. Members that are missing are gone; each band may lose what is left to it. A step's own repair
 * counts as done only at its end, which errs on the careful side.
 *
 * @param failsBy the chance that a member which is there fails within that time, 0..1
 */
export function lossWithoutRepair(
  { bands, missing, lost }: Pick<Pool, 'bands' | 'missing' | 'lost'>,
  failsBy: (serial: string) => number,
): number {
  if (lost.length > 0) return 1;
  const gone = new Set(missing);
  const left = bands
    .map((band) => {
      const members = band.members.filter((member) => !gone.has(member));
      return { ...band, members, redundancy: Math.max(0, band.redundancy - (band.members.length - members.length)) };
    })
    .filter(({ members }) => members.length > 0);
  const whole = independentGroups(left).reduce((sum, group) => sum + Math.log1p(-lossOf(group, failsBy)), 0);
  return Math.max(0, -Math.expm1(whole));
}

interface Part {
  readonly members: readonly string[];
  readonly bands: readonly { readonly members: readonly string[]; readonly redundancy: number }[];
}

/** Below 1 by a hair at most: its logarithm is asked for. */
const SURELY = 1 - 1e-16;

function lossOf({ members, bands }: Part, failsBy: (serial: string) => number): number {
  const [only] = bands;
  return only && bands.length === 1 ? lossOfBand(only, failsBy) : lossOfBands(members, bands, failsBy);
}

/** Of one band it matters only how many are gone. */
function lossOfBand({ members, redundancy }: Part['bands'][number], failsBy: (serial: string) => number): number {
  const gone = new Float64Array(redundancy + 1);
  gone[0] = 1;
  let lost = 0;
  for (const member of members) {
    const fails = failsBy(member);
    lost += (gone[redundancy] as number) * fails;
    for (let k = redundancy; k > 0; k--) gone[k] = (gone[k] as number) * (1 - fails) + (gone[k - 1] as number) * fails;
    gone[0] = (gone[0] as number) * (1 - fails);
  }
  return Math.min(SURELY, lost);
}

function lossOfBands(members: Part['members'], bands: Part['bands'], failsBy: (serial: string) => number): number {
  const isIn = bands.map((band) => new Set(band.members));
  // How likely it is that nothing is lost yet and the bands have lost so many each, by those counts.
  let alive = new Map<string, { readonly counts: readonly number[]; readonly chance: number }>([
    ['', { counts: bands.map(() => 0), chance: 1 }],
  ]);
  let lost = 0;
  for (const member of members) {
    const fails = failsBy(member);
    if (fails <= 0) continue;
    const next: typeof alive = new Map();
    const add = (counts: readonly number[], chance: number): void => {
      const key = counts.join();
      next.set(key, { counts, chance: (next.get(key)?.chance ?? 0) + chance });
    };
    for (const { counts, chance } of alive.values()) {
      add(counts, chance * (1 - fails));
      const then = counts.map((count, b) => count + (isIn[b]?.has(member) === true ? 1 : 0));
      if (then.some((count, b) => count > (bands[b]?.redundancy ?? 0))) lost += chance * fails;
      else add(then, chance * fails);
    }
    alive = next;
  }
  return Math.min(SURELY, lost);
}

/** The chance that a drive of this kind fails within so many hours at the data sheet's constant rate. */
export function failsByDataSheet(unit: Pick<UnitState, 'drives'>, serial: string, hours: number): number {
  return -Math.expm1(-Math.max(0, hours) / figuresOf(unit.drives[serial]?.media ?? 'hard-disk').mttfHours);
}

/**
 * The chance of an unreadable sector among the bytes a rebuild reads: at the data sheet's bound, and as it usually is. Where a
 * member that is read shows signs the bound is what is usual: such drives have many times as many.
 */
export function unreadableWhile(
  unit: UnitState,
  pool: Pool,
  readBytes: number,
): { readonly bound: number; readonly usual: number } {
  const read = independentGroups(pool.bands)
    .flatMap(({ members }) => members)
    .filter((serial) => !pool.missing.includes(serial));
  const perBit = Math.max(
    ...read.map((serial) => figuresOf(unit.drives[serial]?.media ?? 'hard-disk').unreadablePerBit),
  );
  const isSick = read.some((serial) => unit.drives[serial]?.sick !== undefined);
  return {
    bound: chanceOfUnreadableSector(readBytes, perBit),
    usual: chanceOfUnreadableSector(readBytes, isSick ? perBit : perBit / FIELD_FACTOR),
  };
}
