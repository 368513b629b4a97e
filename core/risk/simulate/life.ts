import { chance } from '../../value/seeded';
import { Clocks, MOST_POINTS } from './clocks';
import { draw, drawGamma, meanOf, meansUpTo } from './lasting';
import type { SharedLoss, SimulatedBand, SimulatedMember, SimulatedPool } from './simulatedPool';

/** What came of one life of a pool. */
export interface Life {
  /** How much it counts: lives in which much fails are drawn more often than they happen, and count for less. */
  readonly weight: number;
  /** More members were missing than may be, and when. */
  readonly lostAtHours: number | null;
  /** The chance that a rebuild which could lose none more met an unreadable sector, whenever it ends, times the weight. */
  readonly met: number;
  /** How many such rebuilds did, times the weight. */
  readonly metTimes: number;
  /** Drives that failed. */
  readonly failures: number;
}

/**
 * How many failures a life is made to have in the mean, at least; how many of them are made to be followed by one more before
 * they are repaired; and how likely yet another is made then.
 */
const WANTED = { failures: 1.5, followed: 0.6, another: 0.4 } as const;
/** A repair takes some time, however little is left of it. */
const LEAST_HOURS = 0.1;

interface Due {
  readonly at: number;
  readonly what: 'known' | 'arrived' | 'rebuilt';
  readonly member: number;
}

/** Hours since everything was read last, `at` hours from now: again and again, the first time when it is due; overdue, one interval from now. */
function sinceLastRead(every: number, since: number, at: number): number {
  const first = since <= every ? every - since : every;
  return at < first ? since + at : (at - first) % every;
}

/**
 * Prepares the lives of a pool. Each call of what is returned lives one of them, from now until `hours` have passed or the pool
 * is lost; the same number is the same life. What failed by then is repaired to its end, and nothing more fails: else whoever
 * sees to it later would seem to meet less.
 *
 * Drives fail by Weibull clocks that begin with their age. To see what is rare, clocks run faster than they do: all of them so
 * that about {@link WANTED}.failures fail, and those of a group in which something is missing so that one more fails before it is
 * repaired in about {@link WANTED}.followed of a life's failures (failure biasing: Shahabuddin, Management Science 1994, from
 * memory). So often in a life, and not with one chance at each failure: where many fail, the weights of lives would part so far
 * that a handful of them would be the figure.
 * Each life weighs by how much likelier it was made, exactly: e^∫(m − 1)h for the time that passed, and 1/m for each failure,
 * where clocks ran m times as fast. The mean of the weights is 1, whatever is chosen here; only how far they scatter depends on it.
 *
 * @param hours above 0
 * @param isBiased false: clocks run as they do, and every life weighs 1
 */
export function livesOf(pool: SimulatedPool, hours: number, seed: number, isBiased = true): (life: number) => Life {
  const { members, bands, lots, sharedLosses, latent } = pool;
  const n = members.length;
  const memberAt = (i: number): SimulatedMember => members[i] as SimulatedMember;
  const bandsOf = members.map((_, i) => bands.flatMap((band, b) => (band.members.includes(i) ? [b] : [])));
  const groupOf = groupsOf(bands, n);
  const inGroup = members.map((_, group) => members.flatMap((_of, i) => (groupOf[i] === group ? [i] : [])));
  const longestRebuild = inGroup.map((of) => Math.max(0, ...of.map((i) => meanOf(memberAt(i).rebuild))));
  /** Hours of a drive's life of which unreadable sectors are still there. */
  const found = latent.kind === 'arising' ? latent.found : null;
  const every = found?.upToHours;
  const since = latent.kind === 'arising' ? latent.sinceHours : undefined;
  const inTheMean = found ? meansUpTo(found) : (age: number): number => age;
  const notYetFound =
    every !== undefined && since !== undefined
      ? (age: number): number => Math.min(age, sinceLastRead(every, since, clocks.now))
      : inTheMean;
  const isReadNow = latent.kind === 'at-any-reading' || latent.countsWhileRebuilding;
  const startsMissing = members.flatMap(({ missing }, i) => (missing ? [i] : []));

  // What a life is, at the moment that is reached; made once and lived in again and again.
  const { begin: beginChance, next: random } = chance();
  const clocks = new Clocks(pool, hours, random, isBiased);
  const { isMissing, frailty, pace } = clocks;
  const missingIn = new Int32Array(bands.length);
  const due: Due[] = [];
  const waiting: number[] = [];
  /** Those that a failure takes: one, made once for each, or those of what takes several. */
  const each = members.map((_, i) => [i]);
  const alone = (i: number): readonly number[] => each[i] as number[];
  /** Unreadable sectors there were, where a member is read, as another failed. */
  const expectedAtFailure = new Float64Array(n);
  let [hot, inHand, running, usualPace] = [0, 0, 0, 1];

  const beginRepairs = (): void => {
    while (waiting.length > 0 && inHand > 0 && (pool.repairs === 'parallel' || running === 0)) {
      const member = waiting.shift() as number;
      inHand--;
      running++;
      due.push({ at: clocks.now + draw(memberAt(member).rebuild, random), what: 'rebuilt', member });
    }
  };
  /** One more is missing; true when that loses the pool. */
  const goesMissing = (i: number): boolean => {
    isMissing[i] = 1;
    let isLost = false;
    for (const b of bandsOf[i] as number[])
      if ((missingIn[b] = (missingIn[b] as number) + 1) > (bands[b] as SimulatedBand).redundancy) isLost = true;
    return isLost;
  };
  const isWaitedFor = (i: number): void => {
    const known = clocks.now + draw(pool.notice, random);
    due.push({ at: known + draw(pool.order, random), what: 'arrived', member: i });
    if (hot > 0) {
      hot--;
      waiting.push(i);
      beginRepairs();
    } else due.push({ at: known, what: 'known', member: i });
  };
  /** Sectors expected unreadable in what is read for a member, of bands that may lose none more. */
  const expectedFor = (member: number): number => {
    let sum = 0;
    for (const b of bandsOf[member] as number[]) {
      const band = bands[b] as SimulatedBand;
      if ((missingIn[b] as number) < band.redundancy) continue;
      band.members.forEach((i, k) => {
        if (isMissing[i] === 1) return;
        const there = latent.kind === 'at-any-reading' ? 1 : notYetFound(clocks.age(i));
        sum += memberAt(i).unreadable * there * (band.shares[k] as number);
      });
    }
    return sum;
  };
  /** When the next repair of a group is likely done, from what is under way. */
  const repairedAt = (group: number): number => {
    let rebuilt = Infinity;
    let known = waiting.some((i) => groupOf[i] === group) ? clocks.now : Infinity;
    let arrived = Infinity;
    for (const { at, what, member } of due) {
      if (what === 'arrived') arrived = Math.min(arrived, at);
      else if (groupOf[member] !== group) continue;
      else if (what === 'rebuilt') rebuilt = Math.min(rebuilt, at);
      else known = Math.min(known, at);
    }
    const begins = inHand > 0 ? known : Math.max(known, arrived);
    return Math.min(rebuilt, begins + (longestRebuild[group] as number));
  };
  /** How fast clocks run from here on: those of a group that waits for a repair, and all others. */
  const setPaces = (): void => {
    if (!isBiased || clocks.now >= hours) return;
    pace.fill(usualPace);
    for (let group = 0; group < n; group++) {
      const of = inGroup[group] as number[];
      let missing = 0;
      for (const i of of) missing += isMissing[i] as number;
      if (missing === 0) continue;
      const until = Math.min(hours, Math.max(clocks.now + LEAST_HOURS, repairedAt(group)));
      let more = 0;
      for (const i of of) more += clocks.expectedUntil(i, until);
      const chance = missing > 1 ? WANTED.another : WANTED.followed / Math.max(WANTED.failures, usually);
      const to = more > 0 ? Math.max(1, -Math.log1p(-chance) / more) : 1;
      for (const i of of) pace[i] = to;
    }
  };
  const paceFor = (expected: number): number =>
    isBiased && expected > 0 ? Math.max(1, WANTED.failures / expected) : 1;
  const reset = (firstDraw: number): void => {
    clocks.begin(firstDraw);
    missingIn.fill(0);
    if (due.length > 0) due.length = 0;
    if (waiting.length > 0) waiting.length = 0;
    [running, hot, inHand] = [0, pool.spares.inUnit, pool.spares.inUnit + pool.spares.inDrawer];
  };

  // Most lives are quiet where nothing is forced: what they are is known beforehand, where it is one stretch.
  const usually = clocks.expected();
  const mayBeQuiet = lots.length === 0 && startsMissing.length === 0 && usually * paceFor(usually) <= MOST_POINTS;
  const quietEnd = Math.exp(-usually * paceFor(usually));
  const quiet = endOf(Math.exp((paceFor(usually) - 1) * usually), null);

  return (life) => {
    beginChance(Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) + Math.imul(life, 0x632be5ab));
    // The first draw says whether anything fails at all.
    const firstDraw = random();
    if (mayBeQuiet && firstDraw <= quietEnd) return quiet;
    let [met, metTimes, noneMet, failures] = [0, 0, 1, 0];
    const ended = (lostAtHours: number | null): Life =>
      endOf(Math.exp(clocks.logWeight), lostAtHours, met, metTimes, failures);
    reset(firstDraw);
    if (lots.length > 0) {
      const drawn = lots.map((of) => drawGamma(of.shape, random) / of.rate);
      members.forEach(({ lot }, i) => {
        if (lot !== undefined) frailty[i] = (frailty[i] as number) * (drawn[lot] as number);
      });
    }
    for (const i of startsMissing) if (goesMissing(i)) return ended(0);
    for (const i of startsMissing) {
      const left = memberAt(i).missing?.rebuiltInHours;
      if (left === undefined) isWaitedFor(i);
      else {
        running++;
        due.push({ at: left, what: 'rebuilt', member: i });
      }
    }
    usualPace = mayBeQuiet ? paceFor(usually) : paceFor(clocks.expected());
    setPaces();

    for (;;) {
      let next = -1;
      let until = clocks.now < hours ? hours : Infinity;
      for (let k = 0; k < due.length; k++)
        if ((due[k] as Due).at < until) {
          until = (due[k] as Due).at;
          next = k;
        }
      const failed = clocks.now < hours ? clocks.pass(until) : clocks.stopAt(until);
      if (failed >= 0) {
        let isLost = false;
        // What takes several takes those that are still there.
        const gone =
          failed < n
            ? alone(failed)
            : (sharedLosses[failed - n] as SharedLoss).members.filter((i) => isMissing[i] === 0);
        failures += gone.length;
        for (const i of gone) if (goesMissing(i)) isLost = true;
        if (isLost) return ended(clocks.now);
        for (const i of gone) {
          if (!isReadNow) expectedAtFailure[i] = expectedFor(i);
          isWaitedFor(i);
        }
        setPaces();
        continue;
      }
      // A long stretch is passed in parts, and beyond the end there is only what is under way.
      if (clocks.now < Math.min(until, hours)) continue;
      if (next < 0 && due.length === 0) return ended(null);
      if (next < 0) continue;
      const { what, member } = due[next] as Due;
      due[next] = due[due.length - 1] as Due;
      due.pop();
      if (what === 'arrived') {
        inHand++;
        if (hot < pool.spares.inUnit && waiting.length === 0) hot++;
      } else if (what === 'known') waiting.push(member);
      else {
        running--;
        const expected = isReadNow ? expectedFor(member) : (expectedAtFailure[member] as number);
        if (expected > 0) {
          const meets = Math.exp(clocks.logWeight) * -Math.expm1(-expected);
          met += noneMet * meets;
          metTimes += meets;
          noneMet *= Math.exp(-expected);
        }
        clocks.renew(member);
        for (const b of bandsOf[member] as number[]) missingIn[b] = (missingIn[b] as number) - 1;
      }
      beginRepairs();
      setPaces();
    }
  };
}

function endOf(weight: number, lostAtHours: number | null, met = 0, metTimes = 0, failures = 0): Life {
  return { weight, lostAtHours, met, metTimes, failures };
}

/** Members that share bands, by the number of their group: that of its first. */
function groupsOf(bands: readonly SimulatedBand[], n: number): Int32Array {
  const group = Int32Array.from({ length: n }, (_, i) => i);
  for (const { members } of bands) {
    const joined = new Set(members.map((i) => group[i] as number));
    const first = Math.min(...joined);
    for (let i = 0; i < n; i++) if (joined.has(group[i] as number)) group[i] = first;
  }
  return group;
}
