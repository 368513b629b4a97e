import type { ReactNode } from 'react';
import { SCHEMES } from '~/core/layout/scheme';
import { limitsOf } from '~/core/platform/profile';
import { whyNotExtended } from '~/core/unit/enclosures';
import { poolsOf, type UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import type { Viewer } from '~/service/access/viewer';
import type { App } from '~/service/app';
import { readPriceList } from '~/service/bench/priceOperations';
import { allProfiles } from '~/service/settings/profiles';
import { growthGround } from '~/service/units/growthGround';
import { readForecast } from '~/service/units/readForecast';
import type { ReadingDay } from '~/service/units/readUnit';
import { GrowingPoolLoader } from './GrowingPoolLoader';
import type { FamilyToBuy } from './NewUnitFields';
import { isDown } from '~/core/unit/margin';

interface Props {
  readonly app: App;
  readonly viewer: Viewer;
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly used: Readonly<Record<string, readonly ReadingDay[]>>;
  readonly currency: string;
  readonly now: Date;
  readonly today: string;
  readonly mayRecord: boolean;
}

/** As many days of history as can be seen. */
const MOST_POINTS = 160;

/** When each pool is full, and the cheapest way to stay below the line. */
export async function GrowingView({
  app,
  viewer,
  id,
  version,
  unit,
  used,
  currency,
  now,
  today,
  mayRecord,
}: Props): Promise<ReactNode> {
  const pools = poolsOf(unit);
  if (pools.length === 0)
    return <p className="text-muted">No pool has been made here yet: there is nothing to grow.</p>;
  const families = [...(await allProfiles(app)).values()].map((family): FamilyToBuy => ({
    id: family.id,
    name: family.name,
    choices: family.bays.choices,
    schemes: SCHEMES.filter((scheme) => limitsOf(family, scheme) !== undefined),
  }));
  const kept = await readPriceList(app);
  const boxBays = whyNotExtended(unit, 1)
    ? null
    : (unit.profile.bays.perEnclosure ?? unit.enclosures.at(-1)?.bays.length ?? null);
  const ground = await growthGround(app, unit, now);
  const parts = await Promise.all(
    pools.map(async (pool) => {
      const days = used[pool.id] ?? [];
      return { pool, days, forecast: await readForecast(app, viewer.id, pool, days) };
    }),
  );
  return parts.map(({ pool, days, forecast }) => {
    const every = Math.max(1, Math.ceil(days.length / MOST_POINTS));
    return (
      <GrowingPoolLoader
        key={pool.id}
        unit={id}
        version={version}
        pool={{
          id: pool.id,
          name: pool.name,
          scheme: pool.scheme,
          mayConvert: unit.profile.growth.conversions.some(({ from, keepsData }) => from === pool.scheme && keepsData),
          shownBytes: pool.shownBytes,
          isWhole: pool.missing.length === 0 && !isDown(pool),
        }}
        page={unit.profile.unitPage}
        ground={ground(pool.id)}
        families={families}
        extensionBays={boxBays}
        kept={kept}
        history={days
          .filter((_, i) => (days.length - 1 - i) % every === 0)
          .map(({ day, last }) => ({ day, usedBytes: last }))}
        forecast={isRefusal(forecast) ? null : forecast}
        unknown={isRefusal(forecast) ? forecast.sentence : null}
        currency={currency}
        today={today}
        mayRecord={mayRecord}
      />
    );
  });
}
