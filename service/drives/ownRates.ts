import { ownRate, servedOf, type OwnRate } from '../../core/risk/ownRate';
import {
  rateGroupOf,
  thoughtRate,
  type RateGroup,
  type ThoughtRate,
  type ThoughtRates,
} from '../../core/risk/thoughtRate';
import { ratesWithin, type RateWithin, type ServedAs } from '../../core/risk/ratesWithin';
import { lotKey, type LotSeen } from '../../core/outlook/poolToCome';
import { serviceStories } from '../../store/driveService';
import type { App } from '../app';

const YEAR_DAYS = 365.25;

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

/** What was seen of these lots, wherever their drives are and were; years by whole days. */
export async function readLots(app: App, now: Date, wanted: ReadonlySet<string>): Promise<LotSeen[]> {
  if (wanted.size === 0) return [];
  const stories = (await serviceStories(app.db)).map((story) => ({ ...story, lot: lotKey(story) }));
  return [...wanted].map((lot) => {
    const served = stories.filter((story) => story.lot === lot).map(({ marks }) => servedOf(marks, now.toISOString()));
    return {
      lot,
      failures: served.reduce((sum, { failures }) => sum + failures, 0),
      years: served.map(({ years }) => Math.floor(years * YEAR_DAYS) / YEAR_DAYS),
    };
  });
}
