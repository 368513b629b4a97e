import type { KnownDrive } from '~/core/plan/engine/knownDrive';
import { whichSerial } from '~/core/drive/whichSerial';
import { doStep, type StepSent } from '~/core/plan/run/doStep';
import type { PlanRun } from '~/core/planRun/planRun';
import type { UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { ahead } from '~/core/world/ahead';
import { planLedger, unitLedger } from '~/core/world/ledger';
import { emptyLedger, planIn, unitIn, worldOf, type World } from '~/core/world/world';
import type { NotYetSent } from './notYetSent';

interface Recorded {
  readonly id: string;
  readonly unit: UnitState;
  readonly plan: string;
  readonly run: PlanRun;
  /** What is recorded of the drives that may be taken in hand. */
  readonly loose: readonly KnownDrive[];
  /** The other units it acts on, by id. */
  readonly others: Readonly<Record<string, UnitState>>;
}

/** The unit and the plan as they are once what waits in this browser is counted in. */
export interface Here {
  readonly world: World;
  readonly unit: UnitState;
  readonly others: Readonly<Record<string, UnitState>>;
  readonly run: PlanRun;
}

/** Works on, on the same model, from what the server last said: each waiting step in its order; one that cannot stand changes nothing. */
export function workedHere({ id, unit, plan, run, loose, others }: Recorded, queue: readonly NotYetSent[]): Here {
  let world: World = worldOf([
    { ...emptyLedger(unitLedger(id)), state: unit },
    ...Object.entries(others).map(([other, state]) => ({ ...emptyLedger(unitLedger(other)), state })),
    { ...emptyLedger(planLedger(plan)), state: run },
  ]);
  for (const { step, evidence, happenedAt, wasStopped } of queue) {
    if (wasStopped) continue;
    const seen = stepHere(world, loose, { plan, step, evidence, happenedAt });
    if (isRefusal(seen) || seen.kind === 'stopped') continue;
    // What becomes of a drive stands in its own ledger, which only the server has.
    const known = seen.entries.filter(({ ledger }) => ledger.kind !== 'drive');
    const after = ahead(world, known, happenedAt);
    if (!isRefusal(after)) world = after;
  }
  return {
    world,
    unit: unitIn(world, id) ?? unit,
    others: Object.fromEntries(Object.entries(others).map(([other, state]) => [other, unitIn(world, other) ?? state])),
    run: planIn(world, plan) ?? run,
  };
}

/** One more step, judged as the server would; nobody is the owner without it. */
export function stepHere(
  world: World,
  loose: readonly KnownDrive[],
  sent: Omit<StepSent, 'isOwner' | 'knows'>,
): ReturnType<typeof doStep> {
  const serials = loose.map(({ serial }) => serial);
  const knows = (typed: string): KnownDrive | undefined => {
    const meant = whichSerial(typed, serials);
    return loose.find(({ serial }) => serial === meant);
  };
  return doStep(world, { ...sent, isOwner: false, knows });
}
