import causeway from '../platform/profiles/causeway.json' with { type: 'json' };
import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import tidemill from '../platform/profiles/tidemill.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { enclosuresOf } from '../unit/enclosures';
import { apply } from '../unit/apply';
import type { UnitEvent } from '../unit/event';
import { foldUnit } from '../unit/fold';
import type { PlanRun } from '../planRun/planRun';
import type { UnitState } from '../unit/state';
import { canonicalJson } from '../value/canonicalJson';
import { isRefusal } from '../value/refusal';
import type { CommissionWish } from './makers/commission/commission';
import { commissionPlan } from './makers/commission/commissionPlan';
import { dryRun, expectedEvidence } from './engine/dryRun';
import { attempt } from './engine/attempt';
import { eventsOfStep } from './engine/eventsOfStep';
import type { PlanBody, PlanStep } from './plan';
import { leftOver, nextStep, waitsFor } from '../planRun/progress';

const NOW = '2026-01-01T00:00:00.000Z';
const BYTES = 8001563222016;

function bare(profile: unknown, bays: number): UnitState {
  const event: UnitEvent = {
    kind: 'unit-registered',
    name: 'Sandpiper',
    place: { site: 'S', room: 'R' },
    profile: profile as Profile,
    enclosures: enclosuresOf(profile as Profile, bays, []),
  };
  const state = apply(null, event, NOW);
  if (isRefusal(state)) throw new Error(state.sentence);
  return state;
}

const drives = (count: number): CommissionWish['drives'] =>
  Array.from({ length: count }, (_, i) => ({ bay: String(i + 1), bytes: BYTES, basis: 'exact' as const, label: '8 TB', model: 'Quernholt Q8C' }));

function planFor(unit: UnitState, wish: CommissionWish): PlanBody {
  const plan = commissionPlan(unit, wish, () => 'pool-1');
  if (isRefusal(plan)) throw new Error(plan.sentence);
  return plan;
}
const ids = ({ steps }: PlanBody): string[] => steps.map(({ id }) => id);
const step = (plan: PlanBody, id: string): PlanStep => plan.steps.find((one) => one.id === id) as PlanStep;

describe('commissionPlan', () => {
  const small = planFor(bare(reedbank, 2), { drives: drives(2), pool: { name: 'Office', scheme: 'mirror' } });
  const large = planFor(bare(causeway, 60), {
    drives: drives(50),
    pool: { name: 'Archive', scheme: 'parity-2-groups', groupWidth: 12, spares: 2 },
    copyBytes: 1.3e12,
  });

  it('fits a two-bay box and a head with four extensions each with its own list', () => {
    expect(ids(small)).not.toContain('lift');
    expect(ids(small)).not.toContain('card');
    expect(step(small, 'supplies').title).toBe('Supply plugged in, on a protected outlet');
    expect(step(small, 'start').caution).toContain('the drives present at the first power-on decide the layout. All 2 go in before, or none');
    expect(ids(large)).toEqual(expect.arrayContaining(['lift', 'card', 'cable-1', 'cable-2', 'cable-3', 'cable-4', 'copy', 'compare']));
    expect(step(large, 'cable-2').title).toBe('Cable Extension 1 to Extension 2, dial 2');
    expect(step(large, 'supplies').title).toBe('Both supplies of every enclosure plugged in');
    expect(step(large, 'start').caution).toBeUndefined();
    expect(step(large, 'count').title).toContain('200 screws');
  });

  it('says 3 h 15 min for 1.3 TB at 111 MB/s (common practice)', () => {
    expect(step(large, 'copy').why).toContain('About 3 h 15 min');
  });

  it('unplugs before a case is opened, and copies the stick where the system lives on one', () => {
    const plan = planFor(bare(tidemill, 4), { drives: drives(3), pool: { name: 'P', scheme: 'dedicated-1' }, fileSystem: 'with checksums' });
    expect(step(plan, 'unplug')).toMatchObject({
      title: 'Switch off and unplug every supply before the case is opened',
      does: [{ kind: 'switch-power', on: false }],
    });
    expect(step(plan, 'fit-1').after).toContain('unplug');
    expect(ids(plan)).toContain('flash-stick');
    expect(step(plan, 'file-system').why).toContain('This choice is final');
    expect(step(plan, 'administrator').why).toBe('The factory account has no password.');
  });

  it('holds the drives against the user’s own list and warns of shingled ones', () => {
    const [first, ...rest] = drives(3);
    const plan = planFor(bare(reedbank, 4), {
      drives: [{ ...first, media: 'shingled' } as (typeof rest)[number], ...rest],
      pool: { name: 'P', scheme: 'parity-1' },
      tested: () => 'avoid',
    });
    expect(step(plan, 'tested').caution).toBe('One of these models is on your own list as one to avoid.');
    expect(step(plan, 'kind').caution).toContain('Planned as shingled: bay 1');
  });

  it.each<[string, CommissionWish]>([
    ['bay-unknown', { drives: [{ bay: '9', bytes: 8, basis: 'exact' }] }],
    ['bay-twice', { drives: [...drives(1), ...drives(1)] }],
    ['layout-illegal', { drives: drives(2), pool: { name: 'P', scheme: 'parity-1' } }],
    ['file-system-unknown', { drives: drives(2), fileSystem: 'none such' }],
  ])('refuses %s', (code, wish) => {
    expect(commissionPlan(bare(reedbank, 4), wish, () => 'pool-1')).toMatchObject({ kind: 'refusal', code });
  });

  it('has steps that wait only for steps before them', () => {
    for (const plan of [small, large]) for (const [i, { after }] of plan.steps.entries()) for (const id of after) expect(ids(plan).indexOf(id)).toBeLessThan(i);
  });
});

describe('dryRun', () => {
  const unit = bare(reedbank, 4);
  const plan = planFor(unit, { drives: drives(4), pool: { name: 'P', scheme: 'parity-1' }, fileSystem: 'without checksums' });

  it('ends with the pool, its margin and its space, and says before what is erased', () => {
    const run = dryRun(unit, plan, NOW);
    const last = run.at(-1);
    expect(last).toMatchObject({ kind: 'dry-step', margin: { 'pool-1': 1 } });
    expect(run).toHaveLength(plan.steps.length);
    expect(run.find(({ step: of }) => of === 'pool')).toMatchObject({
      hazards: [{ code: 'erases' }, { code: 'unguarded', sentence: expect.stringContaining('can lose none until its first build is done') }],
      margin: { 'pool-1': 0 },
    });
    expect(run.map((one) => (one.kind === 'dry-step' ? one.at : '')).every((at, i, all) => i === 0 || at >= (all[i - 1] ?? ''))).toBe(true);
  });

  it('stops at the step that cannot be done, and says which', () => {
    const without = { ...plan, steps: plan.steps.filter(({ id }) => id !== 'fit-3') };
    expect(dryRun(unit, without, NOW).at(-1)).toMatchObject({
      kind: 'dry-stop',
      step: 'pool',
      refusal: { code: 'bay-empty', sentence: expect.stringContaining('Bay 3') },
    });
  });

  it('is what the ledger folds to when every step is recorded as planned, hash for hash', () => {
    let state = unit;
    const recorded: UnitEvent[] = [];
    for (const one of plan.steps) {
      const events = eventsOfStep(state, one, expectedEvidence(one));
      if (isRefusal(events)) throw new Error(events.sentence);
      for (const event of events) {
        state = apply(state, event, NOW) as UnitState;
        recorded.push(event);
      }
    }
    const last = dryRun(unit, plan, NOW).at(-1);
    // Times differ: the plan's are its own. Everything else is the same.
    const timeless = (of: unknown): string => canonicalJson(of).replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'T');
    const { profile, name, place, enclosures } = unit;
    const whole = [{ kind: 'unit-registered', name, place, profile, enclosures } as UnitEvent, ...recorded].map((event, i) => ({
      seq: i + 1,
      happenedAt: NOW,
      event,
    }));
    expect(timeless(foldUnit(whole))).toBe(timeless(last?.kind === 'dry-step' ? last.after : null));
  });
});

describe('working through it', () => {
  const unit = bare(reedbank, 4);
  const plan = planFor(unit, {
    drives: [{ ...drives(1)[0], serial: 'QH8-1' } as CommissionWish['drives'][number], ...drives(3).slice(1)],
    pool: { name: 'P', scheme: 'parity-1' },
  });
  const run: Pick<PlanRun, 'plan' | 'done'> = { plan, done: {} };

  it('knows what comes next and what a step waits for', () => {
    expect(nextStep(run)?.id).toBe('attention');
    expect(waitsFor(run, step(plan, 'fit-1')).map(({ id }) => id)).toEqual(['tested', 'kind', 'partitions']);
    expect(leftOver(run)).toHaveLength(plan.steps.length);
    const done = Object.fromEntries(plan.steps.map(({ id }) => [id, { at: NOW }]));
    expect([nextStep({ plan, done }), leftOver({ plan, done })]).toEqual([null, []]);
  });

  it('takes the serial that was planned, in whatever case, and no other', () => {
    expect(eventsOfStep(unit, step(plan, 'fit-1'), { kind: 'serial', serial: 'qh8-1' })).toMatchObject([{ kind: 'drive-inserted', bay: '1' }]);
    expect(attempt(unit, step(plan, 'fit-1'), { kind: 'serial', serial: 'QH8-2' }, NOW)).toMatchObject({ interlocks: [{ code: 'wrong-serial' }] });
    const withTwo = apply(unit, { kind: 'drive-inserted', bay: '2', drive: { serial: 'QH8-2', bytes: 8, basis: 'exact' } }, NOW) as UnitState;
    expect(attempt(withTwo, step(plan, 'fit-1'), { kind: 'serial', serial: 'qh8-2' }, NOW)).toMatchObject({
      interlocks: [{ code: 'wrong-serial', sentence: 'That is bay 2, the drive standing in that bay.', back: expect.stringContaining('take QH8-1') }],
    });
  });

  it('takes no other evidence than it asks for', () => {
    expect(eventsOfStep(unit, step(plan, 'fit-1'), { kind: 'tick' })).toMatchObject({
      code: 'evidence-kind',
      sentence: 'This step asks for a serial, read off the drive.',
    });
    const number: PlanStep = { ...step(plan, 'attention'), asks: { kind: 'number', label: 'Screws', unit: 'screws', least: 0, most: 400 } };
    expect(eventsOfStep(unit, number, { kind: 'number', number: 401 })).toMatchObject({ code: 'out-of-range' });
    expect(eventsOfStep(unit, number, { kind: 'number', number: 400 })).toEqual([]);
  });
});

describe('a drive that was typed in small letters when it was planned', () => {
  const planned = { bay: '1', serial: 'ABC-1', printed: 'abc-1', bytes: BYTES, basis: 'exact' as const };
  const plan = planFor(bare(reedbank, 2), { drives: [planned] });
  const fit = plan.steps.find(({ does }) => does.some(({ kind }) => kind === 'fit-drive')) as PlanStep;
  const fitted = (serial: string) => eventsOfStep(bare(reedbank, 2), fit, { kind: 'serial', serial });

  it('keeps that form where the serial was read by its last characters, and gives it to no other drive', () => {
    expect(fitted('bc-1')).toMatchObject([{ drive: { serial: 'ABC-1', printed: 'abc-1' } }]);
    const other = fitted('XYZ-9') as UnitEvent[];
    expect(other).toMatchObject([{ kind: 'drive-inserted', drive: { serial: 'XYZ-9' } }]);
    expect(JSON.stringify(other)).not.toContain('abc-1');
  });
});
