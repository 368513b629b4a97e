import { LEFT_OUT, leavesOut } from './leftOut';
import { PROGRESS_LINES, type ListedFile, type Listing, type Progress } from './listing';
import { rootsOf, type Roots } from './roots';

/** How two files of one path differ. */
export type Difference = 'size' | 'checksum';

export interface DifferentFile {
  readonly path: string;
  readonly by: Difference;
  readonly left: ListedFile;
  readonly right: ListedFile;
}

export interface MovedFile {
  readonly from: string;
  readonly to: string;
}

/** What there is of one share (the first folder) at each end. */
export interface ShareTotals {
  readonly share: string;
  readonly left: { readonly files: number; readonly bytes: number };
  readonly right: { readonly files: number; readonly bytes: number };
  readonly same: number;
  readonly missing: number;
  readonly different: number;
  readonly extra: number;
}

export interface ListingsCompared {
  readonly kind: 'listings-compared';
  readonly roots: Roots;
  /** What both ends could be compared by, beside the path. */
  readonly by: readonly ('size' | 'checksum')[];
  readonly same: number;
  /** Of those, how many by their checksum, how many by their size alone, and how many by nothing but their path. */
  readonly sameBy: Readonly<Record<'checksum' | 'size' | 'path', number>>;
  /** On the left and not on the right. */
  readonly missing: readonly ListedFile[];
  readonly different: readonly DifferentFile[];
  /** On the right and not on the left. */
  readonly extra: readonly ListedFile[];
  /** Missing and extra that are one file in another place: of the same checksum, or of the same name and size. */
  readonly moved: readonly MovedFile[];
  readonly leftOut: number;
  /** Paths that stand in a list more than once: the last one counts. */
  readonly twice: number;
  readonly shares: readonly ShareTotals[];
}

/**
 * Two lists of files held against each other: what is missing, different, extra and moved, with totals by share. Times are
 * not compared: a copy may give its files new ones.
 *
 * @param left what was copied
 * @param right what came of it
 * @param leaveOut names of folders and files that count for nothing
 */
export function compareListings(
  left: Pick<Listing, 'files'>,
  right: Pick<Listing, 'files'>,
  leaveOut: readonly string[] = LEFT_OUT,
  progress?: Progress,
): ListingsCompared {
  const isOut = leavesOut(leaveOut);
  const shares = new Map<string, Counted>();
  let [same, leftOut, twice, n] = [0, 0, 0, 0];
  const total = left.files.length + right.files.length;
  const step = (): void => {
    if (progress && ++n % PROGRESS_LINES === 0) progress(n / total);
  };
  // By the path as it is written there: it is cut only where it is shown.
  const there = new Map<string, There>();
  for (const file of right.files) {
    step();
    if (isOut(file.path)) leftOut++;
    else {
      if (there.has(file.path)) twice++;
      there.set(file.path, { file, isFound: false });
    }
  }
  const roots = rootsOf(left.files, right.files, (path) => there.has(path));
  const missing: ListedFile[] = [];
  const different: DifferentFile[] = [];
  const by = new Set<'size' | 'checksum'>();
  const sameBy = { checksum: 0, size: 0, path: 0 };
  const gone = new Set<string>();
  for (const file of left.files) {
    step();
    if (isOut(file.path)) {
      leftOut++;
      continue;
    }
    const path = under(file.path, roots.left);
    const other = there.get(roots.right === '' ? path : roots.right + path);
    if (other?.isFound === true || (!other && gone.has(path))) {
      twice++;
      continue;
    }
    const totals = count(shares, path, file.size, 'left');
    if (!other) {
      gone.add(path);
      missing.push(atPath(file, path));
      totals.missing++;
      continue;
    }
    other.isFound = true;
    const hasSize = file.size !== undefined && other.file.size !== undefined;
    const hasSum = comparable(file, other.file);
    if (hasSize) by.add('size');
    if (hasSum) by.add('checksum');
    const how = differenceOf(file, other.file);
    if (how) {
      different.push({ path, by: how, left: atPath(file, path), right: atPath(other.file, path) });
      totals.different++;
    } else {
      same++;
      totals.same++;
      sameBy[hasSum ? 'checksum' : hasSize ? 'size' : 'path']++;
    }
  }
  const extra: ListedFile[] = [];
  for (const { file, isFound } of there.values()) {
    const path = under(file.path, roots.right);
    const totals = count(shares, path, file.size, 'right');
    if (isFound) continue;
    extra.push(atPath(file, path));
    totals.extra++;
  }
  const moved = movedOf(missing, extra);
  return {
    kind: 'listings-compared',
    roots,
    by: [...by].sort(),
    same,
    sameBy,
    missing: missing.filter(({ path }) => !moved.from.has(path)),
    different,
    extra: extra.filter(({ path }) => !moved.to.has(path)),
    moved: moved.files,
    leftOut,
    twice,
    shares: [...shares.values()].sort((a, b) => (a.share < b.share ? -1 : 1)),
  };
}

type Counted = {
  -readonly [K in keyof ShareTotals]: ShareTotals[K] extends { readonly files: number }
    ? { files: number; bytes: number }
    : ShareTotals[K];
};

interface There {
  readonly file: ListedFile;
  isFound: boolean;
}

/** A path from the folder its list begins at; one that lies beside it stays as it is. */
function under(path: string, root: string): string {
  return root !== '' && path.startsWith(root) ? path.slice(root.length) : path;
}

function atPath(file: ListedFile, path: string): ListedFile {
  return path === file.path ? file : { ...file, path };
}

function totalsOf(shares: Map<string, Counted>, path: string): Counted {
  const slash = path.indexOf('/');
  const share = slash < 0 ? '' : path.slice(0, slash);
  const before = shares.get(share);
  if (before) return before;
  const none = (): { files: number; bytes: number } => ({ files: 0, bytes: 0 });
  const fresh: Counted = { share, left: none(), right: none(), same: 0, missing: 0, different: 0, extra: 0 };
  shares.set(share, fresh);
  return fresh;
}

function count(shares: Map<string, Counted>, path: string, size: number | undefined, side: 'left' | 'right'): Counted {
  const totals = totalsOf(shares, path);
  totals[side].files++;
  totals[side].bytes += size ?? 0;
  return totals;
}

/** Checksums of one kind, told by their length. */
function comparable(a: ListedFile, b: ListedFile): boolean {
  return a.sum !== undefined && b.sum !== undefined && a.sum.length === b.sum.length;
}

function differenceOf(a: ListedFile, b: ListedFile): Difference | undefined {
  if (a.size !== undefined && b.size !== undefined && a.size !== b.size) return 'size';
  return comparable(a, b) && a.sum !== b.sum ? 'checksum' : undefined;
}

/** Pairs of missing and extra that are one file: each of them only once, and only where there is no doubt which. */
function movedOf(
  missing: readonly ListedFile[],
  extra: readonly ListedFile[],
): { files: readonly MovedFile[]; from: ReadonlySet<string>; to: ReadonlySet<string> } {
  const files: MovedFile[] = [];
  const [from, to] = [new Set<string>(), new Set<string>()];
  const keyed = (of: readonly ListedFile[]): Map<string, ListedFile[]> => {
    const keys = new Map<string, ListedFile[]>();
    for (const file of of) {
      const key = keyOf(file);
      if (key === undefined) continue;
      const same = keys.get(key);
      if (same) same.push(file);
      else keys.set(key, [file]);
    }
    return keys;
  };
  const others = keyed(extra);
  for (const [key, [one, ...more]] of keyed(missing)) {
    const [other, ...rest] = others.get(key) ?? [];
    if (!one || !other || more.length > 0 || rest.length > 0) continue;
    files.push({ from: one.path, to: other.path });
    from.add(one.path);
    to.add(other.path);
  }
  return { files, from, to };
}

function keyOf({ path, size, sum }: ListedFile): string | undefined {
  if (sum !== undefined) return sum;
  return size === undefined || size === 0 ? undefined : `${String(size)} ${path.slice(path.lastIndexOf('/') + 1)}`;
}
