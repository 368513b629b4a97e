import { afterDoings } from './afterDoings';
import { estimateOfJob } from '../core/rebuild/estimateOfJob';
import { playedClock } from './clock';
import { done, lived, type Doing, type Truth } from './truth';
import { unitsPlayed } from './units';

const NOW = Date.parse('2026-11-29T12:00:00Z');
const HOUR = 3600e3;
const [HERON, , PLOVER, WREN] = unitsPlayed(4, 1, NOW, process.cwd()) as [Truth, Truth, Truth, Truth];

const NEW = { do: 'insert', bay: '2', serial: 'QH8-05102-V3KE', bytes: 8001563222016 } as const;

it('rebuilds by itself when a new drive is in, on the curve of its drives, and is whole again', () => {
  const begun = afterDoings(HERON, { do: 'pull', bay: '2' }, NEW);
  const [job] = Object.values(begun.unit.jobs);
  expect(job).toMatchObject({ task: 'rebuild', replaces: 'QH8-04417-77PX', onto: NEW.serial, percent: 0 });
  const estimate = estimateOfJob(begun.unit, job as never, { used: begun.used });
  const half = lived(begun, NOW + 4 * HOUR);
  const percent = Object.values(half.unit.jobs)[0]?.percent ?? 100;
  expect(percent).toBeGreaterThan(5);
  expect(percent).toBeLessThan(95);
  // A disk is faster at its edge: the first hour does more than any later one.
  const early = Object.values(lived(begun, NOW + HOUR).unit.jobs)[0]?.percent ?? 0;
  const late = Object.values(lived(half, NOW + 5 * HOUR).unit.jobs)[0]?.percent ?? 100;
  expect(early).toBeGreaterThan(late - percent);
  const whole = lived(begun, Date.parse(estimate?.high ?? '') + 24 * HOUR);
  const [pool] = Object.values(whole.unit.pools);
  expect([Object.keys(whole.unit.jobs), pool?.missing]).toEqual([[], []]);
  expect(pool?.bands[0]?.members).toContain(NEW.serial);
});

it('lives the same whether time passes at once or a little at a time', () => {
  const at = (truth: Truth) => Object.values(truth.unit.jobs).map(({ percent }) => percent);
  const once = lived(WREN, NOW + 3 * HOUR);
  let steps = WREN;
  for (let i = 1; i <= 36; i++) steps = lived(steps, NOW + i * (HOUR / 12));
  expect(at(steps)[0]).toBeCloseTo(at(once)[0] as number, 6);
});

it('lets a spare step in, and writes nothing onto a drive that is too small', () => {
  const failed = afterDoings(PLOVER, { do: 'fail', bay: '4' });
  const rebuild = Object.values(failed.unit.jobs).find(({ task }) => task === 'rebuild');
  expect(rebuild?.replaces).toBe(PLOVER.unit.enclosures[0] && serialIn(PLOVER, '4'));
  expect(Object.values(PLOVER.unit.pools)[0]?.spares).toContain(rebuild?.onto);
  const small = afterDoings(HERON, { do: 'pull', bay: '2' }, { ...NEW, bytes: 4e12 });
  expect(Object.keys(small.unit.jobs)).toEqual([]);
});

it('ages: drives show signs and fail as the Weibull law has it, the same for the same seed', () => {
  const years = 200;
  const rows = unitsPlayed(20, 7, NOW, process.cwd());
  let [failures, drives] = [0, 0];
  for (const truth of rows) {
    const before = Object.values(truth.unit.drives).filter(({ condition }) => condition === 'failed').length;
    const later = lived(truth, NOW + years * 8760 * HOUR);
    failures += Object.values(later.unit.drives).filter(({ condition }) => condition === 'failed').length - before;
    drives += Object.keys(truth.unit.drives).length - before;
    expect(later.unit).toEqual(lived(truth, NOW + years * 8760 * HOUR).unit);
  }
  // Of drives with a scale of 1e6 h and a shape of 1.12, 1 - exp(-(1.752)^1.12) fail within 200 years: 84.7 %.
  expect(drives).toBeGreaterThan(80);
  expect(failures / drives).toBeGreaterThan(0.74);
  expect(failures / drives).toBeLessThan(0.95);
});

it('refuses what cannot be done to a unit, in words', () => {
  for (const doing of [
    { do: 'pull', bay: '9' },
    { do: 'insert', bay: '1', serial: 'X', bytes: 1e12 },
    { do: 'rebuild', bay: '1' },
    { do: 'fill', pool: 'none', share: 1 },
  ] satisfies Doing[])
    expect(done(HERON, doing)).toMatchObject({ kind: 'refusal', sentence: expect.stringMatching(/\.$/) });
});

it('has a clock that runs as fast as it is told to, and never back', () => {
  let real = 1000;
  const clock = playedClock(() => real);
  clock.setPace(604_800);
  real += 1000;
  expect(clock.now()).toBe(1000 + 604_800_000);
  clock.setPace(0);
  real += 5000;
  expect(clock.now()).toBe(1000 + 604_800_000);
  expect(playedClock(() => real, 9e12).now()).toBe(9e12);
});

function serialIn({ unit }: Truth, bay: string): string | undefined {
  return Object.values(unit.drives).find((drive) => drive.bay === bay)?.serial;
}
