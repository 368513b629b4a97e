import { describe, expect, it } from '@jest/globals';
import causeway from '../../platform/profiles/causeway.json';
import tidemill from '../../platform/profiles/tidemill.json';
import { serialKey } from '../../drive/serial';
import { driveLedger } from '../../world/ledger';
import { unitIn } from '../../world/world';
import { needsHands } from '../../upkeep/needsHands';
import type { UnitEvent } from '../../unit/event';
import type { UnitState } from '../../unit/state';
import { afterEvents } from '../../unit/testUnit';
import { isRefusal } from '../../value/refusal';
import { attempt } from '../engine/attempt';
import { dryRun } from '../engine/dryRun';
import { entriesOfFates } from '../engine/fates';
import type { Fate } from '../engine/fateWords';
import type { PlanBody, PlanStep, StepEvidence } from '../plan';
import { retirePlan } from './retire';
import { codeOf, must, NOW, unitOf, worked } from './testPlans';

const step = ({ steps }: PlanBody, id: string): PlanStep => steps.find((one) => one.id === id) as PlanStep;
const codes = (unit: UnitState, of: PlanStep, evidence: StepEvidence, at = NOW): string[] | string => {
  const seen = attempt(unit, of, evidence, at);
  return isRefusal(seen)
    ? seen.code
    : seen.interlocks.map(({ code, mayOverride }) => `${code}${mayOverride ? '' : '!'}`);
};

describe('a unit goes out of use by one plan', () => {
  const unit = unitOf(causeway, [8, 8, 8, 8], 'parity-1', 12);
  const plan = must(retirePlan(unit));

  it('proves what is elsewhere, closes the pool, takes each drive out by serial, accounts for each, and frees name and address', () => {
    expect(plan.steps.map(({ id }) => id)).toEqual([
      'copy',
      'restore',
      'told',
      'papers',
      'close-1',
      'reset',
      'power-down',
      'out-1',
      'fates',
      'freed',
      'gone',
    ]);
    const world = worked(unit, plan);
    const end = unitIn(world, 'u') as UnitState;
    expect(end.retired).toMatchObject({ at: NOW, note: 'as planned' });
    expect(end.name).toBe('Heron (retired 2026-01-01 00:00)');
    expect([end.pools, Object.values(end.drives).filter(({ bay }) => bay !== null)]).toEqual([{}, []]);
  });

  it('raises no alarm on the way: at no step a member is missing, or less can be lost', () => {
    const before = needsHands([{ id: 'u', state: unit, used: {} }], [], NOW).map(({ code }) => code);
    for (const one of dryRun(unit, plan, NOW)) {
      if (one.kind !== 'dry-step') throw new Error(one.refusal.sentence);
      // What is erased is said where it is: at the pool that is closed.
      expect(one.hazards.map(({ code }) => code)).toEqual(one.step === 'close-1' ? ['erases'] : []);
      const now = needsHands([{ id: 'u', state: one.after, used: {} }], [], NOW).map(({ code }) => code);
      expect(now.filter((code) => !before.includes(code) && code !== 'plan-open')).toEqual([]);
    }
  });

  it('does not take the last copy away unheard, and waits out the days it promised', () => {
    const none: StepEvidence = { kind: 'copy', none: { why: 'it is old' } };
    expect(codes(unit, step(plan, 'restore'), none)).toEqual(['no-copy']);
    expect(codes(unit, step(plan, 'close-1'), { kind: 'tick' })).toEqual([]);
    const moved = afterEvents(
      unit,
      [
        { kind: 'data-set-described', dataSet: 'd', name: 'Accounts', pool: 'p' },
        { kind: 'data-handed-over', to: '7f3a1c7e-0000-4000-8000-000000000001' },
      ] as UnitEvent[],
      NOW,
    );
    const kept = step(must(retirePlan(moved)), 'kept');
    expect(codes(moved, kept, { kind: 'tick' }, '2026-01-14T23:59:00.000Z')).toEqual(['kept-until!']);
    expect(codes(moved, kept, { kind: 'tick' }, '2026-01-15T00:00:00.000Z')).toEqual([]);
    // Carried away it promised the same.
    const left = afterEvents(unit, [{ kind: 'pool-left', pool: 'p', to: '7f3a1c7e-0000-4000-8000-000000000001' }], NOW);
    expect(must(retirePlan(left)).steps[0]).toMatchObject({ id: 'kept' });
  });

  it('is refused while a pool has stopped, and once it is done', () => {
    const stopped = afterEvents(
      unit,
      [
        { kind: 'drive-failed', serial: 'D-1' },
        { kind: 'drive-failed', serial: 'D-2' },
      ],
      NOW,
    );
    expect(codeOf(retirePlan(stopped))).toBe('pool-lost');
    expect(codeOf(retirePlan(unitIn(worked(unit, plan), 'u') as UnitState))).toBe('retired');
    // A box without a pool, its drives idle, goes the same way, without a copy to prove.
    const idle = afterEvents(unitOf(tidemill, [4, 4], 'dedicated-1', 4), [{ kind: 'pool-destroyed', pool: 'p' }], NOW);
    expect(must(retirePlan(idle)).steps.map(({ id }) => id)).not.toContain('copy');
  });
});

describe('what becomes of a drive', () => {
  const asked: PlanStep = {
    id: 'fates',
    kind: 'record',
    part: 'Drives',
    title: '',
    why: '',
    asks: { kind: 'fates', serials: ['D-1', 'D-2'] },
    after: [],
    does: [{ kind: 'decide-fates', serials: ['D-1', 'D-2'] }],
  };
  const unit = unitOf(causeway, [8, 8, 8], 'parity-1', 12);
  const wiped: Fate['wiped'] = { method: 'purge', how: 'secure erase', by: 'Ruff', checked: true };
  const stays: Fate = { serial: 'D-2', goes: { kind: 'stays' } };
  const judged = (...fates: Fate[]): string[] | string => codes(unit, asked, { kind: 'fates', fates });

  it('is said of each, once, and of no other', () => {
    expect(judged(stays)).toBe('not-decided');
    expect(judged(stays, stays)).toBe('scanned-twice');
    expect(judged(stays, { serial: 'D-3', goes: { kind: 'stays' } })).toBe('serial-unknown');
    expect(judged({ serial: 'd-1', goes: { kind: 'stays' } }, stays)).toEqual([]);
  });

  it('does not leave the house with what is on it, or wiped and not looked at, without an owner', () => {
    const away = { kind: 'away', to: 'the scrap yard' } as const;
    expect(judged({ serial: 'D-1', goes: away }, stays)).toEqual(['unwiped']);
    expect(judged({ serial: 'D-1', wiped: { ...wiped, checked: false }, goes: away }, stays)).toEqual(['unwiped']);
    expect(judged({ serial: 'D-1', wiped, goes: away }, stays)).toEqual([]);
    expect(
      judged({ serial: 'D-1', wiped: { ...wiped, method: 'destroy', checked: false }, goes: away }, stays),
    ).toEqual([]);
    expect(judged({ serial: 'D-1', goes: { kind: 'warranty', to: 'the dealer' } }, stays)).toEqual(['unwiped']);
  });

  it('is written in its own ledger: first wiped, then gone', () => {
    const entries = entriesOfFates({
      kind: 'fates',
      fates: [{ serial: 'd-1', wiped, goes: { kind: 'away', to: 'the scrap yard' } }, stays],
    });
    expect(entries).toEqual([
      { ledger: driveLedger(serialKey('D-1')), event: { kind: 'wiped', ...wiped } },
      { ledger: driveLedger(serialKey('D-1')), event: { kind: 'sent-away', to: 'the scrap yard' } },
    ]);
  });
});
