import { serialKey, type SerialKey } from './serial';

/** As many characters of the end of a serial are read off a label at arm's length. */
const LAST = 4;

/**
 * The drive a person means by what was typed, among the drives in question: its serial, or its last four or more where
 * they are of one of them only. Blanks within do not count, since serials are shown in groups.
 *
 * @returns the key of one of the drives; `null` when it is none of them, or of several
 */
export function whichSerial(typed: string, among: Iterable<string>): SerialKey | null {
  const keys = [...new Set([...among].map(serialKey))];
  const key = serialKey(typed);
  if (keys.includes(key)) return key;
  const close = (text: string): string => text.replace(/\s/g, '');
  const said = close(key);
  if (said === '') return null;
  const whole = keys.filter((one) => close(one) === said);
  if (whole.length > 0) return whole.length === 1 ? (whole[0] as SerialKey) : null;
  const ending = said.length < LAST ? [] : keys.filter((one) => close(one).endsWith(said));
  return ending.length === 1 ? (ending[0] as SerialKey) : null;
}
