import { readSize } from '../drive/readSize';
import { factsOf } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { describedUnit } from '../unit/describedUnit';
import { freeBays } from '../unit/state';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import type { UnitGrowthRequest } from '../../schemas/growthRequest';
import type { GrowthPath } from './cheapestGrowth';
import type { Growing } from './growing';
import { intoNewUnit } from './intoNewUnit';
import type { NewUnit } from './newUnit';
import type { Price } from './priceList';
import { waysToGrow } from './waysToGrow';

/** What is wished of growing and what it costs, as it is asked; the unit that may be bought is described. */
export type GrowthWish = Omit<UnitGrowthRequest, 'pool' | 'usedBytes' | 'newUnit' | 'prices' | 'allow'> & {
  readonly prices: readonly UnitGrowthRequest['prices'][number][];
  readonly allow: readonly UnitGrowthRequest['allow'][number][];
  readonly newUnit?: NewUnit;
};

/** The sentence where the search was given up. */
const TOO_MANY =
  'There are more ways than can be looked at: ask with fewer sizes, fewer years, or decisions further apart.';

/** The new unit of a wish with its family and its bays; refused as its registration would be. */
export function newUnitWished(
  { scheme, groupWidth, cents, bays }: Omit<NonNullable<UnitGrowthRequest['newUnit']>, 'profile'>,
  profile: Profile,
  now: Date,
): NewUnit | Refusal {
  if (factsOf(scheme).isGrouped && groupWidth === undefined)
    return refusal('group-width', 'Say how wide the groups are.', '/newUnit/groupWidth');
  const unit = describedUnit({ name: 'New unit', profile, bays }, now.toISOString());
  if (isRefusal(unit)) return { ...unit, pointer: '/newUnit/bays' };
  return { profile, scheme, ...(groupWidth === undefined ? {} : { groupWidth }), bays: freeBays(unit), cents };
}

/** The prices of a wish in whole bytes, or what is wrong with them. */
function pricesOf(asked: GrowthWish['prices']): Price[] | Refusal {
  const prices: Price[] = [];
  for (const [i, { bytes, label, cents }] of asked.entries()) {
    const size = bytes === undefined ? readSize(label ?? '') : { bytes };
    if (isRefusal(size)) return refusal(size.code, size.sentence, `/prices/${String(i)}/label`);
    prices.push({ bytes: size.bytes, cents });
  }
  return prices;
}

const stepsOf = ({ totalCents, steps }: GrowthPath) => ({ totalCents, steps });

/**
 * The cheapest way to stay below the line as it is wished, beside the cheapest of each other kind and what waiting until it
 * hurts would cost.
 *
 * @param usedBytes what is used now, bytes as the unit's page shows them
 * @param onProgress hears which share of the search is done, 0..1
 * @returns refused with the place of what cannot be, or (`too-long`) when there are too many ways
 */
export function growthWished(
  wish: GrowthWish,
  start: Growing,
  usedBytes: number,
  onProgress?: (share: number) => void,
) {
  const prices = pricesOf(wish.prices);
  if (isRefusal(prices)) return prices;
  const { newUnit, extension, budgetCentsPerYear, leastMargin = 0, briefHours = 0 } = wish;
  if (wish.allow.includes('extend') && !extension)
    return refusal('extension-missing', 'Say how many bays an extension has, and what it costs.', '/extension');
  const sizes = [...new Set(prices.map(({ bytes }) => bytes))];
  if (newUnit && intoNewUnit(newUnit, sizes, leastMargin).length === 0)
    return refusal(
      'not-legal',
      `In ${String(newUnit.bays.length)} ${newUnit.bays.length === 1 ? 'bay' : 'bays'} of ${newUnit.profile.name} no such pool is made of drives of these sizes${leastMargin > 0 ? ` that can always lose ${String(leastMargin)}` : ''}.`,
      '/newUnit/scheme',
    );
  const found = waysToGrow(
    start,
    {
      usedBytes,
      perYearBytes: wish.needPerYearBytes,
      line: wish.line,
      years: wish.years,
      everyMonths: wish.everyMonths ?? 12,
    },
    {
      prices,
      declinePerYear: wish.declinePerYear ?? 0,
      labourCents: wish.labourCents ?? 0,
      discountPerYear: wish.discountPerYear ?? 0,
      ...(budgetCentsPerYear === undefined ? {} : { budgetCentsPerYear }),
    },
    {
      kinds: wish.allow,
      sizes,
      leastMargin,
      briefHours,
      ...(newUnit === undefined ? {} : { newUnit }),
      ...(extension === undefined ? {} : { extension }),
    },
    onProgress,
  );
  if (found === null) return refusal('too-long', TOO_MANY, '/prices');
  const { best, others, late, why, dearestYearCents } = found;
  return {
    best: best && stepsOf(best),
    others: others.map(({ way, path }) => ({ kind: way, ...stepsOf(path) })),
    ...(late === undefined ? {} : { late: { line: late.line, fromMonth: late.fromMonth, ...stepsOf(late.path) } }),
    ...(why === undefined ? {} : { why }),
    ...(dearestYearCents === undefined ? {} : { dearestYearCents }),
  };
}
