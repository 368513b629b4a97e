import type { Band } from '../layout/band';
import { isSurvived } from './isSurvived';
import { choose, subsets } from './subsets';

/** For one number of failures: how many of the failure sets lose nothing, exactly. */
export interface SurvivalRow {
  readonly failed: number;
  /** Sets of that many members that lose nothing, as a decimal string. */
  readonly survived: string;
  /** All sets of that many members, C(n, k), as a decimal string. */
  readonly of: string;
  /** Expected share of the pool's bytes lost, over all sets alike, 0..1. */
  readonly lostShare: number;
}

/** Above this many members the table stops at {@link SHORT_TABLE}: nobody asks about forty of eighty failing at once. */
const MOST_FOR_WHOLE_TABLE = 64;
const SHORT_TABLE = 4;
/** Largest tangle of overlapping bands counted by trying every set. */
const MOST_TO_ENUMERATE = 16;

/**
 * For k = 0..n, how many of the C(n, k) sets of failed members lose nothing.
 *
 * Bands that share members form a component; components are independent, so their counts multiply as generating
 * polynomials. Within a component one band over all its members with the least redundancy decides alone (mixed pools
 * are nested that way); anything else is counted set by set.
 *
 * @param bands the pool map; empty for no pool, which gives an empty table
 * @param loses what is lost beyond what it survives: the whole pool, or the failed drives' own files
 */
export function survivalTable(bands: readonly Band[], loses: 'pool' | 'drives'): SurvivalRow[] {
  const parts = components(bands);
  const count = parts.reduce((sum, part) => sum + part.members.length, 0);
  if (count === 0) return [];
  const isShort = count > MOST_FOR_WHOLE_TABLE || parts.some((part) => !isDecidedByOneBand(part) && part.members.length > MOST_TO_ENUMERATE);
  const most = isShort ? Math.min(SHORT_TABLE, count) : count;
  const polynomial = parts.map((part) => toleratedSets(part, most)).reduce((product, part) => multiply(product, part, most), [1n]);
  return Array.from({ length: most + 1 }, (_, failed) => {
    const of = choose(count, failed);
    const survived = polynomial[failed] ?? 0n;
    // Every member holds the same share of all sets of k, so drives' own files are lost in proportion k/n.
    const lostShare = survived === of ? 0 : loses === 'drives' ? failed / count : ratio(of - survived, of);
    return { failed, survived: String(survived), of: String(of), lostShare };
  });
}

interface Component {
  readonly members: readonly string[];
  readonly bands: readonly Band[];
}

function components(bands: readonly Band[]): Component[] {
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
  return found.map(({ members, bands }) => ({ members: [...members], bands }));
}

function leastRedundancy({ bands }: Component): number {
  return Math.min(...bands.map(({ redundancy }) => redundancy));
}

function isDecidedByOneBand(part: Component): boolean {
  return part.bands.some((band) => band.redundancy === leastRedundancy(part) && band.members.length === part.members.length);
}

/** Coefficient k: sets of k members of this component that it survives. */
function toleratedSets(part: Component, most: number): bigint[] {
  const { members, bands } = part;
  const upTo = Math.min(most, members.length);
  const least = leastRedundancy(part);
  if (isDecidedByOneBand(part)) return Array.from({ length: Math.min(least, upTo) + 1 }, (_, k) => choose(members.length, k));
  const counts: bigint[] = [];
  for (let k = 0; k <= upTo; k++) {
    let survived = 0n;
    for (const failed of subsets(members, k)) if (isSurvived(bands, new Set(failed))) survived++;
    counts.push(survived);
  }
  return counts;
}

function multiply(a: readonly bigint[], b: readonly bigint[], most: number): bigint[] {
  const product = Array.from({ length: Math.min(most, a.length + b.length - 2) + 1 }, () => 0n);
  a.forEach((x, i) => {
    b.forEach((y, j) => {
      if (i + j < product.length) product[i + j] = (product[i + j] as bigint) + x * y;
    });
  });
  return product;
}

function ratio(part: bigint, whole: bigint): number {
  return part === whole ? 1 : Number((part * 10n ** 15n) / whole) / 1e15;
}
