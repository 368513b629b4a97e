import { forecastUse } from '../core/forecast/forecastUse';
import { HISTORY, SHAPES, WAYS } from '../core/forecast/testHistories';
import type { Reading } from '../core/forecast/byDay';
import { DAY_MS } from '../core/quantity/days';
import { isRefusal } from '../core/value/refusal';
import { seeded } from '../core/value/seeded';

/**
 * How often the span of a forecast holds what comes, of 100, kind by kind and by how it was read: 80 are claimed. Behind it how far
 * off the likely day is on which a quarter more is used than now, later (+) or sooner, in percent of the time until then: the
 * median. npm run bench:coverage
 *
 * @param process.argv histories of each kind (100 where left out), the first seed, and words the names of kinds and of ways of
 *   reading have to hold
 */
const [each, first, only, read] = [
  Number(process.argv[2] ?? 100),
  Number(process.argv[3] ?? 500_000),
  process.argv[4] ?? '',
  process.argv[5] ?? '',
];
const TB = 1e12;
const START = Date.parse('2024-01-01T20:00:00Z');
const AHEAD = [365, 730] as const;
/** Followed for so long: what has not come to a quarter more by then never does. */
const FOLLOWED = 5 * 365;
const MORE = 1.25;
const medianOf = (of: readonly number[]): number => [...of].sort((a, b) => a - b)[Math.floor(of.length / 2)] ?? NaN;
const NEVER = 100 * FOLLOWED;
const daysTo = (on: string | undefined): number =>
  on === undefined ? NEVER : Math.max(1, (Date.parse(on) - START) / DAY_MS - (HISTORY - 1));
const ways = Object.entries(WAYS).filter(([way]) => way.includes(read));
console.log(['', ...ways.map(([way]) => way)].join('\t'));
for (const [shape, generated] of Object.entries(SHAPES)) {
  if (!shape.includes(only)) continue;
  const cells = ways.map(([, days]) => {
    const held = AHEAD.map(() => 0);
    let points = 0;
    const off: number[] = [];
    for (let k = 0; k < each; k++) {
      const random = seeded(first + k * 7919);
      const path = generated(random, HISTORY + FOLLOWED);
      const readings = days(random).map((day): Reading => ({
        at: new Date(START + day * DAY_MS).toISOString(),
        usedBytes: Math.round(path[day] as number),
      }));
      const made = forecastUse(readings, 1000 * TB, 0.8, seeded(1));
      if (isRefusal(made)) continue;
      const line = MORE * (path[HISTORY - 1] as number);
      const crossing = forecastUse(readings, line, 1, seeded(1));
      const comes = path.findIndex((used, day) => day >= HISTORY && used >= line) - (HISTORY - 1);
      if (!isRefusal(crossing)) off.push(Math.log(daysTo(crossing.crosses?.[1]) / (comes < 0 ? NEVER : comes)));
      AHEAD.forEach((ahead, a) => {
        const on = new Date(START + (HISTORY - 1 + ahead) * DAY_MS).toISOString().slice(0, 10);
        const point = made.fan.findLast((one) => one.on <= on) ?? made.fan[0];
        if (!point) return;
        const day = Math.round((Date.parse(point.on) - START) / DAY_MS);
        const truth = path[Math.min(path.length - 1, day)] as number;
        const [low, , high] = point.usedBytes;
        if (low === high) points++;
        if (truth >= low && truth <= high) held[a] = (held[a] as number) + 1;
      });
    }
    const late = Math.round(100 * (Math.exp(medianOf(off)) - 1));
    return `${held.map((one) => Math.round((100 * one) / each)).join('/')}${points > 0 ? '·' : ''} ${late < 0 ? '−' : '+'}${String(Math.abs(late))}`;
  });
  console.log([shape, ...cells].join('\t'));
}
