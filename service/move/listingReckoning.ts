import type { FromSchema } from 'json-schema-to-ts';
import papaparse from 'papaparse';
import { compareListings } from '../../core/listing/compareListings';
import { readAnyListing } from '../../core/listing/readAnyListing';
import { shortComparison } from '../../core/listing/shortComparison';
import type { listingsSchema } from '../../schemas/listingRequest';

/** As many of each kind go out. */
const MOST_SHOWN = 1000;

/** Two lists of files held against each other, with the first of what is missing, different, extra and moved. */
export function listingsOf({ left, right, leaveOut }: FromSchema<typeof listingsSchema>) {
  const rows = (text: string): string[][] => papaparse.parse<string[]>(text).data;
  const [a, b] = [readAnyListing(left, rows), readAnyListing(right, rows)];
  return shortComparison(compareListings(a, b, leaveOut), a, b, MOST_SHOWN);
}
