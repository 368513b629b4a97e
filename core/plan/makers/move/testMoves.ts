import { planLayout } from '../../../layout/planLayout';
import type { Scheme } from '../../../layout/scheme';
import { nextStep } from '../../../planRun/progress';
import type { Profile } from '../../../platform/profile';
import { poolCreated } from '../../../unit/poolCreated';
import type { UnitEvent } from '../../../unit/event';
import type { UnitState } from '../../../unit/state';
import { isRefusal, type Refusal } from '../../../value/refusal';
import type { ActEntry } from '../../../world/act';
import { unitLedger } from '../../../world/ledger';
import { record } from '../../../world/record';
import { planIn, unitIn, withLedgers, worldOf, type World } from '../../../world/world';
import { expectedEvidence } from '../../engine/dryRun';
import type { PlanBody, StepEvidence } from '../../plan';
import { doStep, type StepStopped } from '../../run/doStep';
import type { Made } from '../../run/runOf';
import { startPlan } from '../../run/startPlan';
import { actingOn } from '../makePlan';
import { must, NOW, TB } from '../testPlans';

/** For tests: two units with everything that is recorded of their drives, and plans over both through the one road. */

export const OLD = '11111111-1111-4111-8111-111111111111';
export const NEWER = '22222222-2222-4222-8222-222222222222';
export const POOL = '33333333-3333-4333-8333-333333333333';
/** The pool of the newer unit, where it has one. */
export const NEW_POOL = '44444444-4444-4444-8444-444444444444';
const PLAN = 'r';

let acts = 0;
/** The world once these are recorded, whole. */
export function recorded(world: World, entries: readonly ActEntry[]): World {
  const act = { kind: 'act', id: `act-${String(acts++)}`, by: { kind: 'demo', id: null, name: 'Test' } } as const;
  return withLedgers(world, must(record(world, { ...act, happenedAt: NOW, expects: [], entries })).ledgers);
}

export function happened(world: World, unit: string, ...events: readonly UnitEvent[]): World {
  return recorded(
    world,
    events.map((event) => ({ ledger: unitLedger(unit), event })),
  );
}

/** An old unit with one pool, a data set and its copy; and a newer one with nothing in it. */
export function twoUnits(
  profile: object,
  sizes: readonly number[],
  scheme: Scheme,
  bays: readonly [number, number],
  of: object = profile,
): World {
  const box = (name: string, profileOf: object, count: number): UnitEvent => ({
    kind: 'unit-registered',
    name,
    place: { site: 'S', room: 'R' },
    profile: profileOf as Profile,
    enclosures: [{ name: 'Head', bays: Array.from({ length: count }, (_, i) => String(i + 1)) }],
  });
  const drives = sizes.map((size, i) => ({ bay: String(i + 1), bytes: size * TB }));
  const serials = new Map(drives.map(({ bay }) => [bay, `D-${bay}`]));
  const layout = planLayout(profile as Profile, scheme, drives, 0);
  const world = happened(
    worldOf([]),
    OLD,
    box('Heron', profile, bays[0]),
    ...drives.map(({ bay, bytes }): UnitEvent => ({
      kind: 'drive-inserted',
      bay,
      drive: { serial: `D-${bay}`, bytes, basis: 'exact' },
    })),
    must(poolCreated(layout, POOL, 'Papers', serials)),
    { kind: 'volume-set', volume: 'volume-1', pool: POOL, name: 'Volume 1', bytes: layout.shownBytes, thin: false },
    { kind: 'data-set-described', dataSet: 'd', name: 'Accounts', pool: POOL },
    { kind: 'copy-described', dataSet: 'd', copy: 'c', where: 'bank', keeps: 'versions', offSite: true },
  );
  return happened(world, NEWER, box('Egret', of, bays[1]));
}

/** An old unit of one drive, and a newer one of two bays with a pool on one drive of so many TB. */
export function oneBayMoved(
  profile: object,
  size: number,
  newSize = size,
  scheme: Scheme = 'separate',
  of: object = profile,
): World {
  const drives = [{ bay: '1', bytes: newSize * TB }];
  const layout = planLayout(of as Profile, scheme, drives, 0);
  return happened(
    twoUnits(profile, [size], 'separate', [1, 2], of),
    NEWER,
    { kind: 'drive-inserted', bay: '1', drive: { serial: 'N-1', bytes: newSize * TB, basis: 'exact' } },
    must(poolCreated(layout, NEW_POOL, 'Field data', new Map([['1', 'N-1']]))),
  );
}

export const oldIn = (world: World): UnitState => unitIn(world, OLD) as UnitState;
export const newerIn = (world: World): UnitState => unitIn(world, NEWER) as UnitState;

/** The world with the plan begun at both. */
export function begun(world: World, plan: PlanBody, id = PLAN, instead: readonly string[] = []): World {
  return recorded(world, startPlan(world, id, [OLD, NEWER], actingOn(plan, OLD), instead).entries);
}

export function tryStep(world: World, step: string, evidence: StepEvidence, id = PLAN): Made | StepStopped | Refusal {
  return doStep(world, { plan: id, step, evidence, happenedAt: NOW, isOwner: true });
}

/** The plan worked as a person does who does everything right, up to a step or to its end; `seen` hears every world. */
export function workedOn(world: World, upTo?: string, id = PLAN, seen?: (world: World, step: string) => void): World {
  let now = world;
  for (;;) {
    const run = planIn(now, id);
    const step = run && nextStep(run);
    if (!step || step.id === upTo) return now;
    const done = tryStep(now, step.id, expectedEvidence(step, NOW), id);
    if (isRefusal(done)) throw new Error(`${step.id}: ${done.sentence}`);
    if (done.kind === 'stopped') throw new Error(`${step.id}: ${done.interlocks[0]?.sentence ?? ''}`);
    now = recorded(now, done.entries);
    seen?.(now, step.id);
  }
}
