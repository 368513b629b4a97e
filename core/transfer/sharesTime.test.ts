import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Media } from '../drive/media';
import { sharesTime, type ShareToCopy } from './sharesTime';
import { fileSeconds, oneDrive, overEthernet, transferTime, type Passage } from './transferTime';

const DISKS: readonly Media[] = ['hard-disk', 'hard-disk'];
const FLASH: readonly Media[] = ['ssd', 'nvme'];
const link = (bytesPerSecond: number): readonly Passage[] => [{ what: 'link', bytesPerSecond }];
const alike = (count: number, bytes: number, files: number): ShareToCopy[] =>
  Array.from({ length: count }, (_, i) => ({ name: `Share ${String(i)}`, bytes, files }));

/**
 * An independent reference: so many streams in a closed network, with two stations or one and a wait, simulated job by job
 * with exponential times; seconds for one unit of the work.
 */
function simulated(served: number, other: number, isWaiting: boolean, streams: number): number {
  const JOBS = 200_000;
  let seed = 7;
  const drawn = (mean: number): number => {
    seed = (seed + 0x6d2b79f5) | 0;
    let mixed = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return -Math.log((((mixed ^ (mixed >>> 14)) >>> 0) + 0.5) / 4294967296) * mean;
  };
  // When each stream comes to its second part, and until when both stations are taken.
  const comes = Array.from({ length: streams }, () => 0);
  let [free, freeSecond, end] = [0, 0, 0];
  const queue: { at: number; stream: number; isSecond: boolean }[] = comes.map((at, stream) => ({
    at,
    stream,
    isSecond: false,
  }));
  for (let done = 0; done < JOBS;) {
    let next = 0;
    for (let i = 1; i < queue.length; i++) if ((queue[i]?.at ?? 0) < (queue[next]?.at ?? 0)) next = i;
    const job = queue[next] as (typeof queue)[number];
    if (!job.isSecond) {
      free = Math.max(free, job.at) + drawn(served);
      job.at = free;
    } else if (isWaiting) job.at += drawn(other);
    else {
      freeSecond = Math.max(freeSecond, job.at) + drawn(other);
      job.at = freeSecond;
    }
    if (job.isSecond) [done, end] = [done + 1, job.at];
    job.isSecond = !job.isSecond;
  }
  return end / JOBS;
}

describe('several shares over one way', () => {
  it('one after the other they take what each takes alone', () => {
    const shares = [...alike(2, 1e12, 1000), { name: 'Papers', bytes: 1e10, files: 3_000_000 }];
    const passages = [oneDrive('source', 'hard-disk'), overEthernet(1)];
    const { inSequence, shares: each } = sharesTime(shares, passages, DISKS, 3);
    const alone = shares.map(({ bytes, files }) => transferTime(bytes, files, passages, fileSeconds(DISKS)).likely);
    expect(each.map(({ seconds }) => seconds)).toEqual(alone);
    expect(inSequence.likely).toBeCloseTo(
      alone.reduce((sum, one) => sum + one, 0),
      6,
    );
    // One at a time is no other.
    expect(sharesTime(shares, passages, DISKS, 1).sideBySide.likely).toBeCloseTo(inSequence.likely, 6);
  });

  // By hand: two stations of the same demand D and N in the network, X = N / ((N + 1) D) (Reiser and Lavenberg 1980).
  it('over a link that is as busy as the disk’s heads, N at a time take (N + 1) / N of one of them', () => {
    // 8 ms a file: 1,000 files and 8 s of bytes each.
    const shares = alike(4, 8e8, 1000);
    for (const streams of [2, 3, 4])
      expect(sharesTime(shares, link(1e8), DISKS, streams).sideBySide.likely).toBeCloseTo(
        (32 * (streams + 1)) / streams,
        6,
      );
  });

  it.each([
    [10, 10, false, 3],
    [20, 5, false, 4],
    [4, 30, false, 2],
    [10, 10, true, 3],
    [10, 90, true, 8],
    [30, 10, true, 2],
  ] as const)(
    'agrees with a simulation of the network: %p, %p, waiting %p, %p at a time',
    (served, other, isWaiting, streams) => {
      const media = isWaiting ? FLASH : DISKS;
      const shares = alike(streams, (served * 1e8) / streams, other / fileSeconds(media) / streams);
      const { likely } = sharesTime(shares, link(1e8), media, streams).sideBySide;
      const reference = Math.max(simulated(served, other, isWaiting, streams), (served + other) / streams);
      expect(likely / reference).toBeGreaterThan(0.98);
      expect(likely / reference).toBeLessThan(1.02);
    },
  );

  it('wins nothing where one disk is the narrowest, and is held up by a share that is larger than the rest', () => {
    const disk = [oneDrive('source', 'hard-disk'), overEthernet(10)];
    const { inSequence, sideBySide, bottleneck } = sharesTime(alike(4, 1e11, 1000), disk, DISKS, 4);
    expect([sideBySide.likely, bottleneck]).toEqual([inSequence.likely, 'source']);
    const uneven = [{ name: 'Films', bytes: 1e9, files: 10_000_000 }, ...alike(3, 1e9, 1000)];
    const held = sharesTime(uneven, [oneDrive('source', 'ssd'), overEthernet(1)], FLASH, 4);
    expect(held.bottleneck).toBe('largest-share');
    expect(held.sideBySide.likely).toBe(held.shares[0]?.seconds);
  });

  it('is never slower side by side, never faster than its largest share, and more at a time never take longer (property)', () => {
    const share = fc.record({
      name: fc.constant('S'),
      bytes: fc.integer({ min: 0, max: 1e13 }),
      files: fc.integer({ min: 1, max: 1e7 }),
    });
    const ends = fc.constantFrom(DISKS, FLASH, ['ssd', 'hard-disk'] as const);
    fc.assert(
      fc.property(
        fc.array(share, { minLength: 1, maxLength: 8 }),
        ends,
        fc.constantFrom(1, 2.5, 10),
        (shares, media, gigabits) => {
          const [source, target] = media as [Media, Media];
          const passages = [oneDrive('source', source), overEthernet(gigabits), oneDrive('target', target)];
          let before = Infinity;
          for (const streams of [1, 2, 4, 8]) {
            const { shares: each, inSequence, sideBySide } = sharesTime(shares, passages, media, streams);
            expect(sideBySide.low <= sideBySide.likely && sideBySide.likely <= sideBySide.high).toBe(true);
            expect(sideBySide.likely).toBeLessThanOrEqual(inSequence.likely * (1 + 1e-12));
            expect(sideBySide.likely).toBeGreaterThanOrEqual(
              Math.max(...each.map(({ seconds }) => seconds)) * (1 - 1e-12),
            );
            expect(sideBySide.likely).toBeLessThanOrEqual(before * (1 + 1e-12));
            before = sideBySide.likely;
          }
        },
      ),
    );
  });
});
