import type { Band } from '../layout/band';

/** Members that stand and fall together: any `redundancy` of them may be missing, and no more. */
export interface IndependentGroup {
  readonly members: readonly string[];
  readonly redundancy: number;
  readonly bands: readonly Band[];
  /** False for a tangle of bands in which no one band decides; then `redundancy` is the least, which errs on the safe side. */
  readonly isDecided: boolean;
}

/**
 * Parts of a pool that fail independently of one another: bands that share members belong together. Within a part, one
 * band over all its members with the least redundancy decides alone (mixed pools are nested that way).
 */
export function independentGroups(bands: readonly Band[]): IndependentGroup[] {
  const found: { members: Set<string>; bands: Band[] }[] = [];
  for (const band of bands) {
    const touching = found.filter(({ members }) => band.members.some((member) => members.has(member)));
    const merged = {
      members: new Set([...touching.flatMap(({ members }) => [...members]), ...band.members]),
      bands: [...touching.flatMap((part) => part.bands), band],
    };
    for (const part of touching) found.splice(found.indexOf(part), 1);
    found.push(merged);
  }
  return found.map((part) => {
    const redundancy = Math.min(...part.bands.map((band) => band.redundancy));
    const isDecided = part.bands.some(
      (band) => band.redundancy === redundancy && band.members.length === part.members.size,
    );
    return { members: [...part.members], redundancy, bands: part.bands, isDecided };
  });
}
