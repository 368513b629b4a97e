import { livesOf } from '../risk/simulate/life';
import type { SimulatedMember, SimulatedPool } from '../risk/simulate/simulatedPool';
import type { Pool, UnitState } from '../unit/state';
import { isRefusal, type Refusal } from '../value/refusal';
import { foundBy, NOTICED, type Care, type Notice } from './assumed';
import { ratesAt, type OutlookAsked } from './outlook';
import { poolToCome } from './poolToCome';

/** One thing done otherwise. */
export type Change =
  | { readonly kind: 'spare-in-drawer' }
  | { readonly kind: 'scrub-weekly' }
  | { readonly kind: 'notice-same-day' }
  | { readonly kind: 'one-more-may-fail' }
  | {
      readonly kind: 'replace';
      readonly which: 'sick' | 'oldest' | 'of-its-age' | 'of-its-lot';
      readonly serials: readonly string[];
    };

/** What one change does to the chance that data is lost or a rebuild stops, at the bad end of what is assumed. */
export interface ChangeSeen {
  readonly change: Change;
  /** Drives to buy. */
  readonly drives: number;
  readonly before: number;
  readonly after: number;
  /** How much less it is, and the span of that which holds 95 times in 100. */
  readonly wins: number;
  readonly low: number;
  readonly high: number;
}

const BATCH = 500;
/** 95 of 100 of a Student variable of 19 degrees lie within so many standard errors, and hardly fewer with more. */
const SPAN = 2.093;
/** Not judged by fewer batches. */
const LEAST_BATCHES = 20;
const YEAR_HOURS = 8760;
/** Of one age: bought within so many days of each other. */
const ONE_AGE_HOURS = 90 * 24;
const NOTICE_ORDER: readonly Notice[] = ['within-the-hour', 'same-day', 'after-a-weekend', 'after-weeks'];

/**
 * The same lives again with one thing changed at a time, by what each wins: the same chance is used for all of them, so that a
 * difference is the change's and not the dice's. What replacing itself risks, while a drive is written, is not in it.
 */
export function whatWouldChangeIt(unit: UnitState, pool: Pool, asked: OutlookAsked): ChangeSeen[] | Refusal {
  const now = poolToCome(unit, pool, { ...asked, rates: ratesAt(1, asked.failuresPerYear) });
  if (isRefusal(now)) return now;
  const changes = changesOf(now, asked.care);
  const batches = Math.max(LEAST_BATCHES, Math.floor(asked.mostLives / BATCH));
  const hours = asked.years * YEAR_HOURS;
  const live = [now, ...changes.map(({ pool: changed }) => changed)].map((of) => livesOf(of, hours, asked.seed));
  const means: number[][] = live.map(() => []);
  for (let batch = 0; batch < batches; batch++) {
    live.forEach((one, i) => {
      let sum = 0;
      for (let k = 0; k < BATCH; k++) {
        const life = one(batch * BATCH + k);
        sum += life.met + (life.lostAtHours === null ? 0 : life.weight);
      }
      (means[i] as number[]).push(sum / BATCH);
    });
    asked.onProgress?.((batch + 1) / batches);
    if (batch + 1 >= LEAST_BATCHES && asked.isOver?.()) break;
  }
  const [before, ...after] = means as [number[], ...number[][]];
  return changes
    .map(({ change, drives }, i): ChangeSeen => {
      const wins = before.map((one, batch) => one - ((after[i] as number[])[batch] as number));
      const error = SPAN * errorOf(wins);
      return {
        change,
        drives,
        before: mean(before),
        after: mean(after[i] as number[]),
        wins: mean(wins),
        low: mean(wins) - error,
        high: mean(wins) + error,
      };
    })
    .sort((a, b) => b.wins - a.wins || a.drives - b.drives);
}

interface Changed {
  readonly change: Change;
  readonly drives: number;
  readonly pool: SimulatedPool;
}

/** What can be done otherwise with a pool, each once. */
export function changesOf(pool: SimulatedPool, care: Care): Changed[] {
  const isGuarded = pool.bands.some(({ redundancy }) => redundancy > 0);
  const changes: Changed[] = [];
  if (isGuarded && pool.spares.inUnit + pool.spares.inDrawer === 0)
    changes.push({
      change: { kind: 'spare-in-drawer' },
      drives: 1,
      pool: { ...pool, spares: { ...pool.spares, inDrawer: 1 } },
    });
  if (isGuarded && pool.latent.kind === 'arising' && (care.scrubDays === null || care.scrubDays > 7))
    changes.push({
      change: { kind: 'scrub-weekly' },
      drives: 0,
      pool: { ...pool, latent: { ...pool.latent, found: foundBy(7) } },
    });
  if (isGuarded && NOTICE_ORDER.indexOf(care.notice) > NOTICE_ORDER.indexOf('same-day'))
    changes.push({ change: { kind: 'notice-same-day' }, drives: 0, pool: { ...pool, notice: NOTICED['same-day'] } });
  if (isGuarded && pool.bands.every(({ redundancy }) => redundancy === 1)) {
    const more = withOneMore(pool);
    changes.push({
      change: { kind: 'one-more-may-fail' },
      drives: more.members.length - pool.members.length,
      pool: more,
    });
  }
  const seen = new Set<string>();
  for (const [which, of] of replaced(pool)) {
    const key = of.join();
    if (of.length === 0 || seen.has(key)) continue;
    seen.add(key);
    changes.push({
      change: { kind: 'replace', which, serials: of.map((i) => (pool.members[i] as SimulatedMember).serial) },
      drives: of.length,
      pool: { ...pool, members: pool.members.map((member, i) => (of.includes(i) ? asNew(member) : member)) },
    });
  }
  return changes;
}

function asNew({ lot: _lot, ...member }: SimulatedMember): SimulatedMember {
  return { ...member, ageHours: 0, sickness: 1 };
}

/** Every band with one member more, like its largest and new, of which one more may be missing. */
function withOneMore(pool: SimulatedPool): SimulatedPool {
  const members = [...pool.members];
  const added = new Map<number, number>();
  const bands = pool.bands.map((band) => {
    const like = band.members[0] as number;
    // Bands one above the other share the drive that is added.
    const at = added.get(like) ?? members.push(asNew(pool.members[like] as SimulatedMember)) - 1;
    for (const one of band.members) if (!added.has(one)) added.set(one, at);
    return {
      ...band,
      redundancy: band.redundancy + 1,
      members: [...band.members, at],
      shares: [...band.shares, band.shares[0] as number],
    };
  });
  return { ...pool, members, bands };
}

/** Which members might be replaced before they fail: the sick; the oldest; all of that age; all of that lot. */
function replaced({ members }: SimulatedPool): ['sick' | 'oldest' | 'of-its-age' | 'of-its-lot', number[]][] {
  const there = members.flatMap(({ missing }, i) => (missing ? [] : [i]));
  const at = (i: number): SimulatedMember => members[i] as SimulatedMember;
  const sick = there.filter((i) => at(i).sickness > 1);
  const oldest = there.reduce<number | null>(
    (best, i) => (best === null || at(i).ageHours > at(best).ageHours ? i : best),
    null,
  );
  const from = sick[0] ?? oldest;
  if (from === null) return [];
  const { ageHours, lot } = at(from);
  return [
    ['sick', sick],
    ['oldest', oldest === null ? [] : [oldest]],
    ['of-its-age', there.filter((i) => sick.includes(i) || Math.abs(at(i).ageHours - ageHours) <= ONE_AGE_HOURS)],
    ['of-its-lot', lot === undefined ? [] : there.filter((i) => at(i).lot === lot)],
  ];
}

function mean(of: readonly number[]): number {
  return of.reduce((sum, one) => sum + one, 0) / of.length;
}

/** The standard error of the mean of batches. */
function errorOf(of: readonly number[]): number {
  const middle = mean(of);
  return Math.sqrt(of.reduce((sum, one) => sum + (one - middle) ** 2, 0) / (of.length - 1) / of.length);
}
