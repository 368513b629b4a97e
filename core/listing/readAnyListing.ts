import type { Listing, Progress } from './listing';
import { readListing } from './readListing';
import { isListingHead, listingOfRows } from './rowsListing';

/**
 * A list of files in whatever form it comes: a sheet with a head, or what a command printed.
 *
 * @param rowsOf reads a sheet (RFC 4180): commas, semicolons or tabs
 */
export function readAnyListing(
  text: string,
  rowsOf: (sheet: string) => readonly (readonly string[])[],
  progress?: Progress,
): Listing {
  const end = text.indexOf('\n');
  const head = text.slice(text.startsWith('\uFEFF') ? 1 : 0, end < 0 ? undefined : end).trim();
  const isSheet = /[,;\t]/.test(head) && isListingHead(rowsOf(head)[0] ?? []);
  return isSheet ? listingOfRows(rowsOf(text.replace(/^\uFEFF/, ''))) : readListing(text, progress);
}
