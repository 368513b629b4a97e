import type { FromSchema } from 'json-schema-to-ts';
import { readSize } from '../../core/drive/readSize';
import type { GrowthPath } from '../../core/growth/cheapestGrowth';
import { gainsOf, type Gain } from '../../core/growth/gains';
import { growingOf, type Growing } from '../../core/growth/growing';
import { growingUnit } from '../../core/growth/growingUnit';
import type { Price } from '../../core/growth/priceList';
import { stepRisk } from '../../core/growth/stepRisk';
import { waysToGrow } from '../../core/growth/waysToGrow';
import type { Thought } from '../../core/outlook/lossAhead';
import type { Profile } from '../../core/platform/profile';
import { drivesByName, membersOnly, poolOfLayout } from '../../core/pool/ofLayout';
import { enclosuresOf } from '../../core/unit/enclosures';
import type { Pool, UnitState } from '../../core/unit/state';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { growthRequestSchema, unitGrowthSchema } from '../../schemas/growthRequest';
import { layoutAsked } from './reckoning';

type Asked = FromSchema<typeof growthRequestSchema>;

/** The prices of a request in whole bytes, or what is wrong with them. */
function pricesOf(asked: Asked['prices']): Price[] | Refusal {
  const prices: Price[] = [];
  for (const [i, { bytes, label, cents }] of asked.entries()) {
    const size = bytes === undefined ? readSize(label ?? '') : { bytes };
    if (isRefusal(size)) return refusal(size.code, size.sentence, `/prices/${String(i)}/label`);
    prices.push({ bytes: size.bytes, cents });
  }
  return prices;
}

function pathAnswer({ totalCents, steps }: GrowthPath) {
  return { totalCents, steps };
}

/** The cheapest way to stay below the line, beside the cheapest of each other kind. */
export function growthOf(body: Asked, profile: Profile) {
  const asked = layoutAsked(body, profile);
  if (isRefusal(asked)) return asked;
  const { layout, drives } = asked;
  const taken = new Set(drives.map(({ bay }) => bay));
  const free = enclosuresOf(profile, body.bays, [...taken])
    .flatMap(({ bays }) => bays)
    .filter((bay) => !taken.has(bay));
  return waysOf(
    body,
    profile,
    growingOf(poolOfLayout(layout), drivesByName(membersOnly(layout, drives)), free),
    body.usedBytes,
  );
}

/** The same of a pool as it stands in its unit. What its page counts is a little less than what it holds: both grow alike. */
export function unitGrowthOf(
  {
    usedBytes,
    unit,
    thought,
    ...body
  }: FromSchema<typeof unitGrowthSchema> & {
    readonly usedBytes: number;
    readonly unit: UnitState;
    readonly thought: Thought & { readonly now: string };
  },
  profile: Profile,
) {
  const pool = unit.pools[body.pool] as Pool;
  const start = growingUnit(unit, pool);
  if (isRefusal(start)) return start;
  const held = pool.usableBytes / pool.shownBytes;
  const found = waysOf({ ...body, needPerYearBytes: body.needPerYearBytes * held }, profile, start, usedBytes * held);
  if (isRefusal(found)) return found;
  const usedShare = Math.min(1, usedBytes / pool.shownBytes);
  const gains = gainsOf(found.best?.steps ?? [], pool.usableBytes);
  return {
    ...found,
    best: found.best && {
      ...found.best,
      steps: found.best.steps.map((step, i) => ({
        ...step,
        gain: gains[i] as Gain,
        risk: stepRisk(unit, pool, step, usedShare, thought),
      })),
    },
  };
}

function waysOf(
  wish: Omit<FromSchema<typeof unitGrowthSchema>, 'pool' | 'usedBytes'>,
  profile: Profile,
  start: Growing,
  usedBytes: number,
) {
  const prices = pricesOf(wish.prices);
  if (isRefusal(prices)) return prices;
  const found = waysToGrow(
    profile,
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
    },
    { kinds: wish.allow, sizes: [...new Set(prices.map(({ bytes }) => bytes))], leastMargin: wish.leastMargin ?? 0 },
  );
  if (found === null)
    return refusal(
      'too-long',
      'There are more ways than can be looked at: ask with fewer sizes, fewer years, or decisions further apart.',
      '/prices',
    );
  return {
    best: found.best && pathAnswer(found.best),
    others: found.others.map(({ way, path }) => ({ kind: way, ...pathAnswer(path) })),
    ...(found.why === undefined ? {} : { why: found.why }),
  };
}
