import type { Scheme } from '../../layout/scheme';
import type { Pool, UnitState } from '../../unit/state';
import { isRefusal, type Refusal } from '../../value/refusal';
import { ahead } from '../../world/ahead';
import { planLedger, unitLedger } from '../../world/ledger';
import { emptyLedger, planIn, worldOf, type World } from '../../world/world';
import { fitting } from '../engine/fitting';
import { expectedEvidence } from '../engine/dryRun';
import type { Knows } from '../engine/knownDrive';
import type { PlanBody, StepEvidence } from '../plan';
import { doStep, type StepStopped } from '../run/doStep';
import { endPlan } from '../run/endPlan';
import type { Made } from '../run/runOf';
import { startPlan } from '../run/startPlan';
import { actingOn } from './makePlan';
import { afterEvents, eventsOfUnit } from '../../unit/testUnit';

/** For tests: a unit with one pool, and a plan worked on it step by step through the one road. */

export const NOW = '2026-01-01T00:00:00.000Z';
export const TB = 1e12;

export function unitOf(
  profile: object,
  sizes: readonly number[],
  scheme: Scheme,
  bays: number,
  width?: number,
): UnitState {
  const groups = width === undefined ? {} : { width };
  const about = { profile, scheme, sizes: sizes.map((size) => size * TB), bays, pool: 'Papers', ...groups };
  return afterEvents(null, eventsOfUnit(about), NOW);
}
export const must = <T extends object>(made: T | Refusal): T => {
  if (isRefusal(made)) throw new Error(made.sentence);
  return made;
};
export const stepped = (
  world: World,
  step: string,
  evidence: StepEvidence,
  knows?: Knows,
): Made | StepStopped | Refusal =>
  doStep(world, { plan: 'r', step, evidence, happenedAt: NOW, isOwner: false, ...(knows ? { knows } : {}) });

/** Works a plan as a person does who does everything right, with serials of their own. */
export function worked(unit: UnitState, plan: PlanBody, upTo?: string): World {
  let world = worldOf([
    { ...emptyLedger(unitLedger('u')), state: unit },
    { ...emptyLedger(planLedger('r')), state: null },
  ]);
  world = must(ahead(world, startPlan(world, 'r', ['u'], actingOn(plan, 'u')).entries, NOW));
  for (const step of plan.steps) {
    if (step.id === upTo) return world;
    const expected = expectedEvidence(step, NOW);
    const evidence: StepEvidence =
      expected.kind === 'serial' && step.asks.kind === 'serial'
        ? { ...expected, serial: step.asks.expects ?? `NEW-${step.bay ?? fitting(step)?.drive.bay ?? ''}` }
        : expected.kind === 'scans'
          ? {
              ...expected,
              scans: expected.scans.map((scan, i) =>
                step.asks.kind === 'scans' && step.asks.bays[i]?.expects !== undefined
                  ? scan
                  : { ...scan, serial: `NEW-${scan.bay}` },
              ),
            }
          : expected;
    const done = stepped(world, step.id, evidence);
    if (isRefusal(done) || done.kind === 'stopped') throw new Error(`${step.id}: ${JSON.stringify(done)}`);
    world = must(ahead(world, done.entries, NOW));
  }
  return must(ahead(world, must(endPlan(world, { plan: 'r', how: 'finished' })).entries, NOW));
}

export const poolOf = (unit: UnitState): Pool => unit.pools['p'] as Pool;

export const codeOf = (made: PlanBody | Refusal): string => (isRefusal(made) ? made.code : 'planned');

/** What comes of a step of a plan under way, on a unit to which something has happened since. */
export function tried(run: World, state: UnitState, step: string, evidence: StepEvidence, knows?: Knows): string {
  const world = worldOf([
    { ...emptyLedger(unitLedger('u')), state },
    { ...emptyLedger(planLedger('r')), state: planIn(run, 'r') },
  ]);
  const done = stepped(world, step, evidence, knows);
  return isRefusal(done) ? done.code : done.kind === 'stopped' ? (done.interlocks[0]?.code ?? '') : 'done';
}
