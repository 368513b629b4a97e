import { YEAR_HOURS } from '../quantity/year';
import { chanceOfAFailure } from '../risk/simulate/chanceOfAFailure';
import { simulate, type PoolSimulated } from '../risk/simulate/simulate';
import type { Pool, UnitState } from '../unit/state';
import { isRefusal, type Refusal } from '../value/refusal';
import { ratesAt, type Care } from './assumed';
import type { LotSeen } from './livesAhead';
import { poolToCome } from './poolToCome';

/** What is asked of the time ahead of a pool. */
export interface OutlookAsked {
  readonly care: Care;
  /** ISO 8601. */
  readonly now: string;
  /** Share of the pool in use, 0..1. */
  readonly usedShare: number;
  /** What was seen of the lots its members are of; of others nothing is asked. */
  readonly lots: readonly LotSeen[];
  /** How far ahead, above 0. */
  readonly years: number;
  /** The share of drives that fail in a year, from and to. */
  readonly failuresPerYear: readonly [number, number];
  readonly seed: number;
  /** Lives at each end, at most. */
  readonly mostLives: number;
  /** Whether the time is over in which so much of the work ought to be done, 0..1: each end has its own. */
  readonly isOver?: (share: number) => boolean;
  readonly onProgress?: (share: number) => void;
}

/** The time ahead of a pool as it stands, at both ends of what is assumed of drives. */
export interface Outlook {
  readonly kind: 'outlook';
  readonly years: number;
  readonly ends: readonly [PoolSimulated, PoolSimulated];
  /** The chance that at least one drive fails, and hands are needed: exact. */
  readonly oneFails: readonly [number, number];
  /** What an unreadable sector does where a rebuild can lose none more: the rebuild stops, or a file is lost; `null`: nothing is ever rebuilt. */
  readonly unreadable: 'stops' | 'file-lost' | null;
  readonly isCutShort: boolean;
}

/** Close enough: 95 of 100 spans within a tenth. */
const CLOSE = 0.1;

/** Simulates the time ahead of a pool at both ends of what is assumed; the same question gives the same answer. */
export function outlookOf(unit: UnitState, pool: Pool, asked: OutlookAsked): Outlook | Refusal {
  const at = (end: 0 | 1): SimulatedAt | Refusal =>
    outlookAt(end, unit, pool, {
      ...asked,
      isOver: () => asked.isOver?.((end + 1) / 2) === true,
      onProgress: (share) => asked.onProgress?.((end + share) / 2),
    });
  const good = at(0);
  if (isRefusal(good)) return good;
  const bad = at(1);
  if (isRefusal(bad)) return bad;
  const outlook: Outlook = {
    kind: 'outlook',
    years: asked.years,
    ends: [good.simulated, bad.simulated],
    oneFails: [good.oneFails, bad.oneFails],
    unreadable: !pool.bands.some(({ redundancy }) => redundancy > 0)
      ? null
      : unit.profile.rebuild.unreadableSector === 'aborts'
        ? 'stops'
        : 'file-lost',
    isCutShort: good.simulated.isCutShort || bad.simulated.isCutShort,
  };
  return Object.freeze(outlook);
}

export interface SimulatedAt {
  readonly simulated: PoolSimulated;
  readonly oneFails: number;
}

/** The same at one end only. */
export function outlookAt(end: 0 | 1, unit: UnitState, pool: Pool, asked: OutlookAsked): SimulatedAt | Refusal {
  const toCome = poolToCome(unit, pool, { ...asked, rates: ratesAt(end, asked.failuresPerYear) });
  if (isRefusal(toCome)) return toCome;
  const hours = asked.years * YEAR_HOURS;
  const { seed, mostLives, isOver, onProgress } = asked;
  const simulated = simulate(toCome, {
    hours,
    seed,
    mostLives,
    closeTo: CLOSE,
    ...(isOver ? { isOver: () => isOver(1) } : {}),
    ...(onProgress ? { onProgress } : {}),
  });
  return { simulated, oneFails: chanceOfAFailure(toCome, hours) };
}
