import type { Band } from '../layout/band';

/**
 * The bytes a drive must have to stand in for a member, wherever one is chosen, bought, offered, fitted or takes over: the
 * height up to which the pool uses that member, the unit's system area included. 0 for a drive no band knows.
 */
export function neededHeight(bands: readonly Band[], member: string): number {
  return Math.max(0, ...bands.filter(({ members }) => members.includes(member)).map(({ toBytes }) => toBytes));
}
