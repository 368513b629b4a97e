import saltern from '../../platform/profiles/saltern.json' with { type: 'json' };
import { planLayout } from '../../layout/planLayout';
import type { Profile } from '../../platform/profile';
import type { UnitEvent } from '../../unit/event';
import { poolCreated } from '../../unit/poolCreated';
import { isRefusal, type Refusal } from '../../value/refusal';
import type { Act } from '../../world/act';
import { unitLedger } from '../../world/ledger';
import { record } from '../../world/record';
import { planIn, unitIn, withLedgers, worldOf, type World } from '../../world/world';
import { actingOn } from '../makers/makePlan';
import { replacePlan } from '../makers/replace';
import type { PlanBody, StepEvidence } from '../plan';
import { doStep, type StepSent, type StepStopped } from './doStep';
import { endPlan, pausePlan } from './endPlan';
import { skipStep, whyNotBack } from './leaveStep';
import type { Made } from './runOf';
import { startPlan } from './startPlan';
import { planEventWords } from '../../planRun/planEventWords';

const U = '00000000-0000-4000-8000-00000000000a';
const P = '00000000-0000-4000-8000-0000000000aa';
const BYTES = 8001563222016;
const SIZE = { bytes: BYTES, basis: 'exact' as const };
const hour = (n: number): string => new Date(Date.UTC(2026, 0, 1) + n * 3_600_000).toISOString();
let acts = 0;

function recorded(world: World, n: number, entries: Act['entries']): World {
  const act: Act = {
    kind: 'act',
    id: `act-${String(++acts)}`,
    by: { kind: 'person', id: 'p', name: 'K' },
    happenedAt: hour(n),
    expects: [],
    entries,
  };
  const result = record(world, act);
  if (isRefusal(result)) throw new Error(`${result.code}: ${result.sentence}`);
  return withLedgers(world, result.ledgers);
}
const happened = (world: World, n: number, ...events: UnitEvent[]): World =>
  recorded(
    world,
    n,
    events.map((event) => ({ ledger: unitLedger(U), event })),
  );
const inserted = (bay: string): UnitEvent => ({
  kind: 'drive-inserted',
  bay,
  drive: { serial: `D-${bay}`, bytes: BYTES, basis: 'exact' },
});
const made = (result: Made | StepStopped | Refusal): Made => {
  if (isRefusal(result) || result.kind === 'stopped') throw new Error(JSON.stringify(result));
  return result;
};

/** Four drives in a pool that can lose one, five bays, and a plan to replace bay 2 in its bay begun at 1 h. */
function begun(scheme: 'mixed-1' | 'mixed-2' = 'mixed-1'): World {
  const four = ['1', '2', '3', '4'].map((bay) => ({ bay, bytes: BYTES }));
  const pool = poolCreated(
    planLayout(saltern as Profile, scheme, four),
    'p',
    'Pool',
    new Map(four.map(({ bay }) => [bay, `D-${bay}`])),
  ) as UnitEvent;
  const world = happened(
    worldOf([]),
    0,
    {
      kind: 'unit-registered',
      name: 'Avocet',
      place: { site: 'S', room: 'R' },
      profile: saltern as Profile,
      enclosures: [{ name: 'Head', bays: ['1', '2', '3', '4', '5', '6'] }],
    },
    ...['1', '2', '3', '4'].map(inserted),
    pool,
  );
  const body = replacePlan(unitIn(world, U) as never, {
    serial: 'D-2',
    way: 'in-place',
    drive: { bytes: BYTES, basis: 'exact', serial: 'N-2' },
  }) as PlanBody;
  return recorded(world, 1, startPlan(world, P, [U], actingOn(body, U)).entries);
}
const tick: StepEvidence = { kind: 'tick' };
const sent = (step: string, n: number, evidence: StepEvidence = tick, more: Partial<StepSent> = {}): StepSent => ({
  plan: P,
  step,
  evidence,
  happenedAt: hour(n),
  isOwner: false,
  ...more,
});
/** The first steps, up to the one before `last`, within a quarter of an hour. */
function worked(world: World, last: string): World {
  let now = world;
  const { steps } = (planIn(world, P) as { plan: PlanBody }).plan;
  for (const [i, { id, asks, does }] of steps.entries()) {
    if (id === last) break;
    const evidence: StepEvidence =
      asks.kind === 'serial'
        ? {
            kind: 'serial',
            serial: asks.expects ?? '',
            ...(does.some(({ kind }) => kind === 'fit-drive' || kind === 'take-drive') ? { drive: SIZE } : {}),
          }
        : asks.kind === 'copy'
          ? { kind: 'copy', none: { why: 'nobody has arranged one' } }
          : tick;
    const n = 1 + (i + 1) / 100;
    now = recorded(now, n, made(doStep(now, sent(id, n, evidence))).entries);
  }
  return now;
}

describe('a plan over two units', () => {
  const V = '00000000-0000-4000-8000-00000000000b';
  const step = (id: string, after: string[], does: PlanBody['steps'][number]['does']): PlanBody['steps'][number] => ({
    id,
    part: 'Carry',
    kind: 'act',
    title: id,
    why: 'w',
    after,
    asks: { kind: 'serial', expects: 'D-5' },
    does,
  });
  const drive = { bay: '1', bytes: BYTES, basis: 'exact' as const, serial: 'D-5' };
  const body: PlanBody = {
    ...(planIn(begun(), P) as { plan: PlanBody }).plan,
    title: 'Carry one over',
    steps: [
      step('out', [], [{ kind: 'pull-drive', unit: U, serial: 'D-5' }]),
      step('in', ['out'], [{ kind: 'fit-drive', unit: V, drive }]),
    ],
  };
  const both = (): World => {
    const begunOnce = begun();
    const ended = recorded(begunOnce, 1, made(endPlan(begunOnce, { plan: P, how: 'stopped', note: 'n' })).entries);
    const first = happened(ended, 1, inserted('5'));
    const { name: _name, ...box } = {
      kind: 'unit-registered' as const,
      name: 'Avocet',
      place: { site: 'S', room: 'R' },
      profile: saltern as Profile,
    };
    const world = recorded(first, 1, [
      { ledger: unitLedger(V), event: { ...box, name: 'Bittern', enclosures: [{ name: 'Head', bays: ['1', '2'] }] } },
    ]);
    return recorded(world, 2, startPlan(world, 'carry', [U, V], body).entries);
  };
  const carried = (world: World, id: string, n: number) =>
    doStep(world, { ...sent(id, n, { kind: 'serial', serial: 'D-5', drive: SIZE }), plan: 'carry' });

  it('does to each unit what names it, and is seen at both', () => {
    let world = both();
    expect([unitIn(world, U)?.plans['carry']?.title, unitIn(world, V)?.plans['carry']?.title]).toEqual([
      'Carry one over',
      'Carry one over',
    ]);
    expect(carried(world, 'in', 3)).toMatchObject({ code: 'not-yet' });
    world = recorded(world, 3, made(carried(world, 'out', 3)).entries);
    expect([unitIn(world, U)?.drives['D-5']?.bay, Object.keys(unitIn(world, V)?.drives ?? {})]).toEqual([null, []]);
    world = recorded(world, 4, made(carried(world, 'in', 4)).entries);
    expect(unitIn(world, V)?.drives['D-5']).toMatchObject({ bay: '1', condition: 'well' });
    expect([unitIn(world, U)?.plans['carry']?.done, unitIn(world, V)?.plans['carry']?.done]).toEqual([2, 2]);
    world = recorded(world, 5, made(endPlan(world, { plan: 'carry', how: 'finished' })).entries);
    expect([unitIn(world, U)?.plans['carry'], unitIn(world, V)?.plans['carry']]).toEqual([undefined, undefined]);
  });

  it('stops at what one of them would lose', () => {
    // Not the idle one: a member of the pool, two of which are out already.
    const carrying = both();
    const alone = recorded(
      carrying,
      2.2,
      made(endPlan(carrying, { plan: 'carry', how: 'stopped', note: 'n' })).entries,
    );
    const world = happened(alone, 2.5, { kind: 'drive-failed', serial: 'D-3' });
    const steps = [step('out', [], [{ kind: 'pull-drive', unit: U, serial: 'D-2' }])].map((one) => ({
      ...one,
      asks: { kind: 'serial' as const, expects: 'D-2' },
    }));
    const other = recorded(world, 3, startPlan(world, 'other', [V, U], { ...body, steps }).entries);
    const out = doStep(other, { ...sent('out', 4, { kind: 'serial', serial: 'D-2' }), plan: 'other' });
    expect(out).toMatchObject({ kind: 'stopped', interlocks: [{ code: 'data-lost', serial: 'D-2' }] });
  });
});

describe('a step', () => {
  it('stands in the plan’s own ledger with its evidence, and at the unit as far as the shelf needs it', () => {
    const world = worked(begun(), 'out');
    expect(planIn(world, P)).toMatchObject({ kind: 'plan-run', units: [U], refused: 0 });
    expect(Object.keys(planIn(world, P)?.done ?? {})).toContain('new-drive');
    expect(unitIn(world, U)?.plans[P]).toMatchObject({
      job: 'replace',
      serials: ['D-2'],
      done: Object.keys(planIn(world, P)?.done ?? {}).length,
    });
  });

  it('is judged on the state of the moment it says, not of today', () => {
    // Another member failed at 2 h and was rebuilt by 8 h.
    let world = worked(begun(), 'out');
    world = happened(world, 2, { kind: 'drive-failed', serial: 'D-3' });
    world = happened(world, 2.5, inserted('5'));
    world = happened(world, 3, {
      kind: 'job-started',
      job: 'r',
      task: 'rebuild',
      pool: 'p',
      replaces: 'D-3',
      onto: 'D-5',
    });
    world = happened(world, 8, { kind: 'job-finished', job: 'r' });
    const out = (n: number) => doStep(world, sent('out', n, { kind: 'serial', serial: 'D-2' }));
    expect(out(9)).toMatchObject({ kind: 'made' });
    expect(out(3.1)).toMatchObject({ kind: 'stopped', interlocks: [{ code: 'data-lost', serial: 'D-2' }] });
    // At 1.5 h all were well; but an hour later the next one failed, with this one out.
    expect(out(1.5)).toMatchObject({
      kind: 'stopped',
      interlocks: expect.arrayContaining([expect.objectContaining({ code: 'data-lost' })]),
    });
    // Before what it comes after it cannot have been.
    expect(out(1.01)).toMatchObject({ code: 'out-of-order', pointer: '/happenedAt' });
  });

  it('takes the last four where they are of one drive, and stops at those of another', () => {
    const world = worked(happened(begun(), 1.005, { kind: 'noted', note: 'n' }), 'out');
    expect(doStep(world, sent('out', 2, { kind: 'serial', serial: 'd-2' }))).toMatchObject({ kind: 'made' });
    expect(doStep(world, sent('out', 2, { kind: 'serial', serial: 'd-3' }))).toMatchObject({
      kind: 'stopped',
      interlocks: [{ code: 'wrong-serial', serial: 'D-3' }],
    });
  });

  it('is gone on with against the record by an owner only, with the serial of what stops it, and both are kept', () => {
    const world = worked(begun(), 'out');
    const unread = sent(
      'out',
      2,
      { kind: 'unread', why: 'worn off' },
      { override: { serial: ' d-2', reason: 'only this lamp' } },
    );
    expect(doStep(world, unread)).toMatchObject({ code: 'owner-only' });
    expect(doStep(world, { ...unread, isOwner: true, override: { serial: 'D-3', reason: 'x' } })).toMatchObject({
      code: 'override-serial',
    });
    const gone = recorded(world, 2, made(doStep(world, { ...unread, isOwner: true })).entries);
    expect(planIn(gone, P)?.done['out']).toMatchObject({ override: { reason: 'only this lamp' } });
  });

  it('is left out only where it may be, and in its turn; done or left out once', () => {
    const world = worked(begun(), 'told');
    expect(skipStep(world, { plan: P, step: 'out', reason: 'r' })).toMatchObject({ code: 'not-skippable' });
    expect(skipStep(begun(), { plan: P, step: 'told', reason: 'r' })).toMatchObject({ code: 'not-yet' });
    const left = recorded(world, 2, made(skipStep(world, { plan: P, step: 'told', reason: 'nobody there' })).entries);
    expect(skipStep(left, { plan: P, step: 'told', reason: 'r' })).toMatchObject({ code: 'step-done' });
    expect(doStep(left, sent('told', 3))).toMatchObject({ code: 'step-done' });
    expect(planIn(left, P)?.done['told']).toEqual({ at: hour(2), skipped: 'nobody there' });
  });

  it('is taken back only while nothing rests on it', () => {
    const world = worked(begun(), 'out');
    expect(whyNotBack(world, P, 'copy')).toMatchObject({ code: 'rests-on-it' });
    expect(whyNotBack(world, P, 'out')).toMatchObject({ code: 'step-not-done' });
    expect(whyNotBack(world, P, 'told')).toBeUndefined();
  });
});

describe('a plan whose pool got worse', () => {
  const out = (world: World, id: string, n: number, evidence: StepEvidence = tick, more: Partial<StepSent> = {}) =>
    doStep(world, sent(id, n, evidence, more));

  it('is frozen once more is lost than the pool survives: nothing is fitted, nobody overrides, the rescue desk says what comes', () => {
    const lost = happened(worked(begun(), 'fit'), 2, { kind: 'drive-failed', serial: 'D-3' });
    expect(unitIn(lost, U)?.pools['p']?.lost).not.toEqual([]);
    const fitting = { kind: 'serial' as const, serial: 'N-2', drive: SIZE };
    expect(out(lost, 'fit', 3, fitting)).toMatchObject({
      kind: 'stopped',
      interlocks: [{ code: 'pool-lost', back: expect.stringContaining('rescue desk') }],
    });
    expect(out(lost, 'fit', 3, fitting, { override: { serial: 'D-2', reason: 'r' }, isOwner: true })).toMatchObject({
      code: 'no-override',
    });
  });

  it('is stopped where another member failed, but for hearing out what runs', () => {
    const begunTwice = begun('mixed-2');
    const thin = happened(worked(begunTwice, 'fit'), 2, { kind: 'drive-failed', serial: 'D-4' });
    expect(out(thin, 'fit', 3, { kind: 'serial', serial: 'N-2', drive: SIZE })).toMatchObject({
      kind: 'stopped',
      interlocks: [{ code: 'another-failed', serial: 'D-4', mayOverride: true }],
    });
    const running = happened(worked(begunTwice, 'wait'), 2, { kind: 'drive-failed', serial: 'D-4' });
    expect(out(running, 'wait', 3, { kind: 'page', says: 'done', again: true })).toMatchObject({ kind: 'made' });
  });
});

describe('a wait', () => {
  /** At the wait for a rebuild onto N-2 that began about an hour and a quarter in. */
  const waiting = (): World => worked(begun(), 'wait');
  const job = (world: World) =>
    Object.values(unitIn(world, U)?.jobs ?? {})[0] as NonNullable<ReturnType<typeof unitIn>>['jobs'][string];
  const heard = (world: World, n: number, percent: number): World =>
    happened(world, n, { kind: 'job-progressed', job: job(world).id, percent });
  const end = (world: World, n: number, evidence: StepEvidence = tick) => doStep(world, sent('wait', n, evidence));
  const page = (says: 'done' | 'working' | 'stopped' | 'other', more: object = {}): StepEvidence => ({
    kind: 'page',
    says,
    ...more,
  });

  it('is not ended by a tick before its time, nor at a low percent however late', () => {
    const world = waiting();
    expect(end(world, 1.3)).toMatchObject({
      kind: 'stopped',
      interlocks: [{ code: 'too-early', mayOverride: false, sentence: expect.stringContaining('Nothing was heard') }],
    });
    expect(end(heard(world, 2, 21), 2.1)).toMatchObject({
      kind: 'stopped',
      interlocks: [{ code: 'too-early', sentence: expect.stringContaining('21 %') }],
    });
    expect(end(heard(world, 2, 21), 500)).toMatchObject({ kind: 'stopped', interlocks: [{ code: 'too-early' }] });
    // An owner does not go on either: what is not there is not there.
    const override = { override: { serial: 'N-2', reason: 'r' }, isOwner: true };
    expect(doStep(world, sent('wait', 1.3, tick, override))).toMatchObject({ code: 'no-override' });
    // Nothing heard, and long past: its tick is believed, as on a sheet filled by hand.
    expect(end(world, 500)).toMatchObject({ kind: 'made' });
  });

  it('is ended by the page’s own word, said twice', () => {
    const world = waiting();
    expect(end(world, 1.3, page('done'))).toMatchObject({ kind: 'stopped', interlocks: [{ code: 'too-early' }] });
    const done = recorded(world, 1.3, made(end(world, 1.3, page('done', { again: true }))).entries);
    expect([unitIn(done, U)?.pools['p']?.missing, planIn(done, P)?.done['wait']?.evidence]).toEqual([
      [],
      { kind: 'page', says: 'done', again: true },
    ]);
  });

  it('ends with what was done and is recorded already, heard from the unit itself', () => {
    const world = waiting();
    const over = happened(world, 30, { kind: 'job-finished', job: job(world).id });
    expect(unitIn(over, U)?.pools['p']?.missing).toEqual([]);
    const ended = recorded(over, 31, made(end(over, 31)).entries);
    expect([unitIn(ended, U)?.pools['p']?.missing, Object.hasOwn(planIn(ended, P)?.done ?? {}, 'wait')]).toEqual([
      [],
      true,
    ]);
  });

  it.each<['working' | 'stopped' | 'other', UnitEvent[]]>([
    ['working', [{ kind: 'noted', note: 'Its page says that it is still at work: w' }]],
    [
      'stopped',
      [
        { kind: 'job-aborted', job: 'rebuild-1' },
        { kind: 'noted', note: 'Its page says that the work has stopped: w' },
      ],
    ],
    ['other', [{ kind: 'sign-noted', note: 'Its page says something else: w' }]],
  ])('keeps what it says when that is "%s", and waits on', (says, events) => {
    const world = waiting();
    const result = made(end(world, 1.3, page(says, { note: 'w' })));
    expect(result.entries.flatMap(({ ledger, event }) => (ledger.kind === 'unit' ? [event] : []))).toEqual(events);
    const kept = recorded(world, 1.3, result.entries);
    expect([planIn(kept, P)?.done['wait'], unitIn(kept, U)?.pools['p']?.missing]).toEqual([undefined, ['D-2']]);
    expect(result.entries[0]).toMatchObject({
      ledger: { kind: 'plan' },
      event: { kind: 'page-said', step: 'wait', says, note: 'w' },
    });
  });
});

describe('a look at the unit’s page after a rebuild', () => {
  const looking = (): World => {
    const ended = worked(begun(), 'wait');
    return recorded(
      ended,
      30,
      made(doStep(ended, sent('wait', 30, { kind: 'page', says: 'done', again: true }))).entries,
    );
  };
  const look = (world: World, evidence: StepEvidence) => doStep(world, sent('verified', 31, evidence));

  it('goes on only with healthy, said twice; a tick says nothing', () => {
    const world = looking();
    expect(look(world, tick)).toMatchObject({ code: 'evidence-kind' });
    expect(look(world, { kind: 'page', says: 'done' })).toMatchObject({
      kind: 'stopped',
      interlocks: [{ code: 'too-early', mayOverride: false }],
    });
    expect(look(world, { kind: 'page', says: 'done', again: true })).toMatchObject({ kind: 'made' });
  });

  it('keeps what else it says as a sign against the record, and the end of the wait may be taken back', () => {
    const world = looking();
    const kept = recorded(world, 31, made(look(world, { kind: 'page', says: 'stopped', note: 'aborted' })).entries);
    expect([unitIn(kept, U)?.signs.map(({ note }) => note), planIn(kept, P)?.done['verified']]).toEqual([
      ['Its page says that the work has stopped: aborted'],
      undefined,
    ]);
    expect(whyNotBack(kept, P, 'wait')).toBeUndefined();
  });
});

describe('another drive than the one meant, pulled and put back', () => {
  type Says = Extract<StepEvidence, { kind: 'wrong-out' }>['says'];
  const wrong = (says: Says, more: object = {}): StepEvidence => ({
    kind: 'wrong-out',
    serial: 'd-3',
    says,
    ...more,
  });
  const after = (world: World, evidence: StepEvidence): World =>
    recorded(world, 2, made(doStep(world, sent('pull', 2, evidence))).entries);
  const pool = (world: World) => unitIn(world, U)?.pools['p'];

  it('leaves the margin as it was where the unit took it back, and the step to do', () => {
    const world = after(worked(begun(), 'pull'), wrong('as-before'));
    expect([
      pool(world)?.missing,
      pool(world)?.lost,
      unitIn(world, U)?.drives['D-3']?.bay,
      planIn(world, P)?.done['pull'],
    ]).toEqual([['D-2'], [], '3', undefined]);
    expect(doStep(world, sent('pull', 3, { kind: 'serial', serial: 'D-2' }))).toMatchObject({ kind: 'made' });
  });

  it('misses it where the unit does, and stops the plan from pulling a second', () => {
    const world = after(worked(begun('mixed-2'), 'pull'), wrong('thinner'));
    expect([pool(world)?.missing, unitIn(world, U)?.drives['D-3']?.bay]).toEqual([['D-2', 'D-3'], '3']);
    expect(doStep(world, sent('pull', 3, { kind: 'serial', serial: 'D-2' }))).toMatchObject({
      kind: 'stopped',
      interlocks: [{ code: 'another-failed', serial: 'D-3' }],
    });
  });

  it('is written at once by some families where it is idle: the plan is of no use then, during that and after', () => {
    const idle = happened(begun(), 1, inserted('5'));
    const whole = wrong('rebuilds', { serial: 'D-5' });
    const written = after(worked(idle, 'pull'), whole);
    expect([pool(written)?.missing, Object.values(unitIn(written, U)?.jobs ?? {})]).toMatchObject([
      ['D-2'],
      [{ task: 'rebuild', replaces: 'D-2', onto: 'D-5' }],
    ]);
    const pulling = (world: World) => doStep(world, sent('pull', 40, { kind: 'serial', serial: 'D-2' }));
    expect(pulling(written)).toMatchObject({
      kind: 'stopped',
      interlocks: [
        {
          code: 'another-takes-over',
          mayOverride: false,
          sentence:
            'D-5 in bay 5 is being written in place of D-2: Avocet took it by itself. This plan is not needed for that any more.',
        },
      ],
    });
    const job = Object.keys(unitIn(written, U)?.jobs ?? {})[0] ?? '';
    const over = happened(written, 30, { kind: 'job-finished', job });
    expect([pool(over)?.missing, pool(over)?.bands[0]?.members.includes('D-5')]).toEqual([[], true]);
    expect(pulling(over)).toMatchObject({ interlocks: [{ code: 'another-takes-over', mayOverride: false }] });
  });

  it('is written over itself where a member that was well was out', () => {
    const world = after(worked(begun('mixed-2'), 'pull'), wrong('rebuilds'));
    expect([pool(world)?.missing, Object.values(unitIn(world, U)?.jobs ?? {})]).toMatchObject([
      ['D-2', 'D-3'],
      [{ replaces: 'D-3', onto: 'D-3' }],
    ]);
    const nothing = worked(begun(), 'pull');
    const idle = happened(nothing, 1.5, inserted('5'), { kind: 'pool-restored', pool: 'p', serials: ['D-2'] });
    expect(doStep(idle, sent('pull', 2, wrong('rebuilds', { serial: 'D-5' })))).toMatchObject({
      code: 'nothing-to-rebuild',
    });
  });

  it('has stopped where a second was out already, and stays so until the unit says otherwise', () => {
    const thin = happened(worked(begun(), 'pull'), 1.5, { kind: 'drive-failed', serial: 'D-2' });
    const stopped = after(thin, wrong('stopped', { note: 'volume crashed' }));
    expect(pool(stopped)?.lost).not.toEqual([]);
    expect(pool(stopped)?.stopped).toEqual({
      at: hour(2),
      note: 'after D-3 was out of bay 3 by mistake: volume crashed',
    });
    expect(pool(after(thin, wrong('as-before')))?.missing).toEqual(['D-2']);
    expect(pool(after(thin, wrong('as-before')))?.lost).toEqual([]);
  });

  it('stands in the plan’s ledger by its title; nothing happens of a drive in no bay, at a step without hands, or with the unit off', () => {
    const world = worked(begun(), 'pull');
    const { entries } = made(doStep(world, sent('pull', 2, wrong('asks-to-erase'))));
    const steps = planIn(world, P)?.plan.steps ?? [];
    expect(planEventWords(entries[0]?.event as never, steps)).toBe(
      'D-3 was pulled by mistake at “Pull bay 2 and read its serial”, and put back; its page: asks to erase.',
    );
    expect(doStep(world, sent('pull', 2, { ...wrong('thinner'), serial: 'N-9' } as StepEvidence))).toMatchObject({
      code: 'drive-not-here',
    });
    expect(doStep(worked(begun(), 'told'), sent('told', 2, wrong('thinner')))).toMatchObject({ code: 'evidence-kind' });
    const off = happened(world, 1.5, { kind: 'power', on: false });
    expect(doStep(off, sent('pull', 2, wrong('thinner')))).toMatchObject({ code: 'unit-off' });
  });
});

describe('a plan', () => {
  it('ends finished only when every step is done, and nothing is done in it afterwards', () => {
    const world = worked(begun(), 'out');
    expect(endPlan(world, { plan: P, how: 'finished' })).toMatchObject({ code: 'steps-open' });
    const ended = recorded(
      world,
      2,
      made(endPlan(world, { plan: P, how: 'stopped', note: 'the drive has not come' })).entries,
    );
    expect([planIn(ended, P)?.ended, unitIn(ended, U)?.plans]).toEqual([
      { how: 'stopped', at: hour(2), note: 'the drive has not come' },
      {},
    ]);
    expect(doStep(ended, sent('out', 3, { kind: 'serial', serial: 'D-2' }))).toMatchObject({ code: 'plan-ended' });
    expect(skipStep(ended, { plan: P, step: 'out', reason: 'r' })).toMatchObject({ code: 'plan-ended' });
  });

  it('rests with words until somebody goes on, and runs alone among those that touch members', () => {
    const world = worked(begun(), 'out');
    const rests = recorded(world, 2, made(pausePlan(world, { plan: P, note: 'tomorrow' })).entries);
    expect([planIn(rests, P)?.paused?.note, unitIn(rests, U)?.plans[P]?.paused?.note]).toEqual([
      'tomorrow',
      'tomorrow',
    ]);
    const on = recorded(rests, 3, made(doStep(rests, sent('out', 3, { kind: 'serial', serial: 'D-2' }))).entries);
    expect([planIn(on, P)?.paused, unitIn(on, U)?.plans[P]?.paused]).toEqual([undefined, undefined]);
    const body = replacePlan(unitIn(world, U) as never, {
      serial: 'D-3',
      way: 'in-place',
      drive: { bytes: BYTES, basis: 'exact' },
    }) as PlanBody;
    const second = '00000000-0000-4000-8000-0000000000ab';
    const act: Act = {
      kind: 'act',
      id: 'second',
      by: { kind: 'person', id: 'p', name: 'K' },
      happenedAt: hour(4),
      expects: [],
      entries: startPlan(on, second, [U], body).entries,
    };
    expect(record(on, act)).toMatchObject({ code: 'plan-running' });
  });
});
