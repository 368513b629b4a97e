import { figuresOf, isFlash } from '../../drive/media';
import { shortWords } from '../../drive/tooSmall';
import { factsOf } from '../../layout/scheme';
import { compareBays } from '../../quantity/bayOrder';
import { demandOf, isFitting, reachOf, type DrawerDrive, type Reach } from '../../upkeep/spareCoverage';
import { poolChanged } from '../../unit/poolChanged';
import { cacheSlotsOf, type DriveInUnit, type Pool, type UnitState } from '../../unit/state';
import { isRefusal } from '../../value/refusal';
import { withFreshDrives } from '../../unit/withFreshDrives';

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

/** What holds a drive at hand against a place it might take: whether it fits there, and if not, why. */
type Held = (drive: DrawerDrive) => { readonly fits: boolean; readonly why?: string | undefined };

/** What lies in drawers and could take over from a member: what fits first, nearest first, then what does not and why. */
export function candidatesFor(
  unit: UnitState,
  pool: Pool,
  member: DriveInUnit,
  drawers: readonly DrawerDrive[],
): Candidate[] {
  const demand = demandOf(unit, member, pool);
  return inOrder(unit, drawers, (drive) => ({
    fits: isFitting(demand, drive),
    why:
      drive.bytes < demand.neededBytes
        ? shortWords(drive.bytes, demand.neededBytes)
        : drive.media === 'shingled'
          ? 'shingled: not in a parity pool'
          : undefined,
  }));
}

/** What lies in drawers and could be added to a pool in a free bay, by the rule the pool is grown by; then what could not and why. */
export function candidatesToAdd(
  unit: UnitState,
  pool: Pool,
  bay: string,
  drawers: readonly DrawerDrive[],
): Candidate[] {
  const isGuarded = (factsOf(pool.scheme).redundancy ?? 0) > 0;
  return inOrder(unit, drawers, (drive) => {
    const { bytes, basis, media, form } = drive;
    const kind = { bytes, basis, ...(media === undefined ? {} : { media }) };
    if (media === 'shingled' && isGuarded) return { fits: false, why: 'shingled: not in a parity pool' };
    if (form !== undefined && !unit.profile.bays.kinds.includes(form)) return { fits: false };
    const grown = poolChanged(
      withFreshDrives(unit, [{ bay, ...kind }]),
      { kind: 'added', pool: pool.id, bays: [bay] },
      '',
    );
    return isRefusal(grown) ? { fits: false, why: grown.sentence } : { fits: true };
  });
}

/** What lies in drawers and could be cache of this unit in such a place: flash, of the form that goes in. */
export function candidatesForCache(unit: UnitState, place: string, drawers: readonly DrawerDrive[]): Candidate[] {
  const isSlot = cacheSlotsOf(unit).includes(place);
  return inOrder(unit, drawers, ({ media = 'hard-disk', form }) => {
    if (!isFlash(media)) return { fits: false, why: 'no flash' };
    const kinds = form === undefined ? figuresOf(media).fits : [form];
    return { fits: kinds.some((kind) => (isSlot ? kind === 'm2' : unit.profile.bays.kinds.includes(kind))) };
  });
}

function inOrder(unit: UnitState, drawers: readonly DrawerDrive[], held: Held): Candidate[] {
  return drawers
    .map((drive): Candidate => {
      const isSick = drive.sick !== undefined && !drive.sick.isTestedWell;
      const { fits: wouldFit, why: against } = held(drive);
      const fits = wouldFit && !isSick;
      const reach = reachOf(unit.place, drive.place);
      const why = isSick
        ? `${drive.sick?.words ?? ''}: no spare before a recorded test finds it well`
        : !fits
          ? (against ?? 'another kind of drive or bay')
          : drive.sick
            ? `fits, and ${drive.sick.words}; tested well since`
            : drive.basis === 'exact'
              ? 'fits, byte for byte'
              : 'fits by its label: read the exact bytes first';
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
