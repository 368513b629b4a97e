import type { FromSchema } from 'json-schema-to-ts';
import type { Profile } from '../../core/platform/profile';
import { isRefusal } from '../../core/value/refusal';
import { appraisalRequestSchema } from '../../schemas/appraisalRequest';
import { layoutRequestSchema } from '../../schemas/layoutRequest';
import { operationTaking } from '../door/operation';
import { profileOf } from '../settings/profiles';

const planLayouts = operationTaking<FromSchema<typeof layoutRequestSchema>>(layoutRequestSchema)({
  method: 'POST',
  path: '/layouts',
  summary: 'Every layout these drives could become',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, viewer, body, signal }) => {
    const profile = await profileOf(app, body.profile as string | Profile);
    return isRefusal(profile) ? profile : app.threads.reckon('layouts', body, profile, { for: viewer.id, signal });
  },
});

const appraiseLayouts = operationTaking<FromSchema<typeof appraisalRequestSchema>>(appraisalRequestSchema)({
  method: 'POST',
  path: '/appraisals',
  summary: 'What each layout costs, does and risks, how it grows, and which fits what matters',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, viewer, body, signal }) => {
    const profile = await profileOf(app, body.profile as string | Profile);
    return isRefusal(profile) ? profile : app.threads.reckon('appraisals', body, profile, { for: viewer.id, signal });
  },
});

export const layouts = [planLayouts, appraiseLayouts];
