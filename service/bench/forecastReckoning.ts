import type { FromSchema } from 'json-schema-to-ts';
import { heldBefore } from '../../core/forecast/heldBefore';
import { forecastUse } from '../../core/forecast/forecastUse';
import { isRefusal, refusal } from '../../core/value/refusal';
import { seeded } from '../../core/value/seeded';
import type { forecastRequestSchema } from '../../schemas/growthRequest';

/** The same question has the same answer. */
const SEED = 20_260_101;

/** When what is used crosses the line. */
export function forecastOf({ readings, usableBytes, line }: FromSchema<typeof forecastRequestSchema>) {
  // A date that is one by its form and none in time, as a second of leap.
  const wrong = readings.findIndex(({ at }) => Number.isNaN(Date.parse(at)));
  if (wrong >= 0) return refusal('no-such-moment', 'There was no such moment.', `/readings/${String(wrong)}/at`);
  const forecast = forecastUse(readings, usableBytes, line, seeded(SEED));
  if (isRefusal(forecast)) return forecast;
  const { kind: _kind, ...answer } = forecast;
  return { ...answer, heldBefore: heldBefore(readings, seeded(SEED)) };
}
