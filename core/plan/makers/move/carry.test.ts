import { describe, expect, it } from '@jest/globals';
import { driveIn, planIn, unitIn, type World } from '../../../world/world';
import { takeBack } from '../../../world/takeBack';
import causeway from '../../../platform/profiles/causeway.json';
import reedbank from '../../../platform/profiles/reedbank.json';
import tidemill from '../../../platform/profiles/tidemill.json';
import { apply } from '../../../unit/apply';
import { marginOfPool } from '../../../unit/margin';
import { idleBays } from '../../../unit/poolChanged';
import type { UnitState } from '../../../unit/state';
import { isRefusal } from '../../../value/refusal';
import { record } from '../../../world/record';
import { unitLedger } from '../../../world/ledger';
import { ARRIVALS } from '../../engine/carrying';
import { dryRunOver } from '../../engine/dryRun';
import type { PlanBody, StepEvidence } from '../../plan';
import type { StepStopped } from '../../run/doStep';
import { needsOf } from '../../../upkeep/needsHands';
import { endPlan } from '../../run/endPlan';
import { actingOn } from '../makePlan';
import { must, NOW } from '../testPlans';
import { carryBackPlan } from './carryBack';
import { movePlan } from './move';
import { begun, happened, NEWER, newerIn, OLD, oldIn, POOL, recorded, twoUnits, tryStep, workedOn } from './testMoves';

const around = (world: World) => ({ from: OLD, target: newerIn(world), used: {} });
function plan(world: World, way: 'carry-by-slot' | 'carry-by-serial' = 'carry-by-slot'): PlanBody {
  return must(movePlan(oldIn(world), { to: NEWER, way, around: around(world) }));
}
const slots = (): World => twoUnits(reedbank, [4, 4, 4], 'parity-1', [4, 5]);
const serials = (): World => twoUnits(tidemill, [8, 4, 4], 'dedicated-1', [4, 6]);
const scans = (...of: readonly (readonly [string, string])[]): StepEvidence => ({
  kind: 'scans',
  scans: of.map(([bay, serial]) => ({ bay, serial })),
});
const stop = (made: unknown): StepStopped['interlocks'][number] => {
  const [first] = (made as StepStopped).interlocks;
  if (!first) throw new Error('It was not stopped.');
  return first;
};
const margin = (world: World): number | undefined => {
  const pool = oldIn(world).pools[POOL] ?? newerIn(world).pools[POOL];
  return pool && marginOfPool(pool);
};

describe('drives carried over in order', () => {
  it('leave one unit whole and arrive whole at the other, with what is in the pool, and nothing is missing on the way', () => {
    const start = slots();
    const before = oldIn(start).pools[POOL];
    const margins: (number | undefined)[] = [];
    const end = workedOn(begun(start, plan(start)), undefined, 'r', (world) => margins.push(margin(world)));
    expect(new Set(margins)).toEqual(new Set([1]));
    expect(oldIn(end)).toMatchObject({ pools: {}, volumes: {}, dataSets: {}, power: 'off' });
    expect(oldIn(end).packed).toBeUndefined();
    const arrived = newerIn(end).pools[POOL];
    expect({ ...arrived, arrivedFrom: undefined }).toEqual({ ...before, arrivedFrom: undefined });
    expect(arrived?.arrivedFrom).toBe(OLD);
    expect(newerIn(end)).toMatchObject({
      power: 'on',
      volumes: { 'volume-1': { pool: POOL } },
      dataSets: { d: { copies: { c: { where: 'bank' } } } },
    });
    for (const bay of ['1', '2', '3'])
      expect([newerIn(end).drives[`D-${bay}`], driveIn(end, `D-${bay}` as never)?.where]).toMatchObject([
        { bay, condition: 'well' },
        { kind: 'bay', unit: NEWER, bay },
      ]);
    expect(Object.values(newerIn(end).drives).some(({ carries }) => carries !== undefined)).toBe(false);
  });

  it('comes out as the dry run said, state by state', () => {
    const start = slots();
    const body = actingOn(plan(start), OLD);
    const dry = dryRunOver({ [OLD]: oldIn(start), [NEWER]: newerIn(start) }, body, NOW);
    expect(dry.map(({ kind }) => kind)).not.toContain('dry-stop');
    const last = dry.at(-1);
    const end = workedOn(begun(start, plan(start)));
    const drives = ({ drives: of }: UnitState): unknown =>
      Object.values(of).map(({ serial, bay, condition }) => [serial, bay, condition]);
    for (const [id, unit] of [
      [OLD, oldIn(end)],
      [NEWER, newerIn(end)],
    ] as const) {
      const said = last?.kind === 'dry-step' ? (last.states[id] as UnitState) : unit;
      expect(drives(unit)).toEqual(drives(said));
      expect(Object.keys(unit.pools)).toEqual(Object.keys(said.pools));
    }
  });

  it('stops a drive in another bay than its own, one that is foreign, and a list with one left on the table', () => {
    const start = slots();
    const world = workedOn(begun(start, plan(start)), 'in-1');
    const swapped = tryStep(world, 'in-1', scans(['1', 'D-1'], ['2', 'D-3'], ['3', 'D-2']));
    expect(stop(swapped)).toMatchObject({
      code: 'wrong-serial',
      mayOverride: false,
      sentence: 'Bay 2: D-3 stood in bay 3; bay 2 is for D-2.',
    });
    expect(stop(tryStep(world, 'in-1', scans(['1', 'D-1'], ['2', 'X-9'], ['3', 'D-3'])))).toMatchObject({
      mayOverride: false,
      sentence: 'Bay 2: X-9 is none of the drives that were taken out of Heron.',
    });
    expect(tryStep(world, 'in-1', scans(['1', 'D-1'], ['2', 'D-2']))).toMatchObject({
      kind: 'refusal',
      code: 'not-scanned',
    });
  });

  it('arrives without one that stayed behind where the pool starts so, and is not started where it does not', () => {
    const start = slots();
    const world = workedOn(begun(start, plan(start)), 'in-1');
    const lacking = (
      missing: readonly (readonly [string, string])[],
      ...of: readonly (readonly [string, string])[]
    ): StepEvidence => ({
      ...(scans(...of) as Extract<StepEvidence, { kind: 'scans' }>),
      missing: missing.map(([bay, serial]) => ({ bay, serial })),
    });
    expect(
      stop(
        tryStep(
          world,
          'in-1',
          lacking(
            [
              ['2', 'D-2'],
              ['3', 'D-3'],
            ],
            ['1', 'D-1'],
          ),
        ),
      ),
    ).toMatchObject({
      code: 'drives-missing',
      mayOverride: false,
      sentence: 'Papers does not start without D-2, D-3.',
    });
    expect(tryStep(world, 'in-1', lacking([['3', 'X-9']], ['1', 'D-1'], ['2', 'D-2']))).toMatchObject({
      code: 'not-carried',
    });
    expect(tryStep(world, 'in-1', lacking([['2', 'D-2']], ['1', 'D-1'], ['2', 'D-2'], ['3', 'D-3']))).toMatchObject({
      code: 'bay-unknown',
    });
    const made = tryStep(world, 'in-1', lacking([['3', 'D-3']], ['1', 'D-1'], ['2', 'D-2']));
    if (isRefusal(made)) throw new Error(made.sentence);
    const end = workedOn(recorded(world, made.entries));
    expect(newerIn(end).pools[POOL]).toMatchObject({ missing: ['D-3'], lost: [] });
    expect(margin(end)).toBe(0);
  });

  it('comes out by its own serial: nobody says that another came instead', () => {
    const start = slots();
    const out = workedOn(begun(start, plan(start)), 'out-1');
    expect(
      tryStep(out, 'out-1', {
        kind: 'scans',
        scans: [
          { bay: '1', serial: 'D-2', instead: 'D-1' },
          { bay: '2', serial: 'D-1' },
          { bay: '3', serial: 'D-3' },
        ],
      }),
    ).toMatchObject({ code: 'not-instead', pointer: '/evidence/scans/0/instead' });
  });

  it('stops at the question to erase; carried back, everything is as it was', () => {
    const start = slots();
    const there = workedOn(begun(start, plan(start)), 'arrived');
    const asked = tryStep(there, 'arrived', { kind: 'choice', choice: ARRIVALS[1] });
    expect(stop(asked)).toMatchObject({ code: 'asks-to-erase', mayOverride: false });
    expect(stop(tryStep(there, 'arrived', { kind: 'choice', choice: ARRIVALS[2] })).code).toBe('not-as-it-was');
    const back = must(carryBackPlan(oldIn(there), { around: around(there) }));
    const home = workedOn(begun(there, back, 'back', ['r']), 'arrived', 'back');
    // Asked again, nobody goes on; something else is noted, and it is looked at.
    expect(stop(tryStep(home, 'arrived', { kind: 'choice', choice: ARRIVALS[1] }, 'back')).code).toBe('asks-to-erase');
    const odd = tryStep(home, 'arrived', { kind: 'choice', choice: ARRIVALS[2] }, 'back');
    expect(isRefusal(odd) || odd.entries.map(({ event }) => event.kind)).toContain('sign-noted');
    const end = workedOn(home, undefined, 'back');
    expect(planIn(end, 'r')?.ended).toMatchObject({ how: 'stopped' });
    expect(oldIn(end).packed).toBeUndefined();
    expect(oldIn(end).pools).toEqual(oldIn(start).pools);
    expect(oldIn(end).dataSets).toEqual(oldIn(start).dataSets);
    const plainly = ({ drives }: UnitState): unknown =>
      Object.values(drives).map(({ serial, bay, condition, backIn }) => [serial, bay, condition, backIn]);
    expect(plainly(oldIn(end))).toEqual(plainly(oldIn(start)));
    expect(Object.values(newerIn(end).drives).every(({ bay }) => bay === null)).toBe(true);
  });

  it('goes back from half-way out, and puts each drive only into the bay it had', () => {
    const start = slots();
    const half = workedOn(begun(start, plan(start)), 'in-1');
    const back = must(carryBackPlan(oldIn(half), { around: around(half) }));
    expect(back.steps.some(({ id }) => id === 'out')).toBe(false);
    const world = workedOn(begun(half, back, 'back', ['r']), 'in', 'back');
    expect(stop(tryStep(world, 'in', scans(['1', 'D-2'], ['2', 'D-1'], ['3', 'D-3']), 'back')).sentence).toBe(
      'Bay 1: D-2 stood in bay 2; bay 1 is for D-1.',
    );
    expect(oldIn(workedOn(world, undefined, 'back')).pools).toEqual(oldIn(start).pools);
  });

  it('a drive that is not back when it is unpacked is missing from then on', () => {
    const start = slots();
    const half = workedOn(begun(start, plan(start)), 'in-1');
    const out = must(apply(oldIn(half), { kind: 'unit-unpacked' }, NOW));
    expect(out.pools[POOL]).toMatchObject({ missing: ['D-1', 'D-2', 'D-3'] });
    expect(out.pools[POOL]?.lost.length).toBeGreaterThan(0);
  });

  it('nothing else is begun while drives are carried, and nothing is made of them where they stand', () => {
    const start = slots();
    const there = workedOn(begun(start, plan(start)), 'arrived');
    expect(idleBays(newerIn(there))).toEqual([]);
    const spare = { kind: 'spare-assigned', pool: POOL, serial: 'D-1' } as const;
    expect(isRefusal(apply(newerIn(there), spare, NOW))).toBe(true);
    const began = { kind: 'plan-began', plan: 'x', job: 'commission', title: 'X', of: 1 } as const;
    expect(apply(oldIn(there), { ...began, serials: [] }, NOW)).toMatchObject({ code: 'packed' });
    // What it holds is known wherever it is taken next.
    const out = happened(there, NEWER, { kind: 'drive-removed', serial: 'D-2' });
    expect(driveIn(out, 'D-2' as never)?.holds).toMatchObject({ pool: POOL, name: 'Papers', unitName: 'Heron' });
  });

  it('is one need for hands, at the unit it is led from; left half-way, the drives on the way are one', () => {
    const start = slots();
    const there = workedOn(begun(start, plan(start)), 'arrived');
    const codes = (state: UnitState): string[] =>
      needsOf({ id: 'x', state, used: {} })
        .map(({ code }) => code)
        .filter((code) => code === 'plan-open' || code === 'on-the-way' || code === 'member-failed');
    expect([codes(oldIn(there)), codes(newerIn(there))]).toEqual([['plan-open'], []]);
    const ended = endPlan(there, { plan: 'r', how: 'stopped' });
    if (isRefusal(ended)) throw new Error(ended.sentence);
    const left = recorded(there, ended.entries);
    expect([codes(oldIn(left)), codes(newerIn(left))]).toEqual([['on-the-way'], []]);
  });

  it('takes stock before and after: what is not as it was is named, and goes on only where it is meant', () => {
    const start = slots();
    const at = workedOn(begun(start, plan(start)), 'stock');
    const lines = [
      { what: 'share', name: 'Maps', detail: 'all may read' },
      { what: 'user', name: 'mara' },
    ] as const;
    const stock = (of: readonly (typeof lines)[number][], seen?: true): StepEvidence => ({
      kind: 'stock',
      lines: of.map((line) => ({ ...line })),
      ...(seen ? { seen } : {}),
    });
    const taken = tryStep(at, 'stock', stock(lines));
    if (isRefusal(taken)) throw new Error(taken.sentence);
    expect(tryStep(at, 'stock', stock([lines[0], lines[0]]))).toMatchObject({ code: 'stock-twice' });
    const there = workedOn(recorded(at, taken.entries), 'compared');
    expect(oldIn(there).stock?.lines).toEqual(lines);
    expect(stop(tryStep(there, 'compared', stock([lines[1]])))).toMatchObject({
      code: 'stock-differs',
      sentence: 'One line is not as before: share Maps, all may read: missing.',
    });
    expect(tryStep(there, 'compared', stock(lines))).toMatchObject({ kind: 'made' });
    const meant = tryStep(there, 'compared', stock([lines[1]], true));
    if (isRefusal(meant)) throw new Error(meant.sentence);
    expect(newerIn(recorded(there, meant.entries)).stock?.lines).toEqual([lines[1]]);
  });

  it('a drive that dies on the way is missing where the pool arrives; more than may, and it has lost data', () => {
    const start = slots();
    const there = workedOn(begun(start, plan(start)), 'arrived');
    const one = workedOn(happened(there, NEWER, { kind: 'drive-failed', serial: 'D-2' }), 'compared');
    expect(newerIn(one).pools[POOL]).toMatchObject({ missing: ['D-2'], lost: [] });
    expect(margin(one)).toBe(0);
    const two = (['D-2', 'D-3'] as const).map((serial) => ({ kind: 'drive-failed', serial }) as const);
    const lost = workedOn(happened(there, NEWER, ...two), 'compared');
    expect(newerIn(lost).pools[POOL]?.lost.length).toBeGreaterThan(0);
    expect(margin(lost)).toBe(-1);
  });

  it('the arrival is one act: taken back, both units are as before it', () => {
    const start = slots();
    const there = workedOn(begun(start, plan(start)), 'arrived');
    const arrived = workedOn(there, 'compared');
    expect(newerIn(arrived).pools[POOL]).toBeDefined();
    const last = Object.values(arrived.ledgers).find(({ kind, id }) => kind === 'unit' && id === NEWER);
    const act = last?.history?.at(-1)?.act ?? '';
    const back = takeBack(arrived, {
      id: 'b',
      by: { kind: 'demo', id: null, name: 'T' },
      happenedAt: NOW,
      act,
      reason: 'x',
    });
    if (isRefusal(back)) throw new Error(back.sentence);
    const states = Object.fromEntries(back.ledgers.map(({ id, state }) => [id, state]));
    expect(states[OLD]).toEqual(oldIn(there));
    expect(states[NEWER]).toEqual(newerIn(there));
  });

  it.each<[string, (world: World) => World, string]>([
    ['a thinned pool', (world) => happened(world, OLD, { kind: 'drive-failed', serial: 'D-2' }), 'not-possible'],
    [
      'work that runs',
      (world) => happened(world, OLD, { kind: 'job-started', job: 'j', task: 'expand', pool: POOL }),
      'not-possible',
    ],
    [
      'another plan at the newer one',
      (world) =>
        recorded(world, [
          {
            ledger: unitLedger(NEWER),
            event: { kind: 'plan-began', plan: OLD, job: 'commission', title: 'Begin', of: 1, serials: [] },
          },
        ]),
      'plan-running',
    ],
  ])('is refused for %s', (_what, change, code) => {
    const world = change(slots());
    const made = movePlan(oldIn(world), { to: NEWER, way: 'carry-by-slot', around: around(world) });
    expect(made).toMatchObject({ kind: 'refusal', code });
  });

  it('a member that fails after the plan was made stops the packing', () => {
    const start = slots();
    const world = happened(workedOn(begun(start, plan(start)), 'old-off'), OLD, {
      kind: 'drive-failed',
      serial: 'D-2',
    });
    const off = tryStep(world, 'old-off', { kind: 'tick' });
    expect([isRefusal(off) ? off.code : off.kind]).toEqual(['thinned']);
  });
});

describe('drives carried over by serial', () => {
  it('go into any bay, in any order, and keep their roles', () => {
    const start = serials();
    const before = oldIn(start).pools[POOL];
    const at = workedOn(begun(start, plan(start, 'carry-by-serial')), 'in-1');
    const bays = planIn(at, 'r')?.plan.steps.find(({ id }) => id === 'in-1')?.asks;
    expect(bays).toEqual({ kind: 'scans', bays: [{ bay: '1' }, { bay: '2' }, { bay: '3' }] });
    const mixed = tryStep(at, 'in-1', scans(['1', 'D-3'], ['2', 'D-1'], ['3', 'D-2']));
    if (isRefusal(mixed) || mixed.kind === 'stopped') throw new Error('It was stopped.');
    const end = workedOn(recorded(at, mixed.entries));
    expect(newerIn(end).pools[POOL]?.bands).toEqual(before?.bands);
    expect(newerIn(end).drives['D-3']?.bay).toBe('1');
  });

  it('the roles stand in the step before the array is started, and the stick has steps of its own', () => {
    const body = plan(serials(), 'carry-by-serial');
    const ids = body.steps.map(({ id }) => id);
    expect(body.steps.find(({ id }) => id === 'roles')?.why).toMatch(/^Papers: parity D-1; data D-2, D-3\./);
    expect(ids.indexOf('stick-copied')).toBeLessThan(ids.indexOf('old-off'));
    expect(ids.indexOf('stick-in')).toBeLessThan(ids.indexOf('start'));
    expect(ids.indexOf('roles')).toBeLessThan(ids.indexOf('arrived'));
    expect(ids.indexOf('firmware')).toBeGreaterThan(ids.indexOf('arrived'));
    expect(ids.indexOf('address')).toBeGreaterThan(ids.indexOf('firmware'));
  });

  it('a family with extensions is taken out and fitted box by box', () => {
    const start = twoUnits(causeway, [8, 8, 8, 8, 8, 8], 'parity-2', [12, 24]);
    const end = workedOn(begun(start, plan(start, 'carry-by-serial')));
    expect(Object.keys(newerIn(end).pools)).toEqual([POOL]);
  });
});

describe('what cannot be', () => {
  const entry = (unit: string, event: object) => ({ ledger: unitLedger(unit), event: event as never });
  it('a unit that is on is not packed, nor one twice, nor unpacked that was not', () => {
    const world = slots();
    expect(apply(oldIn(world), { kind: 'unit-packed', to: NEWER }, NOW)).toMatchObject({ code: 'unit-on' });
    expect(apply(oldIn(world), { kind: 'unit-unpacked' }, NOW)).toMatchObject({ code: 'not-packed' });
    const off = must(apply(oldIn(world), { kind: 'power', on: false }, NOW));
    const packed = must(apply(off, { kind: 'unit-packed', to: NEWER }, NOW));
    expect(apply(packed, { kind: 'unit-packed', to: NEWER }, NOW)).toMatchObject({ code: 'packed' });
  });
  it('a pool that leaves arrives as it was, also from a packed unit', () => {
    const start = slots();
    const there = workedOn(begun(start, plan(start)), 'arrived');
    const {
      id: _id,
      kind: _kind,
      lost: _lost,
      missing: _missing,
      ...pool
    } = oldIn(there).pools[POOL] as never as Record<string, unknown>;
    const act = {
      kind: 'act',
      id: 'forged',
      by: { kind: 'demo', id: null, name: 'T' },
      happenedAt: NOW,
      expects: [],
      entries: [
        entry(OLD, { kind: 'pool-left', pool: POOL, to: NEWER }),
        entry(NEWER, { ...pool, kind: 'pool-arrived', pool: POOL, from: OLD, builtAt: null }),
      ],
    } as const;
    expect(record(there, act)).toMatchObject({ code: 'not-as-it-left' });
    expect(unitIn(there, OLD)?.pools[POOL]).toBeDefined();
  });
});
