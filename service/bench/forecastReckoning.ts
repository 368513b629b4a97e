import type { FromSchema } from 'json-schema-to-ts';
import { forecastUse } from '../../core/forecast/forecastUse';
import { isRefusal } from '../../core/value/refusal';
import { seeded } from '../../core/value/seeded';
import type { forecastRequestSchema } from '../../schemas/growthRequest';

/** The same question has the same answer. */
const SEED = 20_260_101;

/** When what is used crosses the line. */
export function forecastOf({ readings, usableBytes, line }: FromSchema<typeof forecastRequestSchema>) {
  const forecast = forecastUse(readings, usableBytes, line, seeded(SEED));
  if (isRefusal(forecast)) return forecast;
  const { kind: _kind, ...answer } = forecast;
  return answer;
}
