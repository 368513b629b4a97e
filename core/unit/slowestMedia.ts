import { isFlash, type Media } from '../drive/media';
import type { UnitState } from './state';

/** What the drives in the bays of a unit are, by the slowest kind of them; hard disks where none is there yet. */
export function slowestMedia({ drives }: UnitState): Media {
  const all = Object.values(drives).flatMap(({ bay, media = 'hard-disk' }) => (bay === null ? [] : [media]));
  return all.find((media) => !isFlash(media)) ?? all[0] ?? 'hard-disk';
}
