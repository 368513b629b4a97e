/** Rows of Pascal's triangle that were asked for; a handful of row numbers is asked for over and over. */
const rows = new Map<number, readonly bigint[]>();

/** C(n, k), exactly; 0 when k is out of range. */
export function choose(n: number, k: number): bigint {
  let row = rows.get(n);
  if (row === undefined) {
    const made = [1n];
    for (let i = 1; i <= n; i++) made.push(((made[i - 1] as bigint) * BigInt(n - i + 1)) / BigInt(i));
    row = made;
    rows.set(n, row);
  }
  return row[k] ?? 0n;
}

/** Every set of k of the items, in lexicographic order of their positions. */
export function* subsets<T>(items: readonly T[], k: number, from = 0): Generator<T[]> {
  if (k === 0) {
    yield [];
    return;
  }
  for (let i = from; i <= items.length - k; i++) {
    for (const rest of subsets(items, k - 1, i + 1)) yield [items[i] as T, ...rest];
  }
}
