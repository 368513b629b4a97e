import { parseNumber } from '~/core/quantity/parseNumber';

/** A price as typed, "189", "189.90" or "1,189", in hundredths of the currency; null where it is none. */
export function parseCents(text: string): number | null {
  const price = parseNumber(text, 'grouped');
  return price === null || price < 0 ? null : Math.round(price * 100);
}
