import { describe, expect, it } from '@jest/globals';
import causeway from '../../platform/profiles/causeway.json';
import reedbank from '../../platform/profiles/reedbank.json';
import { apply } from '../../unit/apply';
import { marginOfPool } from '../../unit/margin';
import { freeBays, type UnitState } from '../../unit/state';
import { unitIn } from '../../world/world';
import { dryRun, type DryStep } from '../engine/dryRun';
import { extendPlan } from './extend';
import { growPlan } from './grow';
import { codeOf, must, NOW, poolOf, TB, tried, unitOf, worked } from './testPlans';

const twelve = Array.from({ length: 12 }, () => 4);
const rack = (): UnitState => unitOf(causeway, twelve, 'parity-2-groups', 12, 6);

describe('one more extension', () => {
  it('is cabled and given power before the head, and its bays take a group afterwards', () => {
    const unit = rack();
    const plan = must(extendPlan(unit, { name: 'Extension 1', bays: 12 }));
    const ids = plan.steps.map(({ id }) => id);
    const order = [
      'power-down',
      'card',
      'lift',
      'dial',
      'cable-1',
      'look-again',
      'supplies',
      'power-1',
      'start',
      'attached',
    ];
    expect(ids.filter((id) => order.includes(id))).toEqual(order);
    // Off while the card is fitted, on again before anything is counted; a pool is never thinner.
    const steps = dryRun(unit, plan, NOW) as DryStep[];
    const power = (id: string): string | undefined => steps.find(({ step }) => step === id)?.after.power;
    expect([power('power-down'), power('cable-1'), power('start')]).toEqual(['off', 'off', 'on']);
    for (const { after } of steps) expect(marginOfPool(poolOf(after))).toBe(marginOfPool(poolOf(unit)));
    const end = unitIn(worked(unit, plan), 'u') as UnitState;
    expect(end.enclosures[1]).toEqual({
      name: 'Extension 1',
      dial: 1,
      bays: Array.from({ length: 12 }, (_, i) => String(13 + i)),
    });
    expect(freeBays(end)).toHaveLength(12);
    expect(codeOf(growPlan(end, { pool: 'p', drive: { bytes: 4 * TB, basis: 'exact' } }))).toBe('planned');
  });

  it('is not believed while drives of the head are not seen: the count stops it', () => {
    const unit = rack();
    const plan = must(extendPlan(unit, { name: 'Extension 1', bays: 12 }));
    const run = worked(unit, plan, 'seen-1');
    const now = unitIn(run, 'u') as UnitState;
    expect(tried(run, now, 'seen-1', { kind: 'number', number: 11 })).toBe('drives-missing');
    expect(tried(run, now, 'seen-1', { kind: 'number', number: 12 })).toBe('done');
  });

  it('is refused past what the family reaches, on a dial that is taken, and where a box is away', () => {
    const extended = unitIn(
      worked(rack(), must(extendPlan(rack(), { name: 'Extension 1', bays: 12 }))),
      'u',
    ) as UnitState;
    expect(codeOf(extendPlan(rack(), { name: 'Extension 1', bays: 24 }))).toBe('too-many-bays');
    expect(codeOf(extendPlan(extended, { name: 'Extension 2', bays: 12, dial: 1 }))).toBe('dial-taken');
    expect(codeOf(extendPlan(extended, { name: 'Extension 1', bays: 12 }))).toBe('enclosure-exists');
    expect(codeOf(extendPlan(unitOf(reedbank, [4, 4], 'mirror', 2), { name: 'Extension 1', bays: 4 }))).toBe(
      'takes-none',
    );
    const away = must(apply(extended, { kind: 'enclosure-lost', enclosure: 'Extension 1' }, NOW) as UnitState);
    expect(codeOf(extendPlan(away, { name: 'Extension 2', bays: 12 }))).toBe('enclosure-away');
    expect(freeBays(away)).toEqual([]);
    const thin = must(apply(rack(), { kind: 'drive-failed', serial: 'D-3' }, NOW) as UnitState);
    expect(codeOf(extendPlan(thin, { name: 'Extension 1', bays: 12 }))).toBe('thinned');
    let sixty = rack();
    for (let i = 1; i < 5; i++)
      sixty = unitIn(
        worked(sixty, must(extendPlan(sixty, { name: `Extension ${String(i)}`, bays: 12 }))),
        'u',
      ) as UnitState;
    expect(codeOf(extendPlan(sixty, { name: 'Extension 5', bays: 12 }))).toBe('too-many-bays');
  });
});
