/**
 * Every state a small unit can reach under permitted plan steps, user slips and up to two failures, and the proof that no
 * permitted step of a person's hand takes a pool below margin 0 without an override. States are walked breadth first and
 * told apart by all that can matter later; steps that change nothing and prove nothing are left out of the plans, for
 * they can neither cause nor prevent a loss.
 */
import { describe, expect, it } from '@jest/globals';
import causeway from '../../platform/profiles/causeway.json';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import type { Scheme } from '../../layout/scheme';
import type { Profile } from '../../platform/profile';
import { planLayout } from '../../layout/planLayout';
import { apply } from '../../unit/apply';
import type { UnitEvent } from '../../unit/event';
import { marginOfPool } from '../../unit/margin';
import { poolCreated } from '../../unit/poolCreated';
import type { PlanRun } from '../../planRun/planRun';
import { poolsOf, type UnitState } from '../../unit/state';
import { ahead } from '../../world/ahead';
import { planLedger, unitLedger } from '../../world/ledger';
import { emptyLedger, planIn, unitIn, worldOf, type World } from '../../world/world';
import { isRefusal, type Refusal } from '../../value/refusal';
import { doStep, type StepStopped } from '../run/doStep';
import { endPlan } from '../run/endPlan';
import type { Made } from '../run/runOf';
import { startPlan } from '../run/startPlan';
import { expectedEvidence } from './dryRun';
import { cameBackPlan } from '../makers/cameBack';
import type { PlanBody, PlanStep, StepEvidence } from '../plan';
import { nextStep } from '../../planRun/progress';
import { changeLevelPlan } from '../makers/changeLevel';
import { commissionPlan } from '../makers/commission/commissionPlan';
import { newPoolPlan } from '../makers/commission/newPool';
import { extendPlan } from '../makers/extend';
import { growPlan } from '../makers/grow';
import { hotSparePlan } from '../makers/hotSpare';
import { replacePlan } from '../makers/replace';
import { replaceAllPlan } from '../makers/replaceAll';
import { rescuePlan } from '../makers/rescue';
import { spareInPlan } from '../makers/spareIn';

const NOW = '2026-01-01T00:00:00.000Z';
const BYTES = 8001563222016;
const FAILURES = 2;
/** Plans a person begins in one history; each may be left half-way. */
const PLANS = 2;
/** Few bays have fewer states: all of them are walked. */
const LEAST_WIDER = 4_000;
/** With every job and drives that drop out, it is walked breadth first and that far; EXPLORE=n walks further. */
const MOST_WIDER = Number(process.env['EXPLORE'] ?? 8_000);

interface Node {
  readonly unit: UnitState;
  /** The plan under way. */
  readonly run: PlanRun | null;
  readonly failures: number;
  readonly plans: number;
  /** Every kind of plan may be begun, and drives drop out and are there again. */
  readonly wider: boolean;
}

function must(unit: UnitState | null, event: UnitEvent): UnitState {
  const after = apply(unit, event, NOW);
  if (isRefusal(after)) throw new Error(after.sentence);
  return after;
}

function unitOf(
  profile: Profile,
  bays: number,
  members: number,
  scheme: Scheme,
  { spares = 0, inBox = 0 }: { readonly spares?: number; readonly inBox?: number } = {},
): UnitState {
  const names = Array.from({ length: bays }, (_, i) => String(i + 1));
  let unit = must(null, {
    kind: 'unit-registered',
    name: 'U',
    place: { site: 'S', room: 'R' },
    profile,
    enclosures: [
      { name: 'Head', bays: names.slice(0, bays - inBox) },
      ...(inBox > 0 ? [{ name: 'Box', bays: names.slice(bays - inBox), dial: 1 }] : []),
    ],
  });
  if (members === 0) return unit;
  const drives = names.slice(0, members).map((bay) => ({ bay, bytes: BYTES }));
  for (const { bay, bytes } of drives)
    unit = must(unit, { kind: 'drive-inserted', bay, drive: { serial: `D-${bay}`, bytes, basis: 'exact' } });
  const made = poolCreated(
    planLayout(profile, scheme, drives, spares),
    'p',
    'P',
    new Map(drives.map(({ bay }) => [bay, `D-${bay}`])),
  );
  if (isRefusal(made)) throw new Error(made.sentence);
  unit = must(unit, made);
  unit = must(must(unit, { kind: 'data-set-described', dataSet: 'd', name: 'D', pool: 'p' }), {
    kind: 'copy-described',
    dataSet: 'd',
    copy: 'c',
    where: 'else',
    keeps: 'versions',
    offSite: true,
  });
  // A copy that is proven is looked at, and asks for nothing more.
  return must(unit, { kind: 'copy-confirmed', dataSet: 'd', copy: 'c', outcome: 'restore-worked' });
}

/** Reading drives that lie there, and saying what became of those that left, changes nothing of the unit. */
const CHANGES_NOTHING: readonly string[] = ['lay-out', 'towards-pool', 'decide-fates'];
const matters = ({ does, asks }: PlanStep): boolean =>
  does.some(({ kind }) => !CHANGES_NOTHING.includes(kind)) || asks.kind === 'serial';

function bare(plan: PlanBody): PlanBody {
  const steps = plan.steps.filter(matters);
  return {
    ...plan,
    steps: steps.map((step, i) => ({ ...step, after: i === 0 ? [] : [(steps[i - 1] as PlanStep).id] })),
  };
}

/** All that can matter later, and nothing else. */
function keyOf({ unit, run, failures, plans }: Node): string {
  const drives = Object.values(unit.drives).map(({ serial, bay, condition }) => `${serial} ${bay ?? '-'} ${condition}`);
  const pools = poolsOf(unit).map(({ scheme, spares, missing, lost, bands }) => [
    scheme,
    [...spares].sort(),
    [...missing].sort(),
    [...lost].sort(),
    bands.map(({ members }) => members),
  ]);
  const jobs = Object.values(unit.jobs).map(({ task, replaces, onto }) => `${task} ${replaces ?? ''} ${onto ?? ''}`);
  const running = run
    ? [[run.plan.job, run.plan.title, run.plan.steps.map(({ id }) => id), Object.keys(run.done)]]
    : [];
  const boxes = unit.enclosures.map(({ name }) => `${name} ${String(unit.away.includes(name))}`);
  return JSON.stringify([drives.sort(), pools, jobs.sort(), running, unit.power, boxes, failures, plans]);
}

/** A unit and the plan it is worked by, as a world; and back again after a command of the model. */
function worldAround({ unit, run }: Pick<Node, 'unit' | 'run'>): World {
  return worldOf([
    { ...emptyLedger(unitLedger('u')), state: unit },
    { ...emptyLedger(planLedger('r')), state: run },
  ]);
}

function carriedOut(node: Node, made: Made | StepStopped | Refusal, plans = node.plans): Node[] {
  if (isRefusal(made) || made.kind === 'stopped') return [];
  const after = ahead(worldAround(node), made.entries, NOW);
  if (isRefusal(after)) return [];
  const run = planIn(after, 'r');
  return [{ ...node, unit: unitIn(after, 'u') ?? node.unit, run: run?.ended ? null : run, plans }];
}

/** What failures do: any working drive dies, or drops out and is there again; so does an extension. */
function* natures(node: Node): Generator<Node> {
  const { unit, failures } = node;
  for (const { serial, bay, condition } of Object.values(unit.drives)) {
    if (bay === null) continue;
    if (failures > 0 && (condition === 'well' || condition === 'suspected'))
      yield { ...node, unit: must(unit, { kind: 'drive-failed', serial }), failures: failures - 1 };
    // It had only dropped out, and is seen again: as it was, or empty.
    if (node.wider && condition === 'failed') {
      const back = apply(unit, { kind: 'drive-returned', serial }, NOW);
      if (!isRefusal(back)) yield { ...node, unit: back };
    }
  }
  for (const { name } of node.wider ? unit.enclosures.slice(1) : []) {
    const isAway = unit.away.includes(name);
    if (isAway) yield { ...node, unit: must(unit, { kind: 'enclosure-back', enclosure: name }) };
    else if (failures > 0)
      yield { ...node, unit: must(unit, { kind: 'enclosure-lost', enclosure: name }), failures: failures - 1 };
  }
}

/** What a person may begin, do, mistake or give up. */
function* hands(node: Node, minds: boolean): Generator<Node> {
  const { unit, run, plans } = node;
  const world = worldAround(node);
  if (!run) {
    if (plans > 0)
      for (const body of beginnings(unit, plans, node.wider))
        yield* carriedOut(node, startPlan(worldAround({ unit, run: null }), 'r', ['u'], body), plans - 1);
    return;
  }
  const step = nextStep(run);
  if (!step) {
    yield* carriedOut(node, endPlan(world, { plan: 'r', how: 'finished' }));
    return;
  }
  yield* carriedOut(node, endPlan(world, { plan: 'r', how: 'stopped' }));
  for (const evidence of evidences(unit, step)) {
    const sent = { plan: 'r', step: step.id, evidence, happenedAt: NOW, isOwner: !minds };
    const seen = doStep(world, sent);
    if (minds || isRefusal(seen) || seen.kind !== 'stopped') yield* carriedOut(node, seen);
    else
      yield* carriedOut(
        node,
        doStep(world, { ...sent, override: { serial: seen.interlocks[0]?.serial ?? '', reason: 'does not mind' } }),
      );
  }
}

/** Any member may be chosen, the sick one or a well one: by slip, in its own bay or through a free one. */
function beginnings(unit: UnitState, n: number, wider: boolean): PlanBody[] {
  const free = ['1', '2', '3', '4', '5'].filter(
    (bay) =>
      unit.enclosures.some(({ bays }) => bays.includes(bay)) &&
      !Object.values(unit.drives).some((drive) => drive.bay === bay),
  );
  const drive = { bytes: BYTES, basis: 'exact' as const, serial: `N-${String(n)}` };
  const each = Object.keys(unit.drives).flatMap((serial) => [
    replacePlan(unit, { serial, way: 'in-place', drive }),
    ...free.map((bay) => replacePlan(unit, { serial, way: 'free-bay', bay, drive })),
    cameBackPlan(unit, { serial, how: 'rebuild' }),
    ...(wider ? [cameBackPlan(unit, { serial, how: 'whole' })] : []),
    ...(wider
      ? poolsOf(unit).flatMap(({ spares }) => spares.map((spare) => spareInPlan(unit, { serial, spare, drive })))
      : []),
  ]);
  const larger = poolsOf(unit).flatMap(({ id: pool }) =>
    (['in-place', 'free-bay'] as const).map((way) =>
      replaceAllPlan(unit, { pool, way, drive: { bytes: 2 * BYTES, basis: 'exact' } }),
    ),
  );
  const fresh = { bytes: BYTES, basis: 'exact' as const };
  const more = poolsOf(unit).flatMap(({ id: pool, scheme }) => [
    growPlan(unit, { pool, drive: fresh }),
    hotSparePlan(unit, { pool, drive: fresh }),
    ...unit.profile.growth.conversions
      .filter(({ from }) => from === scheme)
      .map(({ to }) => changeLevelPlan(unit, { pool, to, drive: fresh })),
  ]);
  const [bay = ''] = free;
  const another = newPoolPlan(
    unit,
    { drives: [{ ...drive, bay }], pool: { name: 'Q', scheme: 'separate' } },
    () => 'q',
  );
  const whole = [
    extendPlan(unit, { name: 'Box', bays: 1 }),
    // A unit that is well is offered no rescue.
    ...(Object.values(unit.drives).some(({ condition }) => condition === 'failed')
      ? [rescuePlan(unit, { because: 'offers-to-erase' }, [])]
      : []),
    ...(poolsOf(unit).length === 0
      ? [
          commissionPlan(
            unit,
            {
              drives: free.slice(0, 3).map((of) => ({ ...fresh, bay: of, serial: `N-${of}` })),
              pool: { name: 'P', scheme: 'parity-1' },
            },
            () => 'p',
          ),
        ]
      : []),
  ];
  return [...each, ...(wider ? [...larger, ...more, another, ...whole] : [])].flatMap((plan) =>
    isRefusal(plan) ? [] : [bare(plan)],
  );
}

/** What is expected, and every serial that could be in hand instead. */
function evidences(unit: UnitState, step: PlanStep): StepEvidence[] {
  const expected = expectedEvidence(step, NOW);
  if (step.asks.kind !== 'serial') return [expected];
  const serials = [...Object.keys(unit.drives), 'N-1', 'N-2', 'N-3'];
  return [
    expected,
    ...serials.map((serial): StepEvidence => ({ kind: 'serial', serial })),
    { kind: 'unread', why: 'worn off' },
  ];
}

interface Explored {
  readonly states: number;
  readonly steps: number;
  /** Losses by a person's own step. */
  readonly byHand: string[];
  /** Losses by failures: the exploration reaches them, so that it would see the other kind. */
  readonly byFailure: number;
  /** Jobs whose plans were walked to their last step. */
  readonly finished: ReadonlySet<string>;
}

function explore(unit: UnitState, minds: boolean, most: number, wider = false): Explored {
  const start: Node = { unit, run: null, failures: FAILURES, plans: PLANS, wider };
  const seen = new Set([keyOf(start)]);
  let queue: Node[] = [start];
  let [steps, byFailure] = [0, 0];
  const byHand: string[] = [];
  const finished = new Set<string>();
  const margin = ({ unit: of }: Node): number => Math.min(...poolsOf(of).map(marginOfPool));
  while (queue.length > 0 && seen.size < most) {
    const next: Node[] = [];
    for (const node of queue) {
      const before = margin(node);
      if (node.run && !nextStep(node.run)) finished.add(node.run.plan.job);
      const visit = (to: Node, isHand: boolean): void => {
        steps++;
        if (before >= 0 && margin(to) < 0) {
          if (isHand) byHand.push(JSON.stringify(poolsOf(to.unit).map(({ missing }) => missing)));
          else byFailure++;
          // Beyond a loss there is nothing left to lose.
          return;
        }
        const key = keyOf(to);
        if (seen.has(key)) return;
        seen.add(key);
        next.push(to);
      };
      for (const to of hands(node, minds)) visit(to, true);
      for (const to of natures(node)) visit(to, false);
    }
    queue = next;
  }
  return { states: seen.size, steps, byHand, byFailure, finished };
}

const NEW_WAYS = ['grow', 'hot-spare', 'convert', 'new-pool'];

describe('every state a small unit can reach', () => {
  it.each<[string, UnitState, number]>([
    ['four bays, single parity, rebuilds by itself', unitOf(reedbank as Profile, 4, 4, 'parity-1'), 2_000],
    ['five bays, mixed pool, with a free bay', unitOf(saltern as Profile, 5, 4, 'mixed-1'), 8_000],
    ['five bays, double parity', unitOf(saltern as Profile, 5, 5, 'mixed-2'), 8_000],
  ])('%s: no permitted step loses data', (_what, unit, least) => {
    const { states, steps, byHand, byFailure } = explore(unit, true, 200_000);
    if (process.env['EXPLORE'] !== undefined)
      process.stderr.write(
        `${_what}: ${String(states)} states, ${String(steps)} steps, ${String(byFailure)} losses by failures\n`,
      );
    expect(byHand).toEqual([]);
    expect(states).toBeGreaterThan(least);
    expect(byFailure).toBeGreaterThan(0);
  });

  it.each<[string, UnitState, readonly string[]]>([
    [
      'four bays, single parity and a spare',
      unitOf(reedbank as Profile, 4, 4, 'parity-1', { spares: 1 }),
      ['spare-in'],
    ],
    ['five bays, mixed pool, with a free bay', unitOf(saltern as Profile, 5, 4, 'mixed-1'), ['grow', 'convert']],
    ['four bays, single parity, with a free bay', unitOf(reedbank as Profile, 4, 3, 'parity-1'), NEW_WAYS],
    ['a rack head of four bays, with room for an extension', unitOf(causeway as Profile, 4, 4, 'parity-2'), ['extend']],
    [
      'a rack head of two bays, two more in an extension that drops out',
      unitOf(causeway as Profile, 4, 4, 'parity-2', { inBox: 2 }),
      ['replace'],
    ],
    ['three empty bays', unitOf(reedbank as Profile, 3, 0, 'parity-1'), ['commission']],
    [
      'four bays, double parity, and a unit that offers to erase',
      unitOf(reedbank as Profile, 4, 4, 'parity-2'),
      ['rescue'],
    ],
  ])(
    '%s: nor with larger or more drives, another level, spares that stand in, and drives that drop out',
    (_what, unit, walked) => {
      const { states, byHand, byFailure, finished } = explore(unit, true, MOST_WIDER, true);
      expect(byHand).toEqual([]);
      // As far as it is walked, or to the end of what there is.
      expect(states).toBeGreaterThan(Math.min(MOST_WIDER, LEAST_WIDER));
      expect([...finished]).toEqual(expect.arrayContaining([...walked]));
      expect(byFailure).toBeGreaterThan(0);
    },
  );

  it('finds losses by hand when nobody minds what stops a step: the exploration can fail', () => {
    const { byHand } = explore(unitOf(reedbank as Profile, 4, 4, 'parity-1'), false, 2_000);
    expect(byHand.length).toBeGreaterThan(10);
  });
});
