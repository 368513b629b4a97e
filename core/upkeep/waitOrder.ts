import type { LiveEstimate } from '../rebuild/liveEstimate';
import type { JobTask } from '../unit/state';

/** Running work, as far as its urgency goes by it. */
export interface Waited {
  readonly task: JobTask;
  readonly startedAt: string;
  readonly estimate: Pick<LiveEstimate, 'likely' | 'found'> | null;
}

/** Work that a pool is thin during comes before work that only takes time. */
const RANK: Readonly<Record<JobTask, number>> = {
  rebuild: 1,
  'first-build': 2,
  replace: 3,
  convert: 4,
  expand: 5,
  copy: 6,
  scrub: 7,
  test: 8,
};

/** Which of two waits is looked at first: what is odd, then what a pool is thin during, then what ends sooner. */
export function compareWaits(a: Waited, b: Waited): number {
  const odd = ({ estimate }: Waited): number => (estimate && estimate.found.length > 0 ? 0 : 1);
  const ends = ({ estimate, startedAt }: Waited): string => estimate?.likely ?? startedAt;
  return odd(a) - odd(b) || RANK[a.task] - RANK[b.task] || (ends(a) < ends(b) ? -1 : Number(ends(a) > ends(b)));
}
