import { rebuildOnto } from '../rebuild/rebuildOnto';
import { figuresOf } from '../drive/media';
import type { SimulatedLot, SimulatedMember, SimulatedPool } from '../risk/simulate/simulatedPool';
import { membersOf, type DriveInUnit, type Pool, type UnitState } from '../unit/state';
import { refusal, type Refusal } from '../value/refusal';
import { foundBy, lifeOf, LOT_VARIANCE, NOTICED, type Care, type DriveRates } from './assumed';

const DAY_MS = 86_400_000;
const YEAR_HOURS = 8760;
/** Γ(1.5): the mean of a Weibull variable of shape 2 is so much of its scale. */
const MEAN_OF_SHAPE_2 = 0.886226925452758;

/**
 * A pool as it stands in its unit, ready to be simulated: every member with its age, its lot, its signs and its own rebuild; what
 * is missing and how far its rebuild is; bands as they were built.
 *
 * @param now ISO 8601; what was bought after it is new
 * @param usedShare share of the pool in use, 0..1
 */
export function poolToCome(
  unit: UnitState,
  pool: Pool,
  {
    care,
    rates,
    now,
    usedShare,
    lots: seen,
  }: { care: Care; rates: DriveRates; now: string; usedShare: number; lots: readonly LotSeen[] },
): SimulatedPool | Refusal {
  if (pool.lost.length > 0)
    return refusal('pool-lost', `${pool.name} has lost data: what comes first is to save what is left of it.`);
  if (pool.building)
    return refusal('still-building', `${pool.name} is not protected before its first build is done: ask again then.`);
  if (unit.away.length > 0)
    return refusal(
      'enclosure-away',
      `${unit.away.join(' and ')} has dropped out: what comes first is to bring it back.`,
    );
  if (unit.packed || unit.retired) return refusal('not-in-use', `${unit.name} is not in use.`);
  const serials = membersOf(pool);
  const { scaleHours } = lifeOf(rates);
  const lots = lotsOf(unit, serials, rates, seen);
  const lotNames = [...lots.keys()];
  const missing = new Set(pool.missing);
  const members = serials.map((serial): SimulatedMember => {
    const drive = unit.drives[serial];
    const { low, likely } = rebuildOnto(
      unit,
      pool,
      serial,
      { bytes: drive?.bytes ?? 0, ...(drive?.media ? { media: drive.media } : {}) },
      usedShare,
    );
    const job = Object.values(unit.jobs).find((one) => one.replaces === serial && one.pool === pool.id);
    const lot = lotNames.indexOf(lotKey(drive) ?? '');
    return {
      serial,
      ageHours: drive ? ageHours(drive, now) : 0,
      life: { shape: rates.shape, scaleHours: scaleHours * livesAs(drive) },
      sickness: drive?.condition === 'suspected' || drive?.sick === 'signs' ? rates.sickness : 1,
      ...(lot < 0 ? {} : { lot }),
      rebuild: { leastHours: low / 3600, scaleHours: (likely - low) / 3600 / MEAN_OF_SHAPE_2, shape: 2 },
      unreadable: rates.unreadablePerYear / YEAR_HOURS,
      ...(missing.has(serial)
        ? { missing: job ? { rebuiltInHours: (likely / 3600) * (1 - job.percent / 100) } : {} }
        : {}),
    };
  });
  const usedOf = unit.profile.rebuild.covers === 'used-space' ? usedShare : 1;
  return {
    kind: 'simulated-pool',
    members,
    bands: pool.bands.map(({ members: of, redundancy, fromBytes, toBytes }) => ({
      members: of.map((serial) => serials.indexOf(serial)),
      redundancy,
      shares: of.map((serial) =>
        Math.min(1, (usedOf * (toBytes - fromBytes)) / (unit.drives[serial]?.bytes ?? toBytes)),
      ),
    })),
    lots: [...lots.values()],
    sharedLosses: [],
    repairs: unit.profile.rebuild.repairs,
    spares: { inUnit: sparesReady(unit, pool), inDrawer: care.inDrawer },
    notice: NOTICED[care.notice],
    order: { leastHours: care.orderDays * 24, scaleHours: 0, shape: 1 },
    latent: { kind: 'arising', found: foundBy(care.scrubDays), countsWhileRebuilding: true },
  };
}

/** Spares that can still step in: well, in their bay, and not written already. */
function sparesReady(unit: UnitState, pool: Pool): number {
  const written = new Set(Object.values(unit.jobs).map(({ onto }) => onto));
  return pool.spares.filter((serial) => {
    const drive = unit.drives[serial];
    return drive?.bay != null && drive.condition === 'well' && !written.has(serial);
  }).length;
}

/** How long it lives beside a hard disk, by data sheets. */
function livesAs(drive: DriveInUnit | undefined): number {
  return figuresOf(drive?.media ?? 'hard-disk').mttfHours / figuresOf('hard-disk').mttfHours;
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
  unit: UnitState,
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
