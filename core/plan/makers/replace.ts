import { bayName, BayName } from '../../unit/bayName';
import { driveListed } from './driveListed';
import { tooSmallWords } from '../../drive/tooSmall';
import { factsOf } from '../../layout/scheme';
import { largestGuarded } from '../../pool/dedicatedParity';
import { apart } from '../../quantity/apart';
import { formatBytes, formatExactBytes } from '../../quantity/formatBytes';
import { hoursWords } from '../../quantity/hoursWords';
import type { RebuildEstimate } from '../../rebuild/estimateRebuild';
import { reckonedOf } from './reckoned';
import { rebuildOnto } from '../../rebuild/rebuildOnto';
import { fullMarginOfPool, isDown } from '../../unit/margin';
import { neededBytes } from '../../unit/neededBytes';
import { driveInBay, membersOf, poolOfDrive, type DriveInUnit, type Pool, type UnitState } from '../../unit/state';
import { refusal, type Refusal } from '../../value/refusal';
import { ageMatesOf } from './ageMates';
import { toldOfSlowness } from './toldOfSlowness';
import { copyChecked } from './copyChecked';
import { draftPlan, type PlanDraft } from './draftPlan';
import { whyRestsOnSick } from './sickAlone';
import { fit, powerDown, powerUp, pull, rebuild, swap, type NewDrive } from './handsOnDrive';
import { spareFor, sparesAside, sparesBack } from './sparesAside';
import type { PlanBody } from '../plan';

export interface ReplaceWish {
  /** The member that goes. */
  readonly serial: string;
  readonly way: 'in-place' | 'free-bay';
  /** The free bay, where the replacement goes through one. */
  readonly bay?: string;
  readonly drive: NewDrive;
  /** Its data is copied elsewhere and the copy is proven, by the word of whoever asks: what rests on a sick drive may be thinned then. */
  readonly copyProven?: boolean;
  /** Share of the pool in use, 0..1; left out means all of it. */
  readonly usedShare?: number;
  /** Bytes that are taken off the pool first, to where they have another home. */
  readonly moveOffBytes?: number;
  /** What the user's own list of tested drives says of a model; `undefined` when it is not on it. */
  readonly tested?: (model: string) => 'works' | 'avoid' | undefined;
}

/**
 * The plan to replace one member, made for this unit, this bay, this pool and this family; in its own bay, or through a
 * free one where the pool never gets thinner. Order after common practice.
 *
 * @returns the plan, or a refusal that says what has to come first
 */
export function replacePlan(unit: UnitState, wish: ReplaceWish): PlanBody | Refusal {
  const found = memberToReplace(unit, wish.serial);
  if ('code' in found) return found;
  const { drive: old, pool } = found;
  const wrong = whyNot(unit, pool, old, wish);
  if (wrong) return wrong;
  const draft = draftPlan();
  const { under, then } = draft;
  const bay = old.bay ?? bayLeftBy(unit, old) ?? '';

  under('Before');
  then(copyChecked(unit, pool.id));
  newDriveChecked(draft, unit, old, wish);
  const full = rebuildOnto(unit, pool, old.serial, wish.drive, wish.usedShare);
  const estimate = rebuildOnto(unit, pool, old.serial, wish.drive, shareAfterMoving(pool, wish));
  moveOff(draft, unit, pool, wish, full, estimate);
  then(
    toldOfSlowness(
      pool,
      'will be slow',
      'A rebuild takes its share of every disk. A unit restarted by somebody who meant well begins again, or worse.',
    ),
  );

  const rebuilding = {
    pool: pool.id,
    replaces: old.serial,
    reckoned: reckonedOf(estimate),
    ...(wish.drive.serial === undefined ? {} : { serial: wish.drive.serial }),
  };
  if (wish.way === 'free-bay') {
    const free = wish.bay ?? '';
    under('At the shelf');
    powerDown(draft, unit);
    fit(draft, unit, { bay: free }, wish.drive, old.serial);
    powerUp(draft, unit, {});
    under('Wait');
    rebuild(draft, unit, { ...rebuilding, bay: free, task: 'replace' });
    under('At the shelf again');
    pull(draft, unit, { serial: old.serial, bay, suffix: '-old' });
    powerUp(draft, unit, { suffix: '-old' });
  } else {
    if (!pool.missing.includes(old.serial)) sparesAside(draft, unit, pool);
    under('At the shelf');
    swap(draft, unit, { serial: old.serial, bay }, wish.drive);
    under('Wait');
    rebuild(draft, unit, { ...rebuilding, bay, task: 'rebuild' });
  }

  under('Afterwards');
  verified(draft, pool.name);
  expandIfDue(draft, unit, pool, old, wish.drive);
  if (wish.way === 'in-place' && !pool.missing.includes(old.serial)) sparesBack(draft, unit, pool, old.bytes);
  oldDrivesFate(draft, old);
  nextSpare(draft, old);
  ageMates(draft, unit, pool, old);
  return { job: 'replace', title: `Replace ${bayName(unit, bay)} of ${unit.name}`, steps: draft.steps };
}

/** The drive and the pool it is a member of. */
export function memberToReplace(
  unit: UnitState,
  serial: string,
): { readonly drive: DriveInUnit; readonly pool: Pool } | Refusal {
  const drive = unit.drives[serial];
  const pool = poolOfDrive(unit, serial);
  if (unit.cache.includes(serial))
    return refusal(
      'is-cache',
      `${serial} is cache of ${unit.name}: that is emptied first, and renewed by a plan of its own.`,
      '/serial',
    );
  if (!drive || !pool || !membersOf(pool).includes(serial))
    return refusal('not-a-member', `${serial} is not a member of any pool of ${unit.name}.`, '/serial');
  if (isDown(pool))
    return refusal(
      'pool-lost',
      `${pool.name} has stopped: nothing is replaced now. Open the rescue desk; once its unit serves it again, say so there.`,
      '/serial',
    );
  return { drive, pool };
}

function whyNot(
  unit: UnitState,
  pool: Pool,
  old: DriveInUnit,
  { way, bay, drive, copyProven, usedShare, moveOffBytes }: ReplaceWish,
): Refusal | undefined {
  const rebuilding = Object.values(unit.jobs).find(
    (job) => job.pool === pool.id && (job.task === 'rebuild' || job.task === 'replace'),
  );
  if (rebuilding)
    return refusal(
      'rebuild-runs',
      `${pool.name} is being rebuilt. Wait until it is done: never two at once.`,
      '/serial',
    );
  const others = pool.missing.filter((serial) => serial !== old.serial);
  if (others.length > 0)
    return refusal(
      'others-missing',
      `${others.join(', ')} is missing from ${pool.name}: that one is replaced first. ${old.serial} still carries data.`,
      '/serial',
    );
  const spare = spareFor(unit, pool, old);
  if (spare && pool.missing.includes(old.serial))
    return refusal(
      'spare-waits',
      `${spare.serial} waits as spare of ${pool.name}: it has stepped in for ${old.serial}, or will. See its page; ${old.serial} is replaced after that, by the plan for a spare that stands in.`,
      '/serial',
    );
  const isProtected = fullMarginOfPool(pool) > 0;
  if (way === 'in-place' && !isProtected && !pool.missing.includes(old.serial))
    return refusal(
      'unguarded',
      `${pool.name} has no protection: with ${old.serial} out, ${factsOf(pool.scheme).loses === 'pool' ? 'all of it is' : 'its files are'} gone. Copy its data off and prove the copy first${unit.profile.rebuild.throughFreeBay ? ', or go through a free bay' : ''}.`,
      '/way',
    );
  const rests = way === 'in-place' && copyProven !== true ? whyRestsOnSick(unit, pool, old.serial, '/way') : undefined;
  if (rests) return rests;
  if (way === 'free-bay') {
    if (!unit.profile.rebuild.throughFreeBay)
      return refusal('no-free-bay-way', 'This family does not replace through a free bay.', '/way');
    if (pool.missing.includes(old.serial) || old.bay === null)
      return refusal('not-working', `${old.serial} no longer works: it is replaced in its own bay.`, '/way');
    if (bay === undefined || driveInBay(unit, bay))
      return refusal(
        'bay-occupied',
        bay === undefined ? 'Say which free bay.' : `${BayName(unit, bay)} is not free.`,
        '/bay',
      );
  } else if (old.bay === null && bayLeftBy(unit, old) === undefined)
    return refusal('no-bay', 'There is no empty bay left to fit the new drive in.', '/serial');
  const parity = largestGuarded(pool, (serial) => unit.drives[serial]?.bytes, old.serial);
  if (drive.bytes > parity)
    return refusal(
      'larger-than-parity',
      `${drive.label ?? formatBytes(drive.bytes)} is larger than the smallest parity drive, ${formatBytes(parity)}: nothing guards what is above. Replace parity first.`,
      '/drive/bytes',
    );
  if (moveOffBytes !== undefined) {
    const used = (usedShare ?? 1) * pool.shownBytes;
    if (unit.profile.rebuild.covers !== 'used-space')
      return refusal(
        'rebuilds-all',
        'This family rebuilds every byte of the drive, used or not: moving data off makes it no shorter.',
        '/moveOffBytes',
      );
    if (moveOffBytes > used)
      return refusal(
        'more-than-there',
        `${pool.name} holds ${apart(used, moveOffBytes).join(', you wrote ')}.`,
        '/moveOffBytes',
      );
  }
  const [bytes, needs] = [drive.bytes, neededBytes(unit, old.serial)];
  if (bytes < needs)
    return refusal('drive-too-small', tooSmallWords(drive.label ?? formatBytes(bytes), bytes, needs), '/drive/bytes');
  return undefined;
}

/** A drive that is out left a bay empty; the first that is, when the record no longer knows which. */
export function bayLeftBy(unit: UnitState, { bay }: DriveInUnit): string | undefined {
  if (bay !== null) return bay;
  return unit.enclosures.flatMap(({ bays }) => bays).find((one) => !driveInBay(unit, one));
}

/** Adds the steps that write the old drive down and take the new one in hand: at least as many bytes as its member needs. */
export function newDriveChecked(
  { then }: PlanDraft,
  unit: UnitState,
  old: DriveInUnit,
  { drive, tested }: Pick<ReplaceWish, 'drive' | 'tested'>,
): void {
  const needs = neededBytes(unit, old.serial);
  const bay = old.bay ?? bayLeftBy(unit, old) ?? '';
  then({
    id: 'serial',
    title: `Write down: ${bayName(unit, bay)}, ${old.serial}`,
    why: 'Bay and serial, on paper or as a picture. The unit may be off when you need it, and the bays are counted differently from behind.',
    bay,
  });
  const uncertain = drive.basis !== 'exact';
  then({
    id: 'new-drive',
    kind: 'record',
    title: `Take the new drive and read its serial: at least ${formatExactBytes(needs)} bytes`,
    why: `${drive.label ?? formatBytes(drive.bytes)} holds ${formatExactBytes(drive.bytes)} bytes; ${bayName(unit, bay)} needs ${formatExactBytes(needs)}. ${driveListed(drive, tested)}`,
    ...(uncertain
      ? {
          caution:
            'Its size is only known from its label, and labels agree where sectors do not: compare the sector count printed on it, or its exact bytes, before anything is pulled.',
        }
      : drive.media === 'shingled'
        ? { caution: 'It is shingled: keep such a drive out of a parity pool.' }
        : drive.bytes < old.bytes && unit.profile.rebuild.acceptsSmaller !== true
          ? {
              caution:
                'It holds what the pool uses, and is smaller than the drive that leaves: some units want one as large. See the maker’s manual first.',
            }
          : {}),
    asks: { kind: 'serial', ...(drive.serial === undefined ? {} : { expects: drive.serial }) },
    does: [{ kind: 'take-drive', drive: { ...drive, bay }, for: old.serial }],
  });
}

/** Share of the pool in use once what is moved off is gone. */
function shareAfterMoving(
  { shownBytes }: Pool,
  { usedShare, moveOffBytes = 0 }: Pick<ReplaceWish, 'usedShare' | 'moveOffBytes'>,
): number | undefined {
  return usedShare === undefined ? undefined : Math.max(0, usedShare - moveOffBytes / shownBytes);
}

/** Where only used space is rebuilt: what is chosen to be moved off first, with the hours it saves; or how much that would be. */
function moveOff(
  { then }: PlanDraft,
  unit: UnitState,
  pool: Pool,
  { usedShare, moveOffBytes = 0 }: Pick<ReplaceWish, 'usedShare' | 'moveOffBytes'>,
  full: RebuildEstimate,
  after: RebuildEstimate,
): void {
  if (unit.profile.rebuild.covers !== 'used-space' || usedShare === undefined) return;
  const percent = `${String(Math.round(usedShare * 100))} % full`;
  if (moveOffBytes > 0) {
    then({
      id: 'move-off',
      kind: 'act',
      title: `Take ${formatBytes(moveOffBytes)} off ${pool.name} first, to where it has another home`,
      why: `Only used space is rebuilt here: ${hoursWords(full.likely / 3600)} at ${percent}, ${hoursWords(after.likely / 3600)} then. That is ${hoursWords((full.likely - after.likely) / 3600)} less of thin time. Empty the recycle area too.`,
      caution: 'Moved is moved only when it was opened where it is now: compare before anything is deleted here.',
    });
    return;
  }
  if (usedShare < 0.05) return;
  const perTerabyte = full.likely / ((usedShare * pool.shownBytes) / 1e12) / 3600;
  then({
    id: 'move-off',
    title: 'Take data off first, where it has another home',
    why: `Only used space is rebuilt here, about ${hoursWords(full.likely / 3600)} at ${percent}: every TB moved off saves about ${hoursWords(perTerabyte)} of thin time. Empty the recycle area too.`,
    maySkip: true,
  });
}

/** Adds the look at the unit's own page after a rebuild; its signs are settled by it. */
export function verified({ then }: PlanDraft, pool: string): void {
  then({
    id: 'verified',
    title: 'See that the unit says healthy, that every share opens, and that the lamps are quiet',
    why: `${pool} has its full margin again. Open a file in each share from another computer; look at the log once more for read errors on the drives that stayed.`,
    asks: { kind: 'page' },
    does: [{ kind: 'clear-signs' }],
  });
}

function expandIfDue({ then }: PlanDraft, unit: UnitState, pool: Pool, old: DriveInUnit, { bytes }: NewDrive): void {
  if (bytes <= old.bytes) return;
  const byItself = unit.profile.growth.expand === 'by-itself';
  then({
    id: 'expand',
    title: byItself ? 'See whether the pool has grown by itself' : 'Expand the pool, if the unit now offers it',
    why: `The new drive is larger. ${factsOf(pool.scheme).built === 'cut' ? 'Its space counts once enough members are as large.' : 'Every member counts as the smallest: nothing grows before the last is as large, and that is no fault.'}`,
    does: [{ kind: 'expand', pool: pool.id }],
  });
}

/** Adds the step that decides what becomes of a drive that left; the suffix tells several of one plan apart. */
export function oldDrivesFate({ then }: PlanDraft, { serial, warrantyUntil }: DriveInUnit, suffix = ''): void {
  then({
    id: `fate${suffix}`,
    kind: 'record',
    title: `Decide what becomes of ${serial}`,
    why: `Write on it what it is. Keep it untouched until the rebuild is proven: it may still hold what another drive loses. ${warrantyUntil === undefined ? '' : `Its warranty runs until ${warrantyUntil}. `}What is done with it is written in its own ledger.`,
    asks: { kind: 'fates', serials: [serial] },
    does: [{ kind: 'decide-fates', serials: [serial] }],
    drive: serial,
  });
}

/** Adds the step that orders the next spare, of at least so many bytes. */
export function nextSpare({ then }: PlanDraft, { bytes, label }: Pick<DriveInUnit, 'bytes' | 'label'>): void {
  then({
    id: 'next-spare',
    kind: 'record',
    title: 'Order the next spare',
    why: `At least ${formatExactBytes(bytes)} bytes (${label ?? formatBytes(bytes)}), of a kind on your list. The next failure finds it in the drawer, or waits days for it.`,
    asks: { kind: 'text', label: 'Order, or which drive in which drawer covers it already' },
    maySkip: true,
  });
}

function ageMates({ then }: PlanDraft, unit: UnitState, pool: Pool, old: DriveInUnit): void {
  const mates = ageMatesOf(unit, pool, old);
  if (mates.length === 0) return;
  const words = mates.map(({ bay, serial }) => `${bayName(unit, bay)} (${serial})`).join(', ');
  then({
    id: 'age-mates',
    title: `Plan the next: ${mates.length === 1 ? 'one drive is' : `${String(mates.length)} drives are`} as old`,
    why: `${words} ${mates.length === 1 ? 'comes' : 'come'} from the same lot or the same month. Drives of one age go together: make a plan of its own for each, one after the other, never together.`,
    maySkip: true,
  });
}
