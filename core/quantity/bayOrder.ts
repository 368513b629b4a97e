/**
 * Compares two bay names the way a person counts them: runs of digits by value, the rest by code unit, so that bay
 * 10 comes after bay 9 and "ext2-1" after "ext1-12". Total and the same on every machine (no locale).
 */
export function compareBays(a: string, b: string): number {
  const [left, right] = [a.match(/\d+|\D+/g) ?? [], b.match(/\d+|\D+/g) ?? []];
  for (let i = 0; i < Math.min(left.length, right.length); i++) {
    const [x, y] = [left[i] as string, right[i] as string];
    if (x === y) continue;
    const byValue = /^\d/.test(x) && /^\d/.test(y) ? Number(x) - Number(y) : 0;
    return byValue !== 0 ? byValue : x < y ? -1 : 1;
  }
  return left.length - right.length;
}
