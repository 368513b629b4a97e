/** For tests and figures: histories of use of ten kinds, with what truly came after them, and eleven ways of reading them. */

const TB = 1e12;
/** Days of a history that are read. */
export const HISTORY = 730;
export type Random = () => number;
export const normal = (random: Random): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

/** What is used, day by day, over a history and what comes after it. */
export const SHAPES: Readonly<Record<string, (random: Random, days: number) => number[]>> = {
  steady: (random, n) => {
    const usual = 3e9 * (0.5 + random());
    return Array.from({ length: n }, (_, i) => 4 * TB + usual * i + 5e9 * normal(random));
  },
  irregular: (random, n) => {
    const [usual, stray] = [4e9 * (0.5 + random()), 12e9 * random()];
    let at = 4 * TB;
    return Array.from({ length: n }, () => (at += usual + stray * normal(random)));
  },
  wandering: (random, n) => {
    const [usual, stray] = [1e9 * random(), 20e9];
    let at = 6 * TB;
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
  'change of slope': (random, n) => {
    const [usual, more, when] = [3e9 * (0.5 + random()), 1.5 + 2 * random(), 200 + Math.floor(350 * random())];
    let at = 4 * TB;
    return Array.from({ length: n }, (_, i) => (at += usual * (i < when ? 1 : more) * (0.3 + 1.4 * random())));
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
  'comes back': (random, n) => {
    const usual = 3e9 * (0.5 + random());
    let off = 0;
    return Array.from({ length: n }, (_, i) => {
      off = 0.9 * off + 20e9 * normal(random);
      return 4 * TB + usual * i + off;
    });
  },
  'drifting slope': (random, n) => {
    let [at, slope] = [4 * TB, 3e9 * (0.5 + random())];
    return Array.from({ length: n }, () => {
      slope += 1.2e8 * normal(random);
      return (at = Math.max(0, at + slope + 3e9 * normal(random)));
    });
  },
  compound: (random, n) => {
    const rate = Math.log(1.2 + 0.3 * random()) / 365.25;
    return Array.from({ length: n }, (_, i) => 3 * TB * Math.exp(rate * i) * (1 + 0.003 * normal(random)));
  },
};

const every = (days: number) => (): number[] =>
  Array.from({ length: Math.floor((HISTORY - 1) / days) + 1 }, (_, i) => HISTORY - 1 - i * days).reverse();
const scattered =
  (mean: number) =>
  (random: Random): number[] => {
    const days = new Set([HISTORY - 1]);
    for (let at = HISTORY - 1; ;) {
      at -= Math.max(1, Math.round(-mean * Math.log(1 - random())));
      if (at < 0) break;
      days.add(at);
    }
    return [...days].sort((a, b) => a - b);
  };
/** On which days of the history it is read. */
export const WAYS: Readonly<Record<string, (random: Random) => number[]>> = {
  daily: every(1),
  'every 2': every(2),
  'every 3': every(3),
  'every 5': every(5),
  weekly: every(7),
  'every 10': every(10),
  'every 14': every(14),
  'every 30': every(30),
  scattered: scattered(12),
  'scattered, few': scattered(100),
  quarterly: every(91),
};
