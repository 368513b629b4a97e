import { formatBytes } from '../quantity/formatBytes';
import type { Profile } from './profile';

/**
 * What a family does not come with, of boxes and drives that are there already: kept as they are, and said. Empty where all of
 * it fits.
 *
 * @param boxes bays of each box
 * @param drives bytes of each drive
 */
export function notOffered(
  { name, bays }: Pick<Profile, 'name' | 'bays'>,
  boxes: readonly number[],
  drives: readonly number[],
): readonly string[] {
  const all = boxes.reduce((sum, one) => sum + one, 0);
  const { choices, perEnclosure, largestDriveBytes } = bays;
  const said: string[] = [];
  if (boxes.length > 1 && perEnclosure === undefined)
    said.push(`${name} takes no extension: ${String(boxes.length)} boxes are kept as they are.`);
  else if (perEnclosure !== undefined && boxes.some((one) => one > perEnclosure))
    said.push(`A box of ${name} has ${String(perEnclosure)} bays: larger ones are kept as they are.`);
  else if (perEnclosure === undefined && choices.length > 0 && !choices.includes(all))
    said.push(`${name} comes with ${listed(choices)} bays: ${String(all)} are kept as they are.`);
  const large = largestDriveBytes === undefined ? [] : drives.filter((bytes) => bytes > largestDriveBytes);
  if (large.length > 0 && largestDriveBytes !== undefined)
    said.push(
      `${name} takes drives of up to ${formatBytes(largestDriveBytes)}: ${large.length === 1 ? 'one is' : `${String(large.length)} are`} larger.`,
    );
  return said;
}

/** "2, 4 or 8". */
function listed(counts: readonly number[]): string {
  return counts.length < 2
    ? String(counts[0] ?? '')
    : `${counts.slice(0, -1).join(', ')} or ${String(counts.at(-1) ?? '')}`;
}
