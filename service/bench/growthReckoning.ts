import type { FromSchema } from 'json-schema-to-ts';
import { readSize } from '../../core/drive/readSize';
import type { GrowthPath } from '../../core/growth/cheapestGrowth';
import { gainsOf, type Gain } from '../../core/growth/gains';
import { growingOf, type Growing } from '../../core/growth/growing';
import { growingUnit } from '../../core/growth/growingUnit';
import { intoNewUnit } from '../../core/growth/intoNewUnit';
import type { NewUnit } from '../../core/growth/newUnit';
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

type Wished<T> = Omit<T, 'newUnit'> & { readonly newUnit?: NewUnit };
type Asked = Wished<FromSchema<typeof growthRequestSchema>>;

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
    growingOf(profile, poolOfLayout(layout), drivesByName(membersOnly(layout, drives)), free),
    body.usedBytes,
  );
}

/** The same of a pool as it stands in its unit. */
export function unitGrowthOf({
  usedBytes,
  unit,
  thought,
  ...body
}: Wished<FromSchema<typeof unitGrowthSchema>> & {
  readonly usedBytes: number;
  readonly unit: UnitState;
  readonly thought: Thought & { readonly now: string };
}) {
  const pool = unit.pools[body.pool] as Pool;
  const start = growingUnit(unit, pool);
  if (isRefusal(start)) return start;
  const found = waysOf(body, start, usedBytes);
  if (isRefusal(found)) return found;
  const usedShare = Math.min(1, usedBytes / pool.shownBytes);
  const gains = gainsOf(found.best?.steps ?? [], pool.shownBytes);
  return {
    ...found,
    best: found.best && {
      ...found.best,
      steps: found.best.steps.map((step, i) => ({
        ...step,
        gain: gains[i] as Gain,
        // Of drives that are yet to be bought, in a unit that is too, nothing is known.
        ...(step.isInNewUnit ? {} : { risk: stepRisk(unit, pool, step, usedShare, thought) }),
      })),
    },
  };
}

function waysOf(
  wish: Omit<Wished<FromSchema<typeof unitGrowthSchema>>, 'pool' | 'usedBytes'>,
  start: Growing,
  usedBytes: number,
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
    ...(found.dearestYearCents === undefined ? {} : { dearestYearCents: found.dearestYearCents }),
  };
}
