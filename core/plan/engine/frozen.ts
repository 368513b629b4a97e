import { bayName } from '../../unit/bayName';
import { isDown, isProvenLost } from '../../unit/margin';
import { driveInBay, membersOf, poolOfDrive, poolsOf, type Pool, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import type { PlanBody, PlanStep } from '../plan';
import type { Interlock } from './interlock';

/** The drives a plan is about: those it replaces, takes out, takes over from, or sees again. */
function drivesOf({ steps }: Pick<PlanBody, 'steps'>): ReadonlySet<string> {
  const known = DRIVES.get(steps);
  if (known) return known;
  const made = new Set(
    steps.flatMap(({ does }) =>
      does.flatMap((one) => [
        ...('serial' in one && one.serial !== undefined ? [one.serial] : []),
        ...('replaces' in one ? [one.replaces] : []),
        ...('for' in one && one.for !== undefined ? [one.for] : []),
      ]),
    ),
  );
  DRIVES.set(steps, made);
  return made;
}

/** Plans are frozen: whom one is about is found out once. */
const DRIVES = new WeakMap<PlanBody['steps'], ReadonlySet<string>>();

/** The pools of a unit that a plan touches. */
function poolsTouched(unit: UnitState, plan: Pick<PlanBody, 'steps'>): readonly Pool[] {
  const named = new Set(plan.steps.flatMap(({ does }) => does.flatMap((one) => ('pool' in one ? [one.pool] : []))));
  const about = [...drivesOf(plan)].flatMap((serial) => poolOfDrive(unit, serial)?.id ?? []);
  return poolsOf(unit).filter(({ id }) => named.has(id) || about.includes(id));
}

/**
 * What freezes a plan: a pool of it has stopped, or a member failed that the plan knew well. A plan was
 * made for the unit as it was; what it says next may be what must not be done now. A rescue is for just that, and goes on.
 */
export function whyFrozen(unit: UnitState, plan: Pick<PlanBody, 'job' | 'steps' | 'without'>): Interlock | undefined {
  if (plan.job === 'rescue' || plan.job === 'commission') return undefined;
  const pools = poolsTouched(unit, plan);
  const lost = pools.find(isDown);
  if (lost)
    return {
      kind: 'interlock',
      code: 'pool-lost',
      sentence: isProvenLost(unit, lost)
        ? `${lost.name} has lost data: this plan does not go on.`
        : `${lost.name} has stopped: this plan waits until it is back. Nothing is proven lost.`,
      back: `Pull nothing, fit nothing, switch nothing off, start no repair; answer no to whatever ${unit.name} asks. Keep every drive that was ever in it, marked with its bay. The rescue desk says what comes next; once the unit serves it again, say so there, and this plan goes on.`,
      serial: lost.missing[0] ?? '',
      mayOverride: false,
    };
  const other = takenOver(unit, plan);
  if (other) return other;
  const known = new Set([...drivesOf(plan), ...(plan.without ?? [])]);
  for (const pool of pools) {
    const failed = pool.missing.find(
      (serial) =>
        membersOf(pool).includes(serial) &&
        (!known.has(serial) ||
          // A plan for all members takes each out itself: one that is missing from where it stands was no step of it.
          (plan.job === 'replace-all' && !plan.without?.includes(serial) && isMissingWhereItStands(unit, serial))),
    );
    if (failed !== undefined)
      return {
        kind: 'interlock',
        code: 'another-failed',
        sentence: `${failed} is missing from ${pool.name} too, since this plan was made${unit.drives[failed]?.bay == null ? '' : ` (${bayName(unit, unit.drives[failed]?.bay)})`}.`,
        back: `Pull nothing more. Let what is running run to its end, and enter what it shows; then make a new plan for what is missing. What ${pool.name} holds and is not copied yet is copied first.`,
        serial: failed,
        mayOverride: true,
      };
  }
  return undefined;
}

/**
 * Another drive than the one a plan fits is written in place of the member it replaces, or has its place by now: a unit
 * takes an idle drive or a spare by itself while the pool is thin.
 */
function takenOver(unit: UnitState, { steps }: Pick<PlanBody, 'steps'>): Interlock | undefined {
  const meant = steps.flatMap(({ does }) => does.flatMap((one) => writtenBy(unit, one) ?? []));
  for (const { pool: id, replaces } of meant) {
    const pool = entryOf(unit.pools, id);
    if (!pool) continue;
    const ontos = meant.filter((one) => one.pool === id && one.replaces === replaces).map(({ onto }) => onto);
    const job = Object.values(unit.jobs).find((one) => one.pool === id && one.replaces === replaces);
    const members = membersOf(pool);
    const isOver = !members.includes(replaces) && !ontos.some((onto) => onto !== undefined && members.includes(onto));
    if (job ? job.onto === undefined || ontos.includes(job.onto) : !isOver || pool.missing.length > 0) continue;
    const onto = job?.onto;
    const bay = onto === undefined ? null : unit.drives[onto]?.bay;
    return {
      kind: 'interlock',
      code: 'another-takes-over',
      sentence: job
        ? `${onto ?? ''}${bay == null ? '' : ` in ${bayName(unit, bay)}`} is being written in place of ${replaces}: ${unit.name} took it by itself. This plan is not needed for that any more.`
        : `${replaces} is no member of ${pool.name} any more: another drive has its place, and ${pool.name} misses none. This plan is not needed for that any more.`,
      back: job
        ? 'Pull nothing, fit nothing. Stop this plan, let the work run to its end, and enter at the unit what its page shows. What then stands in a bay without use comes out afterwards, by a plan of its own.'
        : 'Stop this plan. What stands in a bay without use comes out by a plan of its own.',
      serial: onto ?? replaces,
      mayOverride: false,
    };
  }
  return undefined;
}

/** The member a step has something written in place of, and the drive it means to be written; none where its bay is empty yet. */
function writtenBy(
  unit: UnitState,
  one: PlanStep['does'][number],
): { readonly pool: string; readonly replaces: string; readonly onto: string | undefined } | undefined {
  if (one.kind === 'take-over') return { pool: one.pool, replaces: one.replaces, onto: one.spare };
  return one.kind === 'start-rebuild' || (one.kind === 'finish-rebuild' && one.bay !== undefined)
    ? { pool: one.pool, replaces: one.replaces, onto: driveInBay(unit, one.bay ?? '')?.serial }
    : undefined;
}

/** It died in its bay, or was pulled by mistake and put back: nobody has told the unit to do without it. */
function isMissingWhereItStands({ drives }: UnitState, serial: string): boolean {
  const drive = entryOf(drives, serial);
  return drive?.bay != null && drive.condition !== 'out-of-service';
}

/** Whether a step waits for what a frozen plan waits for all the same: running work is heard to its end. */
export function isHeard({ kind, does }: PlanStep): boolean {
  return kind === 'wait' && does.some((one) => one.kind === 'finish-rebuild' || one.kind === 'finish-job');
}
