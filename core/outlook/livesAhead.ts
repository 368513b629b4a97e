import { YEAR_HOURS } from '../quantity/year';
import { figuresOf } from '../drive/media';
import type { SimulatedLot, SimulatedMember } from '../risk/simulate/simulatedPool';
import type { DriveInUnit, UnitState } from '../unit/state';
import { lifeOf, LOT_VARIANCE, type DriveRates } from './assumed';

const DAY_MS = 86_400_000;

/** How the life of a drive goes on from now. */
export type LifeAhead = Pick<SimulatedMember, 'ageHours' | 'life' | 'sickness' | 'lot'>;

/**
 * How the lives of drives go on, in the order of their serials: by their ages, their signs and what they are; and what is thought
 * of the lots of which two or more are among them.
 *
 * @param rates of the first of them; of what is made otherwise as data sheets have the two side by side
 * @param now ISO 8601; what was bought after it is new
 * @param seen what the ledgers say of lots; of others nothing was seen
 */
export function livesAhead(
  unit: Pick<UnitState, 'drives'>,
  serials: readonly string[],
  { rates, now, lots: seen }: { readonly rates: DriveRates; readonly now: string; readonly lots: readonly LotSeen[] },
): { readonly lives: readonly LifeAhead[]; readonly lots: readonly SimulatedLot[] } {
  const { scaleHours } = lifeOf(rates);
  const lots = lotsOf(unit, serials, rates, seen);
  const names = [...lots.keys()];
  const told = mttfOf(unit.drives[serials[0] ?? '']);
  const lives = serials.map((serial): LifeAhead => {
    const drive = unit.drives[serial];
    const lot = names.indexOf(lotKey(drive) ?? '');
    return {
      ageHours: drive ? ageHours(drive, now) : 0,
      life: { shape: rates.shape, scaleHours: (scaleHours * mttfOf(drive)) / told },
      sickness: drive?.condition === 'suspected' || drive?.sick !== undefined ? rates.sickness : 1,
      ...(lot < 0 ? {} : { lot }),
    };
  });
  return { lives, lots: [...lots.values()] };
}

function mttfOf(drive: DriveInUnit | undefined): number {
  return figuresOf(drive?.media ?? 'hard-disk').mttfHours;
}

/** Hours since a drive was bought, or since it was put in where nobody knows, by whole days: an answer is a day's. What lies ahead is new. */
export function ageHours({ boughtOn, insertedAt }: DriveInUnit, now: string): number {
  const since = Math.min(Date.parse(insertedAt), boughtOn === undefined ? Infinity : Date.parse(boughtOn));
  return Math.max(0, Math.floor((Date.parse(now) - since) / DAY_MS) * 24);
}

/** What two drives of one lot have in common: the lot's number says nothing without the model. */
export function lotKey(drive: Pick<DriveInUnit, 'model' | 'lot'> | undefined): string | undefined {
  return drive?.lot === undefined ? undefined : JSON.stringify([drive.model ?? '', drive.lot]);
}

/** What the ledgers say of all drives of one lot, wherever they are and were. */
export interface LotSeen {
  /** See {@link lotKey}. */
  readonly lot: string;
  readonly failures: number;
  /** Years each of them has served in units. */
  readonly years: readonly number[];
}

/**
 * What is thought of each lot of which a pool has two or more: gamma of mean 1 before anything was seen, sharpened by how many of
 * its drives failed in the time they served (gamma and Poisson; Gelman et al., Bayesian Data Analysis, 2.6).
 */
function lotsOf(
  unit: Pick<UnitState, 'drives'>,
  serials: readonly string[],
  rates: DriveRates,
  seen: readonly LotSeen[],
): Map<string, SimulatedLot> {
  const { shape, scaleHours } = lifeOf(rates);
  const keys = serials.flatMap((serial) => lotKey(unit.drives[serial]) ?? []);
  const lots = new Map<string, SimulatedLot>();
  for (const key of new Set(keys)) {
    if (keys.filter((one) => one === key).length < 2) continue;
    const { failures, years } = seen.find(({ lot }) => lot === key) ?? { failures: 0, years: [] };
    const served = years.reduce((sum, of) => sum + ((of * YEAR_HOURS) / scaleHours) ** shape, 0);
    lots.set(key, { shape: 1 / LOT_VARIANCE + failures, rate: 1 / LOT_VARIANCE + served });
  }
  return lots;
}
