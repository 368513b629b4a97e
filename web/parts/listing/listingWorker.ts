import { expose } from 'comlink';
import papaparse from 'papaparse';
import { bagManifests, type BagManifest } from '~/core/listing/bagManifest';
import { compareListings, type ListingsCompared } from '~/core/listing/compareListings';
import type { Listing } from '~/core/listing/listing';
import { readAnyListing } from '~/core/listing/readAnyListing';
import { shortComparison, type ShortComparison } from '~/core/listing/shortComparison';

/** As many of each kind are shown; all of them are in the sheet. */
const MOST_SHOWN = 200;
/** Reading the two lists, and holding them against each other, as shares of the work. */
const READ = 0.35;

type Given = string | File;

let lists: readonly [Listing, Listing] | null = null;
let compared: ListingsCompared | null = null;

const rowsOf = (text: string): string[][] => papaparse.parse<string[]>(text).data;

/** Holds two lists of files against each other, off the page's own thread: a million lines freeze nothing. */
const comparer = {
  async compare(
    left: Given,
    right: Given,
    leaveOut: readonly string[],
    onProgress: (share: number) => void,
  ): Promise<ShortComparison> {
    const textOf = (of: Given): Promise<string> => (typeof of === 'string' ? Promise.resolve(of) : of.text());
    const a = readAnyListing(await textOf(left), rowsOf, (share) => onProgress(share * READ));
    const b = readAnyListing(await textOf(right), rowsOf, (share) => onProgress(READ + share * READ));
    lists = [a, b];
    compared = compareListings(a, b, leaveOut, (share) => onProgress(2 * READ + share * (1 - 2 * READ)));
    return shortComparison(compared, a, b, MOST_SHOWN);
  },
  /** Every difference as a sheet. */
  sheet(): string {
    const rows: (string | number)[][] = [];
    const size = (of: { readonly size?: number }): string | number => of.size ?? '';
    for (const file of compared?.missing ?? []) rows.push(['missing', file.path, size(file), '']);
    for (const { path, left, right, by } of compared?.different ?? [])
      rows.push([`different ${by}`, path, size(left), size(right)]);
    for (const { from, to } of compared?.moved ?? []) rows.push(['moved', from, '', to]);
    for (const file of compared?.extra ?? []) rows.push(['extra', file.path, '', size(file)]);
    return papaparse.unparse(
      { fields: ['what', 'path', 'old end', 'newer end'], data: rows },
      { newline: '\r\n', escapeFormulae: true },
    );
  },
  /** The manifests of one end, for a bag. */
  manifests(side: 0 | 1): readonly BagManifest[] {
    return lists ? bagManifests(lists[side]) : [];
  },
};
export type ListingComparer = typeof comparer;

expose(comparer);
