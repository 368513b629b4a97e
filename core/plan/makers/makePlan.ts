import type { PlanJob } from '../../../schemas/plan';
import type { RecordedEvent } from '../../unit/event';
import { poolsOf, type UnitState } from '../../unit/state';
import { isRefusal, type Refusal } from '../../value/refusal';
import { cachePlan, type CacheWish } from './cache';
import { cameBackPlan, type CameBackWish } from './cameBack';
import { changeLevelPlan, type ChangeLevelWish } from './changeLevel';
import type { CommissionWish } from './commission/commission';
import { commissionPlan } from './commission/commissionPlan';
import { newPoolPlan, type NewPoolWish } from './commission/newPool';
import type { PlanBody } from '../plan';
import { extendPlan, type ExtendWish } from './extend';
import { growPlan, type GrowWish } from './grow';
import { hotSparePlan, type HotSpareWish } from './hotSpare';
import { carryBackPlan, type CarryBackWish } from './move/carryBack';
import { movePlan, type MoveWish } from './move/move';
import { replaceAllPlan, type ReplaceAllWish } from './replaceAll';
import { replacePlan, type ReplaceWish } from './replace';
import { rescuePlan, type RescueWish } from './rescue';
import { retirePlan } from './retire';
import { spareInPlan, type SpareInWish } from './spareIn';

/** What each kind of plan is made from. */
export type WishOf = {
  readonly commission: CommissionWish;
  readonly replace: ReplaceWish;
  readonly 'replace-all': ReplaceAllWish;
  readonly grow: GrowWish;
  readonly convert: ChangeLevelWish;
  readonly 'new-pool': NewPoolWish;
  readonly 'hot-spare': HotSpareWish;
  readonly cache: CacheWish;
  readonly extend: ExtendWish;
  readonly retire: Record<string, never>;
  readonly 'spare-in': SpareInWish;
  readonly 'came-back': CameBackWish;
  readonly move: MoveWish;
  readonly 'carry-back': CarryBackWish;
  readonly rescue: RescueWish;
};

/** A plan whose every intention names its unit: this one, where it names none. */
export function actingOn(plan: PlanBody, unit: string): PlanBody {
  return {
    ...plan,
    steps: plan.steps.map((step) => ({ ...step, does: step.does.map((one) => ({ ...one, unit: one.unit ?? unit })) })),
  };
}

/**
 * The plan for a job, made for this unit as it is now.
 *
 * @param events the unit's ledger; only the rescue reads it
 * @param newId an id for what the plan makes (uuid)
 */
export function makePlan<J extends PlanJob>(
  job: J,
  unit: UnitState,
  wish: WishOf[J],
  events: readonly RecordedEvent[],
  newId: () => string,
): PlanBody | Refusal {
  const makers: { readonly [K in PlanJob]: (of: WishOf[K]) => PlanBody | Refusal } = {
    commission: (of) => commissionPlan(unit, of, newId),
    replace: (of) => replacePlan(unit, of),
    'replace-all': (of) => replaceAllPlan(unit, of),
    grow: (of) => growPlan(unit, of),
    convert: (of) => changeLevelPlan(unit, of),
    'new-pool': (of) => newPoolPlan(unit, of, newId),
    'hot-spare': (of) => hotSparePlan(unit, of),
    cache: (of) => cachePlan(unit, of),
    extend: (of) => extendPlan(unit, of),
    retire: () => retirePlan(unit),
    'spare-in': (of) => spareInPlan(unit, of),
    'came-back': (of) => cameBackPlan(unit, of),
    move: (of) => movePlan(unit, of),
    'carry-back': (of) => carryBackPlan(unit, of),
    rescue: (of) => rescuePlan(unit, of, events),
  };
  const plan = makers[job](wish);
  const without = poolsOf(unit).flatMap(({ missing }) => missing);
  return isRefusal(plan) || without.length === 0 ? plan : { ...plan, without };
}
