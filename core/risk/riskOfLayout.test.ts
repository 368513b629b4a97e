import { describe, expect, it } from '@jest/globals';
import { labelBytes } from '../drive/labelBytes';
import type { Media } from '../drive/media';
import { planLayout } from '../layout/planLayout';
import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { rebuildOfEach } from '../rebuild/estimateRebuild';
import plain from '../platform/profiles/plain.json';
import saltern from '../platform/profiles/saltern.json';
import tidemill from '../platform/profiles/tidemill.json';
import { lifeOfGroup, LOST } from './memberChain';
import { ends, riskOfLayout, type LayoutRisk, type RiskAssumptions } from './riskOfLayout';

const USUAL: RiskAssumptions = { years: 5, hoursToReplace: 72, usedShare: 0.5 };

function riskOf(
  profile: object,
  scheme: Scheme,
  terabytes: readonly number[],
  {
    width,
    media = [],
    spares = 0,
    ...assumed
  }: { width?: number; media?: Media[]; spares?: number } & Partial<RiskAssumptions> = {},
): LayoutRisk {
  const drives = terabytes.map((size, i) => ({
    bay: String(i + 1),
    bytes: labelBytes(size * 1000),
    media: media[i] ?? ('hard-disk' as const),
  }));
  const layout = planLayout(profile as Profile, scheme, drives, spares, width);
  expect(layout.legal).toBe(true);
  const known = new Map(drives.map((drive) => [drive.bay, drive]));
  const { rebuild } = profile as Profile;
  const assumptions = { ...USUAL, ...assumed };
  return riskOfLayout(
    {
      scheme,
      bands: layout.bands,
      drives: known,
      rebuild,
      rebuilds: rebuildOfEach(layout.bands, known, rebuild, assumptions.usedShare),
      spares: layout.spareBays.length,
    },
    assumptions,
  );
}
const of = (count: number, size: number): number[] => Array.from({ length: count }, () => size);

describe('each drive its own rate, each member its own rebuild', () => {
  // An independent reference, which shares no code with this: the first of both ways to end, to the digits it was given with.
  it.each<[string, number, Scheme, number[], { width?: number; media?: Media[] }]>([
    ['striped mirrors of 6 × 2 TB and 2 × 20', 0.017, 'striped-mirrors', [...of(6, 2), ...of(2, 20)], {}],
    ['groups of three over 3 × 20 TB and 9 × 2', 0.0472, 'parity-1-groups', [...of(3, 20), ...of(9, 2)], { width: 3 }],
    ['a mixed pool of 6 × 1 TB and 2 × 20', 0.0304, 'mixed-1', [...of(6, 1), ...of(2, 20)], {}],
    ['a mixed pool of 4 × 1 TB and 3 × 20 that survives two', 1.11e-5, 'mixed-2', [...of(4, 1), ...of(3, 20)], {}],
    [
      'single parity of three flash drives and a disk',
      0.0029,
      'parity-1',
      of(4, 4),
      { media: ['ssd', 'ssd', 'ssd', 'hard-disk'] },
    ],
  ])('%s: %d', (_what, expected, scheme, sizes, more) => {
    const { chanceOfLoss, rebuildStops } = riskOf(plain, scheme, sizes, more);
    const either = (chanceOfLoss as number) + (rebuildStops as number);
    expect(
      Number(
        either.toPrecision(
          String(expected)
            .replace(/e.*/, '')
            .replace(/^0?\.?0*/, '')
            .replace('.', '').length,
        ),
      ),
    ).toBe(expected);
  });

  // The same reference: orders on the way do not queue behind one another, and a spare that is used is used.
  it('waits for orders side by side, and does not use a spare twice', () => {
    expect(riskOf(saltern, 'mixed-2', of(6, 4)).chanceOfLoss as number).toBeCloseTo(1.7e-8, 10);
    expect(riskOf(tidemill, 'dedicated-2', of(7, 4), { spares: 1 }).chanceOfLoss as number).toBeCloseTo(4.47e-10, 12);
  });

  // The same reference gives 8.7e-9 where the wait is part of each repair and repairs queue; cut at eight failures it is 0.565.
  it('is not cut at any number of failures: a mirror of 24 copies', () => {
    const lost = (count: number, failureRate: number, rebuildHours: number): number =>
      lifeOfGroup(
        {
          kinds: [{ count, failureRate, rebuildHours, unreadablePerByte: 0, bands: [0] }],
          bands: [{ redundancy: count - 1, readBytes: 0 }],
          repairs: 'serial',
          spares: 0,
          orderHours: 0,
        },
        false,
      ).by(87_600)[LOST] as number;
    const queued = lost(24, 1e-5, 8770);
    expect(queued).toBeGreaterThan(5e-9);
    expect(queued).toBeLessThan(1e-8);
    // Nor where nothing can have been lost after many jumps: of 48 copies half are missing for good, and all are in the end.
    const many = lost(48, 1e-4, 1e5);
    // Without the one rebuild in 1e5 h each is missing by then with 1 − e^−8.76: all of 48 with that to the 48th.
    expect(many).toBeGreaterThan(0.5 * (1 - Math.exp(-8.76)) ** 48);
    expect(many).toBeLessThan((1 - Math.exp(-8.76)) ** 48);
    // Orders do not queue: each is a year on its way, all at once.
    const { chanceOfLoss } = riskOf(plain, 'mirror', of(24, 4), { mttfHours: 1e5, hoursToReplace: 8760, years: 10 });
    expect(chanceOfLoss as number).toBeLessThan(queued);
  });

  it('is never none where there is something to lose: a mirror of 80', () => {
    const { chanceOfLoss } = riskOf(plain, 'mirror', of(80, 4));
    expect(Math.min(...ends(chanceOfLoss))).toBeGreaterThan(0);
  });
});

describe('three outcomes apart', () => {
  it('lets a rebuild stop where a family aborts, and lose files where it goes on: never both', () => {
    const stops = riskOf(plain, 'parity-1', of(4, 8));
    expect(stops.filesLost).toBe(0);
    expect(stops.rebuildStops as number).toBeGreaterThan(0.01);
    const goesOn = riskOf(
      { ...plain, rebuild: { ...plain.rebuild, unreadableSector: 'loses-one-file' } },
      'parity-1',
      of(4, 8),
    );
    expect(goesOn.rebuildStops).toBe(0);
    expect(goesOn.filesLost).toBe(stops.rebuildStops);
    // What is lost with the pool means the same in either.
    expect(goesOn.chanceOfLoss).toBe(stops.chanceOfLoss);
  });

  it('counts the bytes: all of a pool, a sector of a file, or what stood on the drives that went', () => {
    const drives = 4;
    const separate = riskOf(plain, 'separate', of(drives, 4));
    // Each drive takes its own with it: 8,760 h / 1,000,000 h of all there is, a year.
    expect(separate.lostBytesPerTBYear as number).toBeCloseTo(8760e6, -7);
    const span = riskOf(plain, 'span', of(drives, 4));
    expect((span.lostBytesPerTBYear as number) / (separate.lostBytesPerTBYear as number)).toBeCloseTo(drives, 1);
    expect(riskOf(plain, 'mirror', of(2, 4)).lostBytesPerTBYear as number).toBeLessThan(1e8);
  });

  it('is a range where rates are one, and each end is that rate alone', () => {
    const range = riskOf(saltern, 'mixed-1', of(5, 8), { failuresPerYear: [0.009, 0.04] });
    const [low, high] = range.chanceOfLoss as readonly [number, number];
    const alone = (share: number): number =>
      riskOf(saltern, 'mixed-1', of(5, 8), { mttfHours: -8760 / Math.log(1 - share) }).chanceOfLoss as number;
    expect(low / alone(0.009)).toBeCloseTo(1, 9);
    expect(high / alone(0.04)).toBeCloseTo(1, 9);
    expect(
      riskOf(saltern, 'mixed-1', of(5, 8), { failuresPerYear: [0.009, 0.04], mttfHours: 1e6 }).chanceOfLoss,
    ).toEqual(expect.any(Number));
    expect(riskOf(saltern, 'mixed-1', of(5, 8), { failuresPerYear: [0.04, 0.04] }).chanceOfLoss).toBe(high);
    const [usual, bound] = range.chanceOfUnreadable;
    expect(usual).toBeLessThan(bound);
  });
});
