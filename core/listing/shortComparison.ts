import type { DifferentFile, ListingsCompared, MovedFile } from './compareListings';
import { formatCount } from '../quantity/formatCount';
import type { ListedFile, Listing } from './listing';

/** What two lists come to, with the first of each kind: a million of them are counted, and not all shown. */
export interface ShortComparison extends Omit<ListingsCompared, 'kind' | 'missing' | 'different' | 'extra' | 'moved'> {
  readonly files: { readonly left: number; readonly right: number };
  readonly counts: {
    readonly missing: number;
    readonly different: number;
    readonly extra: number;
    readonly moved: number;
  };
  readonly first: {
    readonly missing: readonly ListedFile[];
    readonly different: readonly DifferentFile[];
    readonly extra: readonly ListedFile[];
    readonly moved: readonly MovedFile[];
  };
  readonly problems: {
    readonly left: Pick<Listing, 'problems' | 'problemCount'>;
    readonly right: Pick<Listing, 'problems' | 'problemCount'>;
  };
  /** What is to be made of it, in a sentence or two. */
  readonly words: string;
}

/** Below this share of paths in common two lists are of different folders, or of different things. */
const LEAST_IN_COMMON = 0.05;

/** @param most as many of each kind are shown */
export function shortComparison(
  { kind: _kind, missing, different, extra, moved, ...rest }: ListingsCompared,
  left: Listing,
  right: Listing,
  most: number,
): ShortComparison {
  const counts = {
    missing: missing.length,
    different: different.length,
    extra: extra.length,
    moved: moved.length,
  };
  const problems = ({ problems: of, problemCount }: Listing): Pick<Listing, 'problems' | 'problemCount'> => ({
    problems: of,
    problemCount,
  });
  return {
    ...rest,
    files: { left: left.files.length, right: right.files.length },
    counts,
    first: {
      missing: missing.slice(0, most),
      different: different.slice(0, most),
      extra: extra.slice(0, most),
      moved: moved.slice(0, most),
    },
    problems: { left: problems(left), right: problems(right) },
    words: wordsOf(rest, counts, left, right),
  };
}

function wordsOf(
  { roots, same, by, sameBy }: Pick<ListingsCompared, 'roots' | 'same' | 'by' | 'sameBy'>,
  { missing, different, extra, moved }: ShortComparison['counts'],
  left: Listing,
  right: Listing,
): string {
  if (left.files.length === 0 || right.files.length === 0)
    return `The ${left.files.length === 0 ? 'first' : 'second'} list has no file in it: make it anew, and look whether it is the right one.`;
  if (roots.share < LEAST_IN_COMMON && same === 0)
    return 'The two lists have next to no path in common: make both from the same folder, the share itself, and compare again.';
  const proof = proofOf(same === 0 ? { checksum: 0, size: 0, path: 0, [by[0] ?? 'path']: 1 } : sameBy);
  if (missing + different + moved === 0 && sameBy.path === same)
    return `No name is missing: ${same === 1 ? '1 file is' : `${formatCount(same)} files are`} in both lists, ${proof}. Whether they are the same nobody can tell: make both lists with sizes, or better with checksums.`;
  if (missing + different + moved === 0)
    return `Nothing is missing and nothing differs: ${same === 1 ? '1 file is' : `${formatCount(same)} files are`} the same, ${proof}.${extra > 0 ? ` Only at the newer end: ${formatCount(extra)}.` : ''}`;
  const parts = [
    missing > 0 ? `${formatCount(missing)} missing` : '',
    different > 0 ? `${formatCount(different)} different` : '',
    moved > 0 ? `${formatCount(moved)} in another place` : '',
    extra > 0 ? `${formatCount(extra)} only at the newer end` : '',
  ].filter((part) => part !== '');
  return `They differ: ${parts.join(', ')}; ${same === 1 ? '1 is' : `${formatCount(same)} are`} the same, ${proof}. Copy what is missing or different again, then compare again.`;
}

/** What those that are called the same were compared by. */
function proofOf({ checksum, size, path }: ListingsCompared['sameBy']): string {
  if (size + path === 0) return 'by path, size and checksum';
  if (checksum + path === 0) return 'by path and size; a byte that has changed is not seen without checksums';
  if (checksum + size === 0) return 'by path alone: neither size nor checksum stands in both lists';
  const parts = [
    checksum > 0 ? `${formatCount(checksum)} by checksum` : '',
    size > 0 ? `${formatCount(size)} by size, in which a byte that has changed is not seen` : '',
    path > 0 ? `${formatCount(path)} by path alone` : '',
  ].filter((part) => part !== '');
  return parts.join(', ');
}
