import type { FromSchema } from 'json-schema-to-ts';
import type { Profile } from '../../core/platform/profile';
import { isRefusal } from '../../core/value/refusal';
import { forecastRequestSchema, growthRequestSchema } from '../../schemas/growthRequest';
import { operationTaking } from '../door/operation';
import { profileOf } from '../settings/profiles';

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

const forecast = operationTaking<FromSchema<typeof forecastRequestSchema>>(forecastRequestSchema)({
  method: 'POST',
  path: '/forecasts',
  summary: 'When what is used crosses the line, from what was read, with the span it lies in four times out of five',
  needs: 'reader',
  scope: 'read',
  run: ({ app, viewer, body, signal }) => app.threads.reckon('forecast', body, undefined, { for: viewer.id, signal }),
});

export const growth = [planGrowth, forecast];
