import { trendWords, type Trend, type TrendPoint } from './trend';

const point = (day: string, last: number, low = last, high = last): TrendPoint => ({ day, low, high, last });
const mate = (serial: string, last: number) => ({ serial, points: [point('2026-01-01', last)] });
const trend = (metric: Trend['metric'], own: TrendPoint[], ...others: number[]): Trend => ({
  metric,
  own,
  mates: others.map((last, i) => mate(`M${String(i)}`, last)),
});

describe('trendWords', () => {
  it('says of a count where it stands, how it grew, and that it is above its lot', () => {
    const own = [point('2024-03-01', 0), point('2025-03-01', 3), point('2026-03-01', 24)];
    expect(trendWords(trend('reallocated-sectors', own, 0, 2, 1))).toBe(
      '24 reallocated sectors, 24 more than on 2024-03-01. The 3 others of its lot: 0 to 2. It is above all of them.',
    );
    expect(trendWords(trend('read-errors', [point('2024-03-01', 0), point('2026-03-01', 0)], 0))).toBe(
      'No read errors. The other of its lot: 0.',
    );
    expect(trendWords(trend('pending-sectors', [point('2024-03-01', 5)]))).toBe(
      '5 sectors waiting to be reallocated, as from the first reading on.',
    );
  });

  it('says that a count went down, or was higher between: what waits may be read again, and a counter may begin anew', () => {
    const of = (...values: readonly number[]): string =>
      trendWords(
        trend(
          'pending-sectors',
          values.map((value, i) => point(`2024-0${String(i + 1)}-01`, value)),
        ),
      );
    expect(of(5, 2)).toBe('2 sectors waiting to be reallocated, 3 fewer than on 2024-01-01.');
    expect(of(5, 0)).toBe('No sectors waiting to be reallocated, 5 fewer than on 2024-01-01.');
    expect(of(3, 24, 3)).toBe('3 sectors waiting to be reallocated, as on 2024-01-01, and 24 between.');
    expect(of(0, 24, 0)).toBe('No sectors waiting to be reallocated, as on 2024-01-01, and 24 between.');
    expect(of(1, 9, 4)).toBe('4 sectors waiting to be reallocated, 3 more than on 2024-01-01, and 9 between.');
    expect(of(0, 0)).toBe('No sectors waiting to be reallocated.');
  });

  it('says of a rated life how long it lasts, and of what was written how much', () => {
    const own = ['2024-01-01', '2024-07-01', '2025-01-01', '2026-01-01'].map((day, i) => point(day, 98 - 10 * i));
    expect(trendWords(trend('life-left', own, 70))).toMatch(
      /^68 % of its rated life left\. At its pace the rating lasts until about 20\d\d-\d\d-\d\d \(.*\)\. The other of its lot: 70 %\.$/,
    );
    expect(trendWords(trend('life-left', [point('2026-01-01', 97)]))).toBe('97 % of its rated life left.');
    expect(trendWords(trend('written-bytes', [point('2026-01-01', 38.2e12)], 40e12))).toBe(
      '38.2 TB written in all. The other of its lot: 40 TB.',
    );
  });

  it('says of a temperature its span, of hours the years', () => {
    const own = [point('2025-01-01', 30, 24, 33), point('2026-01-01', 31, 29, 41)];
    expect(trendWords(trend('temperature', own, 29, 33))).toBe(
      '31 °C now, between 24 and 41 since 2025-01-01. The 2 others of its lot: 29 °C to 33 °C.',
    );
    expect(trendWords(trend('power-on-hours', [point('2026-01-01', 26_298)], 720))).toBe(
      'Switched on for 3.0 years. The other of its lot: 30 days.',
    );
    expect(trendWords(trend('temperature', [point('2026-01-01', 38)], 34))).toMatch(/It is above that\.$/);
    expect(trendWords(trend('temperature', [point('2026-01-01', 37)], 34))).toMatch(/34 °C\.$/);
    expect(trendWords(trend('temperature', []))).toBe('');
  });
});
