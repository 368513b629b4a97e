import type { FromSchema } from 'json-schema-to-ts';
import type { Care } from '../../core/outlook/assumed';
import { outlookOf, type OutlookAsked } from '../../core/outlook/outlook';
import { unitOfLayout } from '../../core/outlook/unitOfLayout';
import { whatWouldChangeIt } from '../../core/outlook/whatWouldChangeIt';
import type { Profile } from '../../core/platform/profile';
import { enclosuresOf, fewestBays } from '../../core/unit/enclosures';
import type { Pool, UnitState } from '../../core/unit/state';
import { isRefusal } from '../../core/value/refusal';
import type { layoutOutlookSchema } from '../../schemas/outlookRequest';
import { layoutAsked } from './reckoning';

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

/** The same of a layout that is not built yet: as it will be once its first build is done. */
export function layoutOutlook(
  body: FromSchema<typeof layoutOutlookSchema> & { readonly now: string },
  profile: Profile,
): ReturnType<typeof outlookAnswer> {
  const asked = layoutAsked(body, profile);
  if (isRefusal(asked)) return asked;
  const bays = asked.drives.map(({ bay }) => bay);
  const planned = unitOfLayout(
    profile,
    enclosuresOf(profile, fewestBays(bays), bays),
    asked.layout,
    asked.drives,
    body.now,
  );
  if (isRefusal(planned)) return { ...planned, pointer: '/drives' };
  return outlookAnswer({
    unit: planned.unit,
    pool: planned.pool.id,
    isLookedThrough: body.isLookedThrough ?? false,
    asked: {
      care: {
        ...careOf(body),
        scrubDays: body.scrubDays === undefined ? USUAL_SCRUB_DAYS : body.scrubDays,
        inDrawer: body.inDrawer ?? 0,
      },
      now: body.now,
      lots: [],
      usedShare: body.usedShare ?? 1,
      years: body.years,
      failuresPerYear: body.failuresPerYear as [number, number],
    },
  });
}

/** What is taken for granted of how it is looked after, where nobody says. */
export function careOf({
  notice = 'same-day',
  orderDays = 3,
  boxLossesPerYear = 0,
}: Partial<Pick<Care, 'notice' | 'orderDays' | 'boxLossesPerYear'>>): Omit<Care, 'scrubDays' | 'inDrawer'> {
  return { notice, orderDays, boxLossesPerYear };
}

/** Once a month (common practice). */
const USUAL_SCRUB_DAYS = 30;

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
