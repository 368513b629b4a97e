import { dayOf, startOfDay } from '../quantity/days';
import { frozen } from '../value/frozen';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { poolUnknown } from './applyPool';
import type { Of } from './event';
import type { Copy, DataSet, UnitState } from './state';

/** The register of copies: what is kept where, when it last ran, when a restore was last tried. */

/** A data set enters the register, or is described anew: what is known of its copies stays. Refused for a pool that is not there. */
export function describeDataSet(
  unit: UnitState,
  { kind: _kind, dataSet: id, ...body }: Of<'data-set-described'>,
): UnitState | Refusal {
  if (body.pool !== undefined && !entryOf(unit.pools, body.pool)) return poolUnknown(unit, body.pool);
  // Something is at home here again.
  const { movedTo: _back, ...home } = unit;
  return withDataSet(home, { id, ...body, copies: entryOf(unit.dataSets, id)?.copies ?? {} });
}

/** A data set leaves the register, with its copies; refused where there is none of that id. */
export function removeDataSet(unit: UnitState, { dataSet }: Of<'data-set-removed'>): UnitState | Refusal {
  return inDataSet(unit, dataSet, () => {
    const { [dataSet]: _gone, ...dataSets } = unit.dataSets;
    return frozen({ ...unit, dataSets });
  });
}

/** Data is at home in another unit from now on: all of it, or what is named. Refused where one that is named is not there. */
export function handOverData(
  unit: UnitState,
  { to, dataSets: named }: Of<'data-handed-over'>,
  at: string,
): UnitState | Refusal {
  const stray = named?.find((id) => !entryOf(unit.dataSets, id));
  if (stray !== undefined) return refusal('data-set-unknown', `${unit.name} has no data set ${stray}.`, '/dataSets');
  const left = Object.values(unit.dataSets).filter(({ id }) => named !== undefined && !named.includes(id));
  return left.length === 0
    ? frozen<UnitState>({ ...unit, dataSets: {}, movedTo: { unit: to, at } })
    : frozen<UnitState>({ ...unit, dataSets: Object.fromEntries(left.map((set) => [set.id, set])) });
}

/** A copy enters the register, or is described anew: when it ran and was tried stays. Refused without its data set. */
export function describeCopy(
  unit: UnitState,
  { kind: _kind, dataSet, copy: id, ...body }: Of<'copy-described'>,
  happenedAt: string,
): UnitState | Refusal {
  return inDataSet(unit, dataSet, (set) => {
    const before = entryOf(set.copies, id);
    const { ranAt, failedAt, sameAt, restoreTriedAt, restoreWorked, describedAt = happenedAt } = before ?? {};
    const history = { ranAt, failedAt, sameAt, restoreTriedAt, restoreWorked };
    const kept = Object.fromEntries(Object.entries(history).filter(([, value]) => value !== undefined));
    return withDataSet(unit, { ...set, copies: { ...set.copies, [id]: { id, ...body, describedAt, ...kept } } });
  });
}

/** A copy is kept no longer; refused where there is none of that id. */
export function removeCopy(unit: UnitState, { dataSet, copy }: Of<'copy-removed'>): UnitState | Refusal {
  return inCopy(unit, dataSet, copy, (set) => {
    const { [copy]: _gone, ...copies } = set.copies;
    return withDataSet(unit, { ...set, copies });
  });
}

/** What was heard of a copy: it ran or failed, a restore worked or did not; and, where said, the bytes still free there. */
export function confirmCopy(
  unit: UnitState,
  { dataSet, copy, outcome, freeBytes, on }: Of<'copy-confirmed'>,
  told: string,
): UnitState | Refusal {
  if (on !== undefined && on > dayOf(told))
    return refusal('later', 'It cannot have been on a day that has not come.', '/on');
  const at = on === undefined || on === dayOf(told) ? told : startOfDay(on);
  return inCopy(unit, dataSet, copy, (set, before) => {
    const news: Partial<Copy> = {
      ran: { ranAt: at },
      failed: { failedAt: at },
      'restore-worked': { restoreTriedAt: at, restoreWorked: true },
      'restore-failed': { restoreTriedAt: at, restoreWorked: false },
      same: { sameAt: at },
      // What differs is not there as a copy before it has run again.
      differs: { failedAt: at },
    }[outcome];
    const space = freeBytes === undefined ? {} : { freeBytes };
    // Once it has run again, or was seen to be the same, that it had failed is history; what differs is the same no more.
    const { failedAt, sameAt, ...left } = before;
    const rest = outcome === 'differs' || sameAt === undefined ? left : { ...left, sameAt };
    const failure = outcome === 'ran' || outcome === 'same' || failedAt === undefined ? {} : { failedAt };
    return withDataSet(unit, { ...set, copies: { ...set.copies, [copy]: { ...rest, ...failure, ...news, ...space } } });
  });
}

function inDataSet(unit: UnitState, id: string, change: (set: DataSet) => UnitState | Refusal): UnitState | Refusal {
  const set = entryOf(unit.dataSets, id);
  return set
    ? change(set)
    : refusal('data-set-unknown', `${unit.name} has no data set ${id} in its register.`, '/dataSet');
}

function inCopy(
  unit: UnitState,
  dataSet: string,
  id: string,
  change: (set: DataSet, copy: Copy) => UnitState | Refusal,
): UnitState | Refusal {
  const copy = entryOf(entryOf(unit.dataSets, dataSet)?.copies ?? {}, id);
  return inDataSet(unit, dataSet, (set) =>
    copy ? change(set, copy) : refusal('copy-unknown', `${set.name} has no copy ${id}.`, '/copy'),
  );
}

function withDataSet(unit: UnitState, set: DataSet): UnitState {
  return frozen({ ...unit, dataSets: { ...unit.dataSets, [set.id]: set } });
}
