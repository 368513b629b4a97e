import { seeded } from '../value/seeded';
import { untilWords, wearOut, wearTogether, type LifePoint } from './wearOut';

const DAY = 86_400_000;
const START = Date.parse('2024-01-01');
const day = (n: number): string => new Date(START + n * DAY).toISOString().slice(0, 10);
/** Read every so many days, with what is left on a day. */
const read = (days: number, left: (n: number) => number, every = 7): LifePoint[] =>
  Array.from({ length: Math.floor(days / every) + 1 }, (_, i) => ({ day: day(i * every), left: left(i * every) }));

describe('wearOut', () => {
  it('goes on at the pace it has: 10 % a year from 90 % left are nine years from the middle of that percent', () => {
    const out = wearOut(read(728, (n) => Math.floor(100 - n / 36.525 + 1e-9)));
    // By hand: after 728 days 19.93 % are lost, 80 shown; the rest lasts 80.07 × 36.525 days from there: 2031-12-31.
    expect(out?.left).toBe(80);
    expect(out?.perYear[1]).toBeCloseTo(10, 0);
    const off = (Date.parse(String(out?.ends.likely)) - Date.parse(day(3652))) / DAY;
    expect(Math.abs(off)).toBeLessThan(100);
    expect(out?.ends.first.localeCompare(out.ends.likely)).toBe(-1);
    expect(out?.ends.likely.localeCompare(String(out.ends.last))).toBe(-1);
  });

  it('tells nothing from four weeks, from a life that does not move, of an end beyond fifteen years, or of nothing read', () => {
    expect(wearOut([])).toBeNull();
    expect(wearOut(read(21, (n) => 90 - n / 7))).toBeNull();
    expect(wearOut(read(700, () => 97))).toBeNull();
    expect(wearOut(read(700, (n) => (n < 350 ? 99 : 98)))).toBeNull();
    expect(wearOut([{ day: day(0), left: 50 }])).toBeNull();
  });

  it('is the same from all readings and from the first and last of each figure', () => {
    const random = seeded(5);
    for (let run = 0; run < 200; run++) {
      const perDay = 0.01 + 0.05 * random();
      const all = read(
        200 + Math.floor(1200 * random()),
        (n) => Math.max(0, Math.floor(100 - perDay * n)),
        1 + (run % 9),
      );
      const few = all.filter(({ left }, i) => all[i - 1]?.left !== left || all[i + 1]?.left !== left);
      expect(few.length).toBeLessThanOrEqual(all.length);
      expect(wearOut(few)).toEqual(wearOut(all));
    }
  });

  it('forgets what was before another drive or another way of counting, and takes the faster pace where it has changed', () => {
    const swapped = read(720, (n) => (n < 360 ? 20 : Math.floor(100 - (n - 360) / 10)));
    expect(wearOut(swapped)?.perYear[1]).toBeCloseTo(36.5, -1);
    const faster = wearOut(read(1092, (n) => Math.floor(n < 1000 ? 100 - n / 100 : 90 - (n - 1000) / 5)));
    const [slow, , fast] = faster?.perYear as [number, number, number];
    expect(fast / slow).toBeGreaterThan(4);
    expect(String(faster?.ends.first).localeCompare(day(1092 + 400))).toBe(-1);
  });

  it('holds the end of a drive whose writing strays from month to month in four of five, most of the time', () => {
    const random = seeded(11);
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    let [held, asked] = [0, 0];
    for (let run = 0; run < 400; run++) {
      const perDay = (3 + 25 * random()) / 365;
      const until = 120 + Math.floor(900 * random());
      const lost = [0];
      let load = 0;
      while ((lost.at(-1) as number) < 100 && lost.length < 15_000) {
        // A load that is mostly another after a month, half as much again or less.
        load = 0.97 * load + Math.sqrt(1 - 0.97 ** 2) * 0.35 * normal();
        lost.push((lost.at(-1) as number) + perDay * Math.exp(load - 0.35 ** 2 / 2));
      }
      if (lost.length < until + 100) continue;
      const out = wearOut(read(until, (n) => Math.floor(100 - (lost[n] as number))));
      if (!out) continue;
      asked++;
      const end = day(lost.length - 1);
      if (out.ends.first <= end && (out.ends.last === null || end <= out.ends.last)) held++;
    }
    expect(asked).toBeGreaterThan(250);
    expect(held / asked).toBeGreaterThan(0.8);
  });
});

describe('wearTogether', () => {
  const member = (serial: string, likely: string) => ({ serial, ends: { first: likely, likely, last: null } });
  const names = (margin: number, ...members: ReturnType<typeof member>[]): string[] =>
    wearTogether(members, margin).map(({ serial }) => serial);
  const [a, b, c, d] = [
    member('A', '2027-03-01'),
    member('B', '2027-04-15'),
    member('C', '2027-05-10'),
    member('D', '2029-01-01'),
  ];

  it('is more than the pool can lose, and never one alone', () => {
    expect(names(1, d, c, b, a)).toEqual(['A', 'B']);
    expect(names(1, d, c, b)).toEqual(['B', 'C']);
    expect(names(0, a, d)).toEqual([]);
    expect(names(2, a, b, c)).toEqual([]);
    expect(names(2, a, b, c, member('E', '2027-04-29'))).toEqual(['A', 'B', 'E']);
    expect(names(1, a, d)).toEqual([]);
  });
});

it('says until when, with the span', () => {
  expect(untilWords({ ends: { first: '2027-01-01', likely: '2027-03-01', last: '2027-06-01' } } as never)).toBe(
    'until about 2027-03-01 (2027-01-01 to 2027-06-01)',
  );
  expect(untilWords({ ends: { first: '2027-01-01', likely: '2029-03-01', last: null } } as never)).toBe(
    'until about 2029-03-01 (2027-01-01 at the earliest)',
  );
});
