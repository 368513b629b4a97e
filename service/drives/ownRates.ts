import { YEAR_DAYS } from '../../core/quantity/year';
import { ownRate, servedOf, type OwnRate } from '../../core/risk/ownRate';
import {
  rateGroupOf,
  thoughtRate,
  type RateGroup,
  type ThoughtRate,
  type ThoughtRates,
} from '../../core/risk/thoughtRate';
import { ratesWithin, type RateWithin, type ServedAs } from '../../core/risk/ratesWithin';
import { lotKey, type LotSeen } from '../../core/outlook/livesAhead';
import type { Thought } from '../../core/outlook/lossAhead';
import { membersOf, type UnitState } from '../../core/unit/state';
import { serviceStories, type ServiceStory } from '../../store/driveService';
import type { App } from '../app';

export interface GroupRate extends OwnRate {
  readonly group: RateGroup;
  /** The models there are two or more drives of, and their lots, each against the others. */
  readonly within: readonly RateWithin[];
}

/** How often the drives of this shelf fail, by what they are made of, by model and by lot; nothing of a group nobody has. */
export async function readOwnRates(app: App, now: Date): Promise<GroupRate[]> {
  return ratesOf(await serviceStories(app.db), now);
}

function ratesOf(stories: readonly ServiceStory[], now: Date): GroupRate[] {
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

/** What was seen of drives in service here, wherever they are and were. */
export interface SeenOfDrives {
  readonly rates: ThoughtRates;
  /** Of the lots that were asked for; years by whole days. */
  readonly lots: readonly LotSeen[];
}

/** What is thought of each group, by what was seen here, and what was seen of these lots. */
export async function readSeenOfDrives(
  app: App,
  now: Date,
  wanted: ReadonlySet<string> = new Set(),
): Promise<SeenOfDrives> {
  const stories = (await serviceStories(app.db)).map((story) => ({ ...story, key: lotKey(story) }));
  const rates = ratesOf(stories, now);
  const of = (group: RateGroup): ThoughtRate => thoughtRate(rates.find((one) => one.group === group));
  const lots = [...wanted].map((lot) => {
    const served = stories.filter(({ key }) => key === lot).map(({ marks }) => servedOf(marks, now.toISOString()));
    return {
      lot,
      failures: served.reduce((sum, { failures }) => sum + failures, 0),
      years: served.map(({ years }) => Math.floor(years * YEAR_DAYS) / YEAR_DAYS),
    };
  });
  return { rates: { disks: of('disks'), flash: of('flash') }, lots };
}

/** What is thought of the drives of each pool of these units. */
export async function readThoughts(
  app: App,
  now: Date,
  units: readonly UnitState[],
): Promise<Readonly<Record<string, PoolThought>>> {
  const drives = units.flatMap((unit) => Object.values(unit.drives));
  const { rates, lots } = await readSeenOfDrives(app, now, new Set(drives.flatMap((drive) => lotKey(drive) ?? [])));
  return Object.fromEntries(
    units.flatMap((unit) =>
      Object.values(unit.pools).map((pool): [string, PoolThought] => {
        const members = membersOf(pool).map((serial) => unit.drives[serial]);
        const rate = rates[rateGroupOf(members[0]?.media)];
        const ofPool = new Set(members.map(lotKey));
        return [
          pool.id,
          { rate, failuresPerYear: rate.failuresPerYear, lots: lots.filter(({ lot }) => ofPool.has(lot)) },
        ];
      }),
    ),
  );
}

/** What is thought of the drives of a pool, and where it comes from. */
export interface PoolThought extends Thought {
  readonly rate: ThoughtRate;
}
