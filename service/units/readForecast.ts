import type { Pool } from '../../core/unit/state';
import { FULL_LINE } from '../../core/upkeep/need';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import type { ReadingDay } from '../../store/readings';
import type { App } from '../app';
import type { forecastOf } from '../bench/forecastReckoning';

/** A forecast as the interface answers it. */
export type PoolForecast = Exclude<ReturnType<typeof forecastOf>, Refusal>;

/** A page does not wait longer. */
const PATIENCE_MS = 10_000;

/** When a pool crosses its line, from the days that were read of it; refused where that cannot be said. */
export async function readForecast(
  app: App,
  viewer: string,
  { shownBytes }: Pick<Pool, 'shownBytes'>,
  days: readonly ReadingDay[],
): Promise<PoolForecast | Refusal> {
  const readings = days.map(({ day, last }) => ({ at: `${day}T12:00:00Z`, usedBytes: Math.round(last) }));
  const made = await app.threads.reckon('forecast', { readings, usableBytes: shownBytes, line: FULL_LINE }, undefined, {
    for: viewer,
    signal: AbortSignal.timeout(PATIENCE_MS),
  });
  return isRefusal(made) ? made : (JSON.parse(made.json) as PoolForecast);
}
