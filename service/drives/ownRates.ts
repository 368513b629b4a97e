import { ownRate, servedOf, type OwnRate } from '../../core/risk/ownRate';
import {
  rateGroupOf,
  thoughtRate,
  type RateGroup,
  type ThoughtRate,
  type ThoughtRates,
} from '../../core/risk/thoughtRate';
import { ratesWithin, type RateWithin, type ServedAs } from '../../core/risk/ratesWithin';
import { serviceStories } from '../../store/driveService';
import type { App } from '../app';

export interface GroupRate extends OwnRate {
  readonly group: RateGroup;
  /** The models there are two or more drives of, and their lots, each against the others. */
  readonly within: readonly RateWithin[];
}

/** How often the drives of this shelf fail, by what they are made of, by model and by lot; nothing of a group nobody has. */
export async function readOwnRates(app: App, now: Date): Promise<GroupRate[]> {
  const stories = await serviceStories(app.db);
  return (['disks', 'flash'] as const).flatMap((group) => {
    const served = stories
      .filter(({ media }) => rateGroupOf(media) === group)
      .map(({ marks, model, lot }): ServedAs => ({
        ...servedOf(marks, now.toISOString()),
        // A lot's number says nothing without the model.
        of: model === undefined ? [] : lot === undefined ? [model] : [model, lot],
      }));
    return served.length === 0 ? [] : [{ group, ...ownRate(served), within: ratesWithin(served) }];
  });
}

/** What is thought of each group, by what was seen here. */
export async function readThoughtRates(app: App, now: Date): Promise<ThoughtRates> {
  const rates = await readOwnRates(app, now);
  const of = (wanted: RateGroup): ThoughtRate => thoughtRate(rates.find(({ group }) => group === wanted));
  return { disks: of('disks'), flash: of('flash') };
}
