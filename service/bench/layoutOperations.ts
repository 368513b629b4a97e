import type { FromSchema } from 'json-schema-to-ts';
import { appraisalRequestSchema } from '../../schemas/appraisalRequest';
import { layoutRequestSchema } from '../../schemas/layoutRequest';
import { operationTaking } from '../door/operation';
import { aboutProfile } from '../settings/profiles';

const planLayouts = operationTaking<FromSchema<typeof layoutRequestSchema>>(layoutRequestSchema)({
  method: 'POST',
  path: '/layouts',
  summary: 'Every layout these drives could become',
  needs: 'reader',
  scope: 'read',
  run: aboutProfile(({ app, viewer, body, signal }, profile) =>
    app.threads.reckon('layouts', body, profile, { for: viewer.id, signal }),
  ),
});

const appraiseLayouts = operationTaking<FromSchema<typeof appraisalRequestSchema>>(appraisalRequestSchema)({
  method: 'POST',
  path: '/appraisals',
  summary: 'What each layout costs, does and risks, how it grows, and which fits what matters',
  needs: 'reader',
  scope: 'read',
  run: aboutProfile(({ app, viewer, body, signal }, profile) =>
    app.threads.reckon('appraisals', body, profile, { for: viewer.id, signal }),
  ),
});

export const layouts = [planLayouts, appraiseLayouts];
