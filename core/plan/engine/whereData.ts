import { isProven } from '../../unit/provenCopy';
import type { Copy, UnitState } from '../../unit/state';
import { canonicalJson } from '../../value/canonicalJson';
import { entryOf } from '../../value/entryOf';
import type { Units } from './carrying';
import type { DryStep, DryStop } from './dryRun';

/**
 * `home`: where people work on it; `way`: its drives are carried; `proven`: a copy known to be good; `written`: a copy under
 * way; `hoped`: a copy nobody has looked into; `none`: not there.
 */
export type Holding = 'home' | 'way' | 'proven' | 'written' | 'hoped' | 'none';

/** One place that has some data at some time, over the steps of a plan. */
export interface DataPlace {
  readonly place: string;
  /** One for each moment: before the first step, and after every step. */
  readonly holdings: readonly Holding[];
}

/** Data sets that are in the same places at the same times. */
export interface DataWhere {
  readonly kind: 'data-where';
  readonly names: readonly string[];
  readonly places: readonly DataPlace[];
  /** The first step after which something is gone that was at home or proven; `null` where nothing is. */
  readonly noReturn: string | null;
}

/**
 * Where the data of the units of a plan is at every moment of it: which place is its home, which copy is proven, which is
 * being written.
 *
 * @param units as they are before the first step, by id
 * @param from when that is (ISO 8601)
 */
export function whereDataIs(units: Units, run: readonly (DryStep | DryStop)[], from: string): readonly DataWhere[] {
  const steps = run.filter((step): step is DryStep => step.kind === 'dry-step');
  const moments = [placesOf(units, from), ...steps.map(({ states, at }) => placesOf(states, at))];
  const names = [...new Set(moments.flatMap((at) => [...at.keys()]))];
  const grouped = new Map<string, DataWhere>();
  for (const name of names) {
    const places = [...new Set(moments.flatMap((at) => [...(at.get(name)?.keys() ?? [])]))].map((place) => ({
      place,
      holdings: moments.map((at): Holding => at.get(name)?.get(place) ?? 'none'),
    }));
    const gone = moments.findIndex(
      (_at, i) => i > 0 && places.some(({ holdings }) => isSure(holdings[i - 1] as Holding) && holdings[i] === 'none'),
    );
    const key = canonicalJson(places);
    const before = grouped.get(key);
    grouped.set(key, {
      kind: 'data-where',
      names: [...(before?.names ?? []), name],
      places,
      noReturn: gone < 0 ? null : (steps[gone - 1]?.step ?? null),
    });
  }
  return [...grouped.values()];
}

function isSure(holding: Holding): boolean {
  return holding === 'home' || holding === 'proven';
}

/** By data set, the places that have it. */
function placesOf(units: Units, moment: string): Map<string, Map<string, Holding>> {
  const at = new Map<string, Map<string, Holding>>();
  for (const unit of Object.values(units))
    for (const set of Object.values(unit.dataSets)) {
      const places = at.get(set.name) ?? new Map<string, Holding>();
      at.set(set.name, places);
      places.set(unit.name, unit.packed ? 'way' : 'home');
      for (const copy of Object.values(set.copies)) places.set(placeOf(copy, units), holdingOf(copy, units, moment));
    }
  return at;
}

function placeOf({ on, where }: Copy, units: Units): string {
  return (on && entryOf(units, on.unit)?.name) ?? where;
}

function holdingOf(copy: Copy, units: Units, moment: string): Holding {
  if (isProven(copy, moment)) return 'proven';
  const on: UnitState | undefined = copy.on && entryOf(units, copy.on.unit);
  return on && Object.values(on.jobs).some(({ task, pool }) => task === 'copy' && pool === copy.on?.pool)
    ? 'written'
    : 'hoped';
}
