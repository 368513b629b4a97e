import type { Band } from '../layout/band';

/**
 * The margin: how many more members may fail, whichever they are, before data is lost. The least over the bands of
 * redundancy minus members missing; below 0, data is lost. One rule for the planner, the record and the runner.
 *
 * @param bands the pool's bands as they were built; at least one
 * @param missing members that failed, left or were taken out of service and whose band is not restored yet
 */
export function marginOf(bands: readonly Pick<Band, 'members' | 'redundancy'>[], missing: ReadonlySet<string>): number {
  return Math.min(
    ...bands.map(({ members, redundancy }) => redundancy - members.filter((member) => missing.has(member)).length),
  );
}
