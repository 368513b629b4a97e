import type { Media } from '../../core/drive/media';
import { ownRate, servedOf, type OwnRate } from '../../core/risk/ownRate';
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
}

/** How often the drives of this shelf fail, by what they are made of; nothing of a group nobody has. */
export async function readOwnRates(app: App, now: Date): Promise<GroupRate[]> {
  const stories = await serviceStories(app.db);
  return (['disks', 'flash'] as const).flatMap((group) => {
    const served = stories
      .filter(({ media }) => GROUP_OF[media] === group)
      .map(({ marks }) => servedOf(marks, now.toISOString()));
    return served.length === 0 ? [] : [{ group, ...ownRate(served) }];
  });
}
