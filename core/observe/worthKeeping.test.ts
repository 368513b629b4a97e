import fc from 'fast-check';
import { METRICS } from '../../schemas/metrics';
import { isWorthKeeping, type LastKept } from './worthKeeping';

const at = (minutes: number): string => new Date(Date.UTC(2026, 0, 1) + minutes * 60_000).toISOString();

describe('isWorthKeeping', () => {
  it('keeps every change of a count, and of the rest what is more than its unrest', () => {
    const kept = (metric: Parameters<typeof isWorthKeeping>[0], before: number, now: number): boolean =>
      isWorthKeeping(metric, now, { at: at(0), value: before }, at(5));
    expect([kept('reallocated-sectors', 3, 4), kept('reallocated-sectors', 3, 3)]).toEqual([true, false]);
    expect([kept('temperature', 30, 31), kept('temperature', 30, 32), kept('temperature', 30, 28)]).toEqual([
      false,
      true,
      true,
    ]);
    expect([kept('used-bytes', 1e12, 1.0009e12), kept('used-bytes', 1e12, 1.0011e12)]).toEqual([false, true]);
    expect([kept('power-on-hours', 100, 124), kept('power-on-hours', 100, 125)]).toEqual([false, true]);
  });

  it('keeps something of every day, and never strays by more than the unrest', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...METRICS),
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 600 }),
        (metric, values) => {
          let last: LastKept | undefined;
          const days = new Set<string>();
          values.forEach((value, i) => {
            const now = at(i * 15);
            if (isWorthKeeping(metric, value, last, now)) {
              last = { at: now, value };
              days.add(now.slice(0, 10));
            }
            expect(Math.abs(value - (last?.value ?? NaN))).toBeLessThanOrEqual(24);
          });
          expect(days.size).toBe(new Set(values.map((_, i) => at(i * 15).slice(0, 10))).size);
        },
      ),
    );
  });
});
