import type { Band } from '../layout/band';
import type { Profile } from '../platform/profile';
import type { ProgressReport } from '../unit/state';
import { seeded } from '../value/seeded';
import { speedAt } from './passTime';
import type { RebuildDrive } from './estimateRebuild';

/**
 * Rebuilds whose end is known, for tests: minute by minute, by a model that shares nothing with the estimator but the
 * physics of a disk. A pool of single parity over three alike drives, under a load that comes and goes, read at uneven times.
 */
export const KINDS = [
  'as reckoned',
  'real drives',
  'sparse',
  'dense',
  'restarted',
  'paused',
  'heavy load',
  'office hours',
  'limited by the unit',
  'flash',
  'small drives',
  'slower for good',
  'fractions',
  'pauses by night',
  'falls with progress',
  'fast weekends',
  'stalled when asked',
  'stalled when asked, read rarely',
  'clock off by hours',
  'in steps of five',
] as const;
export type Kind = (typeof KINDS)[number];

export interface TestRun {
  readonly bands: readonly Band[];
  readonly drives: ReadonlyMap<string, RebuildDrive>;
  readonly rebuild: Profile['rebuild'];
  readonly startedAt: string;
  readonly reports: readonly ProgressReport[];
  /** Milliseconds since 1970. */
  readonly end: number;
}

const MINUTE = 60;
const HOUR = 3600;
/** A Thursday. */
const EPOCH = Date.UTC(2026, 0, 1);

/**
 * One run of a kind, read up to a random moment between these shares done.
 *
 * @param habits the seed of the unit's hours, where it is to have the same in another run
 */
export function testRun(
  kind: Kind,
  seed: number,
  asked: readonly [from: number, to: number] = [0.05, 0.9],
  habits?: number,
): TestRun {
  const random = seeded(seed * 7919 + KINDS.indexOf(kind));
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const between = (from: number, to: number): number => from + (to - from) * random();
  const ofUnit = habits === undefined ? random : seeded(habits * 104_729 + KINDS.indexOf(kind));
  const habit = (from: number, to: number): number => from + (to - from) * ofUnit();

  const isFlash = kind === 'flash';
  const bytes = kind === 'small drives' ? between(0.5e12, 2e12) : isFlash ? between(1e12, 8e12) : between(4e12, 20e12);
  const ceiling = isFlash ? between(150e6, 900e6) : 1e9;
  const believed = isFlash ? 500e6 : 220e6;
  const real = kind === 'real drives';
  const outer = believed * (real ? between(0.8, 1.2) : 1);
  const ratio = isFlash ? 1 : real ? between(0.4, 0.62) : 0.5;
  const limit = kind === 'limited by the unit' ? between(50e6, 90e6) : Infinity;
  const share = limit < Infinity ? 1 : Math.exp(Math.log(0.7) + 0.3 * normal());
  const [spread, lasts] =
    kind === 'heavy load'
      ? [between(0.4, 0.8), between(HOUR, 3 * HOUR)]
      : [limit < Infinity ? 0.04 : between(0.05, 0.25), between(600, HOUR)];
  const depth =
    kind === 'office hours' || kind === 'clock off by hours' || kind === 'fast weekends' ? habit(0.4, 0.85) : 0;
  // Hours its clock, or the people, are elsewhere.
  const off = kind === 'clock off by hours' ? Math.round(habit(2, 9)) * (ofUnit() < 0.5 ? -1 : 1) : 0;
  const [nightFrom, nightHours] = [Math.floor(habit(20, 26)), habit(4, 9)];
  const drop = kind === 'falls with progress' ? between(0.3, 0.6) : 0;
  const until = between(asked[0], asked[1]);
  // What happens once happens before the moment asked.
  const once = until * between(0.2, 0.8);
  const pauseMinutes = kind === 'paused' ? Math.round(between(60, 480)) : 0;
  // From a while to half a day, asked about at any moment of it.
  const stallMinutes = kind.startsWith('stalled') ? Math.round(60 * 2 * 12 ** random()) : 0;
  const askedIn = random();
  const factor = kind === 'slower for good' ? between(0.3, 0.6) : 1;

  const start = EPOCH + Math.floor(between(0, 7 * 24 * 60)) * 60_000;
  const path = [0];
  const keep = Math.exp(-MINUTE / lasts);
  let [log, done, paused, hasRestarted] = [spread * normal(), 0, 0, kind !== 'restarted'];
  let [began, stalled, stallsAt] = [0, 0, 0];
  while (done < bytes) {
    log = keep * log + Math.sqrt(1 - keep * keep) * spread * normal();
    const passed = done / bytes;
    const now = new Date(start + path.length * 60_000);
    const clock = new Date(now.getTime() + off * 3_600_000);
    const isWeekday = clock.getUTCDay() >= 1 && clock.getUTCDay() <= 5;
    const isOffice = isWeekday && (kind === 'fast weekends' || (clock.getUTCHours() >= 8 && clock.getUTCHours() < 18));
    const hour = now.getUTCHours() + now.getUTCMinutes() / 60;
    const isNight = kind === 'pauses by night' && (hour - nightFrom + 48) % 24 < nightHours;
    const full = Math.min(speedAt(outer, ratio, passed), ceiling, limit);
    const speed =
      share *
      full *
      Math.exp(log - spread ** 2 / 2) *
      (isOffice ? 1 - depth : 1) *
      (isNight ? 0.02 : 1) *
      (1 - drop * passed) *
      (passed > once ? factor : 1);
    if (passed > once && paused < pauseMinutes) paused++;
    else if (passed >= until && stalled < stallMinutes) {
      if (stalled === 0) stallsAt = path.length - 1;
      stalled++;
    } else done = Math.min(bytes, done + speed * MINUTE);
    if (!hasRestarted && passed > once) [done, hasRestarted, began] = [0, true, path.length];
    path.push(done);
  }

  const total = path.length - 1;
  const gap =
    kind === 'sparse' || kind === 'stalled when asked, read rarely'
      ? Math.max(30, (total / 60) * between(5, 12)) * 1
      : kind === 'dense'
        ? between(2, 8)
        : Math.min(total / 8, between(20, 120));
  const figures = kind === 'fractions' ? 10 : kind === 'in steps of five' ? 0.2 : 1;
  // When it is asked: at the first look past the share; in a stall some time after it began.
  const isAsked = (minute: number): boolean =>
    stallMinutes === 0
      ? minute >= began && (path[minute] as number) / bytes >= until
      : minute >= stallsAt + askedIn * stallMinutes;
  const reports: ProgressReport[] = [];
  const at = (minute: number): string => new Date(start + minute * 60_000).toISOString();
  for (let t = gap * random(); t < total; t += gap * between(0.5, 1.5)) {
    const minute = Math.floor(t);
    const passed = (path[minute] as number) / bytes;
    reports.push({ at: at(minute), percent: Math.floor(passed * 100 * figures) / figures });
    if (isAsked(minute)) break;
  }
  if (began > 0) {
    // As the record keeps it: a restart is a report of nothing done, and the latest beginning.
    reports.push({ at: at(began), percent: 0 });
    reports.sort((a, b) => (a.at < b.at ? -1 : 1));
  }
  const bays = ['a', 'b', 'c'];
  return {
    bands: [{ kind: 'parity', fromBytes: 0, toBytes: bytes, members: bays, redundancy: 1, usableBytes: 2 * bytes }],
    drives: new Map(bays.map((bay) => [bay, { bay, bytes, media: isFlash ? 'ssd' : 'hard-disk' }])),
    rebuild: { ceilingBytesPerSecond: ceiling } as Profile['rebuild'],
    startedAt: at(began),
    reports,
    end: start + total * 60_000,
  };
}
