import type { Media } from '../../core/drive/media';
import { ownRate, servedOf, type OwnRate } from '../../core/risk/ownRate';
import { ratesWithin, type RateWithin, type ServedAs } from '../../core/risk/ratesWithin';
import { serviceStories } from '../../store/driveService';
import type { App } from '../app';

/** Drives with moving parts and drives without fail for different reasons. */
export type RateGroup = 'disks' | 'flash';

const GROUP_OF: Readonly<Record<Media, RateGroup>> = {
  'hard-disk': 'disks',
  shingled: 'disks',
  ssd: 'flash',
  nvme: 'flash',
};

/** The group a kind of drive is counted in. */
export const groupOfMedia = (media: Media): RateGroup => GROUP_OF[media];

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
      .filter(({ media }) => GROUP_OF[media] === group)
      .map(({ marks, model, lot }): ServedAs => ({
        ...servedOf(marks, now.toISOString()),
        // A lot's number says nothing without the model.
        of: model === undefined ? [] : lot === undefined ? [model] : [model, lot],
      }));
    return served.length === 0 ? [] : [{ group, ...ownRate(served), within: ratesWithin(served) }];
  });
}
