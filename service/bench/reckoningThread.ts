import { unitGrowthOf, type UnitGrowthAsked } from '../../core/growth/unitGrowth';
import type { Profile } from '../../core/platform/profile';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import { forecastOf } from './forecastReckoning';
import { growthOf } from './growthReckoning';
import { listingsOf } from '../move/listingReckoning';
import { layoutOutlook, outlookAnswer } from './outlookReckoning';
import { appraisalsOf, layoutsOf } from './reckoning';
import { rebuildOf, transferOf, transferSharesOf } from './timeReckoning';

/** What is reckoned in a thread of its own, by name. */
export const RECKONINGS = {
  layouts: layoutsOf,
  appraisals: appraisalsOf,
  growth: growthOf,
  unitGrowth: (asked: UnitGrowthAsked) => unitGrowthOf(asked),
  forecast: forecastOf,
  rebuild: rebuildOf,
  transfer: transferOf,
  transferShares: transferSharesOf,
  listings: listingsOf,
  outlook: outlookAnswer,
  layoutOutlook,
} as const;
export type Reckonings = typeof RECKONINGS;

export interface ReckoningAsked {
  readonly name: keyof Reckonings;
  readonly body: unknown;
  readonly profile: Profile | undefined;
}

/** The answer as text: so much of it is written that writing it is half the work. */
export default function reckon({ name, body, profile }: ReckoningAsked): string | Refusal {
  const made = (RECKONINGS[name] as (body: unknown, profile: Profile | undefined) => object)(body, profile);
  return isRefusal(made) ? made : JSON.stringify(made);
}
