/** More rows than any list has. */
const MOST = 1_000_000_000;

/** How many rows a page of a list leaves out, from what stands in an address; 0 for anything that is no such number. */
export function pageFrom(text: string | readonly string[] | null | undefined): number {
  const number = typeof text === 'string' && /^\d{1,10}$/.test(text) ? Number(text) : 0;
  return number <= MOST ? number : 0;
}
