/**
 * Compares two bay names the way a person counts them: runs of digits by value, the rest by code unit, so that bay
 * 10 comes after bay 9 and "ext2-1" after "ext1-12". Total and the same on every machine (no locale).
 */
export function compareBays(a: string, b: string): number {
  // Most bays are plain numbers, and layouts sort them by the thousand.
  const [x, y] = [plainNumber(a), plainNumber(b)];
  if (x >= 0 && y >= 0 && x !== y) return x - y;
  const [left, right] = [a.match(/\d+|\D+/g) ?? [], b.match(/\d+|\D+/g) ?? []];
  for (let i = 0; i < Math.min(left.length, right.length); i++) {
    const [x, y] = [left[i] as string, right[i] as string];
    if (x === y) continue;
    const byValue = /^\d/.test(x) && /^\d/.test(y) ? Number(x) - Number(y) : 0;
    return byValue !== 0 ? byValue : x < y ? -1 : 1;
  }
  return left.length - right.length;
}

/** The value of a name of up to nine digits; −1 for any other. */
function plainNumber(name: string): number {
  if (name.length === 0 || name.length > 9) return -1;
  let value = 0;
  for (let i = 0; i < name.length; i++) {
    const digit = name.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return -1;
    value = value * 10 + digit;
  }
  return value;
}
