import type { FromSchema } from 'json-schema-to-ts';
import { serialKey } from '../../core/drive/serial';
import { nextStep } from '../../core/planRun/progress';
import { partOf, unitsOfStep } from '../../core/plan/engine/unitsOfStep';
import { judgeScan, type ScanJudgement } from '../../core/scan/judgeScan';
import { freeBayList, scanListOf, type ScanList } from '../../core/scan/scanList';
import { isUuid } from '../../core/value/isUuid';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { judgeScanSchema } from '../../schemas/scan';
import { serialsNear } from '../../store/driveLives';
import { planById } from '../../store/plans';
import { unitById } from '../../store/units';
import type { App } from '../app';
import { knownOf } from '../drives/knownOf';
import { operationTaking } from '../door/operation';
import { findUnit } from '../units/findUnit';

type Body = FromSchema<typeof judgeScanSchema>;

/** What a serial that was read is, whose, and where it goes: judged on what is recorded of every drive and every unit. */

interface ListAt {
  /** The unit the hand is at: of a plan over two, the one the step acts on. */
  readonly at: string;
  readonly list: ScanList;
}

/** The list it is read for: that of a step of a plan, or the free bays of the unit. */
async function listOf(app: App, { unit: id, plan, step, bay }: Body): Promise<ListAt | Refusal> {
  const unit = await findUnit(app, id);
  if (isRefusal(unit)) return { ...unit, pointer: '/unit' };
  if (plan === undefined)
    return step === undefined
      ? { at: unit.id, list: freeBayList(unit.state, bay) }
      : refusal('bad-input', 'A step is of a plan: say which plan.', '/plan');
  const stored = isUuid(plan) ? await planById(app.db, plan) : undefined;
  const run = stored?.run;
  if (run?.units.includes(unit.id) !== true)
    return refusal('not-found', 'There is no such plan of this unit.', '/plan');
  const wanted = step === undefined ? nextStep(run) : run.plan.steps.find((one) => one.id === step);
  if (!wanted) return refusal('not-found', 'There is no such step in this plan.', '/step');
  const states = await Promise.all(run.units.map((one) => unitById(app.db, one)));
  const units = Object.fromEntries(states.flatMap((one) => (one ? [[one.id, one.state] as const] : [])));
  const at = unitsOfStep(wanted, run.units)[0] ?? unit.id;
  const list = scanListOf(units[at] ?? unit.state, partOf(wanted, at, run.units[0] ?? unit.id), units);
  return list ? { at, list } : refusal('no-scan', `“${wanted.title}” asks for no drive to be read.`, '/step');
}

const judge = operationTaking<Body>(judgeScanSchema)({
  method: 'POST',
  path: '/scans/judge',
  summary:
    'Judge a serial as it is read: planned for this bay or another, in already, another unit’s, stored, alike to one that is known, or unknown. Changes nothing',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, body, now }): Promise<ScanJudgement | Refusal> => {
    const found = await listOf(app, body);
    if (isRefusal(found)) return found;
    const { list, at } = found;
    const { serial: typed, drive, bay, read = [], not = [] } = body;
    if (bay !== undefined && body.plan !== undefined && !list.bays.some((one) => one.bay === bay))
      return refusal('bay-unknown', `Nothing is read for bay ${bay} at this step.`, '/bay');
    const [known, near] = await Promise.all([knownOf(app, typed, [at]), serialsNear(app.db, serialKey(typed))]);
    return judgeScan(list, {
      typed,
      ...(bay === undefined ? {} : { bay }),
      read: Object.fromEntries(read.map((one) => [one.bay, one.serial])),
      known,
      near,
      ...(drive === undefined ? {} : { drive }),
      not,
      at: now.toISOString(),
    });
  },
});

export const scans = [judge];
