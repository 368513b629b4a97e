import * as statistics from 'simple-statistics';
import { DAY_MS } from '../quantity/days';
import { seeded } from '../value/seeded';
import { isRefusal } from '../value/refusal';
import { byDay, type Reading } from './byDay';
import { forecastUse, type Forecast } from './forecastUse';
import { jumpsOf } from './jumps';
import { median, quantile } from './median';
import { seasonOf } from './season';
import { theilSen } from './theilSen';
import { wanderOf } from './wander';

const START = Date.parse('2024-01-01T20:00:00Z');
const TB = 1e12;
const normal = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
const readingsOf = (bytes: readonly number[], every = 1): Reading[] =>
  bytes.map((one, i) => ({ at: new Date(START + i * every * DAY_MS).toISOString(), usedBytes: Math.round(one) }));
const forecast = (readings: readonly Reading[], usableBytes: number, line = 0.8): Forecast => {
  const made = forecastUse(readings, usableBytes, line, seeded(1));
  if (isRefusal(made)) throw new Error(made.sentence);
  return made;
};

/** Passengers of airlines by month, 1949 to 1960, in thousands (Box and Jenkins, Time Series Analysis, series G). */
const PASSENGERS = [
  112, 118, 132, 129, 121, 135, 148, 148, 136, 119, 104, 118, 115, 126, 141, 135, 125, 149, 170, 170, 158, 133, 114,
  140, 145, 150, 178, 163, 172, 178, 199, 199, 184, 162, 146, 166, 171, 180, 193, 181, 183, 218, 230, 242, 209, 191,
  172, 194, 196, 196, 236, 235, 229, 243, 264, 272, 237, 211, 180, 201, 204, 188, 235, 227, 234, 264, 302, 293, 259,
  229, 203, 229, 242, 233, 267, 269, 270, 315, 364, 347, 312, 274, 237, 278, 284, 277, 317, 313, 318, 374, 413, 405,
  355, 306, 271, 306, 315, 301, 356, 348, 355, 422, 465, 467, 404, 347, 305, 336, 340, 318, 362, 348, 363, 435, 491,
  505, 404, 359, 310, 337, 360, 342, 406, 396, 420, 472, 548, 559, 463, 407, 362, 405, 417, 391, 419, 461, 472, 535,
  622, 606, 508, 461, 390, 432,
];

describe('the slope', () => {
  it('is the median of all slopes of pairs (medians and straight lines by a general library)', () => {
    const random = seeded(5);
    for (let k = 0; k < 30; k++) {
      const n = 3 + Math.floor(random() * 60);
      const x = Array.from({ length: n }, (_, i) => i + Math.floor(random() * 3) * 0.25);
      const y = x.map((one) => 3 * one + 10 * normal(random));
      const pairs = x.flatMap((one, i) =>
        x.slice(i + 1).map((other, j) => ((y[i + 1 + j] as number) - (y[i] as number)) / (other - one)),
      );
      expect(theilSen(x, y)).toBeCloseTo(statistics.median(pairs.filter(Number.isFinite)), 9);
    }
    const x = Array.from({ length: 200 }, (_, i) => i);
    const y = x.map((one) => 7 * one + normal(random));
    expect(theilSen(x, y)).toBeCloseTo(statistics.linearRegression(x.map((one, i) => [one, y[i] as number])).m, 1);
    expect(quantile(Float64Array.from(y).sort(), 0.1)).toBeCloseTo(statistics.quantile(y, 0.1), -1);
    expect(median([5, 1, 3])).toBe(statistics.median([5, 1, 3]));
  });

  it('is not moved by days that are wild', () => {
    const y = Array.from({ length: 100 }, (_, i) => (i % 5 === 0 ? 0 : 4 * i));
    expect(
      theilSen(
        y.map((_, i) => i),
        y,
      ),
    ).toBeCloseTo(4, 0);
  });

  it('of the passengers is that of the straight line, 31.9 thousand a year (from memory), and their season is summer', () => {
    const readings = PASSENGERS.map((passengers, i) => ({
      at: new Date(Date.UTC(1949 + 21 + Math.floor(i / 12), i % 12, 15)).toISOString(),
      usedBytes: passengers * 1e9,
    }));
    const made = forecast(readings, 2 * TB);
    expect(made.found).toContain('season');
    expect((made.slopeBytesPerYear[1] as number) / 1e9).toBeGreaterThan(28);
    expect((made.slopeBytesPerYear[1] as number) / 1e9).toBeLessThan(34);
    const season = seasonOf(byDay(readings));
    const month = (of: number): number => season?.at(Date.UTC(1980, of - 1, 15) / DAY_MS) ?? NaN;
    const byHeight = Array.from({ length: 12 }, (_, i) => i + 1).sort((a, b) => month(b) - month(a));
    expect(byHeight.slice(0, 2).sort()).toEqual([7, 8]);
    expect([11, 2, 1]).toContain(byHeight.at(-1));
  });
});

/** Histories of five kinds, with what truly came after them. */
const KINDS: Readonly<Record<string, (random: () => number, days: number) => number[]>> = {
  steady: (random, n) => {
    const [usual, stray] = [4e9 * (0.5 + random()), 12e9 * random()];
    let at = 4 * TB;
    return Array.from({ length: n }, () => (at += usual + stray * normal(random)));
  },
  seasonal: (random, n) => {
    const usual = 4e9 * (0.5 + random());
    const [wave, phase] = [usual * 365 * (0.1 + 0.4 * random()), 2 * Math.PI * random()];
    let at = 4 * TB;
    return Array.from(
      { length: n },
      (_, i) => (at += usual * (1 + 2 * normal(random))) + wave * Math.sin((2 * Math.PI * i) / 365.25 + phase),
    );
  },
  bursts: (random, n) => {
    const [usual, often] = [2e9 * (0.5 + random()), (3 + 9 * random()) / 365];
    let at = 4 * TB;
    return Array.from(
      { length: n },
      () => (at += usual * (0.5 + random()) + (random() < often ? 1.5e11 * (0.5 + random()) : 0)),
    );
  },
  deletions: (random, n) => {
    const [usual, every] = [6e9 * (0.5 + random()), 30 + Math.floor(60 * random())];
    let [at, since, next] = [4 * TB, 0, every];
    return Array.from({ length: n }, (_, i) => {
      const come = usual * (0.5 + random());
      at += come;
      since += come;
      if (i >= next) {
        at -= since * (0.3 + 0.5 * random());
        since = 0;
        next = i + Math.round(every * (0.5 + random()));
      }
      return at;
    });
  },
  'new user': (random, n) => {
    const [usual, more, when] = [3e9 * (0.5 + random()), 1.5 + 2 * random(), 200 + Math.floor(350 * random())];
    let at = 4 * TB;
    return Array.from({ length: n }, (_, i) => (at += usual * (i < when ? 1 : more) * (0.3 + 1.4 * random())));
  },
};

describe('the span', () => {
  it.each(Object.entries(KINDS))(
    'holds what comes four times out of five: %s (75 to 88 of 100 generated histories)',
    (kind, generated) => {
      let [inside, all] = [0, 0];
      for (let k = 0; k < 120; k++) {
        const random = seeded(k * 7919 + 13);
        const days = kind === 'seasonal' ? 1168 : 730;
        const path = generated(random, days + 4000);
        const now = path[days - 1] as number;
        const top = now + (((path[days + 3000] as number) - now) / 3000) * (180 + 700 * random());
        const truth = path.findIndex((used, i) => i >= days && used >= top);
        if (now >= top || truth < 0) continue;
        const { crosses } = forecast(readingsOf(path.slice(0, days)), top / 0.8);
        const day = new Date(START + truth * DAY_MS).toISOString().slice(0, 10);
        all++;
        if (crosses && day >= crosses[0] && day <= crosses[2]) inside++;
      }
      expect(all).toBeGreaterThan(100);
      expect((100 * inside) / all).toBeGreaterThanOrEqual(75);
      expect((100 * inside) / all).toBeLessThanOrEqual(88);
    },
  );

  it('is dated in order, and narrower the longer the history is', () => {
    const random = seeded(2);
    const path = (KINDS['steady'] as (random: () => number, days: number) => number[])(random, 900);
    const width = (days: number): number => {
      const { crosses, slopeBytesPerYear: slope, fan } = forecast(readingsOf(path.slice(0, days)), 20 * TB);
      const [low, likely, high] = crosses ?? ['', '', ''];
      expect([low, likely, high]).toEqual([low, likely, high].sort());
      expect([...slope]).toEqual([...slope].sort((a, b) => a - b));
      expect(fan.every(({ usedBytes: [a, b, c] }) => a <= b && b <= c)).toBe(true);
      return (slope[2] - slope[0]) / slope[1];
    };
    expect(width(900)).toBeLessThan(width(90));
  });
});

describe('what is seen in a history', () => {
  const line = Array.from({ length: 400 }, (_, i) => 4 * TB + i * 4e9 + Math.sin(i * 12.9898) * 1e9);

  it('a large import is told, and is not in the slope', () => {
    const made = forecast(readingsOf(line.map((used, i) => (i < 250 ? used : used + 1.5 * TB))), 20 * TB);
    expect(made.found).toContain('jump');
    expect(made.jumps).toHaveLength(1);
    expect(made.jumps[0]?.on).toBe('2024-09-07');
    expect((made.jumps[0]?.bytes ?? 0) / TB).toBeCloseTo(1.5, 1);
    expect(made.slopeBytesPerYear[1] / (4e9 * 365.25)).toBeCloseTo(1, 1);
    // What came and went again is a wild day.
    expect(jumpsOf(byDay(readingsOf(line.map((used, i) => (i === 250 ? used + TB : used)))))).toEqual([]);
  });

  it('somebody new is told, with since when, and what was before does not slow it', () => {
    const made = forecast(readingsOf(line.map((used, i) => used + Math.max(0, i - 220) * 8e9)), 30 * TB);
    expect(made.found).toContain('slope-changed');
    expect(Math.abs(Date.parse(made.changedOn ?? '') - (START + 220 * DAY_MS))).toBeLessThan(15 * DAY_MS);
    expect(made.slopeBytesPerYear[1] / (12e9 * 365.25)).toBeCloseTo(1, 1);
  });

  it('nothing is guessed from too little: it is refused, or said', () => {
    for (const few of [[], [4 * TB]]) {
      const made = forecastUse(readingsOf(few), 10 * TB, 0.8, seeded(1));
      expect(isRefusal(made) && made.code).toBe('too-little-history');
    }
    // Two readings of one day are one.
    expect(
      isRefusal(
        forecastUse(
          [
            { at: '2026-01-01T01:00:00Z', usedBytes: 1 },
            { at: '2026-01-01T22:00:00Z', usedBytes: 2 },
          ],
          10,
          0.8,
          seeded(1),
        ),
      ),
    ).toBe(true);
    expect(forecast(readingsOf(line.slice(0, 9)), 20 * TB).found).toContain('little-history');
  });

  it('what falls or stays does not cross, and what is over is over', () => {
    const falls = forecast(readingsOf(line.map((used, i) => used - i * 9e9)), 20 * TB);
    expect([falls.crosses, falls.found]).toEqual([null, expect.arrayContaining(['falls', 'does-not-cross'])]);
    expect(forecast(readingsOf(line.map(() => 4 * TB)), 20 * TB).crosses).toBeNull();
    const over = forecast(readingsOf(line), 6 * TB);
    expect(over.found).toContain('over-the-line');
    expect(new Set(over.crosses).size).toBe(1);
  });

  it('neither the order of readings nor who asks again changes anything', () => {
    const readings = readingsOf(line);
    expect(forecast([...readings].reverse(), 20 * TB)).toEqual(forecast(readings, 20 * TB));
  });

  it('tells what strays for good from what comes back', () => {
    const random = seeded(9);
    let at = 0;
    const day = Array.from({ length: 730 }, (_, i) => i);
    const stray = wanderOf({ day, bytes: day.map(() => (at += normal(random))) }, 0);
    const back = wanderOf({ day, bytes: day.map(() => 20 * normal(random)) }, 0);
    expect(stray.perDay).toBeGreaterThan(0.5);
    expect(stray.perDay).toBeLessThan(2);
    expect(back.around / 400).toBeCloseTo(1, 0);
    expect(back.perDay).toBeLessThan(4);
  });
});
