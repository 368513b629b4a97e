import { freeName } from '../../unit/freeName';
import type { UnitEvent } from '../../unit/event';
import { idsArrived } from '../../unit/applyPoolMoved';
import { isProven } from '../../unit/provenCopy';
import { poolsOf, type Copy, type DataSet, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import type { PlanStep, StepEvidence } from '../plan';
import type { Units } from './carrying';
import type { Interlock } from './interlock';

/** Data copied from one unit to another: which copy is which at every moment, and the last proven one that nobody takes away. */

/** What a comparison or a trial came to; only the first is taken for proof. */
export const COMPARED = ['Both ends are the same', 'They differ, or one could not be read'] as const;
export const PROVEN = ['A file came back from it, and is right', 'It did not, or there is no other copy'] as const;

/**
 * Every data set gets a copy on the other unit, or those that are named; a pool nobody has written down what it holds is one
 * by its name.
 */
export function eventsOfBeginning(
  unit: UnitState,
  to: string,
  pool: string,
  units: Units,
  only?: readonly string[],
): UnitEvent[] {
  const other = entryOf(units, to);
  const where = `${other?.name ?? 'The newer unit'}, ${entryOf(other?.pools ?? {}, pool)?.name ?? 'its pool'}`;
  const isMeant = ({ id }: { readonly id: string }): boolean => only?.includes(id) ?? true;
  const all = Object.values(unit.dataSets);
  const sets = all.filter(isMeant);
  const covered = new Set(all.map((set) => set.pool));
  const bare = covered.has(undefined) ? [] : poolsOf(unit).filter((one) => !covered.has(one.id) && isMeant(one));
  return [
    ...bare.map(({ id, name }) => ({ kind: 'data-set-described', dataSet: id, name, pool: id }) as const),
    ...[...sets, ...bare.map(({ id }) => ({ id, copies: {} }))].map(({ id, copies }): UnitEvent => ({
      kind: 'copy-described',
      dataSet: id,
      copy: idOn(copies, to) ?? freeName(copies, 'moved'),
      where: where.slice(0, 120),
      keeps: 'mirror',
      offSite: other !== undefined && other.place.site !== unit.place.site,
      on: { unit: to, pool },
    })),
  ];
}

/** The copies on a unit, all with one outcome. */
export function eventsOfConfirming(unit: UnitState, to: string, outcome: 'ran' | 'same'): UnitEvent[] {
  return Object.values(unit.dataSets).flatMap(({ id, copies }): UnitEvent[] => {
    const copy = idOn(copies, to);
    return copy === undefined ? [] : [{ kind: 'copy-confirmed', dataSet: id, copy, outcome }];
  });
}

function idOn(copies: DataSet['copies'], unit: string): string | undefined {
  return Object.values(copies).find(({ on }) => on?.unit === unit)?.id;
}

/**
 * The data is at home here from now on: its copies came along in the register, and what stands in the old unit is one of
 * them, as good as the last comparison.
 */
export function eventsOfTakingOver(
  to: string,
  from: string,
  pool: string,
  units: Units,
  only?: readonly string[],
): UnitEvent[] | Refusal {
  const old = entryOf(units, from);
  if (!old) return refusal('not-found', 'The unit it comes from is not at hand.', '/step');
  const sets = Object.values(old.dataSets).filter(({ id }) => only?.includes(id) ?? true);
  const unproven = sets.find(({ copies }) => entryOf(copies, idOn(copies, to) ?? '')?.sameAt === undefined);
  if (unproven)
    return refusal(
      'not-compared',
      `${unproven.name} was not compared at both ends: the copy is not known to be whole.`,
      '/step',
    );
  const dataSets = Object.fromEntries(
    sets.map((set) => {
      const { id, copies } = set;
      const here = idOn(copies, to) ?? '';
      const { [here]: moved, ...others } = copies;
      const left = freeName(others, 'before-the-move');
      return [id, { ...set, pool, copies: { ...others, [left]: leftBehind(old, from, left, set, moved) } }];
    }),
  );
  return sets.length === 0 ? [] : [{ kind: 'data-arrived', from, dataSets }];
}

/** What stands in the old unit, once the data has moved: a copy that nothing keeps up to date. */
function leftBehind(
  old: UnitState,
  unit: string,
  id: string,
  { pool = poolsOf(old)[0]?.id ?? '' }: DataSet,
  moved: Copy | undefined,
): Copy {
  return {
    id,
    where: `${old.name}, as it was before the move`.slice(0, 120),
    keeps: 'mirror',
    offSite: false,
    on: { unit, pool },
    describedAt: moved?.describedAt ?? old.registeredAt,
    ...(moved?.ranAt === undefined ? {} : { ranAt: moved.ranAt }),
    ...(moved?.sameAt === undefined ? {} : { sameAt: moved.sameAt }),
  };
}

/** The data sets that have a copy on a unit: all of them, or those that came from there by these names. */
function withCopyOn(unit: UnitState, on: string, only?: readonly string[]): readonly DataSet[] {
  const meant = only && idsArrived(unit, on, only);
  return Object.values(unit.dataSets).filter(
    ({ id, copies }) => (meant?.includes(id) ?? true) && idOn(copies, on) !== undefined,
  );
}

/**
 * A file was fetched back from the copy that is trusted, one with versions before a mirror, of whatever has a copy on the
 * unit that is given up; of nothing else, which nobody has looked into.
 */
export function eventsOfProving(unit: UnitState, besides: string, only?: readonly string[]): UnitEvent[] {
  return withCopyOn(unit, besides, only).flatMap(({ id, copies }): UnitEvent[] => {
    const others = Object.values(copies).filter(({ on }) => on?.unit !== besides);
    const copy = others.find(({ keeps }) => keeps === 'versions') ?? others[0];
    return copy ? [{ kind: 'copy-confirmed', dataSet: id, copy: copy.id, outcome: 'restore-worked' }] : [];
  });
}

/** Copies that stood on a unit are there no more. */
export function eventsOfForgetting(unit: UnitState, on: string, only?: readonly string[]): UnitEvent[] {
  return withCopyOn(unit, on, only).flatMap(({ id, copies }) =>
    Object.values(copies)
      .filter((copy) => copy.on?.unit === on)
      .map((copy): UnitEvent => ({ kind: 'copy-removed', dataSet: id, copy: copy.id })),
  );
}

/** What stops a comparison that does not come out, or a copy that could not be read back. */
export function interlocksOfProof({ does }: Pick<PlanStep, 'does'>, evidence: StepEvidence): Interlock[] {
  if (evidence.kind !== 'choice') return [];
  const stop = (code: Interlock['code'], sentence: string, back: string): Interlock[] => [
    { kind: 'interlock', code, sentence, back, serial: '', mayOverride: false },
  ];
  if (evidence.choice === COMPARED[1] && does.some(({ kind }) => kind === 'confirm-copies'))
    return stop(
      'copies-differ',
      'The two ends differ: what is there is no copy yet.',
      'Look which files are missing or different: recycle areas and thumbnails may be left out. Copy those again, then compare again. Nothing is lost: the old unit has everything.',
    );
  if (evidence.choice === PROVEN[1] && does.some(({ kind }) => kind === 'prove-copies'))
    return stop(
      'last-copy',
      'Then what stands in the old unit is the last second copy.',
      'Leave its drives as they are. Make another copy, off site where you can, and fetch a file back from it; this step waits.',
    );
  return [];
}

/**
 * What stops a step that would take away the last proven copy of a data set: its own pool is taken apart with no proven
 * copy elsewhere; or a copy is, and no other is proven.
 *
 * @param units every unit the plan acts on, before the step
 * @param at when it is done (ISO 8601): a proof of years ago is none
 */
export function interlocksOfLastCopy(
  here: string | undefined,
  unit: UnitState,
  event: UnitEvent,
  units: Units,
  at: string,
): Interlock[] {
  if (event.kind === 'copy-removed') return ofForgetting(unit, event, units, at);
  if (event.kind !== 'pool-destroyed') return [];
  const serial = entryOf(unit.pools, event.pool)?.bands[0]?.members[0] ?? '';
  const goes = (copy: Copy): boolean => copy.on !== undefined && copy.on.unit === here && copy.on.pool === event.pool;
  const stop = (set: DataSet, what: string): Interlock => lastCopy(set, what, serial);
  const all = Object.entries(units).flatMap(([id, { dataSets }]) =>
    Object.values(dataSets).map((set) => ({ id, set })),
  );
  return all.flatMap(({ id, set }) => {
    const isHome = id === here && (set.pool === undefined || set.pool === event.pool);
    const others = Object.values(set.copies).filter((copy) => !goes(copy) && isProven(copy, at));
    if (others.length > 0) return [];
    if (isHome) return [stop(set, 'the only copy that is known to be good')];
    return Object.values(set.copies).some(goes) ? [stop(set, 'the last second copy')] : [];
  });
}

/** A copy on another unit that is given up, where no other is proven: by itself, and not as its pool is taken apart. */
function ofForgetting(
  unit: UnitState,
  { dataSet, copy: id }: Extract<UnitEvent, { kind: 'copy-removed' }>,
  units: Units,
  at: string,
): Interlock[] {
  const set = entryOf(unit.dataSets, dataSet);
  const { on } = entryOf(set?.copies ?? {}, id) ?? {};
  const pool = on && entryOf(entryOf(units, on.unit)?.pools ?? {}, on.pool);
  if (!set || !pool) return [];
  const isAnotherProven = Object.values(set.copies).some((copy) => copy.id !== id && isProven(copy, at));
  return isAnotherProven ? [] : [lastCopy(set, 'the last second copy', pool.bands[0]?.members[0] ?? '')];
}

function lastCopy(set: DataSet, what: string, serial: string): Interlock {
  return {
    kind: 'interlock',
    code: 'last-copy',
    sentence: `This would take away ${what} of ${set.name}: no other copy is proven.`,
    back: 'Leave the drives as they are. Fetch a file back from another copy, or make one and compare it, and record that under “Copies” of the unit; then come back to this step.',
    serial,
    mayOverride: true,
  };
}
