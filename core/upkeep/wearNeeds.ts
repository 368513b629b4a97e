import { untilWords, wearOut, wearTogether } from '../drive/wearOut';
import { bayName } from '../unit/bayName';
import { fullMarginOfPool } from '../unit/margin';
import { daysAfter, startOfDay } from '../quantity/days';
import { membersOf, poolsOf } from '../unit/state';
import { need, type NeedForHands, type WatchedUnit } from './need';

/** So long before the likely end a drive is spoken of: to order one, and to replace it in its turn. */
const NOTICE_DAYS = 180;
/** With less than so much left it is spoken of whatever the pace, percent (common practice). */
const LITTLE_LEFT = 10;
/** Drives that wear out together take a year to get apart: one is replaced ahead. */
const TOGETHER_NOTICE_DAYS = 365;

const RATING = 'The rating is what its maker answers for, not the day it stops: many go on, some take no more writes.';

/** What needs hands because drives of flash have taken the writes they are rated for, or will soon. */
export function wearNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state, life = {} } = unit;
  const worn = Object.values(state.drives).flatMap(({ serial, bay, condition }) => {
    const points = life[serial] ?? [];
    const left = points.at(-1)?.left;
    return bay === null || left === undefined || condition === 'failed'
      ? []
      : [{ serial, bay, left, out: wearOut(points) }];
  });
  return [
    ...worn.flatMap(({ serial, bay, left, out }) => {
      if (left > LITTLE_LEFT && !out) return [];
      const pace = out ? ` At its pace the rating lasts ${untilWords(out)}.` : '';
      const isCache = state.cache.includes(serial);
      return need(
        unit,
        isCache ? 'cache-worn' : 'wears-out',
        33 + left / 100,
        `${state.name} · ${bayName(state, bay)}: ${String(left)} % of its rated life left`,
        `${serial} wears with every write.${pace} ${RATING} ${isCache ? 'The drives of a cache take the same writes: renew them together, emptied before.' : 'Have a fitting drive at hand, and replace it in its turn.'}`,
        {
          serial,
          ...(left <= LITTLE_LEFT || !out ? {} : { from: daysAfter(startOfDay(out.ends.likely), -NOTICE_DAYS) }),
        },
      );
    }),
    ...poolsOf(state).flatMap((pool) => {
      const members = worn.flatMap(({ out, ...one }) =>
        out && membersOf(pool).includes(one.serial) ? [{ ...one, ends: out.ends }] : [],
      );
      const margin = Math.max(0, fullMarginOfPool(pool));
      const together = wearTogether(members, margin);
      const [first] = together;
      if (!first) return [];
      const bays = together.map(({ bay }) => bayName(state, bay)).join(', ');
      return need(
        unit,
        'wear-together',
        34,
        `${state.name} · ${String(together.length)} flash drives of ${pool.name} wear out together`,
        `${bays}: their ratings are used up within two months of one another, the first about ${first.ends.likely}; the pool can lose ${margin === 0 ? 'none' : String(margin)}. They take the same writes: replace one well ahead, then the next, so that no two are at their end at once.`,
        { serial: first.serial, from: daysAfter(startOfDay(first.ends.likely), -TOGETHER_NOTICE_DAYS) },
      );
    }),
  ];
}
