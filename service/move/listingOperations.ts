import type { FromSchema } from 'json-schema-to-ts';
import { listingsSchema } from '../../schemas/listingRequest';
import { operationTaking } from '../door/operation';

const compare = operationTaking<FromSchema<typeof listingsSchema>>(listingsSchema)({
  method: 'POST',
  path: '/listings/compare',
  summary:
    'Two lists of files held against each other: what is missing, different, extra and moved, with totals by share',
  needs: 'reader',
  scope: 'read',
  mostBytes: 21_000_000,
  run: ({ app, viewer, body, signal }) => app.threads.reckon('listings', body, undefined, { for: viewer.id, signal }),
});

export const listings = [compare];
