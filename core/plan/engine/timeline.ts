import { USUAL_FAILURES_PER_YEAR } from '../../appraisal/appraise';
import { lossAhead, type Thought } from '../../outlook/lossAhead';
import { failsByDataSheet, lossWithoutRepair, unreadableWhile } from '../../risk/lossWithoutRepair';
import { marginOfPool } from '../../unit/margin';
import { membersOf, type Job, type Pool, type UnitState } from '../../unit/state';
import { rebuildOnto } from '../../rebuild/rebuildOnto';
import type { Units } from './carrying';
import { runOfPool, type DryStep, type DryStop } from './dryRun';

/** A stretch of a plan in which a pool's margin stays as it is. */
export interface MarginStretch {
  readonly from: string;
  readonly to: string;
  readonly margin: number;
  /** Chance that a further failure loses data within it, 0..1: as the data sheets have drives, each at its constant rate. */
  readonly loss: number;
  /** The same of these drives: their ages, signs and lots, from the least to the most of what is thought possible. */
  readonly lossBetween: readonly [number, number];
  /** Chance of an unreadable sector met by a rebuild within it that can lose none: the data sheet's bound, and as usual. */
  readonly unreadable: { readonly bound: number; readonly usual: number } | null;
}

export interface PlanRisk {
  readonly kind: 'plan-risk';
  readonly pool: string;
  readonly stretches: readonly MarginStretch[];
  /** Over the whole plan. */
  readonly loss: number;
  readonly lossBetween: readonly [number, number];
  readonly unreadable: { readonly bound: number; readonly usual: number };
  /** Hours with less margin than at its best. */
  readonly thinHours: number;
}

/**
 * What a plan risks and when: the margin of a pool against time, and over each stretch the chance of failures that
 * lose data, exactly, with nothing repaired before the stretch ends; what failed in the one before counts in it no more.
 *
 * @param from when it begins (ISO 8601)
 */
export function planRisk(
  unit: UnitState,
  run: readonly (DryStep | DryStop)[],
  pool: string,
  from: string,
  { used = {}, thought = {} }: Known = {},
): PlanRisk | null {
  const stretches: MarginStretch[] = [];
  // The pool stays as it is over several steps: its chance is that of all their hours at once.
  let held = null as Held | null;
  const close = (over: Held | null): void => {
    if (!over) return;
    const here = stretchOf(over, used, thought[pool] ?? NOTHING_SEEN);
    const last = stretches.at(-1);
    if (last?.margin === here.margin) stretches[stretches.length - 1] = together(last, here);
    else stretches.push(here);
  };
  let [state, at] = [unit, from];
  for (const step of run) {
    if (step.kind === 'dry-stop') break;
    const of = state.pools[pool];
    if (of && step.at > at) {
      if (held && isAsBefore(held, state, of)) held = { ...held, to: step.at };
      else {
        close(held);
        held = { state, pool: of, from: at, to: step.at };
      }
    }
    state = step.after;
    at = step.at;
  }
  close(held);
  if (stretches.length === 0) return null;
  const best = Math.max(...stretches.map(({ margin }) => margin));
  const end = state.pools[pool];
  // The last step ends the plan: how it stands from then on.
  if (end && marginOfPool(end) !== stretches.at(-1)?.margin)
    stretches.push({ from: at, to: at, margin: marginOfPool(end), loss: 0, lossBetween: [0, 0], unreadable: null });
  return Object.freeze({
    kind: 'plan-risk',
    pool,
    stretches,
    loss: anyOf(stretches.map(({ loss }) => loss)),
    lossBetween: anyOfBetween(stretches.map(({ lossBetween }) => lossBetween)),
    unreadable: {
      bound: anyOf(stretches.map(({ unreadable }) => unreadable?.bound ?? 0)),
      usual: anyOf(stretches.map(({ unreadable }) => unreadable?.usual ?? 0)),
    },
    thinHours: stretches.reduce(
      (sum, { from: a, to: b, margin }) => sum + (margin < best ? (Date.parse(b) - Date.parse(a)) / 3_600_000 : 0),
      0,
    ),
  });
}

/**
 * The same of every pool of the units a plan acts on, wherever it is by then.
 *
 * @param units their states as it begins, by id
 */
export function risksOf(
  units: Units,
  run: readonly (DryStep | DryStop)[],
  from: string,
  known: Known = {},
): readonly PlanRisk[] {
  return Object.values(units).flatMap((unit) =>
    Object.keys(unit.pools).flatMap((pool) => planRisk(unit, runOfPool(run, pool), pool, from, known) ?? []),
  );
}

/** What is known beside the states of the units; both by pool. */
export interface Known {
  /** Bytes used, as last read: where only used space is rebuilt, no more than that is read. */
  readonly used?: Readonly<Record<string, number>>;
  readonly thought?: Readonly<Record<string, Thought>>;
}

const NOTHING_SEEN: Thought = { failuresPerYear: USUAL_FAILURES_PER_YEAR, lots: [] };

/** The chance that any of these happens, which do not depend on one another. */
function anyOf(chances: readonly number[]): number {
  return -Math.expm1(chances.reduce((sum, one) => sum + Math.log1p(-Math.min(one, 1 - 1e-15)), 0));
}

function anyOfBetween(of: readonly (readonly [number, number])[]): readonly [number, number] {
  return [anyOf(of.map(([good]) => good)), anyOf(of.map(([, bad]) => bad))];
}

interface Held {
  readonly state: UnitState;
  readonly pool: Pool;
  readonly from: string;
  readonly to: string;
}

/** Nothing that the chance rests on has changed: its members, what is missing, and what is written anew. */
function isAsBefore(held: Held, state: UnitState, pool: Pool): boolean {
  const rebuilt = (of: UnitState): string => rebuildIn(of, pool)?.onto ?? '';
  return (
    held.pool.bands === pool.bands &&
    held.pool.missing.join() === pool.missing.join() &&
    signsIn(held.state, held.pool) === signsIn(state, pool) &&
    rebuilt(held.state) === rebuilt(state)
  );
}

function signsIn({ drives }: UnitState, pool: Pool): string {
  return membersOf(pool)
    .filter((serial) => drives[serial]?.sick !== undefined)
    .join();
}

function rebuildIn(state: UnitState, pool: Pool): Job | undefined {
  return Object.values(state.jobs).find(
    (job) => job.pool === pool.id && job.replaces !== undefined && pool.missing.includes(job.replaces),
  );
}

function stretchOf(
  { state, pool, from, to }: Held,
  used: Readonly<Record<string, number>>,
  thought: Thought,
): MarginStretch {
  const rebuilding = rebuildIn(state, pool);
  const margin = marginOfPool(pool);
  const onto = state.drives[rebuilding?.onto ?? ''];
  const hours = (Date.parse(to) - Date.parse(from)) / 3_600_000;
  const share = Math.min(1, (used[pool.id] ?? pool.shownBytes) / pool.shownBytes);
  const read =
    rebuilding && onto && margin === 0
      ? rebuildOnto(state, pool, rebuilding.replaces as string, onto, share).readBytes
      : 0;
  return {
    from,
    to,
    margin,
    loss: lossWithoutRepair(pool, (serial) => failsByDataSheet(state, serial, hours)),
    lossBetween: lossAhead(state, pool, hours, from, thought),
    unreadable: read > 0 ? unreadableWhile(state, pool, read) : null,
  };
}

function together(a: MarginStretch, b: MarginStretch): MarginStretch {
  return {
    from: a.from,
    to: b.to,
    margin: a.margin,
    loss: anyOf([a.loss, b.loss]),
    lossBetween: anyOfBetween([a.lossBetween, b.lossBetween]),
    unreadable: a.unreadable ?? b.unreadable,
  };
}
