import { conversionsOf } from '../../../pool/converted';
import { formatBytes } from '../../../quantity/formatBytes';
import { hoursWords } from '../../../quantity/hoursWords';
import { poolDrives } from '../../../unit/grownByExpand';
import { fullMarginOfPool } from '../../../unit/margin';
import { bayName } from '../../../unit/bayName';
import { factsOf } from '../../../layout/scheme';
import { freeBays, membersOf, poolsOf, type DriveInUnit, type Pool } from '../../../unit/state';
import { bytesInUse, roomIn, roomiest } from '../../../move/room';
import { entryOf } from '../../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../../value/refusal';
import { COMPARED, PROVEN } from '../../engine/copying';
import type { PlanStep } from '../../plan';
import { changeLevelPlan } from '../changeLevel';
import { growPlan } from '../grow';
import { draftPlan, type PlanDraft } from '../draftPlan';
import { HOLD_IT, type NewDrive } from '../handsOnDrive';
import { beforeMoving, servicesNoted } from './beforeMoving';
import type { BothUnits } from './bothUnits';

export interface CopyOverWish {
  /** The pool it is copied to; left out means the one with most room. */
  readonly pool?: string | undefined;
  /** At the very end the old drive is wiped and becomes the second one of the new pool. */
  readonly addOld?: boolean | undefined;
  /** The maker's own assistant brings shares, users and data over. */
  readonly byAssistant: boolean;
  /** The newer unit serves others already: it keeps its own name and address, and whoever used the old one is pointed there. */
  readonly joins: boolean;
}

/** How long the old unit is held as it is before its drives are touched (common practice). */
const HOLDING_DAYS = 14;

/**
 * Everything copied to a pool of the newer unit, and cut over: the old unit is off before its address is taken, and its
 * drives are not touched before another copy is proven.
 *
 * @param hours the copy is reckoned to take
 */
export function copyOverSteps(both: BothUnits, wish: CopyOverWish, hours: number): PlanStep[] | Refusal {
  const bytes = bytesInUse(both.old, both.used);
  const pool = targetOf(both, wish.pool, bytes);
  if (isRefusal(pool)) return pool;
  const old = wish.addOld === true ? oldDriveFor(both, pool) : null;
  if (isRefusal(old)) return old;
  const draft = draftPlan();
  beforeMoving(both, draft);
  servicesNoted(both, draft);
  if (wish.joins) servedAlready(draft, both);
  doors(draft, both, wish);
  sharesMade(draft, both, pool, wish);
  dataCopied(draft, both, pool, { byAssistant: wish.byAssistant, hours, bytes });
  cutOver(draft, both, pool, wish.joins);
  afterwards(draft, both, { isAdded: old !== null, joins: wish.joins });
  if (!old) return draft.steps;
  const added = oldDriveAdded(draft, both, pool, old);
  return isRefusal(added) ? added : draft.steps;
}

/** The pool of the newer unit that so much goes to: the one that is named, or the one with most room; refused without room. */
export function targetOf(
  { newer, used }: Pick<BothUnits, 'newer' | 'used'>,
  named: string | undefined,
  bytes: number,
): Pool | Refusal {
  const pool = named === undefined ? roomiest(newer, used) : entryOf(newer.pools, named);
  if (!pool) return refusal('pool-unknown', `${newer.name} has no pool ${named ?? ''} to copy to.`, '/pool');
  const room = Math.max(0, roomIn(pool, used));
  return bytes > room
    ? refusal(
        'no-room',
        `${formatBytes(bytes)} are in use, and ${pool.name} of ${newer.name} has room for ${formatBytes(room)}.`,
        '/pool',
      )
    : pool;
}

/**
 * Why the old drive cannot become the second of the pool everything is copied to, in a sentence; `undefined` where it can.
 *
 * @param used bytes in use by pool
 */
export function whyOldNotAdded(both: Pick<BothUnits, 'old' | 'newer' | 'used'>, named?: string): string | undefined {
  const pool = targetOf(both, named, bytesInUse(both.old, both.used));
  const drive = isRefusal(pool) ? pool : oldDriveFor(both, pool);
  return isRefusal(drive) ? drive.sentence : undefined;
}

/**
 * The drive of the old unit that can become the second one of the new pool, once everything else is done.
 *
 * @returns refused where it cannot, with the reason
 */
function oldDriveFor({ old, newer }: Pick<BothUnits, 'old' | 'newer'>, pool: Pool): DriveInUnit | Refusal {
  const no = (sentence: string): Refusal => refusal('old-not-added', sentence, '/addOld');
  const drives = Object.values(old.drives).filter(({ bay }) => bay !== null);
  const [drive] = drives;
  if (!drive || drives.length > 1)
    return no(`${old.name} has ${String(drives.length)} drives: only a single one becomes the second of a pool.`);
  if (membersOf(pool).length !== 1) return no(`${pool.name} of ${newer.name} does not stand on one drive.`);
  if (drive.sick !== undefined || drive.condition !== 'well')
    return no(`${drive.serial} shows signs: it is no drive to protect anything with.`);
  const { possible } = conversionsOf(newer.profile, pool, poolDrives(newer, pool), freeBays(newer).length);
  const isTaken = growsToMirror(pool)
    ? freeBays(newer).length > 0
    : possible.some(({ to, keepsData }) => to === 'mirror' && keepsData);
  if (!isTaken)
    return no(
      `${newer.name} takes no second drive to ${pool.name}: its family does not change that, or no bay is free.`,
    );
  const member = newer.drives[membersOf(pool)[0] ?? ''];
  return member && drive.bytes < member.bytes
    ? no(
        `${drive.serial} holds ${formatBytes(drive.bytes)}, less than the ${formatBytes(member.bytes)} of the drive it would mirror.`,
      )
    : drive;
}

/**
 * Adds what the newer unit does for others already: a name that is taken there is found before anything is copied to it.
 *
 * @param part what goes over, where it is not all: then its own lines are held against these, and not the other way round
 */
export function servedAlready({ then }: PlanDraft, { from, to, old, newer }: BothUnits, part?: string): void {
  then({
    id: 'stock-there',
    kind: 'record',
    title: `Write down${part === undefined ? ', too,' : ''} what ${newer.name} does for others already`,
    why:
      part === undefined
        ? `${old.name} joins it: whatever is called the same at both is named here, before one is copied over the other. Afterwards it is gone through as well.`
        : `${part} goes there: whatever is called the same is named in the next step, before one is copied over the other.`,
    asks: { kind: 'stock' },
    does: [{ unit: to, kind: 'take-stock', ...(part === undefined ? { joins: from } : {}) }],
  });
}

/** Adds the doors: a service that is off at one end is the first error people meet. */
export function doors(
  { under, then }: PlanDraft,
  { old, newer }: BothUnits,
  { byAssistant, joins }: CopyOverWish,
): void {
  under('Doors');
  then({
    id: 'doors',
    title: `Switch on, at ${old.name} and at ${newer.name}, the service the ${byAssistant ? 'assistant' : 'copy'} goes over`,
    why: 'Each has its own page for it. One that is off at one end shows as an error of the connection, and hours go by looking for a cable.',
  });
  then({
    id: 'door-tried',
    title: 'Test the door before the truck: send one small file across, and open it at the other end',
    why: 'With the account and the way the whole copy will take.',
    ...(joins
      ? {}
      : {
          caution: `Give ${newer.name} an address of its own for now: the old one stays where it is until ${old.name} is off.`,
        }),
  });
}

/** Adds block volumes, shares and users: in that order, since a restored configuration overwrites shares. */
export function sharesMade(
  { under, then }: PlanDraft,
  both: BothUnits,
  pool: Pool,
  { byAssistant, joins }: CopyOverWish,
): void {
  const { old, newer } = both;
  const sums = newer.profile.software.fileSystems.find(({ checksums }) => checksums);
  under('Shares and people');
  then({
    id: 'block-volumes',
    title: 'Back block volumes up with the unit’s own backup, first of all',
    why: 'They are no files: they are not copied, only backed up and restored. Machines that use them are stopped before.',
    maySkip: true,
  });
  if (byAssistant) {
    then({
      id: 'assistant',
      title: `Start the maker’s assistant on ${newer.name}, and choose what comes over`,
      why: 'Shares, users, permissions, settings; without the network. What it leaves out stands in its manual: note it.',
      caution: `Choose ${pool.name} as the place it goes to. Where it offers to erase drives: no.${joins ? ` No settings, and no name or address: ${newer.name} serves others.` : ''}`,
    });
    return;
  }
  then({
    id: 'shares',
    title: `Make the shares on ${newer.name} anew${sums ? `, file system ${sums.name}` : ''}`,
    ...(joins ? { caution: 'Under names nobody uses there yet: the shares of others stay as they are.' } : {}),
    why: sums
      ? 'Shares that are brought over from an older file system have no checksums, and get none later. A recycle area only where it is wanted.'
      : 'A recycle area only where it is wanted: it falsifies the comparison.',
  });
  then({
    id: 'people',
    title: 'Bring users and groups over',
    why: joins
      ? 'By hand, from the exported list: who is known at both is one person, or gets another name.'
      : newer.profile.software.restoresAlone?.includes('users')
        ? 'From the exported configuration, and only these: this family restores them alone.'
        : 'By hand, from the exported list.',
    caution: joins
      ? `No part of the configuration is restored here: it overwrites what ${newer.name} does for others.`
      : 'Not the whole configuration: restored now it overwrites the shares you have just made, brings back shares without checksums, and the old address with them.',
  });
  then({
    id: 'permissions',
    title: 'Give the shares their permissions',
    why: `As they are on ${old.name}; after the users, before the data.`,
  });
}

/** What is copied of the old unit, and how. */
interface Copying {
  readonly byAssistant: boolean;
  /** The copy is reckoned to take. */
  readonly hours: number;
  readonly bytes: number;
  /** Only these data sets; left out means all. */
  readonly only?: string[];
}

/** Adds the copy: begun, waited for, compared; then writers stopped, what changed meanwhile, and compared again. */
export function dataCopied(
  { under, then }: PlanDraft,
  both: BothUnits,
  pool: Pool,
  { byAssistant, hours, bytes, only }: Copying,
): void {
  const { old, newer, to, used } = both;
  const named = only === undefined ? {} : { dataSets: only };
  under('Data');
  then({
    id: 'copy-start',
    kind: 'act',
    title: `${byAssistant ? 'Let the assistant begin' : 'Begin'} copying ${formatBytes(bytes)} to ${pool.name} of ${newer.name}`,
    why: `${old.name} stays as it is, and people go on working. No firmware is updated meanwhile, at either end.`,
    does: [
      { kind: 'begin-copies', to, pool: pool.id, ...named },
      { unit: to, kind: 'start-job', task: 'copy', pool: pool.id },
    ],
  });
  then({
    id: 'copied',
    kind: 'wait',
    title: `Wait until all ${formatBytes(bytes)} are there`,
    why: `About ${hoursWords(hours)}; many small files take several times what a few large ones do. Enter what percent it shows when you pass by.`,
    hours,
    does: [
      {
        unit: to,
        kind: 'finish-job',
        task: 'copy',
        pool: pool.id,
        bytes: Math.round((used[pool.id] ?? 0) + bytes),
      },
    ],
  });
  then({
    id: 'compared',
    kind: 'check',
    title: 'Compare both ends, share by share: number of files, their sizes, and their checksums where there are any',
    why: 'Recycle areas and thumbnails left out. A copy that stopped half-way looks like a copy.',
    asks: { kind: 'choice', options: [...COMPARED] },
    does: [
      { kind: 'confirm-copies', to, outcome: 'ran' },
      { kind: 'confirm-copies', to, outcome: 'same' },
    ],
  });
  then({
    id: 'writers-stopped',
    title: only
      ? `Stop everything that writes to what goes over: people out of those shares of ${old.name}, the shares read-only`
      : `Stop everything that writes to ${old.name}: people out, shares read-only, backups and machines stopped`,
    why: 'What is written from here on would be missing on the newer one.',
  });
  then({
    id: 'last-copied',
    kind: 'wait',
    title: 'Copy what has changed since, and nothing else',
    why: 'The same copy once more: it takes only what is new. Minutes, as a rule.',
    hours: Math.max(0.1, hours * 0.02),
    does: [{ kind: 'confirm-copies', to, outcome: 'ran' }],
  });
  then({
    id: 'compared-again',
    kind: 'check',
    title: 'Compare once more: both ends the same, with nobody writing',
    why: 'This comparison is the proof everything after it rests on.',
    asks: { kind: 'choice', options: [...COMPARED] },
    does: [{ kind: 'confirm-copies', to, outcome: 'same' }],
  });
}

/** Adds the cutover: the old unit off, and only then its name and address; then what counts on it. */
function cutOver({ under, then }: PlanDraft, both: BothUnits, pool: Pool, joins: boolean): void {
  const { old, newer, from, to } = both;
  const moved = [
    { unit: to, kind: 'take-over-data' as const, from, pool: pool.id },
    { kind: 'hand-over-data' as const, to },
  ];
  under('Cutover');
  then({
    id: 'old-off',
    kind: 'act',
    title: `Shut ${old.name} down, and wait until it is off`,
    why: 'It keeps everything as it was this minute: from now on it is the second copy.',
    does: [{ kind: 'switch-power', on: false }],
  });
  if (joins)
    then({
      id: 'pointed',
      kind: 'record',
      title: `Point the people and machines that used ${old.name} at ${newer.name}${newer.details.address === undefined ? '' : `, ${newer.details.address}`}`,
      why: `${newer.name} keeps its own name and address: others work with it. Links, drive letters, scanners, cameras and backups are changed one by one; the list of what depends on ${old.name} stands in its stock.`,
      caution: `The address of ${old.name} is given to nobody as long as it is held: it may have to come back.`,
      does: moved,
    });
  else
    then({
      id: 'address',
      kind: 'record',
      title: `Now give ${newer.name} the name and address of ${old.name}${old.details.address === undefined ? '' : `, ${old.details.address}`}`,
      why: 'Not before: two of one address, and nobody reaches either.',
      asks: { kind: 'text', label: 'Address, as it is reached from now on' },
      does: [{ unit: to, kind: 'write-down', field: 'address' }, ...moved],
    });
  then({
    id: 'block-restored',
    title: 'Restore block volumes from their backup, and connect the machines that use them',
    why: joins
      ? 'Each under a name that is free; the machines are told the new address.'
      : 'After the address: they look for it.',
    maySkip: true,
  });
  then({
    id: 'stock-again',
    kind: 'record',
    title: 'Take stock again: go through what was written down, line by line',
    why: 'Permissions are looked at as somebody who may not, too.',
    asks: { kind: 'stock' },
    does: [{ unit: to, kind: 'take-stock', against: from, ...(joins ? { joins: from } : {}) }],
  });
  then({
    id: 'client',
    title: 'Try a real client: open a file, save one, print one',
    why: 'From the desk of somebody who will call tomorrow. Then the list of what depends on it, one after the other.',
    caution: joins
      ? `If it does not work and cannot be mended today: ${old.name} on again, with its address, and people back there. ${newer.name} stays on for the others. Nothing was taken away.`
      : `If it does not work and cannot be mended today: ${newer.name} off, ${old.name} on with its address. Nothing was taken away.`,
  });
}

/** Adds what watches the newer one, and the time the old one is held. */
function afterwards(
  { under, then }: PlanDraft,
  both: BothUnits,
  { isAdded, joins }: { readonly isAdded: boolean; readonly joins: boolean },
): void {
  const { old, newer, to } = both;
  under('Afterwards');
  // Who serves others is watched already.
  if (!joins)
    then({
      id: 'alarm-mail',
      title: `Set mail for warnings on ${newer.name} and send a test`,
      why: 'What watched the old unit watches nothing now.',
      does: [{ unit: to, kind: 'confirm', check: 'alarm-mail-tested' }],
    });
  then({
    id: 'backup',
    title: joins
      ? `Take the new shares into the backup of ${newer.name}, and let it run once`
      : `Point the backup at ${newer.name}, and let it run once`,
    why: `Until it has, ${old.name} and what was backed up of it are all there is besides.`,
  });
  then({
    id: 'held',
    kind: 'wait',
    title: `Keep ${old.name} as it is for ${String(HOLDING_DAYS)} days, switched off`,
    why: 'Somebody will miss a file. Until then it is there, with everything as it was.',
    hours: HOLDING_DAYS * 24,
  });
  if (!isAdded)
    then({
      id: 'retire',
      title: `${old.name}: leave its drives as they are until another copy is proven, then retire it`,
      why: 'Each drive wiped with a record of how, by whom, and how it was checked, on the drive’s own page; then the unit under “About” of its own: its address freed, its licence noted.',
      maySkip: true,
    });
}

/** What a plan says of a drive it means to fit. */
function plannedAs({ serial, printed, bytes, basis, label, model, media }: DriveInUnit): NewDrive {
  const named = { printed, label, model, media };
  const known = Object.fromEntries(Object.entries(named).filter(([, value]) => value !== undefined));
  return { serial, bytes, basis, ...known };
}

/** Adds the proof that must stand before the second copy is taken away. */
export function anotherCopy(
  { then }: PlanDraft,
  { old, newer, from, to }: BothUnits,
  only: { readonly dataSets?: string[] } = {},
): void {
  then({
    id: 'another-copy',
    kind: 'check',
    title: `Fetch one file back from a copy that stands neither on ${old.name} nor on ${newer.name}`,
    why: 'What follows takes the second copy away. Another must be known to be good, today.',
    asks: { kind: 'choice', options: [...PROVEN] },
    does: [{ unit: to, kind: 'prove-copies', besides: from, ...only }],
  });
}

/** A pool cut at sizes that began with one drive: a second one that is added makes it a mirror, with no change of level. */
function growsToMirror(pool: Pool): boolean {
  return factsOf(pool.scheme).built === 'cut' && membersOf(pool).length === 1;
}

/** Adds the old drive as the second one of the new pool: only once another copy is proven. */
function oldDriveAdded(draft: PlanDraft, both: BothUnits, pool: Pool, drive: DriveInUnit): undefined | Refusal {
  const { old, newer, from, to } = both;
  const { under, then, steps } = draft;
  const before = poolsOf(old).find((one) => membersOf(one).includes(drive.serial));
  under(`The old drive into ${newer.name}`);
  anotherCopy(draft, both);
  then({
    id: 'given-up',
    kind: 'act',
    title: `Give up what stands on ${drive.serial}`,
    why: `This removes the last second copy: ${pool.name} still has ${fullMarginOfPool(pool) === 0 ? 'no redundancy' : 'less redundancy'} until the rebuild is done. Type the serial of the old drive, as it stands on record.`,
    caution: `If anybody has missed anything since the move, do not: ${old.name} still has it.`,
    asks: { kind: 'serial', expects: drive.serial },
    does: [
      ...(before ? [{ kind: 'destroy-pool' as const, pool: before.id }] : []),
      { unit: to, kind: 'forget-copies', on: from },
    ],
  });
  then({
    id: 'old-out',
    kind: 'act',
    title: `Take the drive out of ${bayName(old, drive.bay ?? '')} of ${old.name}, and read its serial`,
    why: `${old.name} is off, and unplugged.`,
    caution: HOLD_IT,
    asks: { kind: 'serial', expects: drive.serial },
    does: [{ kind: 'pull-drive', serial: drive.serial }],
  });
  const wish = { pool: pool.id, drive: plannedAs(drive) };
  const second = growsToMirror(pool) ? growPlan(newer, wish) : changeLevelPlan(newer, { ...wish, to: 'mirror' });
  if (isRefusal(second)) return { ...second, pointer: '/addOld' };
  let last = steps.at(-1)?.id ?? '';
  for (const step of second.steps.filter(({ part }) => part !== 'Before')) {
    const id = `add-${step.id}`;
    under(`The old drive into ${newer.name}`);
    draft.add({ ...step, id, does: step.does.map((one) => ({ ...one, unit: to })), after: [last] });
    last = id;
  }
  return undefined;
}
