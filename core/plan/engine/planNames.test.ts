import { describe, expect, it } from '@jest/globals';
import causeway from '../../platform/profiles/causeway.json';
import plain from '../../platform/profiles/plain.json';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import tidemill from '../../platform/profiles/tidemill.json';
import type { Scheme } from '../../layout/scheme';
import { isRefusal, type Refusal } from '../../value/refusal';
import { unitIn, planIn } from '../../world/world';
import type { UnitState } from '../../unit/state';
import { changeLevelPlan } from '../makers/changeLevel';
import { growPlan } from '../makers/grow';
import { replacePlan } from '../makers/replace';
import { replaceAllPlan } from '../makers/replaceAll';
import { NOW, unitOf, worked } from '../makers/testPlans';
import type { PlanBody } from '../plan';
import { byBays, dryRun } from './dryRun';

const BYTES = 4e12;
const drive = { bytes: BYTES, basis: 'exact' as const };
const larger = { bytes: 2 * BYTES, basis: 'exact' as const };

/** Every plan a unit may have whose drives nobody has read yet. */
function plansOf(unit: UnitState): readonly PlanBody[] {
  const made: readonly (PlanBody | Refusal)[] = [
    replacePlan(unit, { serial: 'D-2', way: 'in-place', drive }),
    replacePlan(unit, { serial: 'D-2', way: 'free-bay', bay: '5', drive }),
    replaceAllPlan(unit, { pool: 'p', way: 'in-place', drive: larger }),
    growPlan(unit, { pool: 'p', bays: ['5'], drive }),
    ...(['parity-1', 'parity-2', 'mixed-2', 'dedicated-2'] as const).map((to) =>
      changeLevelPlan(unit, { pool: 'p', to, drive }),
    ),
  ];
  return made.filter((one): one is PlanBody => !isRefusal(one));
}

/** Names of the model's own, which nobody has ever read off a drive. */
const INTERNAL = /PLANNED-|new in \d|undefined|\[object|NaN/;

describe.each<[string, object, Scheme]>([
  ['fixed classic levels', reedbank, 'parity-1'],
  ['banded pools', saltern, 'mixed-1'],
  ['dedicated parity', tidemill, 'dedicated-1'],
  ['a rack family', causeway, 'parity-2'],
  ['plain', plain, 'parity-1'],
])('what is left of a plan, of %s', (_name, profile, scheme) => {
  const unit = unitOf(profile, [4, 4, 4, 4], scheme, 6);

  it('goes on with the drive that is there: at no step it is stopped for another, and no internal name reaches anybody', () => {
    const plans = plansOf(unit);
    expect(plans.length).toBeGreaterThan(1);
    for (const plan of plans)
      for (const { id } of plan.steps) {
        const world = worked(unit, plan, id);
        const now = unitIn(world, 'u') as UnitState;
        const done = planIn(world, 'r')?.done ?? {};
        const left = { ...plan, steps: plan.steps.filter((step) => !Object.hasOwn(done, step.id)) };
        const run = dryRun(now, left, NOW);
        const sentences = run.flatMap((one) =>
          one.kind === 'dry-stop'
            ? [one.refusal.sentence]
            : [
                ...one.interlocks.flatMap(({ sentence, back }) => [sentence, back]),
                ...one.hazards.map(({ sentence }) => sentence),
              ],
        );
        expect(
          sentences.map((sentence) => byBays(sentence, unit)).filter((sentence) => INTERNAL.test(sentence)),
        ).toEqual([]);
        expect(
          run.flatMap((one) =>
            one.kind === 'dry-step' ? one.interlocks.filter(({ code }) => code === 'wrong-serial') : [],
          ),
        ).toEqual([]);
      }
  });
});

it('calls a drive nobody has read yet by its bay as its unit counts it, with its box where there are several', () => {
  const boxes = {
    enclosures: [
      { name: 'Head', bays: ['1', '2'] },
      { name: 'Extension 1', bays: ['3', '4'], dial: 1 },
    ],
  };
  expect(byBays('It erases PLANNED-2, PLANNED-3.', boxes)).toBe('It erases Head, tray 2, Extension 1, tray 1.');
  expect(byBays('PLANNED-3 is free.', { enclosures: [{ name: 'Head', bays: ['3'] }] })).toBe('bay 3 is free.');
});
