import { refusal, type Refusal } from '../../core/value/refusal';

/** More rows than any list has. */
const MOST = 1_000_000_000;

/** How many rows a page of a list leaves out, from what stands in an address; 0 for anything that is no such number. */
export function pageFrom(text: string | readonly string[] | null | undefined): number {
  const number = typeof text === 'string' && /^\d{1,10}$/.test(text) ? Number(text) : 0;
  return number <= MOST ? number : 0;
}

/** The same of a request, where anything else is refused: how many rows are skipped, by `?from=`. */
export function askedFrom(query: URLSearchParams): number | Refusal {
  const from = Number(query.get('from') ?? 0);
  return Number.isInteger(from) && from >= 0 && from <= MOST
    ? from
    : refusal('bad-input', '"from" is a whole number, 0 and up.');
}
