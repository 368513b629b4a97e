import type { FromSchema } from 'json-schema-to-ts';
import { rateGroupOf, type ThoughtRate } from '../../core/risk/thoughtRate';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { layoutOutlookSchema, outlookRequestSchema } from '../../schemas/outlookRequest';
import { operationTaking } from '../door/operation';
import { readSeenOfDrives } from '../drives/ownRates';
import { aboutProfile } from '../settings/profiles';
import { outlookGround } from '../units/outlookGround';
import { aboutPool } from '../units/findUnit';
import { careOf } from './outlookReckoning';

const foresee = operationTaking<FromSchema<typeof outlookRequestSchema>>(outlookRequestSchema)({
  method: 'POST',
  path: '/units/{id}/outlook',
  summary: 'The time ahead of a pool as it stands, simulated: the chances of each outcome, and what would change them',
  needs: 'reader',
  scope: 'read',
  run: aboutPool(async ({ app, viewer, body, now, signal }, { unit, pool }) => {
    const ground = (await outlookGround(app, unit, now))(pool.id);
    const failuresPerYear = rangeOf(body.failuresPerYear, ground.rate);
    if (isRefusal(failuresPerYear)) return failuresPerYear;
    return app.threads.reckon(
      'outlook',
      {
        unit: unit.state,
        pool: pool.id,
        isLookedThrough: body.isLookedThrough ?? false,
        asked: {
          care: {
            ...careOf(body),
            scrubDays: body.scrubDays === undefined ? ground.scrubDays : body.scrubDays,
            inDrawer: body.inDrawer ?? ground.inDrawer,
          },
          now: now.toISOString(),
          lots: ground.lots,
          usedShare: body.usedShare ?? ground.usedShare,
          years: body.years,
          failuresPerYear,
        },
      },
      undefined,
      { for: viewer.id, signal },
    );
  }),
});

const foreseeLayout = operationTaking<FromSchema<typeof layoutOutlookSchema>>(layoutOutlookSchema)({
  method: 'POST',
  path: '/outlooks',
  summary: 'The time ahead of a layout once it is built, simulated; drives as old as they are, lots as they are',
  needs: 'reader',
  scope: 'read',
  run: aboutProfile(async ({ app, viewer, body, now, signal }, profile) => {
    const { rates } = await readSeenOfDrives(app, now);
    const failuresPerYear = rangeOf(body.failuresPerYear, rates[rateGroupOf(body.drives[0]?.media)]);
    return isRefusal(failuresPerYear)
      ? failuresPerYear
      : app.threads.reckon(
          'layoutOutlook',
          { ...body, failuresPerYear: [...failuresPerYear], now: now.toISOString() },
          profile,
          { for: viewer.id, signal },
        );
  }),
});

/** The range that was said, or what is thought. */
function rangeOf(
  said: readonly number[] | undefined,
  { failuresPerYear }: ThoughtRate,
): readonly [number, number] | Refusal {
  const [from = 0, upTo = 0] = said ?? failuresPerYear;
  return from > upTo
    ? refusal('out-of-order', 'The range goes from the lesser to the greater share.', '/failuresPerYear')
    : [from, upTo];
}

export const outlooks = [foresee, foreseeLayout];
