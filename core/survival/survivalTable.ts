import type { Band } from '../layout/band';
import { independentGroups, type IndependentGroup } from './independentGroups';
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
 * Independent groups multiply as generating polynomials; a group in which no one band decides is counted set by set.
 *
 * @param bands the pool map; empty for no pool, which gives an empty table
 * @param loses what is lost beyond what it survives: the whole pool, or the failed drives' own files
 */
export function survivalTable(bands: readonly Band[], loses: 'pool' | 'drives'): SurvivalRow[] {
  const parts = independentGroups(bands);
  const count = parts.reduce((sum, part) => sum + part.members.length, 0);
  if (count === 0) return [];
  const isShort =
    count > MOST_FOR_WHOLE_TABLE || parts.some((part) => !part.isDecided && part.members.length > MOST_TO_ENUMERATE);
  const most = isShort ? Math.min(SHORT_TABLE, count) : count;
  const polynomial = parts
    .map((part) => toleratedSets(part, most))
    .reduce((product, part) => multiply(product, part, most), [1n]);
  return Array.from({ length: most + 1 }, (_, failed) => {
    const of = choose(count, failed);
    const survived = polynomial[failed] ?? 0n;
    // Every member holds the same share of all sets of k, so drives' own files are lost in proportion k/n.
    const lostShare = survived === of ? 0 : loses === 'drives' ? failed / count : ratio(of - survived, of);
    return { failed, survived: String(survived), of: String(of), lostShare };
  });
}

/** Coefficient k: sets of k members of this component that it survives. */
function toleratedSets({ members, bands, redundancy, isDecided }: IndependentGroup, most: number): bigint[] {
  const upTo = Math.min(most, members.length);
  if (isDecided) return Array.from({ length: Math.min(redundancy, upTo) + 1 }, (_, k) => choose(members.length, k));
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
