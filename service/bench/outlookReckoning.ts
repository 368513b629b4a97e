import { outlookOf, type OutlookAsked } from '../../core/outlook/outlook';
import { whatWouldChangeIt } from '../../core/outlook/whatWouldChangeIt';
import type { Pool, UnitState } from '../../core/unit/state';
import { isRefusal } from '../../core/value/refusal';

export interface OutlookToReckon {
  readonly unit: UnitState;
  readonly pool: string;
  readonly asked: Omit<OutlookAsked, 'isOver' | 'onProgress' | 'seed' | 'mostLives'>;
  readonly isLookedThrough: boolean;
}

/** The same question has the same answer. */
const SEED = 15;
const MOST_LIVES = 100_000;
/** A change is told from none by fewer. */
const CHANGE_LIVES = 20_000;
/** After so long each part answers with what it has, and says so. */
const BUDGET_MS = 8000;

/** The time ahead of a pool, within a budget of time; and what would change it, where that is asked. */
export function outlookAnswer({ unit, pool, asked, isLookedThrough }: OutlookToReckon) {
  const of = unit.pools[pool] as Pool;
  let wasCut = false;
  const within = (): ((share: number) => boolean) => {
    const begun = performance.now();
    return (share) => {
      const isOver = performance.now() > begun + share * BUDGET_MS;
      wasCut ||= isOver;
      return isOver;
    };
  };
  const outlook = outlookOf(unit, of, { ...asked, seed: SEED, mostLives: MOST_LIVES, isOver: within() });
  if (isRefusal(outlook)) return outlook;
  const changes = isLookedThrough
    ? whatWouldChangeIt(unit, of, { ...asked, seed: SEED, mostLives: CHANGE_LIVES, isOver: within() })
    : [];
  if (isRefusal(changes)) return changes;
  const { years, ends, oneFails, unreadable, isCutShort } = outlook;
  return {
    years,
    oneFails,
    lost: ends.map(({ lost }) => lost),
    met: ends.map(({ met }) => met),
    metTimes: ends.map(({ metTimes }) => metTimes),
    lives: ends.map(({ lives }) => lives),
    unreadable,
    isCutShort: isCutShort || wasCut,
    changes: changes.map(({ change, ...of }) => ({ ...change, ...of })),
  };
}
