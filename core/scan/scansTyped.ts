import { serialKey, type SerialKey } from '../drive/serial';

/**
 * The serials in what came at once: a scanner or a paste sends several lines, and a fast hand sends two before the first
 * was taken. A text that is known serials one behind the other without anything between is so many scans, never one.
 *
 * @param text lines, tabs, commas and semicolons part serials; blanks do not, since serials are shown in groups
 * @param known serials that are planned or on record
 */
export function scansTyped(text: string, known: Iterable<string> = []): readonly string[] {
  const keys = [...new Set([...known].map(serialKey))].filter((key) => key !== '');
  return text
    .split(/[\r\n\t,;]+/)
    .map((one) => one.trim())
    .filter((one) => serialKey(one) !== '')
    .flatMap((one) => runTogether(serialKey(one), keys) ?? [one]);
}

/** The known serials a text is made of, one behind the other; `null` where it is one of them, or anything else. */
function runTogether(key: SerialKey, known: readonly SerialKey[]): readonly string[] | null {
  if (known.includes(key)) return null;
  const first = known.filter((one) => key.startsWith(one)).sort((a, b) => b.length - a.length);
  for (const one of first) {
    const rest = serialKey(key.slice(one.length));
    if (known.includes(rest)) return [one, rest];
    const more = rest === '' ? null : runTogether(rest, known);
    if (more) return [one, ...more];
  }
  return null;
}
