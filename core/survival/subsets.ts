/** C(n, k), exactly; 0 when k is out of range. */
export function choose(n: number, k: number): bigint {
  if (k < 0 || k > n) return 0n;
  let result = 1n;
  for (let i = 1; i <= Math.min(k, n - k); i++) result = (result * BigInt(n - i + 1)) / BigInt(i);
  return result;
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
