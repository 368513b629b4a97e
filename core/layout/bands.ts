import { compareBays } from '../quantity/bayOrder';
import type { Profile } from '../platform/profile';
import { band, kindOfCut, type Band, type Member } from './band';
import { factsOf, type Scheme } from './scheme';

/** Largest first; of equal drives the earlier bay first, so that the order of a list never matters. */
export function bySize(a: Member, b: Member): number {
  return b.bytes - a.bytes || compareBays(a.bay, b.bay);
}

/**
 * The bands a scheme makes of these members; legality is not asked here. Every member's system area is already
 * known and starts its column, so bands begin above it.
 *
 * @param members at least one, in any order
 * @param width members a group, for the grouped schemes
 */
export function bandsOf(scheme: Scheme, members: readonly Member[], space: Profile['space'], width: number): Band[] {
  const sorted = [...members].sort(bySize);
  const redundancy = factsOf(scheme).redundancy ?? members.length - 1;
  switch (scheme) {
    case 'separate':
      return sorted.map((member) => band('single', [member], member.systemBytes, member.bytes, 0));
    case 'span':
      return sorted.map((member) => band('span', [member], member.systemBytes, member.bytes, 0));
    case 'stripe':
      return [asSmallest('stripe', sorted, 0)];
    case 'mirror':
      return [asSmallest('mirror', sorted, redundancy)];
    case 'striped-mirrors': {
      const top = space.mirrorPairing === 'all-as-smallest' ? smallest(sorted).bytes : Infinity;
      return runs(sorted, 2).map((pair) => asSmallest('mirror', pair, 1, top));
    }
    case 'parity-1':
    case 'parity-2':
      return [asSmallest('parity', sorted, redundancy)];
    case 'parity-1-groups':
    case 'parity-2-groups':
      return runs(sorted, width).map((group) => asSmallest('parity', group, redundancy));
    case 'mixed-1':
    case 'mixed-2':
      return mixedBands(sorted, redundancy, space.cutGranularityBytes);
    case 'dedicated-1':
    case 'dedicated-2':
      return dedicatedBands(sorted, redundancy);
  }
}

/**
 * How high the highest band of these members reaches: the top of {@link bandsOf} without making the bands. A spare has
 * to be at least that large.
 *
 * @param sorted largest first
 */
export function usedHeightOf(
  scheme: Scheme,
  sorted: readonly Member[],
  space: Profile['space'],
  width: number,
): number {
  const nth = (index: number): Member | undefined => sorted[index];
  const redundancy = factsOf(scheme).redundancy ?? 0;
  switch (scheme) {
    case 'separate':
    case 'span':
      return nth(0)?.bytes ?? 0;
    case 'stripe':
    case 'mirror':
    case 'parity-1':
    case 'parity-2':
      return nth(sorted.length - 1)?.bytes ?? 0;
    case 'striped-mirrors':
      return (
        (space.mirrorPairing === 'all-as-smallest' && sorted.length > 1 ? nth(sorted.length - 1) : nth(1))?.bytes ?? 0
      );
    case 'parity-1-groups':
    case 'parity-2-groups':
      return nth(width - 1)?.bytes ?? 0;
    case 'mixed-1':
    case 'mixed-2': {
      const top = nth(sorted.length === 1 ? 0 : redundancy);
      return top === undefined ? 0 : cutOf(top, space.cutGranularityBytes);
    }
    case 'dedicated-1':
    case 'dedicated-2':
      return nth(redundancy)?.bytes ?? 0;
  }
}

function smallest(sorted: readonly Member[]): Member {
  return sorted[sorted.length - 1] as Member;
}

/** One band over all members, as high as the smallest of them. */
function asSmallest(kind: Band['kind'], sorted: readonly Member[], redundancy: number, atMost = Infinity): Band {
  const { systemBytes, bytes } = smallest(sorted);
  return band(kind, sorted, systemBytes, Math.min(bytes, atMost), redundancy);
}

/** Consecutive runs of the sorted list; what does not fill a run is left over. */
function runs(sorted: readonly Member[], width: number): Member[][] {
  return Array.from({ length: Math.floor(sorted.length / width) }, (_, i) => sorted.slice(i * width, (i + 1) * width));
}

/** A member's height, rounded down to the family's granularity. */
export function cutOf({ bytes, systemBytes }: Member, granularity: number): number {
  return systemBytes + Math.floor((bytes - systemBytes) / granularity) * granularity;
}

/** Heights at which a sorted list of members is cut, ascending, each with how many members reach it. */
function cuts(sorted: readonly Member[], granularity: number): { at: number; reach: number }[] {
  const found: { at: number; reach: number }[] = [];
  sorted.forEach((member, index) => {
    const at = cutOf(member, granularity);
    const last = found.at(-1);
    if (last?.at === at) last.reach = index + 1;
    else found.push({ at, reach: index + 1 });
  });
  return found.reverse();
}

/** Bands between cuts: over c drives a band gives c − r for c ≥ r + 1 (a mirror when c = r + 1), and none below. */
function mixedBands(sorted: readonly Member[], redundancy: number, granularity: number): Band[] {
  const found: Band[] = [];
  let from = smallest(sorted).systemBytes;
  // One drive alone, where its family lets a pool begin so: nothing is cut, and nothing guards it.
  const alone = sorted.length === 1 ? sorted[0] : undefined;
  if (alone) return [band('single', [alone], from, cutOf(alone, granularity), 0)];
  for (const { at, reach } of cuts(sorted, granularity)) {
    if (reach > redundancy && at > from) {
      found.push(band(kindOfCut(reach, redundancy), sorted.slice(0, reach), from, at, redundancy));
    }
    from = at;
  }
  return found;
}

/** The r largest are parity (of equal drives the later bay), the others data. */
function dedicatedBands(sorted: readonly Member[], redundancy: number): Band[] {
  const roles = [...sorted].sort((a, b) => b.bytes - a.bytes || compareBays(b.bay, a.bay));
  return dedicatedOver(roles.slice(0, redundancy), roles.slice(redundancy));
}

/**
 * Parity drives over data drives, each with its own files: cut at the data drives' sizes, for above the largest of them a
 * parity drive guards nothing.
 *
 * @param data largest first
 */
export function dedicatedOver(parity: readonly Member[], data: readonly Member[]): Band[] {
  const redundancy = parity.length;
  if (data.length === 0) return [];
  const found: Band[] = [];
  let from = smallest(data).systemBytes;
  for (const { at, reach } of cuts(data, 1)) {
    if (at > from) found.push(band('dedicated', [...parity, ...data.slice(0, reach)], from, at, redundancy));
    from = at;
  }
  return found;
}
