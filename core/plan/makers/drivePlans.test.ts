import { formatBytes } from '../../quantity/formatBytes';
import { describe, expect, it } from '@jest/globals';
import causeway from '../../platform/profiles/causeway.json';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import tidemill from '../../platform/profiles/tidemill.json';
import type { Profile } from '../../platform/profile';
import { planLayout } from '../../layout/planLayout';
import { labelBytes } from '../../drive/labelBytes';
import { rescueOf } from '../../rescue/rescueOf';
import type { RecordedEvent, UnitEvent } from '../../unit/event';
import { foldUnit } from '../../unit/fold';
import { marginOfPool } from '../../unit/margin';
import type { UnitState } from '../../unit/state';
import { canonicalJson } from '../../value/canonicalJson';
import { ahead } from '../../world/ahead';
import { unitLedger } from '../../world/ledger';
import { emptyLedger, planIn, worldOf } from '../../world/world';
import { changesAt, doStep, type StepStopped } from '../run/doStep';
import type { Made as MadeByCommand } from '../run/runOf';
import { startPlan } from '../run/startPlan';
import { isRefusal, type Refusal } from '../../value/refusal';
import { candidatesFor, candidatesToAdd } from './candidates';
import { growPlan } from './grow';
import { cameBackPlan } from './cameBack';
import { dryRun, expectedEvidence, type DryStep } from '../engine/dryRun';
import type { NewDrive } from './handsOnDrive';
import type { PlanBody, PlanStep } from '../plan';
import { replaceAllPlan } from './replaceAll';
import { replacePlan, type ReplaceWish } from './replace';
import { rescuePlan } from './rescue';
import { spareInPlan } from './spareIn';
import { planRisk } from '../engine/timeline';

import { codeOf, NOW } from './testPlans';
import type { Made } from './testReplace';
import { TB8, NEW, made, after, planOf, replace, ids, step, failed, four } from './testReplace';

describe('what stands for one unit', () => {
  const wanted = (details: object): PlanBody =>
    replace(after(made(reedbank, four, 'parity-1', [failed]).unit, { kind: 'unit-described', details }));

  it('how a drive is changed, and its light, go by the unit where it differs from its family', () => {
    expect(ids(wanted({}))).not.toContain('unplug');
    const cold = wanted({ driveChange: 'case-opened' });
    expect(step(cold, 'unplug').title).toBe('Unplug every supply, then open the case');
    expect(ids(cold)).toContain('power-up');
    expect(ids(wanted({ driveChange: 'off' }))).toContain('power-up');
    expect(step(wanted({ driveChange: 'off' }), 'unplug').title).toBe('Make sure that every lamp is dark');
    expect([
      step(wanted({ locateLight: 'no' }), 'locate').title,
      step(wanted({ locateLight: 'yes' }), 'locate').title,
    ]).toEqual([expect.stringMatching(/^Find bay 2/), expect.stringMatching(/^Blink/)]);
  });
});

describe('replacePlan', () => {
  it('goes the order that works, made for the family', () => {
    const hot = replace(made(reedbank, four, 'parity-1', [failed]).unit);
    expect(ids(hot)).toEqual([
      'copy',
      'serial',
      'new-drive',
      'told',
      'locate',
      'pull',
      'fit',
      'seen',
      'wait',
      'verified',
      'fate',
      'next-spare',
    ]);
    const sick = replace(
      made(saltern, four, 'parity-1', [{ kind: 'drive-suspected', serial: 'D-2', note: 'clicks' }]).unit,
      { usedShare: 0.5 },
    );
    expect(ids(sick)).toEqual([
      'copy',
      'serial',
      'new-drive',
      'move-off',
      'told',
      'out',
      'locate',
      'pull',
      'fit',
      'seen',
      'start',
      'wait',
      'verified',
      'fate',
      'next-spare',
    ]);
    expect(step(sick, 'locate').title).toMatch(/^Blink the light/);
    expect(step(sick, 'move-off').why).toMatch(/at 50 % full: every TB moved off saves about \d/);
    // Chosen, it is a step that is done, and the wait is as much shorter as less is used.
    const unit = made(saltern, four, 'parity-1', [{ kind: 'drive-suspected', serial: 'D-2', note: 'clicks' }]).unit;
    const half = (unit.pools['p']?.shownBytes ?? 0) / 4;
    const lighter = replace(unit, { usedShare: 0.5, moveOffBytes: half });
    expect(step(lighter, 'move-off')).toMatchObject({
      kind: 'act',
      title: expect.stringMatching(/^Take .+ off Papers first/) as unknown,
    });
    expect(step(lighter, 'move-off').maySkip).toBeUndefined();
    // Half as much to write takes half as long, whatever the rate.
    expect((step(lighter, 'wait').hours ?? 0) / (step(sick, 'wait').hours ?? 1)).toBeCloseTo(0.5, 1);
    const refused = (of: UnitState, wish: Partial<ReplaceWish>): string =>
      codeOf(replacePlan(of, { serial: 'D-2', way: 'in-place', drive: { bytes: 8e12, basis: 'exact' }, ...wish }));
    expect(refused(unit, { usedShare: 0.5, moveOffBytes: 3 * half })).toBe('more-than-there');
    const whole = made(reedbank, four, 'parity-1', [failed]).unit;
    expect(refused(whole, { usedShare: 0.5, moveOffBytes: 1e9 })).toBe('rebuilds-all');
    // An empty pool of a family that rebuilds what is used: no hours are made up.
    expect(step(replace(made(saltern, four, 'parity-1', [failed]).unit, { usedShare: 0 }), 'wait').why).toMatch(
      /nothing to copy/,
    );
    const cold = replace(made(tidemill, four, 'dedicated-1', [failed]).unit);
    expect(ids(cold)).toEqual(expect.arrayContaining(['power-down', 'unplug', 'pull', 'fit', 'power-up', 'start']));
    expect(step(cold, 'unplug').caution).toContain('licensed people under local codes');
  });

  it('ends with the margin it began with before the failure, and says what stood in the way', () => {
    const { unit } = made(reedbank, four, 'parity-1', [failed]);
    const run = dryRun(unit, replace(unit), NOW);
    expect(run.every((one) => one.kind === 'dry-step' && one.interlocks.length === 0)).toBe(true);
    expect((run.at(-1) as DryStep).margin).toEqual({ p: 1 });
    expect((run.at(-1) as DryStep).after.drives['D-2']).toMatchObject({ bay: null, condition: 'removed' });
  });

  it('is what the ledger folds to when every step is recorded as planned, hash for hash', () => {
    for (const [profile, way, scheme] of [
      [reedbank, 'in-place', 'parity-1'],
      [saltern, 'in-place', 'mixed-1'],
      [saltern, 'free-bay', 'mixed-1'],
      [tidemill, 'in-place', 'dedicated-1'],
    ] as const) {
      const { unit, events } = made(profile, four, scheme, [], { bays: 5 });
      const plan = replace(unit, { way, ...(way === 'free-bay' ? { bay: '5' } : {}) });
      const run = dryRun(unit, plan, NOW);
      // As everybody works a plan: by commands, each made true in the world it finds.
      let world = worldOf([{ ...emptyLedger(unitLedger('u')), state: unit }]);
      const recorded: UnitEvent[] = [];
      const carryOut = (made: MadeByCommand | StepStopped | Refusal): void => {
        if (isRefusal(made) || made.kind === 'stopped') throw new Error(JSON.stringify(made));
        recorded.push(...changesAt(made.entries, 'u'));
        const next = ahead(world, made.entries, NOW);
        if (isRefusal(next)) throw new Error(next.sentence);
        world = next;
      };
      carryOut(startPlan(world, 'r', ['u'], plan));
      for (const one of plan.steps)
        carryOut(
          doStep(world, {
            plan: 'r',
            step: one.id,
            evidence: expectedEvidence(one, NOW),
            happenedAt: NOW,
            isOwner: false,
          }),
        );
      const whole: RecordedEvent[] = [...events, ...recorded].map((event, i) => ({
        seq: i + 1,
        happenedAt: NOW,
        event,
      }));
      const folded = foldUnit(whole) as UnitState;
      // The ledger also remembers the plan itself; times are the plan's own.
      const plain = (of: UnitState): string =>
        canonicalJson({ ...of, plans: {} }).replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'T');
      expect(plain(folded)).toBe(plain((run.at(-1) as DryStep).after));
      expect(folded.plans['r']).toMatchObject({ done: plan.steps.length, of: plan.steps.length });
      expect(Object.keys(planIn(world, 'r')?.done ?? {})).toHaveLength(plan.steps.length);
    }
  });

  it('never gets thinner through a free bay, and does in place: both timelines, with what each risks', () => {
    const { unit } = made(saltern, four, 'mixed-1', [], { bays: 5 });
    const risk = (plan: PlanBody) => planRisk(unit, dryRun(unit, plan, NOW), 'p', NOW);
    const through = risk(replace(unit, { way: 'free-bay', bay: '5' }));
    const inPlace = risk(replace(unit));
    expect([through?.thinHours, through?.stretches.map(({ margin }) => margin)]).toEqual([0, [1]]);
    expect(inPlace?.stretches.map(({ margin }) => margin)).toEqual([1, 0, 1]);
    expect(inPlace?.thinHours).toBeGreaterThan(5);
    expect((inPlace?.loss ?? 0) / (through?.loss ?? 1)).toBeGreaterThan(1000);
    // Three disks of MTTF 1,000,000 h over the thin hours, none may fail: 1 − e^(−3t/10⁶).
    const thin = inPlace?.stretches.find(({ margin }) => margin === 0);
    expect(thin?.loss).toBeCloseTo(-Math.expm1((-3 * (inPlace?.thinHours ?? 0)) / 1e6), 9);
    expect(thin?.unreadable?.bound).toBeGreaterThan(thin?.unreadable?.usual ?? 1);
  });

  it('takes the chance of the hours in which nothing changes at once, not step by step', () => {
    const { unit } = made(reedbank, four, 'parity-1');
    const look = (id: string): PlanStep => ({
      id,
      kind: 'check',
      part: 'Look',
      title: id,
      why: id,
      asks: { kind: 'tick' },
      after: [],
      does: [],
    });
    // Five looks of three minutes. Any two of four within a quarter of an hour, by hand: 6 · (0.25/10⁶)².
    const plan: PlanBody = { job: 'replace', title: 'Look', steps: ['a', 'b', 'c', 'd', 'e'].map(look) };
    const risk = planRisk(unit, dryRun(unit, plan, NOW), 'p', NOW);
    expect((risk?.loss ?? 0) / 3.75e-13).toBeCloseTo(1, 3);
  });

  it('plans the second of one age after the first, never together', () => {
    const mates: UnitEvent[] = [1, 2, 3].flatMap((n): UnitEvent[] => [
      { kind: 'drive-removed', serial: `D-${String(n)}` },
      {
        kind: 'drive-inserted',
        bay: String(n),
        drive: { serial: `D-${String(n)}`, bytes: TB8, basis: 'exact', lot: 'A', boughtOn: '2020-01-01' },
      },
      { kind: 'pool-restored', pool: 'p', serials: [`D-${String(n)}`] },
    ]);
    const { unit } = made(reedbank, four, 'parity-1', mates);
    expect(step(replace(unit), 'age-mates')).toMatchObject({
      title: 'Plan the next: 2 drives are as old',
      why: expect.stringContaining('bay 1 (D-1), bay 3 (D-3)'),
    });
  });

  it('asks where the other copy is when none is on record, and warns of one that was never proven', () => {
    const { unit } = made(reedbank, four, 'parity-1', [failed]);
    expect(step(replace(unit), 'copy').caution).toContain('No restore of Accounts has been proven');
    const bare = after(unit, { kind: 'copy-removed', dataSet: 'd', copy: 'c' });
    expect(step(replace(bare), 'copy')).toMatchObject({
      kind: 'record',
      asks: { kind: 'copy' },
      caution: expect.stringContaining('stop here if you can'),
    });
  });

  it.each<[string, Made, Partial<ReplaceWish>]>([
    ['not-a-member', made(reedbank, four, 'parity-1'), { serial: 'D-9' }],
    ['others-missing', made(reedbank, four, 'parity-2', [{ kind: 'drive-failed', serial: 'D-1' }]), {}],
    ['pool-lost', made(reedbank, four, 'parity-1', [failed, { kind: 'drive-failed', serial: 'D-1' }]), {}],
    ['unguarded', made(reedbank, [TB8, TB8], 'stripe'), {}],
    ['no-free-bay-way', made(reedbank, four, 'parity-1', [], { bays: 5 }), { way: 'free-bay', bay: '5' }],
    ['not-working', made(saltern, four, 'mixed-1', [failed], { bays: 5 }), { way: 'free-bay', bay: '5' }],
    ['bay-occupied', made(saltern, four, 'mixed-1', [], { bays: 5 }), { way: 'free-bay', bay: '3' }],
    ['drive-too-small', made(reedbank, four, 'parity-1'), { drive: { ...NEW, bytes: TB8 - 41 * 512 } }],
  ])('refuses %s', (code, { unit }, wish) => {
    const plan = replacePlan(unit, { serial: 'D-2', way: 'in-place', drive: NEW, ...wish });
    expect(plan).toMatchObject({ kind: 'refusal', code });
    if (code === 'drive-too-small') expect((plan as { sentence: string }).sentence).toContain('41 sectors short');
  });

  it('holds what lies in drawers against the bay: what fits first, the nearest first, and why not', () => {
    const { unit } = made(reedbank, four, 'parity-1', [failed]);
    const place = { site: 'S', room: 'R', drawer: 'top' };
    const found = candidatesFor(unit, unit.pools['p'] as never, unit.drives['D-2'] as never, [
      { serial: 'far', bytes: TB8, basis: 'exact', place: { ...place, site: 'T' } },
      { serial: 'short', bytes: TB8 - 41 * 512, basis: 'exact', place },
      { serial: 'smr', bytes: TB8, basis: 'exact', media: 'shingled', place },
      { serial: 'label', bytes: TB8, basis: 'label', place },
      {
        serial: 'sick',
        bytes: TB8,
        basis: 'exact',
        place,
        sick: { words: 'showed signs when it came out on 2026-01-01', isTestedWell: false },
      },
      {
        serial: 'tested',
        bytes: TB8,
        basis: 'exact',
        place,
        sick: { words: 'showed signs when it came out on 2026-01-01', isTestedWell: true },
      },
    ]);
    expect(found.map(({ serial, words }) => [serial, words.split(/; top/)[0]])).toEqual([
      ['label', 'fits by its label: read the exact bytes first'],
      ['tested', 'fits, and showed signs when it came out on 2026-01-01; tested well since'],
      ['far', 'fits, byte for byte'],
      ['short', '41 sectors short'],
      ['sick', 'showed signs when it came out on 2026-01-01: no spare before a recorded test finds it well'],
      ['smr', 'shingled: not in a parity pool'],
    ]);
  });

  it('holds them against a free bay by the rule the pool is grown by', () => {
    const { unit } = made(reedbank, four, 'parity-1', [], { bays: 5 });
    const place = { site: 'S', room: 'R', drawer: 'top' };
    const sick = { words: 'showed signs', isTestedWell: false };
    const found = candidatesToAdd(unit, unit.pools['p'] as never, '5', [
      { serial: 'short', bytes: TB8 - 41 * 512, basis: 'exact', place },
      { serial: 'sick', bytes: TB8, basis: 'exact', place, sick },
      { serial: 'stick', bytes: TB8, basis: 'exact', form: 'm2', place },
      { serial: 'smr', bytes: TB8, basis: 'exact', media: 'shingled', place },
      { serial: 'far', bytes: TB8, basis: 'exact', place: { ...place, site: 'T' } },
      { serial: 'larger', bytes: 2 * TB8, basis: 'exact', place },
    ]);
    expect(found.map(({ serial, fits }) => [serial, fits])).toEqual([
      ['larger', true],
      ['far', true],
      ['short', false],
      ['sick', false],
      ['smr', false],
      ['stick', false],
    ]);
    expect(found[2]?.words).toMatch(/^Too small: every member must hold 8 TB/);
    // What fits makes a plan, what does not makes none: one rule.
    for (const { fits, drive } of found.filter(
      ({ serial }) => serial !== 'sick' && serial !== 'smr' && serial !== 'stick',
    ))
      expect(isRefusal(growPlan(unit, { pool: 'p', drive: { ...NEW, bytes: drive.bytes } }))).toBe(!fits);
  });
});

describe('a pool with a sick drive', () => {
  const sick = (serial: string): UnitEvent => ({ kind: 'drive-suspected', serial, note: 'clicks' });
  const larger = { bytes: 2 * TB8, basis: 'exact' as const, label: '16 TB' };
  const order = (plan: PlanBody): string[] =>
    plan.steps.flatMap(({ does }) => does.flatMap((one) => (one.kind === 'pull-drive' ? [one.serial] : [])));
  const both = [TB8, TB8];

  it('is grown from the sick drive on, then from the oldest', () => {
    const { unit } = made(saltern, four, 'mixed-1', [sick('D-3')], { bays: 5 });
    const bought = { 'D-2': '2019-03-01', 'D-4': '2021-06-01' } as Readonly<Record<string, string>>;
    const drives = Object.fromEntries(
      Object.entries(unit.drives).map(([serial, drive]) => [
        serial,
        { ...drive, ...(bought[serial] ? { boughtOn: bought[serial] } : {}) },
      ]),
    );
    expect(order(planOf(replaceAllPlan({ ...unit, drives }, { pool: 'p', drive: larger })))).toEqual([
      'D-3',
      'D-2',
      'D-4',
      'D-1',
    ]);
  });

  it('never thins what would rest on it: on two bays with one clicking, that one goes first', () => {
    const { unit } = made(reedbank, both, 'mirror', [sick('D-1')]);
    expect(order(planOf(replaceAllPlan(unit, { pool: 'p', drive: larger })))).toEqual(['D-1', 'D-2']);
    const well = { serial: 'D-2', way: 'in-place' as const, drive: NEW };
    expect(replacePlan(unit, well)).toMatchObject({
      code: 'rests-on-sick',
      pointer: '/way',
      sentence: expect.stringMatching(/With D-2 out, .* would rest on bay 1 \(D-1, clicks\).*replace D-1 first.*copy/),
    });
    expect(replacePlan(unit, { ...well, serial: 'D-1' })).toMatchObject({ job: 'replace' });
    // By the word that all of it is copied and the copy proven.
    expect(replacePlan(unit, { ...well, copyProven: true })).toMatchObject({ job: 'replace' });
    const { unit: worse } = made(reedbank, both, 'mirror', [sick('D-1'), sick('D-2')]);
    expect([
      replaceAllPlan(worse, { pool: 'p', drive: larger }),
      replacePlan(worse, { ...well, serial: 'D-1' }),
    ]).toMatchObject([{ code: 'rests-on-sick' }, { code: 'rests-on-sick' }]);
    // What can lose one more besides rests on nobody alone.
    const { unit: double } = made(saltern, four, 'mixed-2', [sick('D-1')], { bays: 5 });
    expect(replacePlan(double, well)).toMatchObject({ job: 'replace' });
  });

  it('ends with the fate of every drive that left, the space as a number, the next spare, and people told', () => {
    const { unit } = made(reedbank, [TB8, TB8, TB8], 'parity-1');
    const plan = planOf(replaceAllPlan(unit, { pool: 'p', drive: larger }));
    expect(ids(plan).filter((id) => id.startsWith('fate'))).toEqual(['fate-1', 'fate-2', 'fate-3']);
    expect(ids(plan).slice(-4)).toEqual(['space', 'warning-line', 'next-spare', 'told-after']);
    expect(ids(plan).slice(0, 3)).toEqual(['copy', 'told', 'new-drives']);
    // What the family's page will show is what the plan's own run ends with.
    const { after: end } = dryRun(unit, plan, NOW).at(-1) as DryStep;
    expect(step(plan, 'space').title).toContain(formatBytes(end.pools['p']?.shownBytes ?? 0, 'binary', 1));
  });

  it('is grown through a free bay without ever being thinner, bay after bay', () => {
    const { unit } = made(saltern, four, 'mixed-1', [sick('D-3'), sick('D-1')], { bays: 5 });
    const plan = planOf(replaceAllPlan(unit, { pool: 'p', drive: larger, way: 'free-bay' }));
    const run = dryRun(unit, plan, NOW);
    expect(run.filter(({ kind }) => kind === 'dry-stop')).toEqual([]);
    expect((run as DryStep[]).flatMap(({ interlocks }) => interlocks)).toEqual([]);
    expect(new Set((run as DryStep[]).map(({ margin }) => margin['p']))).toEqual(new Set([1]));
    // Each goes into the bay the one before has left.
    const fitted = plan.steps.flatMap(({ does }) =>
      does.flatMap((one) => (one.kind === 'fit-drive' ? [one.drive.bay] : [])),
    );
    expect([order(plan), fitted]).toEqual([
      ['D-1', 'D-3', 'D-2', 'D-4'],
      ['5', '1', '3', '2'],
    ]);
    const { usableBytes } = run.at(-1) as DryStep;
    expect(usableBytes).toBeGreaterThan(1.9 * (unit.pools['p']?.usableBytes ?? 0));
    expect(
      replaceAllPlan(made(reedbank, four, 'parity-1', [], { bays: 5 }).unit, {
        pool: 'p',
        drive: larger,
        way: 'free-bay',
      }),
    ).toMatchObject({
      code: 'no-free-bay-way',
    });
    expect(
      replaceAllPlan(made(saltern, four, 'mixed-1', [], { bays: 4 }).unit, {
        pool: 'p',
        drive: larger,
        way: 'free-bay',
      }),
    ).toMatchObject({
      code: 'bay-occupied',
    });
  });
});

describe('plans of the same kind', () => {
  it('replaces all members one at a time: space only at the end by command, along the way by itself', () => {
    const larger: NewDrive = { bytes: labelBytes(12000), basis: 'label', label: '12 TB' };
    const fixed = made(reedbank, [TB8, TB8, TB8], 'parity-1').unit;
    const plan = planOf(replaceAllPlan(fixed, { pool: 'p', drive: larger }));
    expect(ids(plan).filter((id) => id.startsWith('pull'))).toEqual(['pull-1', 'pull-2', 'pull-3']);
    const run = dryRun(fixed, plan, NOW) as DryStep[];
    const space = (id: string): number => (run.find((one) => one.step === id) as DryStep).usableBytes;
    expect(space('wait-3')).toBe(fixed.pools['p']?.usableBytes);
    expect(space('expand')).toBe(
      planLayout(
        reedbank as Profile,
        'parity-1',
        [1, 2, 3].map((n) => ({ bay: String(n), bytes: larger.bytes })),
      ).usableBytes,
    );
    expect(Math.min(...run.map(({ margin }) => margin['p'] ?? 9))).toBe(0);

    const mixed = made(saltern, [TB8, TB8, TB8], 'mixed-1', [], { bays: 5 }).unit;
    const along = dryRun(mixed, planOf(replaceAllPlan(mixed, { pool: 'p', drive: larger })), NOW) as DryStep[];
    const at = (id: string): number => (along.find((one) => one.step === id) as DryStep).usableBytes;
    // One larger drive gives nothing; two make a mirror on top; three share it as parity.
    expect([
      at('wait-1') - (mixed.pools['p']?.usableBytes ?? 0),
      at('wait-2') > at('wait-1'),
      at('wait-3') > at('wait-2'),
    ]).toEqual([0, true, true]);
    expect(at('wait-3')).toBe(
      planLayout(
        saltern as Profile,
        'mixed-1',
        [1, 2, 3].map((n) => ({ bay: String(n), bytes: larger.bytes })),
      ).usableBytes,
    );
  });

  it('refuses to grow what is thinned, unprotected or not smaller', () => {
    const drive: NewDrive = { bytes: labelBytes(12000), basis: 'label' };
    const code = (of: Made, with_ = drive) =>
      (replaceAllPlan(of.unit, { pool: 'p', drive: with_ }) as { code?: string }).code;
    expect(code(made(reedbank, four, 'parity-1', [failed]))).toBe('thinned');
    expect(code(made(reedbank, [TB8, TB8], 'stripe'))).toBe('unguarded');
    expect(code(made(reedbank, four, 'parity-1'), NEW)).toBe('none-smaller');
    expect(code(made(reedbank, four, 'parity-1'), { ...drive, bytes: 9e13 })).toBe('drive-too-large');
  });

  it('lets a spare stand in first, and only then hands go to the bay', () => {
    const { unit } = made(
      causeway,
      Array.from({ length: 7 }, () => TB8),
      'parity-2',
      [],
      { bays: 12, spares: 1 },
    );
    const spare = unit.pools['p']?.spares[0] ?? '';
    const gone = Object.keys(unit.drives).find((serial) => serial !== spare) ?? '';
    const thin = after(unit, { kind: 'drive-failed', serial: gone });
    const plan = planOf(spareInPlan(thin, { serial: gone, spare, drive: NEW }));
    expect(ids(plan).indexOf('wait')).toBeLessThan(ids(plan).indexOf('pull'));
    const end = dryRun(thin, plan, NOW).at(-1) as DryStep;
    expect([end.margin['p'], end.after.pools['p']?.spares]).toEqual([2, ['N-1']]);
    expect(spareInPlan(unit, { serial: gone, spare, drive: NEW })).toMatchObject({ code: 'not-missing' });
    expect(spareInPlan(thin, { serial: gone, spare: 'D-9', drive: NEW })).toMatchObject({ code: 'not-a-spare' });
  });

  it('believes a drive that came back once: whole, or by a rebuild onto it', () => {
    const { unit } = made(reedbank, four, 'parity-1', [failed]);
    for (const how of ['whole', 'rebuild'] as const) {
      const plan = planOf(cameBackPlan(unit, { serial: 'D-2', how }));
      expect(ids(plan).at(-1)).toBe('watch');
      const end = dryRun(unit, plan, NOW).at(-1) as DryStep;
      expect([end.kind, end.margin['p']]).toEqual(['dry-step', 1]);
    }
    expect(cameBackPlan(made(reedbank, four, 'parity-1').unit, { serial: 'D-2', how: 'whole' })).toMatchObject({
      code: 'not-missing',
    });
  });
});

describe('the rescue desk', () => {
  const hour = (n: number): string => new Date(Date.parse(NOW) + n * 3_600_000).toISOString();
  const { events } = made(reedbank, four, 'parity-1');
  const history: RecordedEvent[] = [
    ...events.map((event, i) => ({ seq: i + 1, happenedAt: NOW, event })),
    { seq: 50, happenedAt: hour(10), event: { kind: 'drive-failed', serial: 'D-1' } },
    { seq: 51, happenedAt: hour(40), event: { kind: 'drive-removed', serial: 'D-3' } },
    { seq: 52, act: 'misread', happenedAt: hour(41), event: { kind: 'drive-failed', serial: 'D-4' } },
    { seq: 53, happenedAt: hour(42), event: { kind: 'taken-back', act: 'misread', reason: 'misread' } },
  ];
  const unit = foldUnit(history) as UnitState;

  it('knows which drive left last, how stale each is, and in what order they are tried', () => {
    expect(marginOfPool(unit.pools['p'] as never)).toBe(-1);
    const [pool] = rescueOf(unit, history).pools;
    expect(pool).toMatchObject({ needed: 1, stoppedAt: hour(40), stillThere: [{ serial: 'D-2' }, { serial: 'D-4' }] });
    expect(pool?.tryFirst).toMatchObject([
      { serial: 'D-3', staleHours: 0, how: 'removed', bay: null },
      {
        serial: 'D-1',
        staleHours: 30,
        how: 'failed',
        bay: '1',
        words: expect.stringMatching(/^The pool was written 30 hours without it/),
      },
    ]);
  });

  it('makes a plan of it that changes nothing but the power, and one for drives a unit offers only to erase', () => {
    for (const because of ['lost', 'offers-to-erase'] as const) {
      const plan = rescuePlan(unit, { because }, history);
      const run = dryRun(unit, plan, NOW) as DryStep[];
      expect(
        run.flatMap(({ events: caused }) => caused.map(({ kind }) => kind)).filter((kind) => kind !== 'noted'),
      ).toEqual(because === 'lost' ? ['power', 'drive-inserted', 'power', 'pool-back'] : ['power']);
      expect(ids(plan)).toContain(because === 'lost' ? 'try-1' : 'back');
    }
    expect(rescueOf(unit, history).firmAsks.find(({ question }) => question.startsWith('Which left'))?.answer).toBe(
      'D-1 2026-01-01 10:00 UTC, D-3 2026-01-02 16:00 UTC',
    );
  });

  it('tries nothing that clicked, knows the bays of what is out, and names the copy first', () => {
    const more: RecordedEvent[] = [
      ...history.slice(0, -4),
      { seq: 48, happenedAt: hour(5), event: { kind: 'data-set-described', dataSet: 's', name: 'Papers', pool: 'p' } },
      {
        seq: 49,
        happenedAt: hour(5),
        event: { kind: 'copy-described', dataSet: 's', copy: 'c', where: 'the barn', keeps: 'versions', offSite: true },
      },
      { seq: 50, happenedAt: hour(6), event: { kind: 'copy-confirmed', dataSet: 's', copy: 'c', outcome: 'ran' } },
      { seq: 51, happenedAt: hour(10), event: { kind: 'drive-suspected', serial: 'D-1', note: 'clicks' } },
      { seq: 52, happenedAt: hour(11), event: { kind: 'drive-removed', serial: 'D-1' } },
      { seq: 53, happenedAt: hour(12), event: { kind: 'drive-removed', serial: 'D-3' } },
    ];
    const lost = foldUnit(more) as UnitState;
    const { pools, copies, firmAsks } = rescueOf(lost, more);
    expect(pools[0]?.tryFirst).toMatchObject([
      { serial: 'D-3', bay: null, from: '3', isSick: false },
      {
        serial: 'D-1',
        bay: null,
        from: '1',
        isSick: true,
        words: expect.stringContaining('It showed signs before it left (clicks)'),
      },
    ]);
    expect(copies).toContain('Papers: the barn (versions, off site): last ran 2026-01-01, a restore was never tried.');
    const answer = (question: string): string | undefined =>
      firmAsks.find((one) => one.question.startsWith(question))?.answer;
    expect(answer('Order')).toBe('bay 1: D-1 (out now), bay 2: D-2, bay 3: D-3 (out now), bay 4: D-4');
    // A member that failed without taking the pool down is not "none".
    const thin = history.slice(0, -3);
    expect(
      rescueOf(foldUnit(thin) as UnitState, thin).firmAsks.find(({ question }) => question.startsWith('Which left'))
        ?.answer,
    ).toBe('D-1 2026-01-01 10:00 UTC');
    const tries = JSON.stringify(rescuePlan(lost, { because: 'lost' }, more));
    expect(tries).not.toContain('1. D-1');
  });

  it('risks an unreadable sector only in what is read: the used space, where no more is rebuilt', () => {
    const { unit: half } = made(causeway, [TB8, TB8, TB8, TB8], 'parity-1', [{ kind: 'drive-failed', serial: 'D-2' }], {
      bays: 12,
    });
    const run = dryRun(half, replace(half), NOW);
    const risk = (used: Readonly<Record<string, number>>): number =>
      planRisk(half, run, 'p', NOW, { used })?.unreadable.bound ?? 0;
    const [all, little] = [risk({}), risk({ p: 50e9 })];
    // Three drives of 8 TB read whole at one error in 1e15 bits: 1 - exp(-3 * 8.0016e12 * 8 / 1e15) = 17.5 %, reckoned by hand.
    expect(all).toBeCloseTo(0.1747, 3);
    expect(little).toBeLessThan(0.001);
    expect(Math.log1p(-little) / Math.log1p(-all)).toBeCloseTo(50e9 / (half.pools['p']?.shownBytes ?? 1), 3);
  });
});
