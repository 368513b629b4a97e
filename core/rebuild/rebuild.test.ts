import fc from 'fast-check';
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { planLayout } from '../layout/planLayout';
import { estimateRebuild, longestRebuild, type RebuildDrive } from './estimateRebuild';
import { averageSpeed, speedAt } from './passTime';

const rebuild = { ...(plain as Profile).rebuild, ceilingBytesPerSecond: 1e12 };
const disks = (...terabytes: number[]): Map<string, RebuildDrive> =>
  new Map(
    terabytes.map((size, i) => [
      String(i + 1),
      { bay: String(i + 1), bytes: size * 1e12, media: 'hard-disk' as const },
    ]),
  );
const bandsOf = (scheme: 'mirror' | 'parity-1' | 'mixed-1', drives: Map<string, RebuildDrive>) =>
  planLayout(plain as Profile, scheme, [...drives.values()]).bands;

describe('passTime', () => {
  it('averages v0 (1 + s) / 2, as the integral of the curve says', () => {
    const steps = 200_000;
    let time = 0;
    for (let i = 0; i < steps; i++) time += 1 / steps / speedAt(220e6, 0.5, (i + 0.5) / steps);
    expect(1 / time).toBeCloseTo(averageSpeed(220e6, 0.5), -2);
    // Closed form: half the outer speed at the end gives three quarters on average.
    expect(averageSpeed(1, 0.5)).toBe(0.75);
  });
});

describe('estimateRebuild', () => {
  it('of a whole drive without a ceiling takes 2C/(v0 (1 + s))', () => {
    const drives = disks(12, 12);
    const { low, writtenBytes, readBytes } = estimateRebuild(bandsOf('mirror', drives), drives, '1', rebuild);
    expect(low / ((2 * 12e12) / (220e6 * 1.5))).toBeCloseTo(1, 6);
    expect([writtenBytes, readBytes]).toEqual([12e12, 12e12]);
  });

  it('holds the ceiling point by point, not by averages', () => {
    const drives = disks(12, 12);
    const ceiling = 150e6;
    const { low } = estimateRebuild(bandsOf('mirror', drives), drives, '1', {
      ...rebuild,
      ceilingBytesPerSecond: ceiling,
    });
    // Closed form: flat at the ceiling until v(x) falls to it, then the curve.
    const [v0, s] = [220e6, 0.5];
    const x = (1 - (ceiling / v0) ** 2) / (1 - s * s);
    const expected = 12e12 * (x / ceiling + ((2 / v0) * (ceiling / v0 - s)) / (1 - s * s));
    expect(low / expected).toBeCloseTo(1, 4);
    expect(low).toBeGreaterThan(12e12 / Math.min(ceiling, averageSpeed(v0, s)));
  });

  it('reads as much from the others as the level needs', () => {
    const drives = disks(8, 8, 8, 8);
    expect(estimateRebuild(bandsOf('parity-1', drives), drives, '2', rebuild)).toMatchObject({
      writtenBytes: 8e12,
      readBytes: 24e12,
    });
    const mixed = disks(12, 12, 6, 6, 4);
    // Bands 0-4 over five, 4-6 over four, 6-12 a mirror: 4×4 + 2×3 + 6×1.
    expect(estimateRebuild(bandsOf('mixed-1', mixed), mixed, '1', rebuild)).toMatchObject({
      writtenBytes: 12e12,
      readBytes: 28e12,
    });
  });

  it('of used space alone: 50 GB in about 20 minutes on an old two-bay unit (common practice)', () => {
    const old = { ...rebuild, covers: 'used-space' as const, ceilingBytesPerSecond: 80e6 };
    const drives = disks(2, 2);
    const { low, likely } = estimateRebuild(bandsOf('mirror', drives), drives, '1', old, 50e9 / 2e12);
    expect(low / 60).toBeGreaterThan(15);
    expect(likely / 60).toBeLessThan(30);
    expect(low / 60 < 21 && likely / 60 > 19).toBe(true);
  });

  it('is likelier slow with a shingled drive in it', () => {
    const drives = disks(8, 8, 8);
    const bands = bandsOf('parity-1', drives);
    const before = estimateRebuild(bands, drives, '1', rebuild);
    drives.set('2', { bay: '2', bytes: 8e12, media: 'shingled' });
    const after = estimateRebuild(bands, drives, '1', rebuild);
    expect(after.high / after.low).toBeGreaterThan(before.high / before.low);
  });
});

describe('longestRebuild', () => {
  it('is the longest over all members (property)', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 3, maxLength: 8 }), (sizes) => {
        const drives = disks(...sizes);
        const bands = bandsOf('mixed-1', drives);
        const all = [...drives.keys()].map((member) => estimateRebuild(bands, drives, member, rebuild).likely);
        expect(longestRebuild(bands, drives, rebuild)?.likely).toBeCloseTo(Math.max(...all), 3);
      }),
    );
  });

  it('is none where nothing can be rebuilt', () => {
    expect(
      longestRebuild(planLayout(plain as Profile, 'stripe', [...disks(8, 8).values()]).bands, disks(8, 8), rebuild),
    ).toBeNull();
  });
});
