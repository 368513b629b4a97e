import { gammaNodes } from '../risk/gammaNodes';
import { lossWithoutRepair } from '../risk/lossWithoutRepair';
import { membersOf, type Pool, type UnitState } from '../unit/state';
import { ratesAt } from './assumed';
import { livesAhead, type LotSeen } from './livesAhead';

/** What is thought of the drives of a pool before it is reckoned with. */
export interface Thought {
  /** The share of drives that fail in a year, from and to. */
  readonly failuresPerYear: readonly [number, number];
  /** What was seen of the lots its members are of; of others nothing is asked. */
  readonly lots: readonly LotSeen[];
}

/** Exact for what up to seven of a lot do together. */
const NODES = 4;
/** Of more lots than these the others count with their mean: what two of one of them do together is then somewhat too low. */
const MOST_LOTS = 3;

/**
 * The chance that a pool as it stands loses data by further failures within hours in which nothing is repaired, at the good and
 * at the bad end of what is assumed: the same lives that `simulate` lives, each drive with its age, its signs and its lot, but
 * exactly: without repairs a drive is gone or there. Lots are what drives have in common: the mean over what they may be.
 *
 * @param hours 0 and up
 * @param now ISO 8601, when the hours begin
 */
export function lossAhead(
  unit: Pick<UnitState, 'drives'>,
  pool: Pick<Pool, 'bands' | 'missing' | 'lost'>,
  hours: number,
  now: string,
  { failuresPerYear, lots: seen }: Thought,
): readonly [number, number] {
  const at = (end: 0 | 1): number => {
    const serials = membersOf(pool);
    const { lives, lots } = livesAhead(unit, serials, { rates: ratesAt(end, failuresPerYear), now, lots: seen });
    const passed = new Map(
      serials.map((serial, i) => {
        const { ageHours = 0, sickness = 1, life, lot } = lives[i] ?? {};
        const clock = (age: number): number => (life ? (age / life.scaleHours) ** life.shape : 0);
        return [serial, { lot, expected: sickness * (clock(ageHours + Math.max(0, hours)) - clock(ageHours)) }];
      }),
    );
    const factors = lots.map(({ shape, rate }, i) => gammaNodes(shape, rate, i < MOST_LOTS ? NODES : 1));
    return combinations(factors).reduce((sum, { weight, at: factor }) => {
      const failsBy = (serial: string): number => {
        const { lot, expected = 0 } = passed.get(serial) ?? {};
        return -Math.expm1(-expected * (lot === undefined ? 1 : (factor[lot] as number)));
      };
      return sum + weight * lossWithoutRepair(pool, failsBy);
    }, 0);
  };
  return [at(0), at(1)];
}

interface Combined {
  readonly at: readonly number[];
  readonly weight: number;
}

/** One point of each, in every way. */
function combinations(of: readonly (readonly { readonly at: number; readonly weight: number }[])[]): Combined[] {
  return of.reduce<Combined[]>(
    (all, nodes) =>
      all.flatMap((one) => nodes.map(({ at, weight }) => ({ at: [...one.at, at], weight: one.weight * weight }))),
    [{ at: [], weight: 1 }],
  );
}
