import * as statistics from 'simple-statistics';
import { DAY_MS } from '../quantity/days';
import { seeded } from '../value/seeded';
import { isRefusal } from '../value/refusal';
import { byDay, type Reading } from './byDay';
import { forecastUse, type Forecast } from './forecastUse';
import { heldBefore } from './heldBefore';
import { jumpsOf } from './jumps';
import { median, quantile } from './median';
import { seasonOf } from './season';
import { HISTORY, normal, SHAPES, WAYS } from './testHistories';
import { theilSen } from './theilSen';
import { modelsOf } from './models';
import { heardOf } from './strayingLine';

const START = Date.parse('2024-01-01T20:00:00Z');
const TB = 1e12;
const dayAt = (day: number): string => new Date(START + day * DAY_MS).toISOString();
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

/** Kinds whose day of crossing is held against what truly came. */
const CROSSING = ['irregular', 'seasonal', 'bursts', 'deletions', 'change of slope'] as const;
const generatedBy = (kind: string): (typeof SHAPES)[string] => SHAPES[kind] as (typeof SHAPES)[string];

describe('the span', () => {
  // 72 to 88 of 100 are meant; of 120 histories chance takes or gives four more.
  it.each(CROSSING)('holds what comes four times out of five: %s (68 to 92 of 100 generated histories)', (kind) => {
    const generated = generatedBy(kind);
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
    expect((100 * inside) / all).toBeGreaterThanOrEqual(68);
    expect((100 * inside) / all).toBeLessThanOrEqual(92);
  });

  it.each(['every 3', 'every 10', 'every 30', 'quarterly', 'scattered, few'])(
    'has width however seldom it is read, and holds what comes a year and two later: %s, of 60 histories each',
    (way) => {
      for (const kind of ['irregular', 'wandering']) {
        let [held, of] = [0, 0];
        for (let k = 0; k < 60; k++) {
          const random = seeded(k * 104_729 + 11);
          const path = generatedBy(kind)(random, HISTORY + 740);
          const days = (WAYS[way] as (typeof WAYS)[string])(random);
          const readings = days.map((day) => ({ at: dayAt(day), usedBytes: Math.round(path[day] as number) }));
          const { fan } = forecast(readings, 1000 * TB);
          expect(fan.every(({ usedBytes: [low, , high] }) => low < high)).toBe(true);
          for (const ahead of [365, 730]) {
            const point = fan.findLast(({ on }) => on <= dayAt(HISTORY - 1 + ahead).slice(0, 10));
            const day = Math.round((Date.parse(point?.on ?? '') - START) / DAY_MS);
            const [low, , high] = point?.usedBytes ?? [0, 0, 0];
            of++;
            if ((path[day] as number) >= low && (path[day] as number) <= high) held++;
          }
        }
        expect((100 * held) / of).toBeGreaterThan(65);
      }
    },
  );

  it.each(['daily', 'weekly', 'every 30'])('is not too late where use grows by a share of itself: read %s', (way) => {
    let [held, late, seen] = [0, 0, 0];
    for (let k = 0; k < 40; k++) {
      const random = seeded(k * 15_485_863 + 5);
      const path = generatedBy('compound')(random, HISTORY + 740);
      const days = (WAYS[way] as (typeof WAYS)[string])(random);
      const { fan, found } = forecast(
        days.map((day) => ({ at: dayAt(day), usedBytes: Math.round(path[day] as number) })),
        1000 * TB,
      );
      if (found.includes('compound')) seen++;
      const point = fan.findLast(({ on }) => on <= dayAt(HISTORY + 364).slice(0, 10));
      const truth = path[Math.round((Date.parse(point?.on ?? '') - START) / DAY_MS)] as number;
      const [low, , high] = point?.usedBytes ?? [0, 0, 0];
      if (truth >= low && truth <= high) held++;
      if (truth > high) late++;
    }
    // A fifth a year bends little in two years: some of those are straight lines still.
    expect(seen).toBeGreaterThanOrEqual(0.7 * 40);
    expect(held).toBeGreaterThanOrEqual(0.72 * 40);
    expect(late).toBeLessThanOrEqual(0.2 * 40);
  });

  it('strays as it has since its slope changed, not as before, and crosses neither too soon nor too late', () => {
    let held = 0;
    const off: number[] = [];
    for (let k = 0; k < 50; k++) {
      const path = generatedBy('change of slope')(seeded(k * 86_028_121 + 3), HISTORY + 1500);
      const readings = path.slice(0, HISTORY).map((usedBytes, day) => ({ at: dayAt(day), usedBytes }));
      const line = 1.25 * (path[HISTORY - 1] as number);
      const { fan, crosses } = forecast(readings, line / 0.8);
      const point = fan.findLast(({ on }) => on <= dayAt(HISTORY + 729).slice(0, 10));
      const truth = path[Math.round((Date.parse(point?.on ?? '') - START) / DAY_MS)] as number;
      const [low, , high] = point?.usedBytes ?? [0, 0, 0];
      if (truth >= low && truth <= high) held++;
      const day = path.findIndex((used, i) => i >= HISTORY && used >= line) - HISTORY;
      off.push(((Date.parse(crosses?.[1] ?? '') - START) / DAY_MS - HISTORY) / day - 1);
    }
    // 36 of these 50 where what it strays by was taken from all of it.
    expect(held).toBeGreaterThanOrEqual(38);
    expect(Math.abs(off.sort((a, b) => a - b)[25] as number)).toBeLessThan(0.05);
  });

  it.each(['daily', 'weekly', 'every 30'])('holds what comes where the slope itself strays: read %s', (way) => {
    let [held, said] = [0, 0];
    for (let k = 0; k < 40; k++) {
      const random = seeded(k * 32_452_843 + 7);
      const path = generatedBy('drifting slope')(random, HISTORY + 740);
      const days = (WAYS[way] as (typeof WAYS)[string])(random);
      const { fan, found } = forecast(
        days.map((day) => ({ at: dayAt(day), usedBytes: Math.round(path[day] as number) })),
        1000 * TB,
      );
      if (found.includes('drifts')) said++;
      const point = fan.findLast(({ on }) => on <= dayAt(HISTORY + 364).slice(0, 10));
      const truth = path[Math.round((Date.parse(point?.on ?? '') - START) / DAY_MS)] as number;
      const [low, , high] = point?.usedBytes ?? [0, 0, 0];
      if (truth >= low && truth <= high) held++;
    }
    // A straight line alone held 20 to 43 of 100 of these. 72 are meant; of 40 chance takes six.
    expect(held).toBeGreaterThanOrEqual(0.6 * 40);
    expect(said).toBeGreaterThanOrEqual(0.6 * 40);
  });

  it.each(['daily', 'weekly', 'every 14'])(
    'is no wider than it must where use comes back to its line: read %s',
    (way) => {
      let [held, width] = [0, 0];
      for (let k = 0; k < 40; k++) {
        const random = seeded(k * 49_979_687 + 3);
        const path = generatedBy('comes back')(random, HISTORY + 740);
        const days = (WAYS[way] as (typeof WAYS)[string])(random);
        const { fan } = forecast(
          days.map((day) => ({ at: dayAt(day), usedBytes: Math.round(path[day] as number) })),
          1000 * TB,
        );
        const point = fan.findLast(({ on }) => on <= dayAt(HISTORY + 364).slice(0, 10));
        const truth = path[Math.round((Date.parse(point?.on ?? '') - START) / DAY_MS)] as number;
        const [low, , high] = point?.usedBytes ?? [0, 0, 0];
        if (truth >= low && truth <= high) held++;
        width += (high - low) / 40;
      }
      expect(held).toBeGreaterThanOrEqual(0.62 * 40);
      // What is off strays by 46 GB, 118 GB four times in five; a line that strayed for good was drawn 700 wide.
      expect(width).toBeLessThan(0.4 * TB);
    },
  );

  it('is dated in order, and narrower the longer the history is', () => {
    const random = seeded(2);
    const path = generatedBy('irregular')(random, 900);
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

describe('how often the same held before', () => {
  it('is asked quarter by quarter with what was read until then, and of a wild past it says so', () => {
    const path = generatedBy('irregular')(seeded(3), HISTORY);
    const asked = heldBefore(readingsOf(path), seeded(1));
    expect(asked?.of).toBe(7);
    expect(asked?.held).toBeGreaterThanOrEqual(4);
    // A line for a year and a half that then turns: what was foretold before did not hold.
    const turned = heldBefore(
      readingsOf(path.map((_, i) => 4 * TB + 2e9 * Math.min(i, 500) + 3e10 * Math.max(0, i - 500) + 1e8 * (i % 3))),
      seeded(1),
    );
    expect(turned?.held).toBeLessThan(turned?.of ?? 0);
    for (const few of [path.slice(0, 200), path.slice(0, 1), []])
      expect(heldBefore(readingsOf(few), seeded(1))).toBeNull();
  });

  it('never goes beyond what can be counted, however wild so little is', () => {
    const wild = [1, 9, 2].map((used, i) => ({ at: dayAt(i * 90), usedBytes: used * 1e14 }));
    const { fan } = forecast(wild, 8e15);
    expect(fan.every(({ usedBytes }) => usedBytes.every((one) => Number.isSafeInteger(one) && one >= 0))).toBe(true);
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

  it('a reading that is rounded is no change: one step of it is no jump', () => {
    for (const step of [1e11, 0.1 * 2 ** 40]) {
      const path = generatedBy('steady')(seeded(4), HISTORY);
      const rounded = path.filter((_, i) => i % 7 === 0).map((used) => Math.round(used / step) * step);
      const made = forecast(readingsOf(rounded, 7), 40 * TB);
      expect([made.found, made.jumps]).toEqual([expect.not.arrayContaining(['jump', 'jumps-again-and-again']), []]);
      const slope = ((path.at(-1) as number) - (path[0] as number)) / (HISTORY / 365.25);
      expect(made.slopeBytesPerYear[1] / slope).toBeGreaterThan(0.8);
      expect(made.slopeBytesPerYear[1] / slope).toBeLessThan(1.2);
    }
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

  it('tells what strays for good from what comes back, and a line from a curve, a break and a slope that strays', () => {
    const random = seeded(9);
    let at = 0;
    const day = Array.from({ length: 240 }, (_, i) => 3 * i);
    const likeliest = (bytes: readonly number[]) =>
      heardOf({ day, bytes }, 'stays').reduce((a, b) => (b.evidence > a.evidence ? b : a));
    const stray = likeliest(day.map(() => (at += Math.sqrt(3) * normal(random))));
    const back = likeliest(day.map(() => 20 * normal(random)));
    // What it strays by a day was drawn as 1, and what comes back as 400.
    expect(stray.reading).toBeLessThan(5);
    expect(stray.scale).toBeGreaterThan(0.7);
    expect(stray.scale).toBeLessThan(1.4);
    expect((back.scale * back.reading) / 400).toBeGreaterThan(0.8);
    expect((back.scale * back.reading) / 400).toBeLessThan(1.2);
    // Of one kind each, ten: which weighs most. A break may be one of nothing, and is as good as a line then.
    const most = (kind: string): string | undefined => {
      const kinds = Array.from({ length: 10 }, (_, k) => {
        const path = generatedBy(kind)(seeded(7_000_003 + k * 7919), HISTORY);
        const days = { day: path.map((_of, i) => i), bytes: path };
        return modelsOf(days, { isLine: false, isSmoothed: false })[0]?.model.kind ?? '';
      });
      const said = kinds.map((one) => (one === 'broken' && kind === 'steady' ? 'line' : one));
      return said.find((one) => said.filter((other) => other === one).length > said.length / 2);
    };
    // What is off one day and not the next is off a line it comes back to; either may weigh more.
    expect(['line', 'reverts']).toContain(most('steady'));
    expect(['comes back', 'compound', 'change of slope', 'drifting slope', 'seasonal'].map(most)).toEqual([
      'reverts',
      'curve',
      'broken',
      'drift',
      'wave',
    ]);
  });
});
