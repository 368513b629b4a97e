import { figuresOf } from '../../drive/media';
import { factsOf, schemeWords, type Scheme } from '../../layout/scheme';
import { leastConversion, type PoolConversion } from '../../pool/converted';
import { longestRebuild } from '../../rebuild/estimateRebuild';
import { bayName, BayName } from '../../unit/bayName';
import { poolDrives } from '../../unit/grownByExpand';
import { fullMarginOfPool, marginOfPool } from '../../unit/margin';
import { driveInBay, freeBays, membersOf, type Pool, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import type { PlanBody } from '../plan';
import { slowFor, toldOfSlowness } from './toldOfSlowness';
import { copyChecked } from './copyChecked';
import { draftPlan } from './draftPlan';
import { driveListed } from './driveListed';
import { idleHint, idleSeen, idleWords, whyNotIdle } from './idleDrives';
import { erasesWords, fitEach, layOut, theNew } from './freshDrives';
import type { NewDrive } from './handsOnDrive';
import { nextSpare, verified, type ReplaceWish } from './replace';
import { spaceSeen } from './spaceSeen';
import { toldAfter } from './toldAfter';

export interface ChangeLevelWish extends Pick<ReplaceWish, 'tested' | 'copyProven' | 'usedShare'> {
  readonly pool: string;
  readonly to: Scheme;
  /** The kind of drive added for it; left out where none is to be had. As many go in as the new level needs. */
  readonly drive?: NewDrive;
  /** Bays of drives that stand in the unit idle: they are taken before anything new is fitted. */
  readonly idle?: readonly string[];
}

/**
 * The plan to change the level of a pool that keeps its data: mirror to single parity, single to double, a second drive to
 * a single one. The whole pool is written anew, for hours to days, and has its new margin only when that is done.
 *
 * @returns the plan; or why not: not offered, drives or room missing, members that show signs
 */
export function changeLevelPlan(unit: UnitState, wish: ChangeLevelWish): PlanBody | Refusal {
  const pool = entryOf(unit.pools, wish.pool);
  if (!pool) return refusal('pool-unknown', `${unit.name} has no pool ${wish.pool}.`, '/pool');
  if (marginOfPool(pool) < fullMarginOfPool(pool) || pool.missing.length > 0)
    return refusal(
      'thinned',
      `${pool.name} is thinned: replace what is missing first, then change its level.`,
      '/pool',
    );
  const notIdle = whyNotIdle(unit, wish.idle ?? []);
  if (notIdle) return notIdle;
  const after = becoming(unit, pool, wish);
  if (isRefusal(after)) return after;
  const wrong = whyNotYet(unit, pool, after, wish.copyProven);
  if (wrong) return wrong;

  const idle = (wish.idle ?? []).slice(0, after.addedDrives);
  const bays = freeBays(unit).slice(0, after.addedDrives - idle.length);
  const all = [...idle, ...bays];
  const margin = marginOfPool(pool);
  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  then(copyChecked(unit, pool.id));
  then({
    id: 'restore',
    kind: 'record',
    title: `Fetch one file of ${pool.name} back from the copy, today`,
    why: 'Every byte of the pool is read and written elsewhere. If that stops half-way, the copy is all there is: it is proven before, not after.',
    asks: { kind: 'copy', isProof: true },
    does: [{ kind: 'arrange-copy', pool: pool.id, isLast: true }],
  });
  if (unit.profile.software.configurationExport)
    then({
      id: 'configuration',
      title: 'Export the configuration and keep it elsewhere',
      why: 'It restores users and settings onto a unit that was reset.',
      maySkip: true,
    });
  then(
    toldOfSlowness(
      pool,
      `will be slow for ${slowFor(hoursAtLeast(unit, pool, after, wish.drive, all))}`,
      'The whole pool is written anew under them. A unit restarted meanwhile begins again, or worse.',
    ),
  );
  if (wish.drive && bays.length > 0) {
    layOut(draft, wish.drive, {
      pool: pool.id,
      use: 'change-level',
      to: wish.to,
      bays,
      ...(idle.length === 0 ? {} : { idle }),
      why: `${driveListed(wish.drive, wish.tested)} ${erasesWords(bays.length)}`,
    });
    fitEach(draft, unit, bays, wish.drive);
  }
  under('At its page');
  idleSeen(draft, unit, idle);
  then({
    id: 'choose',
    kind: 'act',
    title: `Change ${pool.name} to ${schemeWords(wish.to)} in the unit’s own page`,
    why: `Choose the pool by its name, “${pool.name}”${all.length === 0 ? '' : `, and by serial ${[...(idle.length > 0 ? [idleWords(unit, idle)] : []), ...(bays.length > 0 ? [`${theNew(bays.length)} (${bays.map((bay) => bayName(unit, bay)).join(', ')})`] : [])].join(', ')}`}. What it shows before you say yes must keep the data.`,
    caution: `Say yes only where it says that it keeps what is in ${pool.name}, and erases nothing but what you chose. If it offers a new pool, or says that all drives are set up anew: answer no, and stop here.`,
    does: [{ kind: 'start-job', task: 'convert', pool: pool.id }],
  });
  under('Wait');
  const hours = hoursAtLeast(unit, pool, after, wish.drive, all);
  then({
    id: 'converted',
    kind: 'wait',
    title: `Wait until it is ${schemeWords(wish.to)}`,
    why: `Every member is read and written from end to end, at least once: longer than a rebuild, days on large drives. Until it is done ${pool.name} can lose ${margin === 0 ? 'none' : `no more than ${String(margin)}`}, as before. Enter what percent it shows; pull nothing, switch nothing off.`,
    caution: 'Tick when its page says that it is done and healthy: the new margin counts from then on, not before.',
    ...(hours === undefined ? {} : { hours }),
    does: [
      { kind: 'finish-job', task: 'convert', pool: pool.id },
      { kind: 'change-level', pool: pool.id, to: wish.to, bays: all },
    ],
  });
  under('Afterwards');
  verified(draft, pool.name);
  spaceSeen(draft, unit, 'convert', pool.id);
  if (wish.drive && bays.length > 0) nextSpare(draft, wish.drive);
  toldAfter(draft, pool);
  return {
    job: 'convert',
    title: `${pool.name} of ${unit.name} becomes ${schemeWords(wish.to)}`,
    steps: draft.steps,
  };
}

/** What the pool becomes, with as few drives added as it takes. */
function becoming(
  unit: UnitState,
  pool: Pool,
  { to, drive, idle = [], usedShare = 0 }: ChangeLevelWish,
): PoolConversion | Refusal {
  const fresh = (of: NewDrive | undefined) =>
    freeBays(unit).map((bay) => ({
      name: `new in ${bay}`,
      bytes: of?.bytes ?? sizeOfMembers(unit, pool),
      ...(of?.media === undefined ? {} : { media: of.media }),
    }));
  const used = usedShare * pool.shownBytes;
  const members = poolDrives(unit, pool);
  const standing = idle.flatMap((bay) => {
    const found = driveInBay(unit, bay);
    return found
      ? [{ name: found.serial, bytes: found.bytes, ...(found.media === undefined ? {} : { media: found.media }) }]
      : [];
  });
  const made = leastConversion(unit.profile, pool, to, members, [...standing, ...fresh(drive)], used);
  if (isRefusal(made)) {
    const isOfDrives = made.code !== 'no-room' && made.pointer !== '/to' && freeBays(unit).length > 0;
    return { ...made, pointer: isOfDrives ? '/drive' : '/to' };
  }
  const lacking = made.addedDrives - standing.length;
  return lacking > 0 && drive === undefined
    ? refusal(
        'drive-needed',
        `It takes ${lacking === 1 ? 'one drive' : `${String(lacking)} drives`} more: say which.${idleHint(unit, idle)}`,
        '/drive',
      )
    : made;
}

/** Large enough to see whether any drive would do. */
function sizeOfMembers(unit: UnitState, pool: Pool): number {
  return Math.max(...membersOf(pool).map((serial) => unit.drives[serial]?.bytes ?? 0));
}

function whyNotYet(
  unit: UnitState,
  pool: Pool,
  after: PoolConversion,
  copyProven: boolean | undefined,
): Refusal | undefined {
  if (!after.keepsData)
    return refusal(
      'erases',
      `This family erases ${pool.name} to make ${factsOf(after.to).name.toLowerCase()} of its drives: that is a new pool. Copy all of it elsewhere and prove the copy, take the pool apart, make a new one of the idle drives, and copy back.`,
      '/to',
    );
  const busy = Object.values(unit.jobs).find((job) => job.pool === pool.id && job.task !== 'scrub');
  if (busy) return refusal('job-runs', `${pool.name} is at work already. Wait until that is done.`, '/pool');
  const sick = membersOf(pool).flatMap((serial) => {
    const drive = unit.drives[serial];
    return drive && (drive.sick !== undefined || drive.condition === 'suspected') ? [drive] : [];
  });
  return sick.length > 0 && copyProven !== true
    ? refusal(
        'rests-on-sick',
        `${sick.map(({ bay, serial }, i) => `${i === 0 ? BayName(unit, bay) : bayName(unit, bay)} (${serial})`).join(' and ')} shows signs, and every member is read and written from end to end, for days: replace it first; or copy what is in ${pool.name} elsewhere, and prove the copy.`,
        '/pool',
      )
    : undefined;
}

/** No faster than writing the slowest member once from end to end; nobody can say how much longer. */
function hoursAtLeast(
  unit: UnitState,
  pool: Pool,
  { bands }: PoolConversion,
  drive: NewDrive | undefined,
  bays: readonly string[],
): number | undefined {
  if (bands.every(({ redundancy }) => redundancy === 0)) return undefined;
  const known = new Map(
    [...membersOf(pool), ...bays.map((bay) => driveInBay(unit, bay)?.serial ?? `new in ${bay}`)].map((name) => {
      const { bytes = 1, media = 'hard-disk' as const } = unit.drives[name] ?? drive ?? {};
      return [name, { bay: name, bytes, media, ...figuresOf(media) }] as const;
    }),
  );
  const pass = longestRebuild(bands, known, unit.profile.rebuild);
  return pass === null ? undefined : pass.likely / 3600;
}
