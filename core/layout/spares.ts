import type { Member } from './band';
import { bySize } from './bands';

/** Hot spares: some for the whole pool, or some for every group of a grouped one (elsewhere that means for the pool). */
export type SpareWish = number | { readonly perGroup: number };

/** How many spares that is for a pool of one group, or of no groups at all. */
export function sparesWished(wish: SpareWish): number {
  return typeof wish === 'number' ? wish : wish.perGroup;
}

/**
 * Sets spares aside group by group: runs of the sorted list as wide as a group with its spares. The smallest of a run
 * sets its height whoever waits, so the spares are the next smallest: each can stand in, and none is larger than needed.
 */
export function setSparesAsidePerGroup(
  drives: readonly Member[],
  perGroup: number,
  width: number,
): { readonly members: readonly Member[]; readonly spares: readonly Member[] } {
  const sorted = [...drives].sort(bySize);
  const run = width + perGroup;
  const groups = Math.floor(sorted.length / run);
  const isSpare = (index: number): boolean => index < groups * run && index % run >= width - 1 && index % run < run - 1;
  return { members: sorted.filter((_, index) => !isSpare(index)), spares: sorted.filter((_, index) => isSpare(index)) };
}

/**
 * Sets spares aside before a pool is planned: each is the smallest drive that can still stand in for the largest
 * member's used height, of equal drives the later bay.
 *
 * Taking a larger drive out never raises what the others use, so "can stand in" is monotone over the sorted drives
 * and the smallest that can is found by bisection (property-tested against the plain scan).
 *
 * @param reachOf how high the pool would use its members, which come largest first
 * @returns the members left and the spares; with too few drives all that are there become spares
 */
export function setSparesAside(
  drives: readonly Member[],
  count: number,
  reachOf: (members: readonly Member[]) => number,
): { readonly members: readonly Member[]; readonly spares: readonly Member[] } {
  // Largest first; of equal drives the later bay stands last, and is taken first.
  let members = [...drives].sort(bySize);
  const spares: Member[] = [];
  const without = (index: number): Member[] => members.filter((_, i) => i !== index);
  while (spares.length < count && members.length > 0) {
    let [low, high] = [0, members.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((members[middle] as Member).bytes >= reachOf(without(middle))) low = middle;
      else high = middle - 1;
    }
    spares.push(members[low] as Member);
    members = without(low);
  }
  return { members, spares };
}
