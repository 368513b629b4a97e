import type { Band } from '../../layout/band';
import { factsOf } from '../../layout/scheme';
import { addedAtATime } from '../../pool/added';
import { bayName } from '../../unit/bayName';
import { fullMarginOfPool, marginOfPool } from '../../unit/margin';
import { poolChanged } from '../../unit/poolChanged';
import { driveInBay, freeBays, membersOf, type Pool, type UnitState } from '../../unit/state';
import { withFreshDrives } from '../../unit/withFreshDrives';
import { entryOf } from '../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import type { PlanBody } from '../plan';
import { rebuildOnto } from '../../rebuild/rebuildOnto';
import { toldOfSlowness } from './toldOfSlowness';
import { copyChecked } from './copyChecked';
import { draftPlan } from './draftPlan';
import { driveListed } from './driveListed';
import { idleHint, idleSeen, idleWords, whyNotIdle } from './idleDrives';
import { erasesWords, fitEach, layOut, theNew, whyNotFree } from './freshDrives';
import type { NewDrive } from './handsOnDrive';
import { nextSpare, type ReplaceWish } from './replace';
import { spaceSeen } from './spaceSeen';
import { toldAfter } from './toldAfter';

export interface GrowWish extends Pick<ReplaceWish, 'tested'> {
  readonly pool: string;
  /** What goes in: the same kind in every bay, serials read one by one. Left out where only idle drives are taken. */
  readonly drive?: NewDrive;
  /** Bays of drives that stand in the unit idle, and are added too. */
  readonly idle?: readonly string[];
  /** The free bays; left out means the first, as many as the family adds at a time. */
  readonly bays?: readonly string[];
}

/**
 * The plan to add drives to a pool: one, a pair, or a whole group, as the family takes them. Nothing is pulled and the pool is never
 * thinner; space comes when the unit has taken them in.
 */
export function growPlan(unit: UnitState, wish: GrowWish): PlanBody | Refusal {
  const pool = entryOf(unit.pools, wish.pool);
  if (!pool) return refusal('pool-unknown', `${unit.name} has no pool ${wish.pool}.`, '/pool');
  if (marginOfPool(pool) < fullMarginOfPool(pool) || pool.missing.length > 0)
    return refusal('thinned', `${pool.name} is thinned: replace what is missing first, then grow.`, '/pool');
  const { drive, idle = [] } = wish;
  const notIdle = whyNotIdle(unit, idle);
  if (notIdle) return notIdle;
  const free = freeBays(unit);
  const count = addedAtATime(unit.profile, pool) || 1;
  // What stands idle fills up a set that is added together; left to itself nothing new is bought beside it.
  const lacking = (count - (idle.length % count)) % count;
  const wanted = idle.length === 0 ? count : lacking;
  const bays = wish.bays ?? free.slice(0, wanted);
  const wrong = whyNotFree(unit, bays, '/bays');
  if (wrong) return wrong;
  if (bays.length + idle.length === 0 || (wish.bays === undefined && bays.length < wanted))
    return refusal(
      'no-free-bay',
      `${count === 1 ? 'No bay is' : `Fewer than ${String(wanted)} bays are`} free: swap members for larger drives, or add an enclosure.${idleHint(unit)}`,
      '/bays',
    );
  if (bays.length > 0 && !drive)
    return refusal(
      'drive-needed',
      `It takes ${bays.length === 1 ? 'one drive' : `${String(bays.length)} drives`} more: say which.${idleHint(unit, idle)}`,
      '/drive',
    );
  const all = [...idle, ...bays];
  const filled = withFreshDrives(
    unit,
    bays.flatMap((bay) => (drive ? { bay, ...withoutSerial(drive) } : [])),
  );
  const grown = poolChanged(filled, { kind: 'added', pool: pool.id, bays: all }, '');
  if (isRefusal(grown))
    return {
      ...grown,
      pointer:
        grown.code === 'adds-groups' || grown.code === 'adds-pairs'
          ? '/bays'
          : bays.length === 0
            ? '/idle'
            : '/drive/bytes',
    };

  const where = [...(idle.length > 0 ? [idleWords(unit, idle)] : []), ...bays.map((bay) => bayName(unit, bay))].join(
    ', ',
  );
  const kind = drive ?? driveInBay(unit, idle[0] ?? '');
  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  then(copyChecked(unit, pool.id));
  then(
    toldOfSlowness(
      pool,
      'may be slow',
      'Taking a drive in moves data on many units. A unit restarted meanwhile begins again, or worse.',
    ),
  );
  if (drive && bays.length > 0) {
    layOut(draft, drive, {
      pool: pool.id,
      use: 'add',
      bays,
      ...(idle.length === 0 ? {} : { idle }),
      why: `${driveListed(drive, wish.tested)} ${erasesWords(bays.length)}`,
    });
    fitEach(draft, unit, bays, drive);
  }
  under('At its page');
  idleSeen(draft, unit, idle);
  then({
    id: 'choose',
    kind: 'act',
    title: `Add ${idle.length === 0 ? theNew(bays.length) : `${String(all.length)} ${all.length === 1 ? 'drive' : 'drives'}`} to ${pool.name} in the unit’s own page`,
    why: `Choose ${where} by serial, and the pool by its name: “${pool.name}”, ${factsOf(pool.scheme).name.toLowerCase()}. What it shows before you say yes must be this pool with ${all.length === 1 ? 'one drive' : `${String(all.length)} drives`} more.`,
    caution:
      'Say yes only where it erases nothing but what you chose. If it offers a new pool, another level, or names a drive that was in before: answer no, and stop here.',
  });
  under('Wait');
  then({
    id: 'taken-in',
    kind: 'wait',
    title: `Wait until the unit has taken ${all.length === 1 ? 'it' : 'them'} in`,
    why: 'Minutes on some units, days on others: its page says how far it is. The pool can be used; pull nothing, switch nothing off.',
    caution: 'Tick when its page says that it is done and healthy: the space is counted from then on.',
    ...(kind ? hoursFor(filled, pool, grown.kind === 'pool-grown' ? grown.bands : pool.bands, kind) : {}),
    does: [{ kind: 'add-drives', pool: pool.id, bays: all }],
  });
  under('Afterwards');
  spaceSeen(draft, unit, 'grow', pool.id);
  if (kind) nextSpare(draft, kind);
  toldAfter(draft, pool);
  return {
    job: 'grow',
    title: `${all.length === 1 ? 'A drive' : `${String(all.length)} drives`} more for ${pool.name} of ${unit.name}`,
    steps: draft.steps,
  };
}

function withoutSerial({ serial: _one, ...kind }: NewDrive): Omit<NewDrive, 'serial'> {
  return kind;
}

/**
 * Where the data is laid out anew over all members, or copied onto a first mirror, it takes at least as long as a rebuild onto such a
 * drive; elsewhere nobody can say.
 */
function hoursFor(
  unit: UnitState,
  pool: Pool,
  bands: readonly Band[],
  drive: Pick<NewDrive, 'bytes' | 'media'>,
): { readonly hours?: number } {
  const { built } = factsOf(pool.scheme);
  const [member] = membersOf(pool);
  // One drive alone is copied onto the second: what is read and written is that of the pool it becomes.
  const of = built === 'cut' && fullMarginOfPool(pool) === 0 ? { ...pool, bands } : pool;
  if ((built !== 'one' && built !== 'cut') || fullMarginOfPool(of) === 0 || member === undefined) return {};
  return { hours: rebuildOnto(unit, of, member, drive).likely / 3600 };
}
