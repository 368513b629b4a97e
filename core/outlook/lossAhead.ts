import { gammaNodes } from '../risk/gammaNodes';
import { lossWithoutRepair } from '../risk/lossWithoutRepair';
import { membersOf, type Pool, type UnitState } from '../unit/state';
import { RATE_ENDS, ratesAt, type DriveRates } from './assumed';
import { livesAhead, type LifeAhead, type LotSeen } from './livesAhead';

/** What is thought of the drives of a pool before it is reckoned with. */
export interface Thought {
  /** The share of drives that fail in a year, from and to. */
  readonly failuresPerYear: readonly [number, number];
  /** What was seen of the lots its members are of; of others nothing is asked. */
  readonly lots: readonly LotSeen[];
}

/** Exact for what up to five of a lot do together. */
const NODES = 3;
/** Of more lots than these the others count with their mean: what two of one of them do together is then somewhat too low. */
const MOST_LOTS = 3;

/**
 * The chance that a pool as it stands loses data by further failures within hours in which nothing is repaired: the same lives
 * that `simulate` lives, each drive with its age, its signs and its lot, but exactly: without repairs a drive is gone or there.
 * Lots are what drives have in common: the mean over what they may be.
 *
 * @param hours 0 and up
 * @param now ISO 8601, when the hours begin
 */
export function lossAt(
  unit: Pick<UnitState, 'drives'>,
  pool: Pick<Pool, 'bands' | 'missing' | 'lost'>,
  hours: number,
  now: string,
  { rates, lots: seen }: { readonly rates: DriveRates; readonly lots: readonly LotSeen[] },
): number {
  const serials = membersOf(pool);
  const { lives, lots } = livesAhead(unit, serials, { rates, now, lots: seen });
  const passed = new Map(
    serials.map((serial, i) => {
      const { ageHours, sickness, life, lot } = lives[i] as LifeAhead;
      const clock = (age: number): number => (age / life.scaleHours) ** life.shape;
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
}

/**
 * From the least to the most of what is thought possible: the lower rate and the higher, each with lives that hardly depend on
 * age and with lives that do. What fails the more the older it is fails the less while it is new: neither is worse everywhere.
 */
export function lossAhead(
  unit: Pick<UnitState, 'drives'>,
  pool: Pick<Pool, 'bands' | 'missing' | 'lost'>,
  hours: number,
  now: string,
  { failuresPerYear, lots }: Thought,
): readonly [number, number] {
  const ends = ([0, 1] as const).flatMap((end) =>
    RATE_ENDS.map(({ shape }) =>
      lossAt(unit, pool, hours, now, { rates: { ...ratesAt(end, failuresPerYear), shape }, lots }),
    ),
  );
  return [Math.min(...ends), Math.max(...ends)];
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
