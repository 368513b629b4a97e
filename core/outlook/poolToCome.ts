import { daysBetween } from '../quantity/days';
import { YEAR_HOURS } from '../quantity/year';
import { rebuildOnto } from '../rebuild/rebuildOnto';
import type { SharedLoss, SimulatedMember, SimulatedPool } from '../risk/simulate/simulatedPool';
import { membersOf, type Pool, type UnitState } from '../unit/state';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { foundBy, NOTICED, type Care, type DriveRates } from './assumed';
import { livesAhead, type LifeAhead, type LotSeen } from './livesAhead';

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
  const { lives, lots } = livesAhead(unit, serials, { rates, now, lots: seen });
  const missing = new Set(pool.missing);
  const members = serials.map((serial, at): SimulatedMember => {
    const drive = unit.drives[serial];
    const { low, likely } = rebuildOnto(
      unit,
      pool,
      serial,
      { bytes: drive?.bytes ?? 0, ...(drive?.media ? { media: drive.media } : {}) },
      usedShare,
    );
    const job = Object.values(unit.jobs).find((one) => one.replaces === serial && one.pool === pool.id);
    return {
      serial,
      ...(lives[at] as LifeAhead),
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
    lots,
    sharedLosses: boxLosses(unit, serials, care.boxLossesPerYear ?? 0),
    repairs: unit.profile.rebuild.repairs,
    spares: { inUnit: sparesReady(unit, pool), inDrawer: care.inDrawer },
    notice: NOTICED[care.notice],
    order: { leastHours: care.orderDays * 24, scaleHours: 0, shape: 1 },
    latent: {
      kind: 'arising',
      found: foundBy(care.scrubDays),
      countsWhileRebuilding: true,
      ...sinceScrub(unit, now),
    },
  };
}

/** Since when everything was read last, by the record; nothing where that is not on it. */
function sinceScrub({ upkeepDone }: UnitState, now: string): { readonly sinceHours?: number } {
  const last = entryOf(upkeepDone, 'scrub');
  return last === undefined ? {} : { sinceHours: Math.max(0, 24 * daysBetween(last, now)) };
}

/** Each box takes the members that stand in it: at a steady rate of which the share that is said is lost in a year. */
function boxLosses({ enclosures, drives }: UnitState, serials: readonly string[], share: number): SharedLoss[] {
  if (share <= 0) return [];
  const perHour = -Math.log1p(-share) / YEAR_HOURS;
  return enclosures.flatMap(({ bays }) => {
    const members = serials.flatMap((serial, i) => (bays.includes(drives[serial]?.bay ?? '') ? [i] : []));
    return members.length === 0 ? [] : [{ members, perHour }];
  });
}

/** Spares that can still step in: well, in their bay, and not written already. */
function sparesReady(unit: UnitState, pool: Pool): number {
  const written = new Set(Object.values(unit.jobs).map(({ onto }) => onto));
  return pool.spares.filter((serial) => {
    const drive = unit.drives[serial];
    return drive?.bay != null && drive.condition === 'well' && !written.has(serial);
  }).length;
}
