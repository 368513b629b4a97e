import { describe, expect, it } from '@jest/globals';
import { figuresOf, type Media } from '../drive/media';
import type { Band } from '../layout/band';
import { speedOfLayout } from './speedOfLayout';

const parity = (n: number, redundancy: number): Band => ({
  kind: 'parity',
  fromBytes: 0,
  toBytes: 4e12,
  members: Array.from({ length: n }, (_, i) => String(i + 1)),
  redundancy,
  usableBytes: (n - redundancy) * 4e12,
});
const of = (n: number, redundancy: number, media: Media, isRebuilding: boolean) =>
  speedOfLayout(
    [parity(n, redundancy)],
    new Map(Array.from({ length: n }, (_, i) => [String(i + 1), { media }])),
    {},
    isRebuilding,
  );

describe('small writes to parity', () => {
  // Patterson, Gibson and Katz 1988: four operations of disks a write, six with double parity.
  it('cost four operations, six with double parity', () => {
    expect(of(4, 1, 'hard-disk', false).smallWrites).toBeCloseTo((4 * 120) / 4, 9);
    expect(of(8, 2, 'hard-disk', false).smallWrites).toBeCloseTo((8 * 120) / 6, 9);
  });

  it('cost what is counted disk by disk with a member missing, and half is left by the rebuild', () => {
    // Level 5 of four: of four blocks one is on the missing disk (two reads, one write), one has its parity there (one
    // write), two are as ever (four). Three in the mean, over three disks of 120.
    expect(of(4, 1, 'hard-disk', true).smallWrites).toBeCloseTo(((3 * 120) / 3) * 0.5, 9);
    // Level 6 of six: one (three reads, two writes), two with one parity missing (two and two), three as ever (six).
    expect(of(6, 2, 'hard-disk', true).smallWrites).toBeCloseTo(((5 * 120) / ((5 + 2 * 4 + 3 * 6) / 6)) * 0.5, 9);
  });

  it('read flash at its read rate', () => {
    const { readsPerSecond: r, writesPerSecond: w } = figuresOf('ssd');
    expect(of(4, 1, 'ssd', false).smallWrites).toBeCloseTo(4 / (2 / r + 2 / w), 6);
    expect(of(4, 1, 'ssd', false).smallWrites).toBeGreaterThan((4 * w) / 4);
  });
});

describe('the head', () => {
  it('bounds many drives: what is read, and what is written with its protection', () => {
    const many = of(80, 2, 'hard-disk', false);
    expect(many.read).toBe(7e9);
    expect(many.write).toBeCloseTo((7e9 * 78) / 80, 0);
    // A few drives do not feel it.
    const few = of(8, 2, 'hard-disk', false);
    expect(few.read).toBeLessThan(2e9);
    const narrow = speedOfLayout([parity(8, 2)], new Map(), { headBytesPerSecond: 5e8 });
    expect([narrow.read, narrow.write]).toEqual([5e8, 5e8 * 0.75]);
  });
});
