import type { Member } from './band';
import { bySize } from './bands';

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
