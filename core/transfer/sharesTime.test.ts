import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Media } from '../drive/media';
import { seeded } from '../value/seeded';
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

/**
 * An independent reference for shares that are not alike: file by file, the link shared evenly by those that send, the heads one
 * file at a time as they come, the sizes of files exponential; the next share begins when one before it ends. Seconds.
 */
function uneven(
  shares: readonly ShareToCopy[],
  bytesPerSecond: number,
  perFile: number,
  isWaiting: boolean,
  streams: number,
  seed: number,
): number {
  const random = seeded(100 + seed);
  const drawn = (mean: number): number => -Math.log(1 - random()) * mean;
  interface Stream {
    readonly mean: number;
    files: number;
    /** Bytes left to send; or the moment its file is done at the other end; or it waits for the heads. */
    at: { kind: 'sends'; bytes: number } | { kind: 'until'; at: number } | { kind: 'waits' };
  }
  const rest = [...shares];
  const under: Stream[] = [];
  const queue: Stream[] = [];
  let [now, heads] = [0, null as Stream | null];
  for (;;) {
    while (under.length < streams && rest.length > 0) {
      const { bytes, files } = rest.shift() as ShareToCopy;
      under.push({ mean: bytes / files, files, at: { kind: 'sends', bytes: drawn(bytes / files) } });
    }
    if (under.length === 0) return now;
    const sending = under.filter(({ at }) => at.kind === 'sends').length;
    const each = bytesPerSecond / Math.max(1, sending);
    const endOf = ({ at }: Stream): number =>
      at.kind === 'sends' ? now + at.bytes / each : at.kind === 'until' ? at.at : Infinity;
    const first = under.reduce((a, b) => (endOf(b) < endOf(a) ? b : a));
    const end = endOf(first);
    for (const { at } of under) if (at.kind === 'sends') at.bytes -= (end - now) * each;
    now = end;
    if (first.at.kind === 'sends') {
      if (isWaiting) first.at = { kind: 'until', at: now + drawn(perFile) };
      else {
        first.at = { kind: 'waits' };
        queue.push(first);
      }
    } else {
      if (!isWaiting) heads = null;
      first.files--;
      if (first.files === 0) under.splice(under.indexOf(first), 1);
      else first.at = { kind: 'sends', bytes: drawn(first.mean) };
    }
    if (!isWaiting && heads === null && queue.length > 0) {
      heads = queue.shift() as Stream;
      heads.at = { kind: 'until', at: now + drawn(perFile) };
    }
  }
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
    // 8 ms a file: 1,000 files and 8 s of bytes each; twelve, so that no stream is left over.
    const shares = alike(12, 8e8, 1000);
    for (const streams of [2, 3, 4])
      expect(sharesTime(shares, link(1e8), DISKS, streams).sideBySide.likely).toBeCloseTo(
        (96 * (streams + 1)) / streams,
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
    expect(held.sideBySide.likely / (held.shares[0]?.seconds ?? 0)).toBeCloseTo(1, 3);
  });

  it.each(['flash', 'disk behind a link'] as const)(
    'agrees with a simulation within a tenth where shares are not alike, each kind by itself: %s',
    (kind) => {
      const random = seeded(5);
      const isWaiting = kind === 'flash';
      const media = isWaiting ? FLASH : DISKS;
      const ratios: number[] = [];
      for (let k = 0; k < 60; k++) {
        // Of films and of papers, a thousandfold apart.
        const shares = Array.from({ length: 3 + Math.floor(random() * 8) }, (_, i) => ({
          name: String(i),
          bytes: Math.round(1e8 * 1000 ** random()),
          files: Math.round(100 * 100 ** random()),
        }));
        const streams = 2 + Math.floor(random() * 3);
        const { sideBySide } = sharesTime(shares, link(1e9), media, streams);
        const simulated = uneven(shares, 1e9, fileSeconds(media), isWaiting, sideBySide.streams, k);
        ratios.push(sideBySide.likely / simulated);
        expect(simulated / sideBySide.high).toBeLessThan(1);
        expect(simulated / sideBySide.low).toBeGreaterThan(1);
      }
      expect(ratios.filter((one) => one > 0.9 && one < 1.1).length).toBeGreaterThanOrEqual(57);
      expect(ratios.reduce((a, b) => a + b, 0) / ratios.length).toBeGreaterThan(0.96);
      expect(ratios.reduce((a, b) => a + b, 0) / ratios.length).toBeLessThan(1.04);
    },
  );

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
