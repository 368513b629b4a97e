import causeway from '../platform/profiles/causeway.json' with { type: 'json' };
import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import tidemill from '../platform/profiles/tidemill.json' with { type: 'json' };
import type { Knows } from './engine/knownDrive';
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
import { madeOtherwiseWords } from '../platform/firstPowerOn';
import { dryRun, expectedEvidence } from './engine/dryRun';
import { attempt, type Attempt } from './engine/attempt';
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

const SIZE = { bytes: BYTES, basis: 'exact' as const, label: '8 TB' };

const drives = (count: number): CommissionWish['drives'] =>
  Array.from({ length: count }, (_, i) => ({
    bay: String(i + 1),
    bytes: BYTES,
    basis: 'exact' as const,
    label: '8 TB',
    model: 'Quernholt Q8C',
  }));

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
    expect(step(small, 'start').caution).toContain(
      'the drives present at the first power-on decide the layout. All 2 go in before, or none',
    );
    expect(ids(large)).toEqual(
      expect.arrayContaining(['lift', 'card', 'cable-1', 'cable-2', 'cable-3', 'cable-4', 'copy', 'compare']),
    );
    expect(step(large, 'cable-2').title).toBe('Cable Extension 1 to Extension 2, dial 2');
    expect(step(large, 'supplies').title).toBe('Both supplies of every enclosure plugged in');
    expect(step(large, 'start').caution).toBeUndefined();
    expect(step(large, 'count').asks).toMatchObject({
      kind: 'items',
      items: expect.arrayContaining([{ what: 'screws', count: 200 }]) as unknown,
    });
  });

  it('says 3 h 15 min for 1.3 TB over gigabit at 111 MB/s (common practice), and less over a faster link, never less than the pool writes', () => {
    expect(step(large, 'copy').why).toContain('About 3 h 15 min for large files (111 MB/s');
    const over = (copyOver: '2.5' | '10' | 'cable'): number =>
      step(
        planFor(bare(reedbank, 4), {
          drives: drives(3),
          pool: { name: 'P', scheme: 'parity-1' },
          copyBytes: 1.3e12,
          copyOver,
        }),
        'copy',
      ).hours ?? 0;
    // 294 MB/s of payload (IEEE 802.3, RFC 7323), the same share of it as on gigabit.
    expect(1.3e12 / over('2.5') / 3600).toBeCloseTo(0.943 * 294.2e6, -6);
    expect(over('10')).toBeLessThan(over('2.5'));
    expect(over('cable')).toBeGreaterThan(over('2.5'));
    const mirror =
      step(
        planFor(bare(reedbank, 2), {
          drives: drives(2),
          pool: { name: 'P', scheme: 'mirror' },
          copyBytes: 1e12,
          copyOver: '10',
        }),
        'copy',
      ).hours ?? 0;
    expect(1e12 / mirror / 3600).toBeLessThan(300e6);
  });

  it('waits for a copy as for any other work, and refuses more than fits with the number', () => {
    expect(step(large, 'copy-start').does).toEqual([{ kind: 'start-job', task: 'copy', pool: 'pool-1' }]);
    expect(step(large, 'copy')).toMatchObject({
      kind: 'wait',
      does: [{ kind: 'finish-job', task: 'copy', bytes: 1.3e12 }],
    });
    expect(
      commissionPlan(
        bare(reedbank, 4),
        { drives: drives(3), pool: { name: 'P', scheme: 'parity-1' }, copyBytes: 17e12 },
        () => 'p',
      ),
    ).toMatchObject({
      code: 'does-not-fit',
      pointer: '/copyBytes',
      sentence: expect.stringMatching(/^17 TB do not fit: the pool will hold 15\.\d* TB/),
    });
  });

  it('where the first power-on builds by count: that level by itself, and another where it is chosen', () => {
    const made = step(small, 'pool');
    expect([made.kind, made.caution, made.title]).toEqual([
      'check',
      undefined,
      expect.stringContaining('See that it has made mirror (level 1) of all 2, and call it Office'),
    ]);
    expect(step(small, 'start').caution).toContain('It erases what is on them: bays 1, 2.');
    const one = planFor(bare(reedbank, 2), { drives: drives(1), pool: { name: 'P', scheme: 'separate' } });
    expect(step(one, 'start').caution).toContain('One drive alone becomes a pool without protection');
    // What was chosen is what is made: what the unit made by itself is deleted first, while it is empty.
    for (const pool of [
      { name: 'P', scheme: 'striped-mirrors' as const },
      { name: 'P', scheme: 'mirror' as const, spares: 1 },
    ]) {
      const plan = planFor(bare(reedbank, 5), { drives: drives(pool.scheme === 'mirror' ? 3 : 4), pool });
      expect(step(plan, 'made-by-itself')).toMatchObject({
        kind: 'act',
        title: expect.stringContaining('single parity (level 5), while it is empty') as unknown,
        caution: expect.stringContaining('If its page shows anything in it, stop here') as unknown,
      });
      expect(step(plan, 'pool')).toMatchObject({ kind: 'act', does: [{ kind: 'make-pool', scheme: pool.scheme }, {}] });
      expect(step(plan, 'pool').after).toContain('made-by-itself');
      expect(madeOtherwiseWords(reedbank as never, pool.scheme === 'mirror' ? 3 : 4, pool)).toMatch(
        /makes single parity \(level 5\) of \d drives by itself, at the first power-on/,
      );
    }
    expect(ids(small)).not.toContain('made-by-itself');
    expect(madeOtherwiseWords(reedbank as never, 2, { scheme: 'mirror' })).toBeUndefined();
    // Others create it, and say what that erases.
    expect(step(large, 'pool')).toMatchObject({
      kind: 'act',
      caution: expect.stringContaining('This erases every drive in it'),
    });
  });

  it('gives extensions power before the head, and fits each box by one list', () => {
    const order = ids(large);
    for (const n of [1, 2, 3, 4]) expect(order.indexOf(`power-${String(n)}`)).toBeLessThan(order.indexOf('start'));
    expect(step(large, 'start').after).toEqual(expect.arrayContaining(['power-1', 'power-4']));
    expect(step(large, 'start').title).toMatch(/^Switch Head on, last of all/);
    const fits = large.steps.filter(({ does }) => does.some(({ kind }) => kind === 'fit-drive'));
    expect(fits.map(({ title }) => title)).toEqual(
      ['Head', 'Extension 1', 'Extension 2', 'Extension 3', 'Extension 4'].flatMap((box, i) =>
        fits[i] ? [expect.stringContaining(` in ${box}, each by its serial`)] : [],
      ),
    );
    expect(fits.flatMap(({ asks }) => (asks.kind === 'scans' ? asks.bays : []))).toHaveLength(50);
  });

  it('unplugs before a case is opened, and copies the stick where the system lives on one', () => {
    const plan = planFor(bare(tidemill, 4), {
      drives: drives(3),
      pool: { name: 'P', scheme: 'dedicated-1' },
      fileSystem: 'with checksums',
    });
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
    for (const plan of [small, large])
      for (const [i, { after }] of plan.steps.entries())
        for (const id of after) expect(ids(plan).indexOf(id)).toBeLessThan(i);
  });
});

describe('dryRun', () => {
  const unit = bare(reedbank, 4);
  const plan = planFor(unit, {
    drives: drives(4),
    pool: { name: 'P', scheme: 'parity-1' },
    fileSystem: 'without checksums',
  });

  it('ends with the pool, its margin and its space, and says before what is erased', () => {
    const run = dryRun(unit, plan, NOW);
    const last = run.at(-1);
    expect(last).toMatchObject({ kind: 'dry-step', margin: { 'pool-1': 1 } });
    expect(run).toHaveLength(plan.steps.length);
    expect(run.find(({ step: of }) => of === 'pool')).toMatchObject({
      hazards: [
        { code: 'erases' },
        { code: 'unguarded', sentence: expect.stringContaining('can lose none until its first build is done') },
      ],
      margin: { 'pool-1': 0 },
    });
    expect(
      run
        .map((one) => (one.kind === 'dry-step' ? one.at : ''))
        .every((at, i, all) => i === 0 || at >= (all[i - 1] ?? '')),
    ).toBe(true);
  });

  it('stops at the step that cannot be done, and says which', () => {
    const without = { ...plan, steps: plan.steps.filter(({ id }) => id !== 'fit-1' && id !== 'seen-1') };
    expect(dryRun(unit, without, NOW).at(-1)).toMatchObject({
      kind: 'dry-stop',
      step: 'pool',
      refusal: { code: 'bay-empty', sentence: expect.stringContaining('Bay 1, Bay 2') },
    });
  });

  it('is what the ledger folds to when every step is recorded as planned, hash for hash', () => {
    let state = unit;
    const recorded: UnitEvent[] = [];
    for (const one of plan.steps) {
      const tried = attempt(state, one, expectedEvidence(one, NOW), NOW);
      if (isRefusal(tried)) throw new Error(tried.sentence);
      for (const event of tried.events) {
        state = apply(state, event, NOW) as UnitState;
        recorded.push(event);
      }
    }
    const last = dryRun(unit, plan, NOW).at(-1);
    // Times differ: the plan's are its own. Everything else is the same.
    const timeless = (of: unknown): string => canonicalJson(of).replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'T');
    const { profile, name, place, enclosures } = unit;
    const whole = [{ kind: 'unit-registered', name, place, profile, enclosures } as UnitEvent, ...recorded].map(
      (event, i) => ({
        seq: i + 1,
        happenedAt: NOW,
        event,
      }),
    );
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

  const scans = (...serials: string[]) => ({
    kind: 'scans' as const,
    scans: serials.map((serial, i) => ({ bay: String(i + 1), serial, drive: SIZE })),
  });
  /** The second of the list of another size, or of one that nobody read. */
  const sized = (drive: { bytes: number; basis: 'exact' | 'label'; label?: string } | undefined) => ({
    kind: 'scans' as const,
    scans: scans('QH8-1', 'QH8-2', 'QH8-3').scans.map(({ drive: as, ...one }, i) => {
      const read = i === 1 ? drive : as;
      return { ...one, ...(read ? { drive: read } : {}) };
    }),
  });
  const fitted = (evidence: Parameters<typeof attempt>[2], of = unit, knows?: Knows) =>
    attempt(of, step(plan, 'fit-1'), evidence, NOW, { knows });

  it('takes no drive of a size that nobody read and nobody knows: it is not as large as was planned', () => {
    expect(fitted(sized(undefined))).toMatchObject({
      kind: 'refusal',
      code: 'size-unread',
      pointer: '/evidence/scans/1/serial',
      sentence: 'Bay 2: Nobody knows yet how large QH8-2 is: read the size printed on it.',
    });
    const known: Knows = (typed) =>
      typed === 'QH8-2' ? { serial: 'QH8-2', facts: { bytes: BYTES, basis: 'exact' } } : undefined;
    expect(fitted(sized(undefined), unit, known)).toMatchObject({ kind: 'attempt', interlocks: [] });
  });

  it('says what a smaller drive makes of the pool, and goes in by its own size; larger is never stopped', () => {
    // Three drives in single parity hold two of the smallest: twice 4 TB where twice 8 was planned.
    const small = { bytes: 4_000_787_030_016, basis: 'label' as const, label: '4 TB' };
    const seen = fitted(sized(small)) as Attempt;
    expect(seen.interlocks).toMatchObject([
      {
        code: 'too-small',
        mayOverride: true,
        serial: 'QH8-2',
        sentence: 'Bay 2: QH8-2 is 4 TB, not the 8 TB that was planned here: P would hold 8 TB, not 16 TB.',
      },
    ]);
    expect(seen.after.drives['QH8-2']).toMatchObject({ bytes: small.bytes, label: '4 TB' });
    const larger = { bytes: 12_000_138_625_024, basis: 'label' as const, label: '12 TB' };
    expect(fitted(sized(larger))).toMatchObject({ interlocks: [] });
    const known: Knows = (typed) =>
      typed === 'QH8-2' ? { serial: 'QH8-2', facts: { bytes: BYTES, basis: 'exact' } } : undefined;
    expect((fitted(sized(small), unit, known) as Attempt).interlocks).toMatchObject([{ code: 'size-differs' }]);
  });

  it('takes the serial that was planned, in whatever case, and no other, for every bay of the list', () => {
    expect(fitted(scans('qh8-1', 'QH8-2', 'QH8-3'))).toMatchObject({
      interlocks: [],
      events: [
        { kind: 'drive-inserted', bay: '1', drive: { serial: 'QH8-1' } },
        { kind: 'drive-inserted', bay: '2' },
        { kind: 'drive-inserted', bay: '3' },
      ],
    });
    expect(fitted(scans('QH8-9', 'QH8-2', 'QH8-3'))).toMatchObject({
      interlocks: [{ code: 'wrong-serial', serial: 'QH8-9', sentence: expect.stringMatching(/^Bay 1: /) }],
    });
  });

  it.each<[string, ReturnType<typeof scans>, object]>([
    [
      'a bay that was not read',
      scans('QH8-1', 'QH8-2'),
      { code: 'not-scanned', sentence: 'Not read yet: bay 3.', pointer: '/evidence/scans' },
    ],
    ['a drive read twice', scans('QH8-1', 'QH8-2', 'qh8-2'), { code: 'scanned-twice', pointer: '/evidence/scans/2' }],
    [
      'a bay that is not in it',
      { kind: 'scans', scans: [...scans('QH8-1', 'QH8-2', 'QH8-3').scans, { bay: '4', serial: 'QH8-4', drive: SIZE }] },
      { code: 'bay-unknown', pointer: '/evidence/scans/3/bay' },
    ],
    [
      'four characters of a drive nobody knows',
      scans('QH8-1', '1234', 'QH8-3'),
      { code: 'serial-short', pointer: '/evidence/scans/1/serial', sentence: expect.stringMatching(/^Bay 2: /) },
    ],
  ])('refuses %s, and names the row', (_what, evidence, no) => {
    expect(fitted(evidence)).toMatchObject({ kind: 'refusal', ...no });
  });

  it('stops a drive of a list that is sick, still holds a pool, is smaller than planned, or is somewhere else by the record', () => {
    const facts = { bytes: BYTES, basis: 'exact' as const };
    const knows = (more: object) => (typed: string) =>
      typed === 'QH8-2' ? { serial: 'QH8-2', facts, ...more } : undefined;
    const stops = (more: object): unknown => (fitted(sized(undefined), unit, knows(more)) as Attempt).interlocks;
    expect(stops({})).toEqual([]);
    expect(stops({ sick: 'showed signs' })).toMatchObject([
      { code: 'sick-drive', sentence: expect.stringMatching(/^Bay 2: QH8-2 is no drive to build on/) },
    ]);
    expect(stops({ holds: { pool: 'x', name: 'Papers', unitName: 'Heron' } })).toMatchObject([
      { code: 'holds-data', sentence: expect.stringContaining('a new pool erases it') },
    ]);
    expect(stops({ facts: { ...facts, bytes: BYTES / 2 } })).toMatchObject([{ code: 'too-small', mayOverride: true }]);
    expect(stops({ elsewhere: 'in bay 3 of Wren' })).toMatchObject([{ code: 'wrong-serial', mayOverride: false }]);
  });

  it('takes no other evidence than it asks for', () => {
    expect(fitted({ kind: 'tick' })).toMatchObject({
      code: 'evidence-kind',
      sentence: 'This step asks for a serial for each of its bays.',
    });
    const number: PlanStep = {
      ...step(plan, 'attention'),
      asks: { kind: 'number', label: 'Screws', unit: 'screws', least: 0, most: 400 },
    };
    expect(attempt(unit, number, { kind: 'number', number: 401 }, NOW)).toMatchObject({ code: 'out-of-range' });
    expect(attempt(unit, number, { kind: 'number', number: 400 }, NOW)).toMatchObject({ events: [] });
  });

  it('makes no pool before every drive was seen, box by box', () => {
    const count = step(plan, 'seen-1');
    const in_ = (fitted(scans('QH8-1', 'QH8-2', 'QH8-3')) as Attempt).after;
    expect(attempt(in_, count, { kind: 'number', number: 2 }, NOW)).toMatchObject({
      interlocks: [
        { code: 'drives-missing', mayOverride: false, sentence: 'The unit shows 2 of the 3 drives in Head.' },
      ],
    });
    expect(attempt(in_, count, { kind: 'number', number: 3 }, NOW)).toMatchObject({
      interlocks: [],
      events: [{ kind: 'drives-counted', seen: 3, expected: 3, enclosure: 'Head' }],
    });
    expect(step(plan, 'pool').after).toContain('seen-1');
  });
});

describe('a drive that was typed in small letters when it was planned', () => {
  const planned = { bay: '1', serial: 'ABC-1', printed: 'abc-1', bytes: BYTES, basis: 'exact' as const };
  const plan = planFor(bare(reedbank, 2), { drives: [planned] });
  const fit = plan.steps.find(({ does }) => does.some(({ kind }) => kind === 'fit-drive')) as PlanStep;
  const fitted = (serial: string) =>
    (attempt(bare(reedbank, 2), fit, { kind: 'scans', scans: [{ bay: '1', serial, drive: SIZE }] }, NOW) as Attempt)
      .events;

  it('keeps that form where the serial was read by its last characters, and gives it to no other drive', () => {
    expect(fitted('bc-1')).toMatchObject([{ drive: { serial: 'ABC-1', printed: 'abc-1' } }]);
    const other = fitted('XYZ-9');
    expect(other).toMatchObject([{ kind: 'drive-inserted', drive: { serial: 'XYZ-9' } }]);
    expect(JSON.stringify(other)).not.toContain('abc-1');
  });
});
