import { figuresOf } from '../core/drive/media';
import { estimateRebuild, type RebuildDrive } from '../core/rebuild/estimateRebuild';
import { timeAt, workCurve, type WorkCurve } from '../core/rebuild/workCurve';
import { apply } from '../core/unit/apply';
import type { UnitEvent } from '../core/unit/event';
import { poolOfDrive, poolsOf, type Job, type UnitState } from '../core/unit/state';
import { frozen } from '../core/value/frozen';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import { seeded } from '../core/value/seeded';
import { isDown } from '../core/unit/margin';

/** What a drive is really like, of which its unit shows a part. */
export interface DriveTruth {
  readonly hours: number;
  readonly reallocated: number;
  readonly unreadable: number;
  readonly celsius: number;
  /** Hours it will have run when it shows signs, and when it fails. */
  readonly signsAt: number | null;
  readonly failsAt: number;
}

/** A unit as it really is: the same model as everywhere, and what only the hardware knows. */
export interface Truth {
  readonly kind: 'truth';
  readonly unit: UnitState;
  readonly drives: Readonly<Record<string, DriveTruth>>;
  /** Bytes used by pool. */
  readonly used: Readonly<Record<string, number>>;
  /** Bays whose locate light is on. */
  readonly lit: readonly string[];
  /** Of work that ran already when it came alive: the share that was done, 0..1, and the seconds that took. It goes on as it went. */
  readonly heard?: Readonly<Record<string, { readonly done: number; readonly seconds: number }>>;
  /** Its chance: the same seed ages the same way. */
  readonly seed: number;
  /** Milliseconds of its own clock up to which it has lived. */
  readonly livedTo: number;
}

const HOUR_MS = 3600e3;
/** So many percent have to be done to tell the pace of the rest by. */
const LEAST_HEARD = 5;
/** Wear as field studies of disks have found it: a little rising with age (Elerath and Pecht 2009: shape 1.12). */
const WEIBULL_SHAPE = 1.12;
/** Of the drives that fail, so many show signs before, and so long before (common practice). */
const [SHARE_WITH_SIGNS, SIGN_HOURS] = [0.6, 240] as const;
/** Sectors put aside an hour, once it shows signs. */
const SECTORS_AN_HOUR = 0.4;

/** A unit as a ledger tells it, alive from `livedTo` on. */
export function truthOf(unit: UnitState, used: Readonly<Record<string, number>>, seed: number, livedTo: number): Truth {
  const drives = Object.fromEntries(
    Object.values(unit.drives).map(({ serial, insertedAt }) => {
      const hours = Math.max(0, livedTo - Date.parse(insertedAt)) / HOUR_MS;
      return [serial, born(serial, seed, hours, unit.drives[serial]?.condition === 'suspected')];
    }),
  );
  const heard = Object.fromEntries(
    Object.values(unit.jobs).flatMap(({ id, percent, startedAt, heardAt }) => {
      const seconds = (Date.parse(heardAt) - Date.parse(startedAt)) / 1000;
      return percent >= LEAST_HEARD && seconds > 0 ? [[id, { done: percent / 100, seconds }]] : [];
    }),
  );
  return frozen<Truth>({ kind: 'truth', unit, drives, used, lit: [], heard, seed, livedTo });
}

/** A drive that has run so many hours, and how long it has still: drawn once, by its serial. */
function born(serial: string, seed: number, hours: number, isSick: boolean): DriveTruth {
  const chance = seeded(seedOf(serial) ^ seed);
  const scale = figuresOf('hard-disk').mttfHours;
  // Given that it has lived so long: the Weibull law from there on.
  const passed = (hours / scale) ** WEIBULL_SHAPE;
  const failsAt = scale * (passed - Math.log1p(-chance())) ** (1 / WEIBULL_SHAPE);
  const showsSigns = chance() < SHARE_WITH_SIGNS;
  const before = SIGN_HOURS * (0.2 + 1.6 * chance());
  return {
    hours,
    reallocated: isSick ? 16 : 0,
    unreadable: isSick ? 3 : 0,
    celsius: 31 + Math.round(9 * chance()),
    signsAt: isSick ? hours : showsSigns ? Math.max(hours, failsAt - before) : null,
    failsAt,
  };
}

function seedOf(text: string): number {
  let hash = 2166136261;
  for (const letter of text) hash = Math.imul(hash ^ (letter.codePointAt(0) as number), 16777619);
  return hash >>> 0;
}

/** What somebody does to a unit, or what befalls it. */
export type Doing =
  | { readonly do: 'fail' | 'sign' | 'pull'; readonly bay: string }
  | {
      readonly do: 'insert';
      readonly bay: string;
      readonly serial: string;
      readonly bytes: number;
      readonly model?: string;
    }
  | { readonly do: 'light'; readonly bay: string; readonly on: boolean }
  | { readonly do: 'fill'; readonly pool: string; readonly share: number }
  | { readonly do: 'enclosure' | 'supply' | 'fan'; readonly name: string; readonly lost: boolean }
  | { readonly do: 'rebuild'; readonly bay: string };

/** The unit after something was done to it. Refused where it cannot be done, by the model's own words. */
export function done(truth: Truth, doing: Doing): Truth | Refusal {
  switch (doing.do) {
    case 'light':
      return frozen<Truth>({
        ...truth,
        lit: [...truth.lit.filter((bay) => bay !== doing.bay), ...(doing.on ? [doing.bay] : [])],
      });
    case 'fill': {
      const pool = poolsOf(truth.unit).find(({ id, name }) => id === doing.pool || name === doing.pool);
      if (!pool) return refusal('pool-unknown', `${truth.unit.name} has no pool ${doing.pool}.`, '/pool');
      return frozen<Truth>({
        ...truth,
        used: { ...truth.used, [pool.id]: Math.round(pool.shownBytes * Math.min(1, Math.max(0, doing.share))) },
      });
    }
    case 'insert': {
      const { bay, serial, bytes, model = 'Quernholt' } = doing;
      const drive = { serial, bytes, basis: 'exact' as const, model };
      const put = happened(truth, { kind: 'drive-inserted', bay, drive });
      if (isRefusal(put)) return put;
      // One that was here before is the drive it was.
      const drives = { [serial]: born(serial, truth.seed, 0, false), ...put.drives };
      return settled(frozen<Truth>({ ...put, drives }));
    }
    case 'rebuild': {
      const serial = serialIn(truth, doing.bay);
      return typeof serial === 'string' ? begun(truth, serial) : serial;
    }
    case 'enclosure':
      return happened(truth, { kind: doing.lost ? 'enclosure-lost' : 'enclosure-back', enclosure: doing.name });
    case 'supply':
    case 'fan':
      return happened(truth, { kind: doing.lost ? 'part-lost' : 'part-back', part: doing.do, name: doing.name });
    default: {
      const serial = serialIn(truth, doing.bay);
      if (typeof serial !== 'string') return serial;
      const after = happened(truth, wentWrong(doing.do, serial));
      return isRefusal(after) ? after : settled(doing.do === 'sign' ? worn(after, serial, 12, 3) : after);
    }
  }
}

function wentWrong(what: 'fail' | 'sign' | 'pull', serial: string): UnitEvent {
  if (what === 'fail') return { kind: 'drive-failed', serial };
  return what === 'pull'
    ? { kind: 'drive-removed', serial }
    : { kind: 'drive-suspected', serial, note: 'sectors put aside' };
}

function serialIn({ unit }: Truth, bay: string): string | Refusal {
  const serial = Object.values(unit.drives).find((drive) => drive.bay === bay)?.serial;
  return serial ?? refusal('bay-empty', `${unit.name} has no drive in bay ${bay}.`, '/bay');
}

function worn(truth: Truth, serial: string, reallocated: number, unreadable: number): Truth {
  const was = truth.drives[serial];
  if (!was) return truth;
  const now = { ...was, reallocated: was.reallocated + reallocated, unreadable: was.unreadable + unreadable };
  return frozen<Truth>({ ...truth, drives: { ...truth.drives, [serial]: now } });
}

function happened(truth: Truth, event: UnitEvent): Truth | Refusal {
  const unit = apply(truth.unit, event, new Date(truth.livedTo).toISOString());
  return isRefusal(unit) ? unit : frozen<Truth>({ ...truth, unit });
}

/** What a unit does by itself: spares step in, and a new drive is written where the family begins without being told. */
function settled(truth: Truth): Truth {
  for (const pool of poolsOf(truth.unit)) {
    const isBusy = Object.values(truth.unit.jobs).some((job) => job.pool === pool.id && job.replaces !== undefined);
    if (pool.missing.length === 0 || isBusy || isDown(pool)) continue;
    const fitted = Object.values(truth.unit.drives).filter(
      ({ serial, bay, condition, insertedAt }) =>
        bay !== null &&
        condition === 'well' &&
        poolOfDrive(truth.unit, serial) === undefined &&
        insertedAt > (pool.builtAt ?? ''),
    );
    const byItself = truth.unit.profile.rebuild.starts === 'by-itself' ? fitted.map(({ serial }) => serial) : [];
    for (const serial of [...pool.spares, ...byItself]) {
      const after = begun(truth, serial);
      if (!isRefusal(after)) return settled(after);
    }
  }
  return truth;
}

/** A drive begins to be written in place of the first member that is missing. */
function begun(truth: Truth, serial: string): Truth | Refusal {
  const pool = poolsOf(truth.unit).find(({ missing }) => missing.length > 0);
  const replaces = pool?.missing.find((one) => !Object.values(truth.unit.jobs).some((job) => job.replaces === one));
  if (!pool || replaces === undefined)
    return refusal('nothing-to-rebuild', `${truth.unit.name} misses no member that is not being rebuilt.`);
  const job = `work-${String(truth.livedTo)}-${serial}`;
  return happened(
    truth,
    pool.spares.includes(serial)
      ? { kind: 'spare-took-over', pool: pool.id, spare: serial, replaces, job }
      : { kind: 'job-started', task: 'rebuild', pool: pool.id, replaces, onto: serial, job },
  );
}

/** The unit after time has passed: it ages, work goes on, what was bound to fail fails. One thing after another. */
export function lived(truth: Truth, to: number): Truth {
  let now = truth;
  while (now.livedTo < to) {
    const next = nextMoment(now, to);
    now = happenedBy(aged(now, next), next);
  }
  return now;
}

function nextMoment(truth: Truth, to: number): number {
  let next = to;
  const hear = (hours: number, at: number | null): void => {
    if (at === null || at <= hours) return;
    next = Math.min(next, truth.livedTo + Math.max(1, Math.ceil((at - hours) * HOUR_MS)));
  };
  for (const serial of running(truth)) {
    const { hours, signsAt, failsAt } = truth.drives[serial] as DriveTruth;
    hear(hours, signsAt);
    hear(hours, failsAt);
  }
  for (const job of Object.values(truth.unit.jobs)) {
    const { curve, seconds } = paceOf(truth, job);
    const left = (1 - timeAt(curve, job.percent / 100)) * seconds;
    next = Math.min(next, truth.livedTo + Math.max(1, Math.ceil(left * 1000)));
  }
  return next;
}

/** Drives that turn: in a bay of a box that answers, in a unit that is on. */
function running({ unit, drives }: Truth): string[] {
  if (unit.power === 'off') return [];
  const away = new Set(unit.enclosures.filter(({ name }) => unit.away.includes(name)).flatMap(({ bays }) => bays));
  return Object.values(unit.drives)
    .filter(({ bay, condition, serial }) => bay !== null && !away.has(bay) && condition !== 'failed' && drives[serial])
    .map(({ serial }) => serial);
}

function aged(truth: Truth, to: number): Truth {
  const hours = (to - truth.livedTo) / HOUR_MS;
  const drives = { ...truth.drives };
  for (const serial of running(truth)) {
    const was = drives[serial] as DriveTruth;
    const isSick = truth.unit.drives[serial]?.condition === 'suspected';
    drives[serial] = {
      ...was,
      hours: was.hours + hours,
      reallocated: was.reallocated + (isSick ? SECTORS_AN_HOUR * hours : 0),
    };
  }
  let { unit } = truth;
  const at = new Date(to).toISOString();
  for (const job of Object.values(unit.jobs)) {
    const { curve, seconds } = paceOf(truth, job);
    const passed = timeAt(curve, job.percent / 100) + (to - truth.livedTo) / 1000 / seconds;
    const percent = passed >= 1 - 1e-9 ? 100 : 100 * shareAt(curve, passed);
    const pool = unit.pools[job.pool];
    const event: UnitEvent =
      // Nothing is written from a pool that has stopped.
      pool && isDown(pool)
        ? { kind: 'job-aborted', job: job.id }
        : percent >= 100
          ? { kind: 'job-finished', job: job.id }
          : { kind: 'job-progressed', job: job.id, percent: Math.max(job.percent, percent) };
    const after = apply(unit, event, at);
    // One whose drive has gone meanwhile ends without having done anything.
    const settledUnit = isRefusal(after) ? apply(unit, { kind: 'job-aborted', job: job.id }, at) : after;
    if (!isRefusal(settledUnit)) unit = settledUnit;
  }
  return frozen<Truth>({ ...truth, unit, drives, livedTo: to });
}

function happenedBy(truth: Truth, at: number): Truth {
  let now = truth;
  for (const serial of running(truth)) {
    const { hours, signsAt, failsAt } = now.drives[serial] as DriveTruth;
    const { condition } = now.unit.drives[serial] as UnitState['drives'][string];
    // A thousandth of an hour: moments are whole milliseconds.
    const due = (when: number | null): boolean => when !== null && when <= hours + 1e-3;
    const event: UnitEvent | undefined = due(failsAt)
      ? wentWrong('fail', serial)
      : due(signsAt) && condition === 'well'
        ? wentWrong('sign', serial)
        : undefined;
    const after = event ? happened(now, event) : now;
    if (!isRefusal(after)) now = event?.kind === 'drive-suspected' ? worn(after, serial, 4, 1) : after;
  }
  return settled(frozen<Truth>({ ...now, livedTo: at }));
}

/** The real run of some work: how it is spread, and how long it takes in all. */
function paceOf(truth: Truth, job: Job): { readonly curve: WorkCurve; readonly seconds: number } {
  const pool = truth.unit.pools[job.pool];
  if (!pool) return { curve: EVEN, seconds: 3600 };
  const drives = new Map(
    pool.bands
      .flatMap(({ members }) => members)
      .map((serial): [string, RebuildDrive] => {
        const { bytes, media = 'hard-disk' } = truth.unit.drives[
          serial === job.replaces ? (job.onto ?? serial) : serial
        ] ?? { bytes: 4e12 };
        return [serial, { bay: serial, bytes, media }];
      }),
  );
  const { rebuild } = truth.unit.profile;
  // Its own spread around what is usual, the same for one piece of work from its beginning to its end.
  const spread = 0.85 + 0.4 * seeded(seedOf(job.id) ^ truth.seed)();
  const curve = workCurve(pool.bands, drives, rebuild, job.replaces);
  const heard = truth.heard?.[job.id];
  if (heard) return { curve, seconds: Math.max(60, heard.seconds / timeAt(curve, heard.done)) };
  const used = (truth.used[pool.id] ?? pool.shownBytes) / Math.max(1, pool.shownBytes);
  const seconds =
    job.replaces === undefined
      ? curve.seconds / 0.7
      : estimateRebuild(pool.bands, drives, job.replaces, rebuild, used).likely;
  return { curve, seconds: Math.max(60, seconds * spread) };
}

/** The percent its page shows of some work: of the whole, or of the band it is at, as its family counts. */
export function percentShown(truth: Truth, job: Job): number {
  if (truth.unit.profile.rebuild.counts !== 'each-band' || job.replaces === undefined) return job.percent;
  const { bandEnds } = paceOf(truth, job).curve;
  const share = job.percent / 100;
  const at = bandEnds.findIndex((end) => share < end);
  const [from, to] = [bandEnds[at - 1] ?? 0, bandEnds[at] ?? 1];
  return at < 0 ? 100 : (100 * (share - from)) / (to - from);
}

const EVEN: WorkCurve = { kind: 'work-curve', seconds: 3600, shares: [0, 1], times: [0, 1], bandEnds: [1] };

/** The share of the bytes that is done after a share of the time. */
function shareAt(curve: WorkCurve, time: number): number {
  return timeAt({ ...curve, shares: curve.times, times: curve.shares }, time);
}
