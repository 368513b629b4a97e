import { byUrgency } from './needsHands';
import type { NeedCode, NeedForHands } from './need';

/** What several needs of one unit come from: settled by one pair of hands at one time. */
export interface Cause {
  readonly kind: 'cause';
  readonly unit: string;
  readonly root: CauseRoot;
  /** The most urgent of it: its way is the way to begin. */
  readonly first: NeedForHands;
  /** What else comes from it, most urgent first. */
  readonly others: readonly NeedForHands[];
}

export type CauseRoot =
  'drives' | 'cache' | 'sign' | 'part' | 'copies' | 'room' | 'age' | 'spare' | 'letter' | 'silence' | 'care';

const ROOTS: Readonly<Record<NeedCode, CauseRoot>> = {
  'data-lost': 'drives',
  'pool-stopped': 'drives',
  'enclosure-away': 'drives',
  'on-the-way': 'drives',
  'member-failed': 'drives',
  'no-margin': 'drives',
  'drives-unseen': 'drives',
  'unit-says-otherwise': 'drives',
  'unit-wrote': 'letter',
  'unit-wrote-failure': 'letter',
  'watch-silent': 'silence',
  'plan-open': 'drives',
  'sign-growing': 'drives',
  'sign-open': 'sign',
  'cache-unsafe': 'cache',
  'cache-worn': 'cache',
  'part-lost': 'part',
  'no-copy': 'copies',
  'copy-failed': 'copies',
  'copy-old': 'copies',
  'only-mirrors': 'copies',
  'none-off-site': 'copies',
  'never-restored': 'copies',
  'restore-failed': 'copies',
  'copy-target-full': 'copies',
  'near-full': 'room',
  'thin-overcommitted': 'room',
  'warranty-ending': 'age',
  'drive-old': 'age',
  'wears-out': 'age',
  'wear-together': 'age',
  'no-spare': 'spare',
  slow: 'care',
  'factory-password': 'care',
  'alarm-mail': 'care',
  'upkeep-due': 'care',
  'firmware-old': 'care',
  'no-baseline': 'care',
};

/** Needs by what they come from, one row a cause, the most urgent first. Nothing is left out. */
export function causesOf(needs: readonly NeedForHands[]): Cause[] {
  const causes = new Map<string, [NeedForHands, ...NeedForHands[]]>();
  for (const need of byUrgency(needs)) {
    const key = `${need.unit} ${ROOTS[need.code]}`;
    const sofar = causes.get(key);
    if (sofar) sofar.push(need);
    else causes.set(key, [need]);
  }
  return [...causes.values()].map(([first, ...others]) =>
    Object.freeze({ kind: 'cause', unit: first.unit, root: ROOTS[first.code], first, others }),
  );
}
