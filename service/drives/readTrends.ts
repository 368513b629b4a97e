import { serialKey } from '../../core/drive/serial';
import { trendWords, type Trend } from '../../core/drive/trend';
import { daysBetween } from '../../core/quantity/days';
import type { Metric } from '../../schemas/metrics';
import { lifeOf, livesOfLot } from '../../store/driveLives';
import { firstReading, readingTrends } from '../../store/readings';
import type { App } from '../app';

/** Others of its lot that are drawn beside it. */
const MOST_MATES = 12;
/** As many points as are still told apart in a chart. */
const MOST_POINTS = 400;

/** A trend with what it says. */
export interface ShownTrend extends Trend {
  readonly words: string;
}

/** What was measured of a drive over all its years, beside the others of its lot; `null` when nobody knows of it. */
export async function readTrends(app: App, named: string, now: Date): Promise<ShownTrend[] | null> {
  const serial = serialKey(named);
  const life = (await lifeOf(app.db, serial))?.life;
  if (!life) return null;
  const { lot } = life.drive;
  const lives = lot === undefined ? [] : await livesOfLot(app.db, lot, MOST_MATES + 1);
  const mates = lives
    .map(({ life: of }) => of.serial)
    .filter((one) => one !== serial)
    .slice(0, MOST_MATES);
  const all = [serial, ...mates];
  const first = await firstReading(app.db, all);
  if (first === null) return [];
  const stretch = Math.max(1, Math.ceil(daysBetween(first, now.toISOString()) / MOST_POINTS));
  const rows = await readingTrends(app.db, all, stretch);
  const metrics = [...new Set(rows.flatMap(({ subject, metric }) => (subject === serial ? [metric] : [])))];
  const points = (of: string, metric: Metric) =>
    rows.flatMap(({ subject, metric: its, ...point }) => (subject === of && its === metric ? [point] : []));
  return metrics.map((metric) => {
    const trend: Trend = {
      metric,
      own: points(serial, metric),
      mates: mates.map((one) => ({ serial: one, points: points(one, metric) })).filter((one) => one.points.length > 0),
    };
    return { ...trend, words: trendWords(trend) };
  });
}
