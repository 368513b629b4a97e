/** For tests: a unit with a pool and what happened since, and its plans to replace a drive. */
import type { Scheme } from '../../layout/scheme';
import type { Profile } from '../../platform/profile';
import { planLayout } from '../../layout/planLayout';
import { labelBytes } from '../../drive/labelBytes';
import { apply } from '../../unit/apply';
import type { UnitEvent } from '../../unit/event';
import { poolCreated } from '../../unit/poolCreated';
import type { UnitState } from '../../unit/state';
import { isRefusal } from '../../value/refusal';
import type { NewDrive } from './handsOnDrive';
import type { PlanBody, PlanStep } from '../plan';
import { replacePlan, type ReplaceWish } from './replace';

import { NOW } from './testPlans';

export const TB8 = labelBytes(8000);
export const NEW: NewDrive = { bytes: TB8, basis: 'exact', serial: 'N-1' };

export interface Made {
  readonly unit: UnitState;
  readonly events: readonly UnitEvent[];
}

/** A unit with drives D-1, D-2 … in bays 1, 2 …, one pool, and what happened since. */
export function made(
  profile: object,
  sizes: readonly number[],
  scheme: Scheme,
  later: readonly UnitEvent[] = [],
  { bays = sizes.length, spares = 0 } = {},
): Made {
  const drives = sizes.map((bytes, i) => ({ bay: String(i + 1), bytes }));
  const pool = poolCreated(
    planLayout(profile as Profile, scheme, drives, spares),
    'p',
    'Papers',
    new Map(drives.map(({ bay }) => [bay, `D-${bay}`])),
  );
  if (isRefusal(pool)) throw new Error(pool.sentence);
  const names = Array.from({ length: bays }, (_, i) => String(i + 1));
  const events: UnitEvent[] = [
    {
      kind: 'unit-registered',
      name: 'Heron',
      place: { site: 'S', room: 'R' },
      profile: profile as Profile,
      enclosures: [{ name: 'Head', bays: names }],
    },
    ...drives.map(({ bay, bytes }): UnitEvent => ({
      kind: 'drive-inserted',
      bay,
      drive: { serial: `D-${bay}`, bytes, basis: 'exact' },
    })),
    pool,
    { kind: 'data-set-described', dataSet: 'd', name: 'Accounts', pool: 'p' },
    { kind: 'copy-described', dataSet: 'd', copy: 'c', where: 'Other house', keeps: 'versions', offSite: true },
    ...later,
  ];
  return { unit: after(null, ...events), events };
}

export function after(unit: UnitState | null, ...events: readonly UnitEvent[]): UnitState {
  const end = events.reduce<UnitState | null>((state, event) => {
    const next = apply(state, event, NOW);
    if (isRefusal(next)) throw new Error(`${event.kind}: ${next.sentence}`);
    return next;
  }, unit);
  return end as UnitState;
}

export const planOf = (plan: PlanBody | { readonly kind: 'refusal'; readonly sentence: string }): PlanBody => {
  if ('kind' in plan) throw new Error(plan.sentence);
  return plan;
};
export const replace = (unit: UnitState, wish: Partial<ReplaceWish> = {}): PlanBody =>
  planOf(replacePlan(unit, { serial: 'D-2', way: 'in-place', drive: NEW, ...wish }));
export const ids = ({ steps }: PlanBody): string[] => steps.map(({ id }) => id);
export const step = (plan: PlanBody, id: string): PlanStep => {
  const found = plan.steps.find((one) => one.id === id);
  if (!found) throw new Error(`no step ${id} in ${ids(plan).join()}`);
  return found;
};
export const failed: UnitEvent = { kind: 'drive-failed', serial: 'D-2' };
export const four = [TB8, TB8, TB8, TB8];
