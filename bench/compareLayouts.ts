/**
 * How long comparing every layout with all its columns takes in the browser, against one frame (16 ms), and against
 * what one would take instead: counting failure sets one by one, a general linear programme for the mixed pools, a
 * general library's matrix exponential for the chain.
 *
 * Run: npm run bench
 */
import { buildSync } from 'esbuild';
import highsLoader from 'highs';
import { readFileSync } from 'node:fs';
import { expm, matrix } from 'mathjs';
import { USUAL_ASSUMPTIONS } from '../core/appraisal/appraise';
import { livesOfGroup, LOST, UNREADABLE } from '../core/risk/memberChain';
import { compareLayouts, planLayout } from '../core/layout/planLayout';
import { SCHEMES } from '../core/layout/scheme';
import type { Profile } from '../core/platform/profile';
import { isSurvived } from '../core/survival/isSurvived';
import { subsets } from '../core/survival/subsets';
import { openBrowser, openPage } from '../e2e/browser';

const FRAME_MS = 16;
const plain = JSON.parse(readFileSync('core/platform/profiles/plain.json', 'utf8')) as Profile;

const median = (times: number[]): number => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)] as number;
const time = (runs: number, work: () => unknown): number => {
  const times = Array.from({ length: runs }, () => {
    const began = performance.now();
    work();
    return performance.now() - began;
  });
  return median(times);
};
const drives = (count: number, kinds: number) =>
  Array.from({ length: count }, (_, i) => ({ bay: String(i + 1), bytes: 4e12 + (i % kinds) * 1e12 }));

const bundle = buildSync({
  stdin: {
    contents: `
      export { compareLayouts } from './core/layout/planLayout';
      export { SCHEMES } from './core/layout/scheme';
      export { appraise } from './core/appraisal/appraise';
      export { recommend, USUAL_NEEDS } from './core/appraisal/recommend';`,
    resolveDir: process.cwd(),
  },
  bundle: true,
  format: 'iife',
  globalName: 'shelf',
  write: false,
  minify: true,
}).outputFiles[0]?.text;

const browser = await openBrowser();
const page = await openPage(browser);
await page.evaluate(bundle ?? '');
console.log(`In the browser, one frame is ${String(FRAME_MS)} ms:`);
for (const [count, kinds, spares] of [
  [24, 1, 0],
  [24, 6, 0],
  [24, 24, 2],
  [80, 4, 2],
] as const) {
  const figures = (await page.evaluate(
    `(() => {
      const profile = ${JSON.stringify(plain)};
      const drives = ${JSON.stringify(drives(count, kinds))};
      const once = () => {
        const began = performance.now();
        const appraisals = shelf.compareLayouts(profile, shelf.SCHEMES, drives, ${String(spares)}).map((layout) => shelf.appraise(profile, layout, drives));
        shelf.recommend(appraisals, shelf.USUAL_NEEDS);
        return [performance.now() - began, appraisals.length];
      };
      const [first, layouts] = once();
      const times = Array.from({ length: 200 }, () => once()[0]).sort((a, b) => a - b);
      return { first, layouts, median: times[100], p95: times[190] };
    })()`,
  )) as { first: number; layouts: number; median: number; p95: number };
  const { first, layouts, median: usual, p95 } = figures;
  console.log(
    `  ${String(count)} bays, ${String(kinds)} sizes, ${String(spares)} spares: ${String(layouts)} layouts, first ${first.toFixed(1)} ms, median ${usual.toFixed(1)} ms, 95th ${p95.toFixed(1)} ms; ` +
      `first is ${(first / FRAME_MS).toFixed(2)} of a frame, median ${(usual / FRAME_MS).toFixed(2)}`,
  );
}

/** The bench's own worker, asked as its page does: at once for no drives, then for 24 that somebody put in. */
const workerText = buildSync({
  entryPoints: ['web/parts/bench/benchWorker.ts'],
  bundle: true,
  format: 'iife',
  write: false,
  minify: true,
}).outputFiles[0]?.text;
const comlink = buildSync({
  stdin: { contents: `export { wrap } from 'comlink';`, resolveDir: process.cwd() },
  bundle: true,
  format: 'iife',
  globalName: 'comlink',
  write: false,
}).outputFiles[0]?.text;
console.log('The bench’s worker, newly begun, the first comparison of 24 drives, message there and back:');
for (const [words, pause] of [
  ['asked at once', 0],
  ['a second after the page is there', 1000],
] as const) {
  const firsts: number[] = [];
  for (let round = 0; round < 5; round++) {
    const fresh = await openPage(browser);
    await fresh.evaluate(comlink ?? '');
    firsts.push(
      (await fresh.evaluate(
        `(async () => {
          const worker = new Worker(URL.createObjectURL(new Blob([${JSON.stringify(workerText)}])));
          const remote = comlink.wrap(worker);
          const asked = { profile: ${JSON.stringify(plain)}, wish: 0, assumptions: ${JSON.stringify(USUAL_ASSUMPTIONS)}, failuresPerYear: [0.009, 0.04] };
          if (${String(pause)} > 0) {
            await remote.compareAll({ ...asked, drives: [] });
            await new Promise((resolve) => setTimeout(resolve, ${String(pause)}));
          }
          const began = performance.now();
          await remote.compareAll({ ...asked, drives: ${JSON.stringify(drives(24, 1))} });
          return performance.now() - began;
        })()`,
      )) as number,
    );
    await fresh.close();
  }
  console.log(`  ${words}: ${firsts.map((one) => one.toFixed(0)).join(', ')} ms; median ${median(firsts).toFixed(0)}`);
}
await browser.close();

console.log('Here, side by side:');
const sixteen = drives(16, 4);
const ours = time(50, () => compareLayouts(plain, SCHEMES, sixteen));
const layouts = compareLayouts(plain, SCHEMES, sixteen).filter(({ legal }) => legal);
const byHand = time(1, () => {
  for (const { bands } of layouts) {
    const members = [...new Set(bands.flatMap((band) => band.members))];
    for (let k = 0; k <= members.length; k++) for (const set of subsets(members, k)) isSurvived(bands, new Set(set));
  }
});
console.log(
  `  16 bays, all layouts with survival: ${ours.toFixed(2)} ms; counting every failure set: ${byHand.toFixed(0)} ms; ratio ${(byHand / ours).toFixed(0)}`,
);

const highs = await highsLoader();
const ten = drives(10, 5);
const names = ten.map((_, i) => i);
const sets = names.flatMap((k) => [...subsets(names, k + 1)]).filter((set) => set.length > 1);
const programme = [
  'Maximize',
  `obj: ${sets.map((set, i) => `${String(set.length - 1)} x${String(i)}`).join(' + ')}`,
  'Subject To',
  ...names.map(
    (drive) =>
      `c${String(drive)}: ${sets.flatMap((set, i) => (set.includes(drive) ? [`x${String(i)}`] : [])).join(' + ')} <= ${String((ten[drive] as { bytes: number }).bytes / 1e12)}`,
  ),
  'End',
].join('\n');
const direct = time(200, () => planLayout(plain, 'mixed-1', ten));
const solved = time(5, () => highs.solve(programme));
console.log(
  `  mixed pool of 10 drives: ${direct.toFixed(3)} ms; as a linear programme over all ${String(sets.length)} sets: ${solved.toFixed(1)} ms; ratio ${(solved / direct).toFixed(0)}`,
);

/** Ten drives and two of parity: what a comparison asks of them, by failures alone and with an end at an unreadable sector. */
const PER_BYTE = 8e-15;
const READ = 4e12;
const exact = (): readonly number[] => {
  const { failing, reading } = livesOfGroup({
    kinds: [{ count: 12, failureRate: 1 / 3000, rebuildHours: 40, unreadablePerByte: PER_BYTE, bands: [0] }],
    bands: [{ redundancy: 2, readBytes: READ }],
    repairs: 'serial',
    spares: 0,
    orderHours: 0,
  });
  return [failing.by(2000)[LOST] as number, reading?.by(2000)[UNREADABLE] as number];
};
const met = -Math.expm1(-10 * PER_BYTE * READ);
const generator = (chance: number): number[][] => [
  ...[0, 1, 2].map((failed) => {
    const [up, down] = [(12 - failed) / 3000, failed > 0 ? 1 / 40 : 0];
    const stops = failed === 2 ? down * chance : 0;
    return [0, 1, 2, 3, 4].map(
      (to) =>
        2000 *
        (to === failed + 1 ? up : to === failed - 1 ? down - stops : to === failed ? -up - down : to === 4 ? stops : 0),
    );
  }),
  [0, 0, 0, 0, 0],
  [0, 0, 0, 0, 0],
];
const general = (): readonly number[] => [
  Number(expm(matrix(generator(0))).get([0, 3])),
  Number(expm(matrix(generator(met))).get([0, 4])),
];
const ratio = Math.max(...exact().map((one, i) => Math.abs(1 - one / (general()[i] as number))));
const BATCH = 200;
const batched = (work: () => unknown): number => time(40, () => Array.from({ length: BATCH }, work)) / BATCH;
const chain = batched(exact);
const library = batched(general);
console.log(
  `  both lives of 10 + 2 drives: ${(chain * 1000).toFixed(1)} µs; by general matrix exponentials ${(library * 1000).toFixed(0)} µs; ratio ${(library / chain).toFixed(0)}, values agree to ${ratio.toExponential(1)}`,
);
