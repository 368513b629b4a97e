import type { FromSchema } from 'json-schema-to-ts';
import { rebuildEstimateSchema, transferEstimateSchema, transferSharesSchema } from '../../schemas/timeRequest';
import { operationTaking } from '../door/operation';
import { zoneOf } from '../units/readWorkKnown';
import { aboutProfile } from '../settings/profiles';

const rebuild = operationTaking<FromSchema<typeof rebuildEstimateSchema>>(rebuildEstimateSchema)({
  method: 'POST',
  path: '/rebuilds/estimate',
  summary: 'How long one member takes to be written anew, and when it is done, from what was heard of it',
  needs: 'reader',
  scope: 'read',
  run: aboutProfile(async ({ app, viewer, body, signal }, profile) =>
    app.threads.reckon('rebuild', { ...body, zone: await zoneOf(app.db) }, profile, { for: viewer.id, signal }),
  ),
});

const transfer = operationTaking<FromSchema<typeof transferEstimateSchema>>(transferEstimateSchema)({
  method: 'POST',
  path: '/transfers/estimate',
  summary: 'How long files take from one place to another, and what holds them up',
  needs: 'reader',
  scope: 'read',
  run: ({ app, viewer, body, signal }) => app.threads.reckon('transfer', body, undefined, { for: viewer.id, signal }),
});

const shares = operationTaking<FromSchema<typeof transferSharesSchema>>(transferSharesSchema)({
  method: 'POST',
  path: '/transfers/shares',
  summary: 'How long several shares take over one way: one after the other, and several at a time',
  needs: 'reader',
  scope: 'read',
  run: ({ app, viewer, body, signal }) =>
    app.threads.reckon('transferShares', body, undefined, { for: viewer.id, signal }),
});

export const times = [rebuild, transfer, shares];
