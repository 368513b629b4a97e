import { describe, expect, it } from '@jest/globals';
import reedbank from '../../platform/profiles/reedbank.json';
import { apply } from '../../unit/apply';
import type { UnitEvent } from '../../unit/event';
import { isProven } from '../../unit/provenCopy';
import type { UnitState } from '../../unit/state';
import { isRefusal } from '../../value/refusal';
import { changeLevelPlan } from '../makers/changeLevel';
import { replacePlan } from '../makers/replace';
import { must, unitOf } from '../makers/testPlans';
import type { PlanBody, PlanStep } from '../plan';
import { attempt, type Attempt } from './attempt';
import { copyGivenWords, type CopyGiven } from './copyGiven';

const NOW = '2026-03-10T21:00:00.000Z';
const unit = unitOf(reedbank, [4, 4, 4, 4], 'parity-1', 5);
const DRIVE = { bytes: 4e12, basis: 'exact' as const };
const step = (plan: PlanBody, id: string): PlanStep => plan.steps.find((one) => one.id === id) as PlanStep;
const replacing = (of: UnitState): PlanStep =>
  step(must(replacePlan(of, { serial: 'D-2', way: 'in-place', drive: DRIVE })), 'copy');
const changing = step(must(changeLevelPlan(unit, { pool: 'p', to: 'parity-2', drive: DRIVE })), 'restore');
const COPY = { where: 'the bank', keeps: 'versions', offSite: true, ranOn: '2026-03-09' } as const;
const FETCHED = { file: 'orders 2019.ods', on: '2026-03-10', opened: true } as const;
const given = (more: Partial<CopyGiven> = {}): CopyGiven => ({ kind: 'copy', copy: COPY, ...more });
const tried = (of: PlanStep, evidence: CopyGiven, on = unit) => attempt(on, of, evidence, NOW);
const codes = (of: PlanStep, evidence: CopyGiven): unknown => {
  const seen = tried(of, evidence);
  return isRefusal(seen)
    ? [seen.code, seen.pointer]
    : seen.interlocks.map(({ code, mayOverride }) => [code, mayOverride]);
};
const after = (of: UnitState, events: readonly UnitEvent[]): UnitState =>
  events.reduce((now, event) => {
    const next = apply(now, event, NOW);
    if (isRefusal(next)) throw new Error(next.sentence);
    return next;
  }, of);
const copiesAfter = (evidence: CopyGiven, of = unit) =>
  Object.values(after(of, (tried(replacing(of), evidence, of) as Attempt).events).dataSets).map((set) => [
    set.name,
    Object.values(set.copies),
  ]);

describe('the copy a plan leans on', () => {
  it('goes into the register as it was said, with the days it was: nothing is read into it', () => {
    expect(copiesAfter(given({ fetched: FETCHED }))).toEqual([
      [
        'Papers',
        [
          {
            id: 'copy-1',
            where: 'the bank',
            keeps: 'versions',
            offSite: true,
            describedAt: NOW,
            ranAt: '2026-03-09T00:00:00.000Z',
            restoreTriedAt: NOW,
            restoreWorked: true,
          },
        ],
      ],
    ]);
    // Words that once were read into facts are words of a place.
    const [, [copy]] = copiesAfter({
      kind: 'copy',
      copy: { where: 'versions in the bank, off site', keeps: 'mirror', offSite: false },
    })[0] as [string, readonly object[]];
    expect(copy).toMatchObject({ keeps: 'mirror', offSite: false });
    expect(copy).not.toHaveProperty('ranAt');
    expect(copy).not.toHaveProperty('restoreTriedAt');
  });

  it('"none" is an answer: the plan stops there, or goes on with a reason that is recorded as what it is', () => {
    const none = (why?: string): CopyGiven => ({ kind: 'copy', none: why === undefined ? {} : { why } });
    expect(codes(replacing(unit), none())).toEqual([['no-copy', false]]);
    expect((tried(replacing(unit), none()) as Attempt).interlocks[0]?.back).toMatch(/Arrange one first/);
    const { events, interlocks } = tried(replacing(unit), none('it is all on the old unit too')) as Attempt;
    expect(interlocks).toEqual([]);
    expect(events).toEqual([
      { kind: 'data-set-described', dataSet: 'p', name: 'Papers', pool: 'p' },
      { kind: 'noted', note: 'Went on without a copy: it is all on the old unit too' },
    ]);
    expect(copiesAfter(none('nobody has time'))).toEqual([['Papers', []]]);
  });

  it('a file that came back and did not open proves nothing, whatever it is called', () => {
    const [[, [copy]]] = copiesAfter(given({ fetched: { ...FETCHED, file: 'x', opened: false } })) as [
      [string, readonly [Parameters<typeof isProven>[0]]],
    ];
    expect(copy.restoreWorked).toBe(false);
    expect(isProven(copy)).toBe(false);
  });

  it('is said of what has it, and of what has none; not of what is kept elsewhere', () => {
    const two = after(unit, [
      { kind: 'data-set-described', dataSet: 'a', name: 'Accounts', pool: 'p' },
      { kind: 'copy-described', dataSet: 'a', copy: 'c', where: 'The Bank', keeps: 'versions', offSite: true },
      { kind: 'data-set-described', dataSet: 'b', name: 'Pictures', pool: 'p' },
      { kind: 'copy-described', dataSet: 'b', copy: 'c', where: 'rented store', keeps: 'versions', offSite: true },
    ]);
    const [accounts, pictures] = copiesAfter(given({ fetched: FETCHED }), two);
    expect(accounts?.[1]).toMatchObject([{ id: 'c', restoreWorked: true }]);
    expect(pictures?.[1]).toMatchObject([{ where: 'rented store' }]);
    expect(JSON.stringify(pictures)).not.toContain('restoreWorked');
  });

  it('refuses both answers, neither, a file from nowhere, and days that have not come; with the field', () => {
    expect(codes(replacing(unit), { kind: 'copy' })).toEqual(['copy-or-none', '/evidence/copy']);
    expect(codes(replacing(unit), given({ none: {} }))).toEqual(['copy-or-none', '/evidence/copy']);
    expect(codes(replacing(unit), { kind: 'copy', none: {}, fetched: FETCHED })).toEqual([
      'copy-or-none',
      '/evidence/fetched',
    ]);
    expect(codes(replacing(unit), given({ copy: { ...COPY, ranOn: '2026-03-11' } }))).toEqual([
      'later',
      '/evidence/copy/ranOn',
    ]);
    expect(codes(replacing(unit), given({ fetched: { ...FETCHED, on: '2026-03-11' } }))).toEqual([
      'later',
      '/evidence/fetched/on',
    ]);
  });

  it('before a level is changed it is proven today, or only an owner goes on', () => {
    expect(codes(changing, given({ fetched: FETCHED }))).toEqual([]);
    expect(codes(changing, { kind: 'copy', none: { why: 'in a hurry' } })).toEqual([['no-copy', true]]);
    expect(codes(changing, given())).toEqual([['copy-unproven', true]]);
    expect(codes(changing, given({ fetched: { ...FETCHED, opened: false } }))).toEqual([['copy-unproven', true]]);
    const { ranOn: _never, ...never } = COPY;
    expect(codes(changing, given({ copy: never, fetched: FETCHED }))).toEqual([['copy-unproven', true]]);
    expect(codes(changing, given({ copy: { ...COPY, ranOn: '2026-01-09' }, fetched: FETCHED }))).toEqual([
      ['copy-unproven', true],
    ]);
  });

  it('is said again as it was given', () => {
    expect(copyGivenWords(given({ fetched: FETCHED }))).toBe(
      'the bank (versions, off site), last ran on 2026-03-09; orders 2019.ods came back on 2026-03-10, and was opened',
    );
    expect(copyGivenWords({ kind: 'copy', none: { why: 'w' } })).toBe('without a copy: w');
  });
});

describe('the space a unit shows afterwards', () => {
  it('is a figure, held against what the plan made of the pool', () => {
    const space = step(must(changeLevelPlan(unit, { pool: 'p', to: 'parity-2', drive: DRIVE })), 'space');
    const expected = space.does.find((one) => one.kind === 'see-space')?.bytes ?? 0;
    const counted = unit.profile.unitPage.counts === 'TiB' ? 2 ** 40 : 1e12;
    const shown = (share: number) =>
      attempt(unit, space, { kind: 'number', number: (expected * share) / counted }, NOW) as Attempt;
    expect(shown(0.99).interlocks).toEqual([]);
    expect(shown(0.6).interlocks).toMatchObject([{ code: 'space-missing', mayOverride: true }]);
  });
});
