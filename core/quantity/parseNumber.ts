/**
 * Reads a number as people write it: decimal comma or point, groups of three set off by commas, points, spaces,
 * thin spaces or apostrophes. Returns `null` for anything else, never a guess from part of the text.
 *
 * One separator followed by exactly three digits ("1,920") can be read both ways; `threeDigits` decides. With two
 * different separators the last is the decimal one; a separator that comes twice is a group separator.
 *
 * @param text e.g. "1 234,50", "12,000,138,625,024", "0.5", "-3"
 * @param threeDigits how to read the one ambiguous form
 */
export function parseNumber(text: string, threeDigits: 'grouped' | 'decimal'): number | null {
  const compact = text.trim().replace(/[\s\u00a0\u2009\u202f'’_]/g, '');
  if (!/^[+-]?\d[\d.,]*$/.test(compact)) return null;
  const separators = compact.replace(/[^.,]/g, '');
  const last = separators.at(-1);
  if (last === undefined) return Number(compact);
  const isOneKind = !separators.includes(last === ',' ? '.' : ',');
  const grouped = new RegExp(`^[+-]?\\d{1,3}(?:\\${last}\\d{3})+$`).test(compact);
  if (isOneKind && separators.length > 1) return grouped ? Number(compact.replaceAll(last, '')) : null;
  if (isOneKind && grouped && threeDigits === 'grouped') return Number(compact.replace(last, ''));
  const other = last === ',' ? '.' : ',';
  const [whole, fraction] = [compact.slice(0, compact.lastIndexOf(last)), compact.slice(compact.lastIndexOf(last) + 1)];
  if (whole.includes(last) || fraction === '') return null;
  if (whole.includes(other) && !new RegExp(`^[+-]?\\d{1,3}(?:\\${other}\\d{3})+$`).test(whole)) return null;
  return Number(`${whole.replaceAll(other, '')}.${fraction}`);
}
