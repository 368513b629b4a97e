import type { SimulatedPool } from './simulatedPool';

/** More points than these are not drawn at once: the stretch of time is halved. */
export const MOST_POINTS = 6;

/**
 * The clocks by which the members of a pool, and what takes several of them, fail: Weibull clocks that began when each drive was
 * new, run as much faster as they are set to, and the weight a life has because of it. Lived in again and again: nothing is made
 * anew for a life.
 */
export class Clocks {
  /** Hours from now. */
  now = 0;
  /** The log of how much likelier a life was without anything run faster. */
  logWeight = 0;
  readonly isMissing: Uint8Array;
  /** How much more often each fails than its age says: its lot, its signs. */
  readonly frailty: Float64Array;
  /** How much faster each is run. */
  readonly pace: Float64Array;
  private readonly all: number;
  private readonly shape: Float64Array;
  private readonly scale: Float64Array;
  private readonly usualFrailty: Float64Array;
  private readonly usualBirth: Float64Array;
  /** When the drive in its place was new, in hours from now. */
  private readonly bornAt: Float64Array;
  /** What stands on each clock, and what will at the end of the stretch that is looked at. */
  private readonly clock: Float64Array;
  private readonly clockNext: Float64Array;
  private readonly clockAtStart: Float64Array;
  private readonly clockAtEnd: Float64Array;
  /** Says beforehand whether anything fails in the next stretch; drawn for each. */
  private firstDraw = 0;
  /** What stands on the clocks is of an earlier moment: worked out anew where it is asked for. */
  private isStale = false;
  /** Nothing has happened yet: the stretch to the end is known. */
  private isBegun = false;
  /** Failures to expect over all of it. */
  private readonly pointsInAll: number;
  /** Failures an hour of all together, never exceeded while nothing is run faster; infinite where that is not known. */
  private readonly mostPerHour: number;
  /** The power that was worked out last, and of what. */
  private raised = NaN;
  private raisedBy = NaN;
  private power = NaN;

  constructor(
    { members, sharedLosses, lots }: SimulatedPool,
    private readonly hours: number,
    private readonly random: () => number,
    private readonly isBiased: boolean,
  ) {
    this.all = members.length + sharedLosses.length;
    this.shape = Float64Array.from([...members.map(({ life }) => life.shape), ...sharedLosses.map(() => 1)]);
    this.scale = Float64Array.from([
      ...members.map(({ life }) => life.scaleHours),
      ...sharedLosses.map(({ perHour }) => 1 / perHour),
    ]);
    this.usualFrailty = Float64Array.from([...members.map(({ sickness }) => sickness), ...sharedLosses.map(() => 1)]);
    this.usualBirth = Float64Array.from([...members.map(({ ageHours }) => -ageHours), ...sharedLosses.map(() => 0)]);
    this.isMissing = new Uint8Array(this.all);
    this.frailty = Float64Array.from(this.usualFrailty);
    this.pace = new Float64Array(this.all).fill(1);
    this.bornAt = Float64Array.from(this.usualBirth);
    this.clock = new Float64Array(this.all);
    this.clockNext = new Float64Array(this.all);
    const each = Array.from({ length: this.all }, (_, i) => i);
    this.clockAtStart = Float64Array.from(each, (i) => this.clockOf(i, 0));
    this.clockAtEnd = Float64Array.from(each, (i) => this.clockOf(i, hours));
    // What does not get better with age fails most at the very end, and whatever takes its place is younger.
    const knowsMost = !isBiased && lots.length === 0 && this.shape.every((by) => by >= 1);
    this.mostPerHour = knowsMost
      ? each.reduce((sum, i) => {
          const [by, scale] = [this.shape[i] as number, this.scale[i] as number];
          const oldest = (hours - (this.usualBirth[i] as number)) / scale;
          return sum + Math.max(1, this.usualFrailty[i] as number) * (by / scale) * oldest ** (by - 1);
        }, 0)
      : Infinity;
    this.begin(0);
    this.pointsInAll = knowsMost && members.every(({ missing }) => !missing) ? this.look(hours) : NaN;
  }

  /** A life begins. */
  begin(firstDraw: number): void {
    this.now = 0;
    this.logWeight = 0;
    this.firstDraw = firstDraw;
    this.isStale = false;
    this.isBegun = false;
    this.isMissing.fill(0);
    this.frailty.set(this.usualFrailty);
    this.bornAt.set(this.usualBirth);
    this.clock.set(this.clockAtStart);
  }

  /** A new drive is in a place, and its clock begins. */
  renew(i: number): void {
    this.isMissing[i] = 0;
    this.bornAt[i] = this.now;
    this.frailty[i] = 1;
    this.clock[i] = 0;
  }

  age(i: number): number {
    return this.now - (this.bornAt[i] as number);
  }

  /** Failures expected of one that is there, from now until then, as it is. */
  expectedUntil(i: number, until: number): number {
    if (this.isMissing[i] === 1) return 0;
    return (this.frailty[i] as number) * (this.clockOf(i, until) - (this.clock[i] as number));
  }

  /** The same of all, to the end. */
  expected(): number {
    let sum = 0;
    for (let i = 0; i < this.all; i++) sum += this.expectedUntil(i, this.hours);
    return sum;
  }

  /**
   * Time passes until then, or until the first failure: which one that is, or -1. With so much to expect that the stretch has
   * to be halved, `now` is before `until` though nothing failed.
   *
   * Failures of all clocks together are a Poisson number of points, each of a clock in proportion to what it passes, each at a
   * time by that clock alone; the earliest is the next failure. Exact, and nothing has to be solved for.
   */
  pass(until: number): number {
    if (until <= this.now) return -1;
    const { all, isMissing, clock, clockNext, pace, random } = this;
    // e^−x is never below 1 − x: most stretches are quiet for sure before any clock is looked at.
    if (this.firstDraw <= 1 - this.mostPerHour * (until - this.now)) {
      this.firstDraw = random();
      this.isStale = true;
      this.isBegun = true;
      this.now = until;
      return -1;
    }
    if (this.isStale) {
      for (let i = 0; i < all; i++) clock[i] = this.clockOf(i, this.now);
      this.isStale = false;
    }
    let points = this.pointsInAll;
    if (this.isBegun || until < this.hours || Number.isNaN(points)) points = this.look(until);
    else clockNext.set(this.clockAtEnd);
    this.isBegun = true;
    while (points > MOST_POINTS) {
      until = this.now + (until - this.now) / 2;
      points = this.look(until);
    }
    let first = Infinity;
    let failed = -1;
    const end = Math.exp(-points);
    // Knuth's way to a Poisson number: uniforms are multiplied until they are below e^−points.
    for (let product = this.firstDraw; product > end; product *= random()) {
      let left = random() * points;
      let which = -1;
      for (let i = 0; i < all; i++) {
        if (isMissing[i] === 1) continue;
        which = i;
        left -= this.passed(i) * (pace[i] as number);
        if (left < 0) break;
      }
      const from = clock[which] as number;
      const reached = from + random() * ((clockNext[which] as number) - from);
      const by = this.shape[which] as number;
      const at =
        (this.bornAt[which] as number) + (this.scale[which] as number) * (by === 1 ? reached : reached ** (1 / by));
      if (at < first) {
        first = at;
        failed = which;
      }
    }
    this.firstDraw = random();
    // Rounding never leads back, nor past what comes next.
    if (failed >= 0) until = Math.min(until, Math.max(this.now, first));
    // Where every life weighs 1, clocks are read when something may fail, and not before.
    this.isStale = !this.isBiased;
    for (let i = 0; i < all && this.isBiased; i++) {
      if (isMissing[i] === 1) continue;
      if (failed >= 0) clockNext[i] = this.clockOf(i, until);
      this.logWeight += ((pace[i] as number) - 1) * this.passed(i);
      clock[i] = clockNext[i] as number;
    }
    this.now = until;
    if (failed >= 0 && this.isBiased) this.logWeight -= Math.log(pace[failed] as number);
    return failed;
  }

  /** Time passes in which nothing fails: -1, as where nothing did. */
  stopAt(at: number): number {
    if (Number.isFinite(at)) this.now = at;
    return -1;
  }

  /** Sets what clocks will show then; the failures to expect until then, as fast as they are run. */
  private look(until: number): number {
    let points = 0;
    for (let i = 0; i < this.all; i++) {
      if (this.isMissing[i] === 1) continue;
      this.clockNext[i] =
        until === this.hours && this.bornAt[i] === this.usualBirth[i]
          ? (this.clockAtEnd[i] as number)
          : this.clockOf(i, until);
      points += this.passed(i) * (this.pace[i] as number);
    }
    return points;
  }

  private passed(i: number): number {
    return ((this.clockNext[i] as number) - (this.clock[i] as number)) * (this.frailty[i] as number);
  }

  private clockOf(i: number, at: number): number {
    const x = (at - (this.bornAt[i] as number)) / (this.scale[i] as number);
    const by = this.shape[i] as number;
    if (by === 1) return x;
    // Drives of one kind and age stand beside one another, and a power is most of the work.
    if (x !== this.raised || by !== this.raisedBy) {
      this.raised = x;
      this.raisedBy = by;
      this.power = x ** by;
    }
    return this.power;
  }
}
