/**
 * How long finding the cheapest way to grow takes, beside an integer programme over time for the same question (HiGHS), at
 * equal cost; how it goes with more bays; and the fan of a forecast.
 *
 * Run: npm run bench:growth
 */
import highsLoader from 'highs';
import { readFileSync } from 'node:fs';
import { forecastUse } from '../core/forecast/forecastUse';
import { cheapestGrowth, neededAfter, type Need } from '../core/growth/cheapestGrowth';
import { growingOf, type Allowed } from '../core/growth/growing';
import type { Costs } from '../core/growth/priceList';
import { programmeText } from '../core/growth/testProgramme';
import { planLayout } from '../core/layout/planLayout';
import type { Scheme } from '../core/layout/scheme';
import type { Profile } from '../core/platform/profile';
import { drivesByName, membersOnly, poolOfLayout } from '../core/pool/ofLayout';
import { seeded } from '../core/value/seeded';

const plain = JSON.parse(readFileSync('core/platform/profiles/plain.json', 'utf8')) as Profile;
const TB = 1e12;
const SIZES = [4, 6, 8, 12, 16, 20];
const costs: Costs = {
  prices: [9000, 13_000, 16_000, 23_000, 31_000, 42_000].map((cents, i) => ({
    bytes: (SIZES[i] as number) * TB,
    cents,
  })),
  declinePerYear: 0.15,
  labourCents: 2000,
  discountPerYear: 0,
};
const allowed: Allowed = { kinds: ['swap', 'add', 'group'], sizes: SIZES.map((size) => size * TB), leastMargin: 0 };

function startOf(scheme: Scheme, members: number, bays: number, width?: number, sizes: readonly number[] = [4]) {
  const drives = Array.from({ length: members }, (_, i) => ({
    bay: String(i + 1),
    bytes: (sizes[i % sizes.length] as number) * TB,
  }));
  const layout = planLayout(plain, scheme, drives, 0, width);
  const free = Array.from({ length: bays - members }, (_, i) => String(members + i + 1));
  return growingOf(plain, poolOfLayout(layout), drivesByName(membersOnly(layout, drives)), free);
}
const needOf = (usable: number, perYear: number, years: number): Need => ({
  usedBytes: usable * 0.6,
  perYearBytes: usable * 0.6 * perYear,
  line: 0.8,
  years,
  everyMonths: 12,
});
const timed = <T>(work: () => T): [number, T] => {
  const began = performance.now();
  const made = work();
  return [performance.now() - began, made];
};
const total = (found: ReturnType<typeof cheapestGrowth>): number =>
  found?.kind === 'growth-path' ? found.totalCents : NaN;

/** Single parity by swapping only: which size each member has after each decision, and what is bought for it. */
function programme(sizes: readonly number[], need: Need): string {
  const months = Array.from({ length: need.years }, (_, i) => i * 12);
  const all = [...new Set([...sizes, ...SIZES])].sort((a, b) => a - b);
  const objective: string[] = [];
  const rows: string[] = [];
  const binaries: string[] = [];
  for (const [k, month] of months.entries()) {
    rows.push(`${String(sizes.length - 1)} h${String(k)} >= ${String(neededAfter(need, month) / TB)}`);
    for (const [i, size] of sizes.entries()) {
      const at = (s: number, when = k): string => `y${String(i)}_${String(when)}_${String(s)}`;
      rows.push(`${all.map((s) => at(s)).join(' + ')} = 1`);
      rows.push(`h${String(k)} - ${all.map((s) => `${String(s)} ${at(s)}`).join(' - ')} <= 0`);
      for (const s of all) {
        const bought = `b${String(i)}_${String(k)}_${String(s)}`;
        const price = costs.prices.find(({ bytes }) => bytes === s * TB)?.cents ?? 0;
        objective.push(`${String(Math.round(price * 0.85 ** (month / 12)) + costs.labourCents)} ${bought}`);
        binaries.push(at(s), bought);
        rows.push(
          k === 0
            ? `${bought} - ${at(s)} >= ${s === size ? '-1' : '0'}`
            : `${bought} - ${at(s)} + ${at(s, k - 1)} >= 0`,
        );
      }
    }
  }
  return programmeText({ objective, rows, binaries });
}

const highs = await highsLoader();
console.log('Beside an integer programme over time (HiGHS), single parity, swaps only:');
for (const [members, years] of [
  [4, 5],
  [6, 6],
  [8, 6],
  [12, 10],
] as const) {
  const start = startOf('parity-1', members, members, undefined, [4, 6, 8]);
  const need = needOf(start.usableBytes, 0.25, years);
  const [ours, found] = timed(() => cheapestGrowth(start, need, costs, { ...allowed, kinds: ['swap'] }));
  const sizes = Array.from({ length: members }, (_, i) => [4, 6, 8][i % 3] as number);
  const [theirs, solved] = timed(() => highs.solve(programme(sizes, need), { time_limit: 120 }));
  console.log(
    `  ${String(members)} bays, six sizes, ${String(years)} years: ${ours.toFixed(1)} ms; HiGHS ${theirs.toFixed(0)} ms (${solved.Status}); ratio ${(theirs / ours).toFixed(0)}; cost ${String(total(found))} and ${String(Math.round(solved.ObjectiveValue))}`,
  );
}
console.log('With all kinds of steps, six sizes, ten years:');
for (const [name, start] of [
  ['single parity, 4 of 12 bays', startOf('parity-1', 4, 12)],
  ['double parity, 8 of 12 bays', startOf('parity-2', 8, 12)],
  ['mixed, 4 of 12 bays', startOf('mixed-1', 4, 12)],
  ['double parity, 12 of 24 bays', startOf('parity-2', 12, 24)],
  ['mixed, 12 of 24 bays', startOf('mixed-1', 12, 24)],
  ['mixed, 12 of 24, four sizes', startOf('mixed-1', 12, 24, undefined, [4, 6, 8, 12])],
  ['mixed that loses two, 20 of 24', startOf('mixed-2', 20, 24, undefined, [4, 6, 8, 12])],
  ['dedicated, 12 of 24, four sizes', startOf('dedicated-1', 12, 24, undefined, [4, 6, 8, 12])],
  ['groups of eight, 16 of 80 bays', startOf('parity-2-groups', 16, 80, 8)],
] as const) {
  const [ms, found] = timed(() => cheapestGrowth(start, needOf(start.usableBytes, 0.25, 10), costs, allowed));
  console.log(`  ${name.padEnd(32)}${ms.toFixed(0).padStart(6)} ms, ${String(total(found))}`);
}
const random = seeded(1);
let at = 4 * TB;
const readings = Array.from({ length: 730 }, (_, i) => ({
  at: new Date(Date.UTC(2024, 0, 1 + i)).toISOString(),
  usedBytes: Math.round((at += 4e9 * (0.5 + random()))),
}));
const times = Array.from({ length: 21 }, () => timed(() => forecastUse(readings, 12 * TB, 0.8, seeded(1)))[0]);
console.log(`The fan of two years of days: ${(times.sort((a, b) => a - b)[10] ?? NaN).toFixed(1)} ms (median of 21)`);
