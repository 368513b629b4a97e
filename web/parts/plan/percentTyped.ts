import { shownAmount } from '~/core/quantity/shownAmount';
import { isRefusal } from '~/core/value/refusal';
import { DECIMAL } from './decimal';

/**
 * "42", "42,5 %"; or "520 GB" of a known whole. `null` for anything else.
 *
 * @param totalBytes how much there is in all, where it is bytes that come in
 * @returns percent, 0 to 100
 */
export function percentTyped(text: string, totalBytes: number | undefined): number | null {
  const plain = text.trim().replace(/ ?%$/, '').replace(',', '.');
  if (/^\d+(\.\d+)?$/.test(plain)) return Number(plain) <= 100 ? Number(plain) : null;
  const bytes = totalBytes === undefined ? null : shownAmount(text, DECIMAL, totalBytes);
  if (bytes === null || totalBytes === undefined || isRefusal(bytes) || bytes > totalBytes) return null;
  return Math.round((bytes / totalBytes) * 1e4) / 100;
}
