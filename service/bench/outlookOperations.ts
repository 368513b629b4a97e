import type { FromSchema } from 'json-schema-to-ts';
import { poolUnknown } from '../../core/unit/applyPool';
import { entryOf } from '../../core/value/entryOf';
import { isRefusal, refusal } from '../../core/value/refusal';
import { outlookRequestSchema } from '../../schemas/outlookRequest';
import { operationTaking } from '../door/operation';
import { outlookGround } from '../units/outlookGround';
import { findUnit } from '../units/unitOperations';

const foresee = operationTaking<FromSchema<typeof outlookRequestSchema>>(outlookRequestSchema)({
  method: 'POST',
  path: '/units/{id}/outlook',
  summary: 'The time ahead of a pool as it stands, simulated: the chances of each outcome, and what would change them',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, viewer, params, body, now, signal }) => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const pool = entryOf(unit.state.pools, body.pool);
    if (!pool) return poolUnknown(unit.state, body.pool);
    const ground = (await outlookGround(app, unit, now))(pool.id);
    const [from = 0, upTo = 0] = body.failuresPerYear ?? ground.rate.failuresPerYear;
    if (from > upTo)
      return refusal('out-of-order', 'The range goes from the lesser to the greater share.', '/failuresPerYear');
    return app.threads.reckon(
      'outlook',
      {
        unit: unit.state,
        pool: pool.id,
        isLookedThrough: body.isLookedThrough ?? false,
        asked: {
          care: {
            notice: body.notice ?? 'same-day',
            orderDays: body.orderDays ?? 3,
            scrubDays: body.scrubDays === undefined ? ground.scrubDays : body.scrubDays,
            inDrawer: body.inDrawer ?? ground.inDrawer,
          },
          now: now.toISOString(),
          lots: ground.lots,
          usedShare: body.usedShare ?? ground.usedShare,
          years: body.years,
          failuresPerYear: [from, upTo],
        },
      },
      undefined,
      { for: viewer.id, signal },
    );
  },
});

export const outlooks = [foresee];
