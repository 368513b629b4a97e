import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fileSeconds, oneDrive, overEthernet, transferTime } from './transferTime';

const GIGABIT = overEthernet(1);
const disks = fileSeconds(['hard-disk', 'hard-disk']);

describe('how long files take from one place to another', () => {
  // Facts of the trade (common practice).
  it('carries large files with 111 MB/s over gigabit: 1.3 TB in a quarter past three hours', () => {
    expect(GIGABIT.bytesPerSecond / 1e6).toBeCloseTo(111, 0);
    const { likely, bottleneck } = transferTime(1.3e12, 100, [oneDrive('source', 'hard-disk'), GIGABIT], disks);
    expect(Math.abs(likely / 60 - 195)).toBeLessThan(2);
    expect(bottleneck).toBe('link');
  });

  it('is held up by one external disk on a cable, 130 to 170 MB/s', () => {
    const { likely, bottleneck } = transferTime(1e12, 10, [oneDrive('source', 'hard-disk'), overEthernet(10)], disks);
    expect(1e12 / likely / 1e6).toBeGreaterThan(130);
    expect(1e12 / likely / 1e6).toBeLessThan(170);
    expect(bottleneck).toBe('source');
  });

  it('takes ten million files far longer than ten of the same bytes', () => {
    const ten = transferTime(1e12, 10, [GIGABIT], disks);
    const many = transferTime(1e12, 10_000_000, [GIGABIT], disks);
    expect(many.likely / ten.likely).toBeGreaterThan(5);
    expect([ten.bottleneck, many.bottleneck]).toEqual(['link', 'files']);
    expect(fileSeconds(['ssd', 'nvme'])).toBeLessThan(disks);
  });

  it('never takes less for more bytes, more files or a narrower passage (property)', () => {
    const passage = fc
      .integer({ min: 1e6, max: 3e9 })
      .map((bytesPerSecond) => ({ what: 'target' as const, bytesPerSecond }));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e14 }), fc.integer({ min: 1, max: 1e8 }), passage, (bytes, files, one) => {
        const { low, likely, high } = transferTime(bytes, files, [GIGABIT], disks);
        expect(low <= likely && likely <= high).toBe(true);
        expect(transferTime(bytes + 1e6, files, [GIGABIT], disks).likely).toBeGreaterThan(likely);
        expect(transferTime(bytes, files + 1000, [GIGABIT], disks).likely).toBeGreaterThan(likely);
        expect(transferTime(bytes, files, [GIGABIT, one], disks).likely).toBeGreaterThanOrEqual(likely);
      }),
    );
  });
});
