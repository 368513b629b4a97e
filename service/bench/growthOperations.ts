import type { FromSchema } from 'json-schema-to-ts';
import type { Thought } from '../../core/outlook/lossAhead';
import type { Profile } from '../../core/platform/profile';
import { poolUnknown } from '../../core/unit/applyPool';
import { entryOf } from '../../core/value/entryOf';
import { isRefusal, refusal } from '../../core/value/refusal';
import { forecastRequestSchema, growthRequestSchema, unitGrowthSchema } from '../../schemas/growthRequest';
import { usedOf } from '../../store/readings';
import { operationTaking } from '../door/operation';
import { readThoughts } from '../drives/ownRates';
import { profileOf } from '../settings/profiles';
import { findUnit } from '../units/unitOperations';

const planGrowth = operationTaking<FromSchema<typeof growthRequestSchema>>(growthRequestSchema)({
  method: 'POST',
  path: '/growth',
  summary: 'The cheapest way to keep a pool below its line, beside the cheapest of each other kind',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, viewer, body, signal }) => {
    const profile = await profileOf(app, body.profile as string | Profile);
    return isRefusal(profile) ? profile : app.threads.reckon('growth', body, profile, { for: viewer.id, signal });
  },
});

const planUnitGrowth = operationTaking<FromSchema<typeof unitGrowthSchema>>(unitGrowthSchema)({
  method: 'POST',
  path: '/units/{id}/growth',
  summary: 'The cheapest way to keep a pool of a unit below its line, from its bands as they are built',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, viewer, params, body, now, signal }) => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const pool = entryOf(unit.state.pools, body.pool);
    if (!pool) return poolUnknown(unit.state, body.pool);
    const usedBytes = body.usedBytes ?? (await usedOf(app.db, [pool.id]))[pool.id];
    if (usedBytes === undefined)
      return refusal('never-read', `Nobody has read what ${pool.name} uses: say how much.`, '/usedBytes');
    const { failuresPerYear, lots } = (await readThoughts(app, now, [unit.state]))[pool.id] as Thought;
    const thought = { failuresPerYear, lots, now: now.toISOString() };
    return app.threads.reckon('unitGrowth', { ...body, usedBytes, unit: unit.state, thought }, unit.state.profile, {
      for: viewer.id,
      signal,
    });
  },
});

const forecast = operationTaking<FromSchema<typeof forecastRequestSchema>>(forecastRequestSchema)({
  method: 'POST',
  path: '/forecasts',
  summary: 'When what is used crosses the line, from what was read, with the span it lies in four times out of five',
  needs: 'reader',
  scope: 'read',
  run: ({ app, viewer, body, signal }) => app.threads.reckon('forecast', body, undefined, { for: viewer.id, signal }),
});

export const growth = [planGrowth, planUnitGrowth, forecast];
