import type { ListedFile } from './listing';

/** Paths of one list that are looked up in the other to see how the two begin. */
const SAMPLE = 400;

/** What is cut off the paths of each list, so that both begin at the same folder. */
export interface Roots {
  readonly left: string;
  readonly right: string;
  /** Share of a sample of the left's paths that the right has, 0..1. */
  readonly share: number;
}

/**
 * Where two lists begin: they are made at two units, from folders of different names. The two roots are those under which
 * most paths of the one are paths of the other.
 *
 * @param isThere whether a path stands in the right list, as it is written there
 */
export function rootsOf(
  left: readonly ListedFile[],
  right: readonly ListedFile[],
  isThere: (path: string) => boolean,
): Roots {
  const [a, b] = [commonFolder(left), commonFolder(right)];
  const sample = left.filter((_one, i) => i % Math.max(1, Math.floor(left.length / SAMPLE)) === 0);
  let best: Roots = { left: '', right: '', share: -1 };
  for (const from of foldersOf(a))
    for (const to of foldersOf(b)) {
      const hits = sample.filter(({ path }) => isThere(to + path.slice(from.length))).length;
      const share = sample.length === 0 ? 0 : hits / sample.length;
      if (share > best.share) best = { left: from, right: to, share };
    }
  return best;
}

/** The folder all paths lie in, with its `/`; empty where they share none. */
function commonFolder(files: readonly ListedFile[]): string {
  const [first] = files;
  if (!first) return '';
  let common = first.path.slice(0, first.path.lastIndexOf('/') + 1);
  for (const { path } of files)
    while (!path.startsWith(common)) common = common.slice(0, common.lastIndexOf('/', common.length - 2) + 1);
  return common;
}

/** "a/b/", "a/", "": the whole first, and no more than a few. */
function foldersOf(folder: string): string[] {
  const all = [''];
  for (let at = folder.indexOf('/'); at >= 0; at = folder.indexOf('/', at + 1)) all.push(folder.slice(0, at + 1));
  return all.reverse().slice(0, 8);
}
