import { YEAR_HOURS } from '../quantity/year';
import { livesOf } from '../risk/simulate/life';
import type { SimulatedMember, SimulatedPool } from '../risk/simulate/simulatedPool';
import type { Pool, UnitState } from '../unit/state';
import { isRefusal, type Refusal } from '../value/refusal';
import { foundBy, NOTICED, ratesAt, type Care, type Notice } from './assumed';
import type { OutlookAsked } from './outlook';
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

/** What a change does to one outcome: its chance now and then, how much less that is, and the span of it which holds 95 times in 100. */
export interface Won {
  readonly before: number;
  readonly after: number;
  readonly wins: number;
  readonly low: number;
  readonly high: number;
}

/** What one change does, at the bad end of what is assumed. */
export interface ChangeSeen {
  readonly change: Change;
  /** Drives to buy. */
  readonly drives: number;
  /** The pool is lost, or a file where rebuilds go on without one: data is gone by failures within the time. */
  readonly gone: Won;
  /** The pool is lost. */
  readonly lost: Won;
  /** A rebuild that can lose none more meets an unreadable sector. */
  readonly met: Won;
}

const BATCH = 500;
/** So often it is asked whether the time is over. */
const ASKED_EVERY = 50;
/** Judged by so many batches at least, also when the time is over. */
const LEAST_BATCHES = 6;
/** 95 of 100 of a mean over so many batches lie within so many standard errors (Student's t with one degree less; tables). */
const SPANS: readonly (readonly [batches: number, span: number])[] = [
  [20, 2.093],
  [10, 2.262],
  [LEAST_BATCHES, 2.571],
];
/** Of one age: bought within so many days of each other. */
const ONE_AGE_HOURS = 90 * 24;
const NOTICE_ORDER: readonly Notice[] = ['within-the-hour', 'same-day', 'after-a-weekend', 'after-weeks'];

/**
 * The same lives again with one thing changed at a time, by what each wins: the same chance is used for all of them, so that a
 * difference is the change's and not the dice's. What replacing itself risks, while a drive is written, is not in it; while
 * something is missing nothing else is replaced, for that would risk more than it wins.
 *
 * Nothing where the time is over before anything can be told.
 *
 * In the order of how much less likely each makes it that data is gone: the pool, or a file in a family that goes on without it. A
 * rebuild that stops is another thing, and no data gone: where it turns the order, `turnsAt` says from which weight on.
 */
export function whatWouldChangeIt(unit: UnitState, pool: Pool, asked: OutlookAsked): ChangeSeen[] | Refusal {
  const now = poolToCome(unit, pool, { ...asked, rates: ratesAt(1, asked.failuresPerYear) });
  if (isRefusal(now)) return now;
  const changes = changesOf(now, asked.care);
  const batches = Math.max(LEAST_BATCHES, Math.floor(asked.mostLives / BATCH));
  const hours = asked.years * YEAR_HOURS;
  const live = [now, ...changes.map(({ pool: changed }) => changed)].map((of) => livesOf(of, hours, asked.seed));
  const means = live.map(() => ({ gone: [] as number[], lost: [] as number[], met: [] as number[] }));
  const stops = unit.profile.rebuild.unreadableSector === 'aborts';
  let isOver = false;
  for (let batch = 0; batch < batches && changes.length > 0; batch++) {
    const seen = live.map((one) => {
      let [gone, lost, met] = [0, 0, 0];
      for (let k = 0; k < BATCH && !isOver; k++) {
        const life = one(batch * BATCH + k);
        met += life.met;
        const weight = life.lostAtHours === null ? 0 : life.weight;
        lost += weight;
        // Of one life both are one loss.
        gone += weight > 0 || stops ? weight : life.met;
        isOver = (k + 1) % ASKED_EVERY === 0 && asked.isOver?.(1) === true;
      }
      return { gone: gone / BATCH, lost: lost / BATCH, met: met / BATCH };
    });
    // What is half done counts for nothing.
    if (isOver) break;
    seen.forEach(({ gone, lost, met }, i) => {
      means[i]?.gone.push(gone);
      means[i]?.lost.push(lost);
      means[i]?.met.push(met);
    });
    asked.onProgress?.((batch + 1) / batches);
  }
  if ((means[0]?.lost.length ?? 0) < LEAST_BATCHES) return [];
  const before = means[0] as Batches;
  return changes
    .map(({ change, drives }, i): ChangeSeen => {
      const then = means[i + 1] as Batches;
      return {
        change,
        drives,
        gone: wonBy(before.gone, then.gone),
        lost: wonBy(before.lost, then.lost),
        met: wonBy(before.met, then.met),
      };
    })
    .sort((a, b) => b.gone.wins - a.gone.wins || a.drives - b.drives);
}

type Batches = Readonly<Record<'gone' | 'lost' | 'met', readonly number[]>>;

function wonBy(before: readonly number[], after: readonly number[]): Won {
  const each = before.map((one, batch) => one - (after[batch] as number));
  const wins = mean(each);
  const [, span] = SPANS.find(([batches]) => each.length >= batches) as (typeof SPANS)[number];
  const error = span * errorOf(each);
  return { before: mean(before), after: mean(after), wins, low: wins - error, high: wins + error };
}

interface Changed {
  readonly change: Change;
  readonly drives: number;
  readonly pool: SimulatedPool;
}

/** What can be done otherwise with a pool, each once; nothing where it has no redundancy, or a member missing. */
export function changesOf(pool: SimulatedPool, care: Care): Changed[] {
  const changes: Changed[] = [];
  // Without redundancy only a copy helps; with a member missing only its replacement does.
  if (!pool.bands.some(({ redundancy }) => redundancy > 0) || pool.members.some(({ missing }) => missing))
    return changes;
  if (pool.spares.inUnit + pool.spares.inDrawer === 0)
    changes.push({
      change: { kind: 'spare-in-drawer' },
      drives: 1,
      pool: { ...pool, spares: { ...pool.spares, inDrawer: 1 } },
    });
  if (pool.latent.kind === 'arising' && (care.scrubDays === null || care.scrubDays > 7))
    changes.push({
      change: { kind: 'scrub-weekly' },
      drives: 0,
      pool: { ...pool, latent: { ...pool.latent, found: foundBy(7) } },
    });
  if (NOTICE_ORDER.indexOf(care.notice) > NOTICE_ORDER.indexOf('same-day'))
    changes.push({ change: { kind: 'notice-same-day' }, drives: 0, pool: { ...pool, notice: NOTICED['same-day'] } });
  if (pool.bands.every(({ redundancy }) => redundancy === 1)) {
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
    if (seen.has(key) || of.every((i) => isAsNew(pool.members[i] as SimulatedMember))) continue;
    seen.add(key);
    changes.push({
      change: { kind: 'replace', which, serials: of.map((i) => (pool.members[i] as SimulatedMember).serial) },
      drives: of.length,
      pool: { ...pool, members: pool.members.map((member, i) => (of.includes(i) ? asNew(member) : member)) },
    });
  }
  return changes;
}

/** Nothing is won by a new one. */
function isAsNew({ ageHours, sickness, lot }: SimulatedMember): boolean {
  return ageHours === 0 && sickness === 1 && lot === undefined;
}

function asNew({ lot: _lot, ...member }: SimulatedMember): SimulatedMember {
  return { ...member, ageHours: 0, sickness: 1 };
}

/** Every band with one member more, like its largest and new, of which one more may be missing. */
function withOneMore(pool: SimulatedPool): SimulatedPool {
  const members = [...pool.members];
  const added = new Map<number, number>();
  const beside: (readonly [like: number, at: number])[] = [];
  const bands = pool.bands.map((band) => {
    const like = band.members[0] as number;
    // Bands one above the other share the drive that is added.
    const known = added.get(like);
    const at = known ?? members.push(asNew(pool.members[like] as SimulatedMember)) - 1;
    if (known === undefined) beside.push([like, at]);
    for (const one of band.members) if (!added.has(one)) added.set(one, at);
    return {
      ...band,
      redundancy: band.redundancy + 1,
      members: [...band.members, at],
      shares: [...band.shares, band.shares[0] as number],
    };
  });
  // What takes a box takes it as well.
  const sharedLosses = pool.sharedLosses.map((loss) => ({
    ...loss,
    members: [...loss.members, ...beside.flatMap(([like, at]) => (loss.members.includes(like) ? [at] : []))],
  }));
  return { ...pool, members, bands, sharedLosses };
}

/** Which members might be replaced before they fail: the sick; the oldest; all of that age; all of that lot. */
function replaced({ members }: SimulatedPool): ['sick' | 'oldest' | 'of-its-age' | 'of-its-lot', number[]][] {
  const there = members.map((_, i) => i);
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
