import { describe, expect, it } from '@jest/globals';
import type { Profile } from '../../platform/profile';
import causeway from '../../platform/profiles/causeway.json';
import reedbank from '../../platform/profiles/reedbank.json';
import { apply } from '../../unit/apply';
import { boxWords } from '../../unit/boxWords';
import type { UnitState } from '../../unit/state';
import { commissionPlan } from '../makers/commission/commissionPlan';
import { growPlan } from '../makers/grow';
import { must, NOW, TB, unitOf } from '../makers/testPlans';
import type { PlanBody } from '../plan';
import { dryRun } from './dryRun';
import { boxesOfStep, type GroupsAhead } from './boxesOfStep';
import { groupsAhead } from './groupsAhead';

const boxes = (count: number, bays: number): UnitState['enclosures'] =>
  Array.from({ length: count }, (_, box) => ({
    name: box === 0 ? 'Head' : `Extension ${String(box)}`,
    bays: Array.from({ length: bays }, (_, i) => String(box * bays + i + 1)),
    ...(box === 0 ? {} : { dial: box }),
  }));
const empty = (profile: object, enclosures: UnitState['enclosures']): UnitState =>
  must(
    apply(
      null,
      {
        kind: 'unit-registered',
        name: 'Greylag',
        place: { site: 'S', room: 'R' },
        profile: profile as Profile,
        enclosures: enclosures.map((box) => ({ ...box, bays: [...box.bays] })),
      },
      NOW,
    ) as UnitState,
  );
const aheadOf = (unit: UnitState, plan: PlanBody): GroupsAhead =>
  groupsAhead(unit, plan, dryRun(unit, plan, NOW)) as GroupsAhead;

describe('the groups go with the hands', () => {
  it('says per box which trays are which group, where the spares stand, and what is in none', () => {
    const unit = empty(causeway, boxes(3, 16));
    const bays = unit.enclosures.flatMap((box) => box.bays);
    const plan = must(
      commissionPlan(
        unit,
        {
          // The last eight trays stay empty.
          drives: bays.slice(0, 40).map((bay) => ({ bay, bytes: 8 * TB, basis: 'exact' })),
          pool: { name: 'Surveys', scheme: 'parity-2-groups', groupWidth: 12, spares: 4 },
        },
        () => 'p',
      ),
    );
    const ahead = aheadOf(unit, plan);
    const words = ahead.enclosures.map((box) => boxWords(ahead, box, ahead.shown));
    expect(words).toEqual([
      'group 1 = trays 1–12 · group 2 = trays 13–16',
      'group 2 = trays 1–8 · group 3 = trays 9–16',
      'group 3 = trays 1–4 · spares 5–8 · empty 9–16',
    ]);
    // Every step in which a hand fits, counts or makes them has its own box; the others have none.
    const shown = Object.fromEntries(
      plan.steps.flatMap((step) => {
        const here = boxesOfStep(ahead, step).map(({ name }) => name);
        return here.length === 0 ? [] : [[step.id, here]];
      }),
    );
    expect(shown).toEqual({
      'fit-1': ['Head'],
      'fit-2': ['Extension 1'],
      'fit-3': ['Extension 2'],
      'seen-1': ['Head'],
      'seen-2': ['Extension 1'],
      'seen-3': ['Extension 2'],
      pool: ['Head', 'Extension 1', 'Extension 2'],
    });
  });

  it('keeps the numbers of groups that were there when one is added, and names idle drives', () => {
    const built = unitOf(causeway, [8, 8, 8, 8, 8, 8], 'parity-1-groups', 16, 3);
    const idle = must(
      apply(
        built,
        { kind: 'drive-inserted', bay: '16', drive: { serial: 'IDLE', bytes: 8 * TB, basis: 'exact' } },
        NOW,
      ) as UnitState,
    );
    const plan = must(growPlan(idle, { pool: 'p', drive: { bytes: 8 * TB, basis: 'exact' } }));
    const ahead = aheadOf(idle, plan);
    const head = ahead.enclosures[0] as UnitState['enclosures'][number];
    expect(boxWords(ahead, head, ahead.shown)).toBe(
      'group 1 = bays 1–3 · group 2 = bays 4–6 · group 3 = bays 7–9 · in no group 16 · empty 10–15',
    );
  });

  it('follows the sizes, as the unit cuts them: the large ones are one group wherever they stand', () => {
    const unit = empty(causeway, boxes(1, 8));
    const wish = (size: (bay: string) => number): PlanBody =>
      must(
        commissionPlan(
          unit,
          {
            drives: (unit.enclosures[0]?.bays ?? []).map((bay) => ({ bay, bytes: size(bay) * TB, basis: 'exact' })),
            pool: { name: 'Surveys', scheme: 'parity-2-groups', groupWidth: 4 },
          },
          () => 'p',
        ),
      );
    const words = (plan: PlanBody): string => {
      const ahead = aheadOf(unit, plan);
      return boxWords(ahead, ahead.enclosures[0] as UnitState['enclosures'][number], ahead.shown);
    };
    expect(words(wish(() => 8))).toBe('group 1 = bays 1–4 · group 2 = bays 5–8');
    // Large ones go together, wherever they stand: cut in runs by size.
    expect(words(wish((bay) => (Number(bay) % 2 === 0 ? 8 : 4)))).toBe(
      'group 1 = bays 2, 4, 6, 8 · group 2 = bays 1, 3, 5, 7',
    );
  });

  it('has no groups for a plan that makes none', () => {
    const unit = unitOf(reedbank, [8, 8, 8], 'parity-1', 4);
    expect(groupsAhead(unit, { job: 'replace' }, [])).toBeNull();
    expect(groupsAhead(empty(reedbank, boxes(1, 4)), { job: 'commission' }, [])).toBeNull();
    expect(groupsAhead(unit, { job: 'grow' }, [])?.shown.groups).toEqual([{ name: 'Papers', bays: ['1', '2', '3'] }]);
  });
});
