import { estimateRebuild } from '../core/rebuild/estimateRebuild';
import { keptOf } from '../core/rebuild/hoursLearnt';
import { liveEstimate } from '../core/rebuild/liveEstimate';
import type { RunKept } from '../core/rebuild/paces';
import { progressRuns } from '../core/rebuild/progressRuns';
import { KINDS, testRun, type Kind, type TestRun } from '../core/rebuild/testRuns';
import { workCurve } from '../core/rebuild/workCurve';
import { workShapes } from '../core/rebuild/workShapes';

/**
 * How often the span of a live estimate holds the end, of 100, kind by kind and by how much is done when it is asked: 80 are
 * claimed. Behind it how often the end came after the span, and how often it was called stalled. npm run bench:live
 *
 * @param process.argv runs of each (100 where left out), the first seed, and words the names of kinds have to hold
 */
const [each, first, only] = [Number(process.argv[2] ?? 100), Number(process.argv[3] ?? 900_001), process.argv[4] ?? ''];
/** Kinds that a unit's earlier run says something of. */
const OF_HOURS: readonly Kind[] = [
  'as reckoned',
  'office hours',
  'pauses by night',
  'fast weekends',
  'clock off by hours',
];
const QUARTERS = [
  [0.03, 0.25],
  [0.25, 0.5],
  [0.5, 0.75],
  [0.75, 0.97],
] as const;

/** What the unit keeps of a run of its that was read to its end. */
const keptOfRun = ({ bands, drives, rebuild, startedAt, reports }: TestRun): readonly RunKept[] => {
  const curve = workCurve(bands, drives, rebuild, 'a');
  const run = progressRuns(curve, startedAt, reports, false).at(-1);
  const kept = run ? keptOf(curve, run) : null;
  return kept ? [kept] : [];
};

const askOf = (run: TestRun, kept: readonly RunKept[]) => {
  const { likely } = estimateRebuild(run.bands, run.drives, 'a', run.rebuild);
  const shapes = workShapes(run.bands, run.drives, run.rebuild, 'a');
  return liveEstimate(shapes, run.startedAt, run.reports, { likely, kept });
};

function cell(kind: Kind, quarter: readonly [number, number], isSecond: boolean): string {
  let [held, late, stalled, of] = [0, 0, 0, 0];
  for (let k = 0; k < each; k++) {
    const run = testRun(kind, first + k, quarter, isSecond ? k : undefined);
    if (run.reports.length === 0) continue;
    const { low, high, found } = askOf(run, isSecond ? keptOfRun(testRun(kind, first + each + k, [0.97, 1], k)) : []);
    of++;
    if (Date.parse(low) <= run.end && run.end <= Date.parse(high)) held++;
    if (run.end > Date.parse(high)) late++;
    if (found.includes('stalled')) stalled++;
  }
  const share = (count: number): string => String(Math.round((100 * count) / Math.max(1, of)));
  return `${share(held)} (${share(late)}, ${share(stalled)})`;
}

console.log(['', ...QUARTERS.map(([from, to]) => `${String(from * 100)}–${String(to * 100)} %`)].join('\t'));
for (const kind of KINDS) {
  if (!kind.includes(only)) continue;
  console.log([kind, ...QUARTERS.map((quarter) => cell(kind, quarter, false))].join('\t'));
  if (OF_HOURS.includes(kind))
    console.log([`${kind}, the second time`, ...QUARTERS.map((quarter) => cell(kind, quarter, true))].join('\t'));
}
