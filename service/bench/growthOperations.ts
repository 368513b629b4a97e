import type { FromSchema } from 'json-schema-to-ts';
import type { NewUnit } from '../../core/growth/newUnit';
import { newUnitWished } from '../../core/growth/wish';
import type { Profile } from '../../core/platform/profile';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import {
  forecastRequestSchema,
  growthRequestSchema,
  unitGrowthSchema,
  type UnitGrowthRequest,
} from '../../schemas/growthRequest';
import type { App } from '../app';
import { operationTaking } from '../door/operation';
import { aboutProfile, profileOf } from '../settings/profiles';
import { growthGround } from '../units/growthGround';
import { aboutPool } from '../units/findUnit';

/** The new unit of a wish as the reckoning takes it; refused as its registration would be. */
async function withNewUnit<B extends Pick<UnitGrowthRequest, 'newUnit'>>(
  app: App,
  { newUnit: asked, ...body }: B,
  now: Date,
): Promise<(Omit<B, 'newUnit'> & { readonly newUnit?: NewUnit }) | Refusal> {
  if (!asked) return body;
  const profile = await profileOf(app, asked.profile as string | Profile);
  if (isRefusal(profile)) return { ...profile, pointer: '/newUnit/profile' };
  const newUnit = newUnitWished(asked, profile, now);
  return isRefusal(newUnit) ? newUnit : { ...body, newUnit };
}

const planGrowth = operationTaking<FromSchema<typeof growthRequestSchema>>(growthRequestSchema)({
  method: 'POST',
  path: '/growth',
  summary: 'The cheapest way to keep a pool below its line, beside the cheapest of each other kind',
  needs: 'reader',
  scope: 'read',
  run: aboutProfile(async ({ app, viewer, body, now, signal }, profile) => {
    const asked = await withNewUnit(app, body, now);
    return isRefusal(asked) ? asked : app.threads.reckon('growth', asked, profile, { for: viewer.id, signal });
  }),
});

const planUnitGrowth = operationTaking<UnitGrowthRequest>(unitGrowthSchema)({
  method: 'POST',
  path: '/units/{id}/growth',
  summary: 'The cheapest way to keep a pool of a unit below its line, from its bands as they are built',
  needs: 'reader',
  scope: 'read',
  run: aboutPool(async ({ app, viewer, body, now, signal }, { unit, pool }) => {
    const ground = (await growthGround(app, unit.state, now))(pool.id);
    const usedBytes = body.usedBytes ?? ground.usedBytes;
    if (usedBytes === null)
      return refusal('never-read', `Nobody has read what ${pool.name} uses: say how much.`, '/usedBytes');
    const asked = await withNewUnit(app, body, now);
    if (isRefusal(asked)) return asked;
    return app.threads.reckon('unitGrowth', { ...asked, ...ground, usedBytes }, undefined, {
      for: viewer.id,
      signal,
    });
  }),
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
