import { livesOf } from '~/core/risk/simulate/life';
import { simulate } from '~/core/risk/simulate/simulate';
import { exponential, type SimulatedPool } from '~/core/risk/simulate/simulatedPool';
import { memberWith, poolWith } from '~/core/risk/simulate/testPool';
import { seeded } from '~/core/value/seeded';

/**
 * Lives of a pool of eight drives: a second's worth, beside a plain event loop that keeps a clock for every drive and lives all
 * of them; and how long a rare loss takes to be known to a tenth, beside what that loop would take.
 */
const YEARS = 5;
const HOURS = YEARS * 8760;
const MTTF = 1e6;
const pool = (n: number, redundancy: number, mttf: number, rebuildHours: number): SimulatedPool =>
  poolWith(
    Array.from({ length: n }, () =>
      memberWith({ life: { shape: 1.12, scaleHours: mttf }, rebuild: exponential(rebuildHours) }),
    ),
    redundancy,
  );

/** What somebody would write first: every drive's next failure drawn, the earliest taken, until the time is over. */
function plainLoop(n: number, redundancy: number, mttf: number, rebuildHours: number, lives: number): number {
  const random = seeded(9);
  const life = (): number => mttf * (-Math.log(1 - random())) ** (1 / 1.12);
  let lost = 0;
  for (let k = 0; k < lives; k++) {
    const events = Array.from({ length: n }, (_, drive) => ({ at: life(), drive, isBack: false }));
    let missing = 0;
    for (;;) {
      events.sort((a, b) => a.at - b.at);
      const next = events.shift();
      if (!next || next.at >= HOURS) break;
      if (next.isBack) {
        missing--;
        events.push({ at: next.at + life(), drive: next.drive, isBack: false });
        continue;
      }
      if (++missing > redundancy) {
        lost++;
        break;
      }
      events.push({ at: next.at - rebuildHours * Math.log(1 - random()), drive: next.drive, isBack: true });
    }
  }
  return lost;
}

const seconds = (work: () => void): number => {
  const began = performance.now();
  work();
  return (performance.now() - began) / 1000;
};

const eight = pool(8, 1, MTTF, 24);
const live = livesOf(eight, HOURS, 1, false);
const LIVES = 400_000;
const PLAIN = 40_000;
for (let i = 0; i < 20_000; i++) live(i);
plainLoop(8, 1, MTTF, 24, 4000);
// Side by side, so that a slow minute of the machine is one of both.
const pairs = Array.from({ length: 3 }, () => [
  seconds(() => {
    for (let i = 0; i < LIVES; i++) live(i);
  }),
  seconds(() => plainLoop(8, 1, MTTF, 24, PLAIN)),
]);
const [ours, plain] = [0, 1].map((i) => pairs.map((pair) => pair[i] as number).sort((a, b) => a - b)[1] as number) as [
  number,
  number,
];
const [perSecond, plainPerSecond] = [LIVES / ours, PLAIN / plain];
console.log(
  `five-year lives of 8 drives: ${(perSecond / 1e6).toFixed(2)} M a second, ${(perSecond / plainPerSecond).toFixed(1)} times a plain event loop (${(plainPerSecond / 1e6).toFixed(3)} M)`,
);

const rare = pool(8, 2, 2e6, 10);
let found = simulate(rare, { hours: HOURS, seed: 1, mostLives: 1 });
const took = seconds(() => {
  found = simulate(rare, { hours: HOURS, seed: 1, mostLives: 5e6, closeTo: 0.1 });
});
const { likely, low, high } = found.lost;
// A tenth to both sides, 95 of 100, by counting: (1.96 / 0.1)² losses.
const wouldTake = 19.6 ** 2 / likely / plainPerSecond;
console.log(
  `a loss of ${likely.toExponential(2)} to ± ${((50 * (high - low)) / likely).toFixed(1)} %: ${took.toFixed(2)} s (${String(found.lives)} lives), by counting ${(wouldTake / 86_400).toFixed(1)} days: ${Math.round(wouldTake / took).toExponential(0)} times as long`,
);
