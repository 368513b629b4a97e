import { estimateRebuild } from '../core/rebuild/estimateRebuild';
import { liveEstimate } from '../core/rebuild/liveEstimate';
import { KINDS, testRun, type Kind, type TestRun } from '../core/rebuild/testRuns';
import { workShapes } from '../core/rebuild/workShapes';

/**
 * How often the span of a live estimate holds the end, of 100, kind by kind and by how much is done when it is asked: 80 are
 * claimed. Behind it how often the end came after the span, and how often it was called stalled. npm run bench:live
 *
 * @param process.argv runs of each (100 where left out), the first seed, and words the names of kinds have to hold
 */
const [each, first, only] = [Number(process.argv[2] ?? 100), Number(process.argv[3] ?? 900_001), process.argv[4] ?? ''];
const QUARTERS = [
  [0.03, 0.25],
  [0.25, 0.5],
  [0.5, 0.75],
  [0.75, 0.97],
] as const;

const askOf = (run: TestRun) => {
  const { likely } = estimateRebuild(run.bands, run.drives, 'a', run.rebuild);
  return liveEstimate(workShapes(run.bands, run.drives, run.rebuild, 'a'), run.startedAt, run.reports, { likely });
};

function cell(kind: Kind, quarter: readonly [number, number]): string {
  let [held, late, stalled, of] = [0, 0, 0, 0];
  for (let k = 0; k < each; k++) {
    const run = testRun(kind, first + k, quarter);
    if (run.reports.length === 0) continue;
    const { low, high, found } = askOf(run);
    of++;
    if (Date.parse(low) <= run.end && run.end <= Date.parse(high)) held++;
    if (run.end > Date.parse(high)) late++;
    if (found.includes('stalled')) stalled++;
  }
  const share = (count: number): string => String(Math.round((100 * count) / Math.max(1, of)));
  return `${share(held)} (${share(late)}, ${share(stalled)})`;
}

console.log(['', ...QUARTERS.map(([from, to]) => `${String(from * 100)}–${String(to * 100)} %`)].join('\t'));
for (const kind of KINDS)
  if (kind.includes(only)) console.log([kind, ...QUARTERS.map((quarter) => cell(kind, quarter))].join('\t'));
