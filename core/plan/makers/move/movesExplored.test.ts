/**
 * Every state two small units can reach while one is carried over or copied to the other: by right and wrong answers, drives
 * in the wrong bay, plans that are left half-way, a way back begun at any time, other plans tried in between, and a failure.
 * Whatever is permitted, the pool is in exactly one place, loses nothing by a person's hand, and the last proven copy stays.
 */
import { describe, expect, it } from '@jest/globals';
import reedbank from '../../../platform/profiles/reedbank.json';
import tidemill from '../../../platform/profiles/tidemill.json';
import { nextStep } from '../../../planRun/progress';
import { marginOfPool } from '../../../unit/margin';
import { isProven } from '../../../unit/provenCopy';
import { membersOf, type UnitState } from '../../../unit/state';
import { isRefusal, type Refusal } from '../../../value/refusal';
import { unitLedger } from '../../../world/ledger';
import { record } from '../../../world/record';
import { planIn, withLedgers, type World } from '../../../world/world';
import { expectedEvidence } from '../../engine/dryRun';
import type { PlanBody, PlanStep, StepEvidence } from '../../plan';
import { doStep } from '../../run/doStep';
import { endPlan } from '../../run/endPlan';
import { startPlan } from '../../run/startPlan';
import { newPoolPlan } from '../commission/newPool';
import { actingOn } from '../makePlan';
import { replacePlan } from '../replace';
import { NOW, TB } from '../testPlans';
import { carryBackPlan } from './carryBack';
import { movePlan, type MoveWish } from './move';
import { happened, NEWER, newerIn, OLD, oldIn, oneBayMoved, POOL, recorded, twoUnits } from './testMoves';

type Asked = Pick<MoveWish, 'way' | 'addOld' | 'dataSets'>;

interface Node {
  readonly world: World;
  /** The plan under way. */
  readonly plan: string | null;
  /** Plans begun so far. */
  readonly begun: number;
  readonly failures: number;
}

/** What is recorded, if it may be. */
function after(world: World, made: ReturnType<typeof doStep> | ReturnType<typeof endPlan>): World | null {
  if (isRefusal(made) || made.kind === 'stopped') return null;
  const act = { kind: 'act', id: `x-${String(Math.random())}`, by: { kind: 'demo', id: null, name: 'T' } } as const;
  const seen = record(world, { ...act, happenedAt: NOW, expects: [], entries: made.entries });
  return isRefusal(seen) ? null : withLedgers(world, seen.ledgers);
}

const bare = (plan: PlanBody): PlanBody => {
  const steps = plan.steps.filter(({ does, asks }) => does.length > 0 || asks.kind === 'choice');
  return { ...plan, steps: steps.map((step, i) => ({ ...step, after: i === 0 ? [] : [steps[i - 1]?.id ?? ''] })) };
};

function keyOf({ world, plan, begun, failures }: Node): string {
  const of = ({ drives, pools, power, packed, dataSets, plans }: UnitState): unknown => [
    Object.values(drives).map(({ serial, bay, condition, carries }) => [serial, bay, condition, carries?.pool]),
    Object.values(pools).map(({ id, scheme, missing, lost }) => [id, scheme, [...missing].sort(), lost]),
    power,
    packed?.bays,
    Object.values(dataSets).map(({ id, copies }) => [
      id,
      Object.values(copies).map((one) => [one.where, isProven(one)]),
    ]),
    Object.keys(plans).length,
  ];
  const run = plan === null ? null : planIn(world, plan);
  return JSON.stringify([
    of(oldIn(world)),
    of(newerIn(world)),
    run?.plan.title,
    run && Object.keys(run.done),
    begun,
    failures,
  ]);
}

const around = (world: World) => ({ from: OLD, target: newerIn(world), used: { [POOL]: TB / 2 } });

/** Plans somebody may think of begin with at either unit. */
function beginnings(world: World, wish: Asked): { body: PlanBody; units: string[] }[] {
  const drive = { bytes: 4 * TB, basis: 'exact' as const };
  const idle = ['1', '2', '3'].filter((bay) => Object.values(newerIn(world).drives).some((one) => one.bay === bay));
  const made: [PlanBody | Refusal, string[]][] = [
    [movePlan(oldIn(world), { ...wish, to: NEWER, around: around(world) }), [OLD, NEWER]],
    [carryBackPlan(oldIn(world), { around: around(world) }), [OLD, NEWER]],
    [replacePlan(oldIn(world), { serial: 'D-1', way: 'in-place', drive }), [OLD]],
    [newPoolPlan(newerIn(world), { drives: [], idle, pool: { name: 'Other', scheme: 'mirror' } }, () => OLD), [NEWER]],
  ];
  return made.flatMap(([body, units]) => (isRefusal(body) ? [] : [{ body: bare(body), units }]));
}

/** What is right, and what a hand may give instead. */
function evidences(step: PlanStep): StepEvidence[] {
  const expected = expectedEvidence(step, NOW);
  if (step.asks.kind === 'choice') return step.asks.options.map((choice): StepEvidence => ({ kind: 'choice', choice }));
  if (expected.kind === 'scans') {
    const serials = expected.scans.map(({ serial }) => serial);
    const orders = [serials, [...serials].reverse(), ['X-1', ...serials.slice(1)], serials.slice(1)];
    return orders.map((order) => ({
      kind: 'scans',
      scans: order.map((serial, i) => ({ bay: expected.scans[i]?.bay ?? '', serial })),
    }));
  }
  return expected.kind === 'serial' ? [expected, { kind: 'serial', serial: 'N-1' }] : [expected];
}

function* next(node: Node, wish: Asked): Generator<Node & { readonly hand: boolean }> {
  const { world, plan, begun, failures } = node;
  for (const unit of [OLD, NEWER])
    if (failures > 0)
      for (const { serial, bay, condition } of Object.values((unit === OLD ? oldIn : newerIn)(world).drives))
        if (bay !== null && condition === 'well' && serial === 'D-1')
          yield {
            ...node,
            world: recorded(world, [{ ledger: unitLedger(unit), event: { kind: 'drive-failed', serial } }]),
            failures: failures - 1,
            hand: false,
          };
  // A copy somebody counted on fails.
  if (failures > 0)
    for (const [id, unit] of [
      [OLD, oldIn(world)],
      [NEWER, newerIn(world)],
    ] as const)
      for (const set of Object.values(unit.dataSets))
        for (const copy of Object.values(set.copies).filter(({ on }) => on === undefined))
          yield {
            ...node,
            world: happened(world, id, { kind: 'copy-confirmed', dataSet: set.id, copy: copy.id, outcome: 'failed' }),
            failures: failures - 1,
            hand: false,
          };
  // Another may be begun at any time; whether it is let in is for the units to say.
  if (begun < 3)
    for (const { body, units } of beginnings(world, wish)) {
      const id = `p-${String(begun)}`;
      const instead = body.job === 'carry-back' && plan !== null ? [plan] : [];
      const to = after(world, startPlan(world, id, units, actingOn(body, units[0] as string), instead));
      if (to && (plan === null || instead.length > 0))
        yield { ...node, world: to, plan: id, begun: begun + 1, hand: true };
    }
  if (plan === null) return;
  const run = planIn(world, plan);
  const step = run && nextStep(run);
  const stopped = after(world, endPlan(world, { plan, how: step ? 'stopped' : 'finished' }));
  if (stopped) yield { ...node, world: stopped, plan: null, hand: true };
  if (!step) return;
  for (const evidence of evidences(step)) {
    const to = after(world, doStep(world, { plan, step: step.id, evidence, happenedAt: NOW, isOwner: false }));
    if (to) yield { ...node, world: to, hand: true };
  }
}

interface Explored {
  readonly states: number;
  readonly wrong: readonly string[];
  readonly arrived: number;
  readonly back: number;
  readonly added: number;
  /** States in which a part is at home in the newer one, and the rest where it was. */
  readonly left: number;
}

function explore(world: World, wish: Asked, most: number): Explored {
  const start: Node = { world, plan: null, begun: 0, failures: 1 };
  const seen = new Set([keyOf(start)]);
  const wrong: string[] = [];
  let [arrived, back, added, left] = [0, 0, 0, 0];
  const marginIn = (of: World): number | undefined => {
    const pool = oldIn(of).pools[POOL] ?? newerIn(of).pools[POOL];
    return pool && marginOfPool(pool);
  };
  const proven = (of: World): boolean =>
    [oldIn(of), newerIn(of)].some(({ dataSets }) =>
      Object.values(dataSets).some(({ copies }) => Object.values(copies).some((copy) => isProven(copy))),
    );
  let queue = [start];
  while (queue.length > 0 && seen.size < most) {
    const further: Node[] = [];
    for (const node of queue) {
      const before = marginIn(node.world);
      for (const { hand, ...to } of next(node, wish)) {
        const key = keyOf(to);
        if (seen.has(key)) continue;
        seen.add(key);
        const [inOld, inNewer] = [oldIn(to.world).pools[POOL], newerIn(to.world).pools[POOL]];
        const now = marginIn(to.world);
        if (inOld && inNewer) wrong.push(`in both: ${key}`);
        if (!inOld && !inNewer && wish.way !== 'copy') wrong.push(`in none: ${key}`);
        if (hand && proven(node.world) && !proven(to.world)) wrong.push(`the last proven copy is gone: ${key}`);
        // What still holds the pool is made nothing else of.
        const others = Object.values(newerIn(to.world).pools).filter(({ id }) => id !== POOL);
        if (inOld && others.some((pool) => membersOf(pool).some((serial) => serial.startsWith('D-'))))
          wrong.push(`made something else of: ${key}`);
        if (hand && before !== undefined && now !== undefined && before >= 0 && now < 0)
          wrong.push(`lost by hand: ${key}`);
        if (inNewer) arrived++;
        if (inOld && !oldIn(to.world).packed && oldIn(to.world).power === 'on' && to.begun > 1) back++;
        if (Object.values(newerIn(to.world).pools).some(({ scheme }) => scheme === 'mirror')) added++;
        if ('d' in newerIn(to.world).dataSets && 'm' in oldIn(to.world).dataSets) left++;
        further.push(to);
      }
    }
    queue = further;
  }
  return { states: seen.size, wrong, arrived, back, added, left };
}

describe('every state two units can reach while one is moved to the other', () => {
  it.each<[string, World, Asked]>([
    ['in order', twoUnits(reedbank, [4, 4], 'mirror', [2, 3]), { way: 'carry-by-slot' }],
    ['by serial', twoUnits(tidemill, [4, 4], 'dedicated-1', [4, 4]), { way: 'carry-by-serial' }],
  ])('carried %s: it is always in one place, and nothing is lost by hand', (_what, world, wish) => {
    const { wrong, arrived, back, states } = explore(world, wish, 1_500);
    expect(wrong).toEqual([]);
    expect(states).toBeGreaterThan(300);
    expect(arrived).toBeGreaterThan(0);
    expect(back).toBeGreaterThan(0);
  });

  it('copied, with the old drive added: no permitted step takes the last proven copy away', () => {
    const world = oneBayMoved(reedbank, 4);
    const { wrong, added } = explore(world, { way: 'copy', addOld: true }, 1_500);
    expect(wrong).toEqual([]);
    expect(added).toBeGreaterThan(0);
  });

  it('split off and removed from the old one: no permitted step takes the last proven copy away', () => {
    const world = happened(oneBayMoved(reedbank, 4), OLD, {
      kind: 'data-set-described',
      dataSet: 'm',
      name: 'Maps',
      pool: POOL,
    });
    const { wrong, states, left } = explore(world, { way: 'copy', dataSets: ['d'] }, 1_500);
    expect(wrong).toEqual([]);
    expect(states).toBeGreaterThan(50);
    expect(left).toBeGreaterThan(0);
  });
});
