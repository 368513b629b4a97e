import { bayName } from '../unit/bayName';
import { cacheStands, deadCacheWords } from '../unit/cacheStands';
import { need, sentence, type NeedForHands, type WatchedUnit } from './need';

/** What needs hands at the cache of a unit: a drive of it that is dead or shows signs, and writes that are on one drive alone. */
export function cacheNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  const { kind, dead, working } = cacheStands(state);
  const place = (serial: string): string => bayName(state, state.drives[serial]?.bay);
  const isSafe = state.cacheHolds === 'reads';
  const suspects = working.filter((serial) => state.drives[serial]?.condition === 'suspected');
  return [
    ...dead.map((serial) =>
      need(
        unit,
        isSafe ? 'cache-worn' : 'cache-unsafe',
        isSafe ? 26 : working.length > 0 ? 11 : 3,
        `${state.name} · ${place(serial)}: a cache drive does not work`,
        deadCacheWords(state),
        { serial },
      ),
    ),
    ...suspects.map((serial) =>
      need(
        unit,
        'cache-worn',
        isSafe ? 26 : 20,
        `${state.name} · ${place(serial)}: a cache drive shows signs`,
        `${sentence(state.drives[serial]?.note ?? 'noted without a reason')} Both have taken the same writes: the cache is renewed whole, and emptied before.`,
        { serial },
      ),
    ),
    ...(kind === 'single'
      ? [
          need(
            unit,
            'cache-unsafe',
            19,
            `${state.name} · what was written is on one cache drive alone`,
            `If ${working[0] ?? ''} dies, what has not reached the pool is lost. Add a second, or let it hold reads only.`,
            { serial: working[0] ?? '' },
          ),
        ]
      : []),
  ];
}
