import { shortWords } from '../../drive/tooSmall';
import { compareBays } from '../../quantity/bayOrder';
import { demandOf, isFitting, reachOf, type DrawerDrive, type Reach } from '../../upkeep/spareCoverage';
import type { DriveInUnit, Pool, UnitState } from '../../unit/state';

/** A drive at hand, held against what a bay needs. */
export interface Candidate {
  readonly serial: string;
  readonly drive: DrawerDrive;
  readonly reach: Reach;
  readonly fits: boolean;
  /** Why it fits or does not, and what is uncertain. */
  readonly words: string;
}

const NEAREST: readonly Reach[] = ['in-unit', 'same-room', 'same-site', 'other-site'];
const REACH_WORDS = {
  'in-unit': 'in the unit',
  'same-room': 'in the room',
  'same-site': 'in the house',
  'other-site': 'at another site',
} as const;

/** What lies in drawers and could take over from a member: what fits first, nearest first, then what does not and why. */
export function candidatesFor(
  unit: UnitState,
  pool: Pool,
  member: DriveInUnit,
  drawers: readonly DrawerDrive[],
): Candidate[] {
  const demand = demandOf(unit, member, pool);
  return drawers
    .map((drive): Candidate => {
      const fits = isFitting(demand, drive);
      const reach = reachOf(demand.place, drive.place);
      const why =
        drive.sick && !drive.sick.isTestedWell
          ? `${drive.sick.words}: no spare before a recorded test finds it well`
          : drive.bytes < demand.neededBytes
            ? shortWords(drive.bytes, demand.neededBytes)
            : drive.media === 'shingled'
              ? 'shingled: not in a parity pool'
              : fits
                ? drive.sick
                  ? `fits, and ${drive.sick.words}; tested well since`
                  : drive.basis === 'exact'
                    ? 'fits, byte for byte'
                    : 'fits by its label: read the exact bytes first'
                : 'another kind of drive or bay';
      return {
        serial: drive.serial,
        drive,
        reach,
        fits,
        words: `${why}; ${drive.place.drawer}, ${REACH_WORDS[reach]}${reach === 'other-site' ? ` (${drive.place.site})` : ''}`,
      };
    })
    .sort(
      (a, b) =>
        Number(b.fits) - Number(a.fits) ||
        NEAREST.indexOf(a.reach) - NEAREST.indexOf(b.reach) ||
        a.drive.bytes - b.drive.bytes ||
        compareBays(a.serial, b.serial),
    );
}
