import { compareBays } from '../quantity/bayOrder';
import type { Band, Member } from './band';

/**
 * Sets spares aside before a pool is planned: each is the smallest drive that can still stand in for the largest
 * member's used height, of equal drives the later bay.
 *
 * Taking a larger drive out never raises what the others use, so "can stand in" is monotone over the sorted drives
 * and the smallest that can is found by bisection (property-tested against the plain scan).
 *
 * @param bandsFor the bands the pool would have with the given members
 * @returns the members left and the spares; with too few drives all that are there become spares
 */
export function setSparesAside(
  drives: readonly Member[],
  count: number,
  bandsFor: (members: readonly Member[]) => readonly Band[],
): { readonly members: readonly Member[]; readonly spares: readonly Member[] } {
  let members = [...drives].sort((a, b) => a.bytes - b.bytes || compareBays(b.bay, a.bay));
  const spares: Member[] = [];
  while (spares.length < count && members.length > 0) {
    let [low, high] = [0, members.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (canStandIn(members, middle, bandsFor)) high = middle;
      else low = middle + 1;
    }
    // Of equal drives the one in the later bay stands first in this order.
    const chosen = members.findIndex(({ bytes }) => bytes === (members[low] as Member).bytes);
    spares.push(members[chosen] as Member);
    members = members.filter((_, index) => index !== chosen);
  }
  return { members, spares };
}

function canStandIn(drives: readonly Member[], index: number, bandsFor: (members: readonly Member[]) => readonly Band[]): boolean {
  const others = drives.filter((_, i) => i !== index);
  const used = others.length === 0 ? 0 : Math.max(0, ...bandsFor(others).map(({ toBytes }) => toBytes));
  return (drives[index] as Member).bytes >= used;
}
