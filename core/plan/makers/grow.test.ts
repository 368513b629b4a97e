import causeway from '../../platform/profiles/causeway.json';
import plain from '../../platform/profiles/plain.json';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import tidemill from '../../platform/profiles/tidemill.json';
import { planLayout } from '../../layout/planLayout';
import type { Scheme } from '../../layout/scheme';
import type { Profile } from '../../platform/profile';
import { apply } from '../../unit/apply';
import type { UnitEvent } from '../../unit/event';
import { marginOfPool } from '../../unit/margin';
import { poolCreated } from '../../unit/poolCreated';
import type { Pool, UnitState } from '../../unit/state';
import { isRefusal, type Refusal } from '../../value/refusal';
import { ahead } from '../../world/ahead';
import { planLedger, unitLedger } from '../../world/ledger';
import { emptyLedger, planIn, unitIn, worldOf, type World } from '../../world/world';
import { dryRun, expectedEvidence, type DryStep } from '../engine/dryRun';
import type { PlanBody, StepEvidence } from '../plan';
import { actingOn } from './makePlan';
import { doStep, type StepStopped } from '../run/doStep';
import type { Made } from '../run/runOf';
import { startPlan } from '../run/startPlan';
import { growPlan, type GrowWish } from './grow';

const NOW = '2026-01-01T00:00:00.000Z';
const TB = 1e12;

function unitOf(profile: object, sizes: readonly number[], scheme: Scheme, bays: number, width?: number): UnitState {
  const drives = sizes.map((size, i) => ({ bay: String(i + 1), bytes: size * TB }));
  const pool = poolCreated(
    planLayout(profile as Profile, scheme, drives, 0, width),
    'p',
    'Papers',
    new Map(drives.map(({ bay }) => [bay, `D-${bay}`])),
  );
  if (isRefusal(pool)) throw new Error(pool.sentence);
  const events: UnitEvent[] = [
    {
      kind: 'unit-registered',
      name: 'Heron',
      place: { site: 'S', room: 'R' },
      profile: profile as Profile,
      enclosures: [{ name: 'Head', bays: Array.from({ length: bays }, (_, i) => String(i + 1)) }],
    },
    ...drives.map(({ bay, bytes }): UnitEvent => ({
      kind: 'drive-inserted',
      bay,
      drive: { serial: `D-${bay}`, bytes, basis: 'exact' },
    })),
    pool,
  ];
  return events.reduce<UnitState | null>((unit, event) => {
    const next = apply(unit, event, NOW);
    if (isRefusal(next)) throw new Error(next.sentence);
    return next;
  }, null) as UnitState;
}
const wish = (size: number, more: Partial<GrowWish> = {}): GrowWish => ({
  pool: 'p',
  drive: { bytes: size * TB, basis: 'exact' },
  ...more,
});
const must = <T extends object>(made: T | Refusal): T => {
  if (isRefusal(made)) throw new Error(made.sentence);
  return made;
};
const codeOf = (made: PlanBody | Refusal): string => (isRefusal(made) ? made.code : 'planned');

const stepped = (world: World, step: string, evidence: StepEvidence): Made | StepStopped | Refusal =>
  doStep(world, { plan: 'r', step, evidence, happenedAt: NOW, isOwner: false });

/** Works a plan as a person does who does everything right, with serials of their own. */
function worked(unit: UnitState, plan: PlanBody, upTo?: string): World {
  let world = worldOf([
    { ...emptyLedger(unitLedger('u')), state: unit },
    { ...emptyLedger(planLedger('r')), state: null },
  ]);
  world = must(ahead(world, startPlan(world, 'r', ['u'], actingOn(plan, 'u')).entries, NOW));
  for (const step of plan.steps) {
    if (step.id === upTo) break;
    const evidence =
      step.asks.kind === 'serial'
        ? { kind: 'serial' as const, serial: `NEW-${step.bay ?? ''}` }
        : expectedEvidence(step);
    const done = stepped(world, step.id, evidence);
    if (isRefusal(done) || done.kind === 'stopped') throw new Error(`${step.id}: ${JSON.stringify(done)}`);
    world = must(ahead(world, done.entries, NOW));
  }
  return world;
}

describe('adding drives to a pool', () => {
  it.each([
    ['one in a mixed pool', saltern, [4, 4, 8], 'mixed-1', 8, 5, undefined],
    ['one in single parity', reedbank, [4, 4, 4], 'parity-1', 4, 4, undefined],
    ['one beside dedicated parity', tidemill, [8, 4, 4], 'dedicated-1', 6, 6, undefined],
    ['a pair of mirrors', plain, [4, 4, 4, 4], 'striped-mirrors', 8, 8, undefined],
    ['a whole group', causeway, Array.from({ length: 12 }, () => 4), 'parity-2-groups', 4, 24, 6],
  ] as const)(
    '%s: worked to the end, it is what the dry run said, and never thinner',
    (_name, profile, sizes, scheme, size, bays, width) => {
      const unit = unitOf(profile, sizes, scheme, bays, width);
      const plan = must(growPlan(unit, wish(size)));
      const steps = dryRun(unit, plan, NOW) as DryStep[];
      expect(steps.every((step) => step.kind === 'dry-step')).toBe(true);
      const before = marginOfPool(unit.pools['p'] as Pool);
      for (const { after } of steps) expect(marginOfPool(after.pools['p'] as Pool)).toBeGreaterThanOrEqual(before);
      const end = unitIn(worked(unit, plan), 'u') as UnitState;
      const [grown, said] = [end.pools['p'] as Pool, steps.at(-1)?.after.pools['p'] as Pool];
      expect(grown.usableBytes).toBe(said.usableBytes);
      expect(grown.usableBytes).toBeGreaterThan((unit.pools['p'] as Pool).usableBytes);
      // Until its page says that it is done, no space is counted.
      const waiting = unitIn(worked(unit, plan, 'taken-in'), 'u') as UnitState;
      expect((waiting.pools['p'] as Pool).usableBytes).toBe((unit.pools['p'] as Pool).usableBytes);
      expect(planIn(worked(unit, plan), 'r')?.done).toBeDefined();
    },
  );

  it('is refused before anything is touched, with what is wrong', () => {
    const groups = unitOf(
      causeway,
      Array.from({ length: 12 }, () => 4),
      'parity-2-groups',
      24,
      6,
    );
    // A single drive beside groups.
    expect(codeOf(growPlan(groups, wish(4, { bays: ['13'] })))).toBe('adds-groups');
    const single = unitOf(reedbank, [4, 4, 4], 'parity-1', 4);
    expect(codeOf(growPlan(single, wish(2)))).toBe('too-small');
    expect(codeOf(growPlan(single, wish(4, { bays: ['2'] })))).toBe('bay-occupied');
    expect(codeOf(growPlan(single, wish(4, { bays: ['9'] })))).toBe('bay-occupied');
    expect(codeOf(growPlan(single, wish(4, { pool: 'none' })))).toBe('pool-unknown');
    expect(codeOf(growPlan(unitOf(reedbank, [4, 4, 4], 'parity-1', 3), wish(4)))).toBe('no-free-bay');
    const failed = must(apply(single, { kind: 'drive-failed', serial: 'D-2' }, NOW) as UnitState);
    expect(codeOf(growPlan(failed, wish(4)))).toBe('thinned');
  });

  it('counts nothing in while a member is missing, nor a drive that turned out smaller', () => {
    const unit = unitOf(reedbank, [4, 4, 4], 'parity-1', 4);
    const plan = must(growPlan(unit, wish(4)));
    const waiting = worked(unit, plan, 'taken-in');
    const now = unitIn(waiting, 'u') as UnitState;
    const tried = (state: UnitState): string => {
      const world = worldOf([
        { ...emptyLedger(unitLedger('u')), state },
        { ...emptyLedger(planLedger('r')), state: planIn(waiting, 'r') },
      ]);
      const done = stepped(world, 'taken-in', { kind: 'tick' });
      return isRefusal(done) ? done.code : done.kind === 'stopped' ? (done.interlocks[0]?.code ?? '') : 'done';
    };
    expect(tried(now)).toBe('done');
    expect(tried(must(apply(now, { kind: 'drive-failed', serial: 'D-1' }, NOW) as UnitState))).not.toBe('done');
    const fitted = now.drives['NEW-4'];
    if (!fitted) throw new Error('not fitted');
    expect(tried({ ...now, drives: { ...now.drives, 'NEW-4': { ...fitted, bytes: 2 * TB } } })).not.toBe('done');
  });
});
