import type { FromSchema } from 'json-schema-to-ts';
import { serialKey } from '../../core/drive/serial';
import { lampsOf, decodeLamp } from '../../core/upkeep/decodeLamp';
import { readStatement } from '../../core/record/readStatement';
import { compareObservation } from '../../core/observe/compareObservation';
import { believe } from '../../core/observe/believe';
import { whyNotMeasured } from '../../core/observe/whyNotMeasured';
import { observeRound } from '../../core/observe/observeRound';
import { poolUnknown } from '../../core/unit/applyPool';
import type { UnitEvent } from '../../core/unit/event';
import { marginsOf } from '../../core/unit/margin';
import { baysOf, type UnitState } from '../../core/unit/state';
import { ledgersOf } from '../../core/world/consequences';
import { record } from '../../core/world/record';
import { worldOf } from '../../core/world/world';
import { entryOf } from '../../core/value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { entriesSchema, previewSchema, readingsSchema, roundSchema, statementSchema } from '../../schemas/record';
import { loadLedgers } from '../../store/acts';
import { keptOtherwise, type Reading } from '../../store/readings';
import type { StoredUnit } from '../../store/units';
import { momentOf } from '../door/moment';
import { operation, operationTaking } from '../door/operation';
import { addMeasured } from './measure';
import { actOf, expectsUnit, named, ofUnit } from '../ledgers/asked';
import { recordAct, recordActIn } from '../ledgers/recordAct';
import { inTransaction } from '../ledgers/inTransaction';
import { aboutUnit, findUnit } from './findUnit';
import { recorded } from './unitOperations';

const previewEvent = operationTaking<FromSchema<typeof previewSchema>>(previewSchema)({
  method: 'POST',
  path: '/units/{id}/previews',
  summary: 'What an event would change, and what must be heard before; records nothing',
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(async (asked, unit) => {
    const { app, body } = asked;
    const act = actOf(asked, ofUnit(unit.id, [body.event as UnitEvent]));
    if (isRefusal(act)) return act;
    // Judged as it would be recorded, at its own moment and on what happened since; and nothing is saved.
    const seen = record(worldOf(await loadLedgers(app.db, ledgersOf(act.entries), act.happenedAt)), act);
    if (isRefusal(seen)) return named(seen, () => '/event');
    const after = seen.ledgers.find(({ id }) => id === unit.id)?.state as UnitState;
    return {
      version: unit.version,
      marginBefore: marginsOf(unit.state),
      marginAfter: marginsOf(after),
      hazards: seen.hazards,
    };
  }),
});

const recordEntries = operationTaking<FromSchema<typeof entriesSchema>>(entriesSchema)({
  method: 'POST',
  path: '/units/{id}/entries',
  summary: 'Record several things that belong together: all of them or none',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: aboutUnit(async (asked, unit) => {
    const { app, body } = asked;
    const act = actOf(asked, ofUnit(unit.id, body.events as UnitEvent[]), expectsUnit(unit.id, body.expectedVersion));
    if (isRefusal(act)) return act;
    const result = await recordAct(app.db, act);
    return isRefusal(result)
      ? named(result, (entry) => `/events/${String(entry)}`)
      : recorded(result, result.units[0] as StoredUnit);
  }),
});

const statements = operationTaking<FromSchema<typeof statementSchema>>(statementSchema)({
  method: 'POST',
  path: '/units/{id}/statements',
  summary: 'What a few words about a unit could mean, the likeliest first; records nothing',
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(({ body }, unit) => ({ version: unit.version, meanings: readStatement(unit.state, body.text) })),
});

const lamps = operation({
  method: 'GET',
  path: '/units/{id}/lamps',
  summary: 'What can be seen and heard on this unit, what it means in its family, and what it means now',
  needs: 'reader',
  scope: 'read',
  query: { bay: 'The bay it is lit at, for the lamps of one bay.' },
  run: aboutUnit(({ query, now }, unit) => {
    const bay = query.get('bay') ?? undefined;
    const { state } = unit;
    if (bay !== undefined && !baysOf(state).includes(bay))
      return refusal('bay-unknown', `${state.name} has no bay ${bay}.`, '/bay');
    return { lamps: lampsOf(state.profile).map(({ see }) => decodeLamp(state, see, now.toISOString(), bay)) };
  }),
});

const walkRound = operationTaking<FromSchema<typeof roundSchema>>(roundSchema)({
  method: 'POST',
  path: '/units/{id}/rounds',
  summary:
    'One unit of the evening round: lamps, drives seen, fill, how far work is; and what of that a person has to look at',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: aboutUnit(async (asked, unit) => {
    const { app, body, now } = asked;
    const at = now.toISOString();
    const readings: Reading[] = [];
    const { used = [], progress = [] } = body;
    // Else it is sent again, or somebody was first: the act says which, and what it says of work is judged no more.
    const isAsSeen = unit.version === body.expectedVersion;
    const running = Object.values(unit.state.jobs).map(({ pool }) => pool);
    for (const [i, { pool: id }] of progress.entries()) {
      const [pool, pointer] = [entryOf(unit.state.pools, id), `/progress/${String(i)}/pool`];
      if (!pool) return { ...poolUnknown(unit.state, id), pointer };
      if (isAsSeen && !running.includes(id))
        return refusal('job-unknown', `Nothing runs in ${pool.name}, by the record.`, pointer);
    }
    for (const [i, { pool: id, share }] of used.entries()) {
      const pool = entryOf(unit.state.pools, id);
      if (!pool) return { ...poolUnknown(unit.state, id), pointer: `/used/${String(i)}/pool` };
      readings.push({
        unit: unit.id,
        subject: id,
        metric: 'used-bytes',
        at,
        value: Math.round(share * pool.shownBytes),
      });
    }
    const { seen, signs, note } = body;
    const event: UnitEvent = {
      kind: 'round-walked',
      signs,
      ...(seen === undefined ? {} : { seen }),
      ...(note === undefined || note === '' ? {} : { note }),
    };
    const observation = observeRound(unit.state, isAsSeen ? { ...(seen === undefined ? {} : { seen }), progress } : {});
    const { certain, doubtful } = believe(unit.state, observation, compareObservation(unit.state, observation), []);
    const events = [event, ...certain.flatMap((one) => one.events)];
    const act = actOf(asked, ofUnit(unit.id, events), expectsUnit(unit.id, body.expectedVersion));
    if (isRefusal(act)) return act;
    const result = await inTransaction(app.db, async (tx) => {
      const done = await recordActIn(tx, act);
      if (!isRefusal(done)) await addMeasured(tx, readings);
      return done;
    });
    return isRefusal(result)
      ? named(result, () => '')
      : {
          ...recorded(result, result.units[0] as StoredUnit),
          doubtful: doubtful.map(({ code, sentence }) => ({ code, sentence })),
        };
  }),
});

/** One thing was not read twice at one moment: one of the two is wrong, and nobody here knows which. */
function readOtherwise(i: number): Refusal {
  return refusal(
    'read-otherwise',
    'Another value was read of this at the same moment: which of the two is right?',
    `/readings/${String(i)}/value`,
  );
}

const addReadings = operationTaking<FromSchema<typeof readingsSchema>>(readingsSchema)({
  method: 'POST',
  path: '/readings',
  summary: 'Add measured values, of pools and of drives; all of them or none',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  mostBytes: 10_000_000,
  run: async ({ app, body, now }) => {
    const readings: Reading[] = [];
    const known = new Map<string, { readonly subjects: ReadonlySet<string>; readonly holds: Record<string, number> }>();
    const values = new Map<string, number>();
    for (const [i, { unit: id, subject, metric, at, value }] of body.readings.entries()) {
      let of = known.get(id);
      if (!of) {
        const unit = await findUnit(app, id);
        if (isRefusal(unit)) return refusal('unit-unknown', unit.sentence, `/readings/${String(i)}/unit`);
        const pools = Object.values(unit.state.pools);
        of = {
          subjects: new Set([...Object.keys(unit.state.pools), ...Object.keys(unit.state.drives)]),
          holds: Object.fromEntries(pools.map((pool) => [pool.id, pool.shownBytes])),
        };
        known.set(id, of);
      }
      const about = of.subjects.has(subject) ? subject : serialKey(subject);
      if (!of.subjects.has(about))
        return refusal(
          'subject-unknown',
          `This unit has neither a pool nor a drive called ${subject}.`,
          `/readings/${String(i)}/subject`,
        );
      const why = whyNotMeasured(metric, value, entryOf(of.holds, about));
      if (why !== null) return refusal('bad-input', why, `/readings/${String(i)}/value`);
      const moment = momentOf(at, now);
      if (isRefusal(moment)) return { ...moment, pointer: `/readings/${String(i)}/at` };
      const what = `${id} ${about} ${metric} ${moment}`;
      if ((values.get(what) ?? value) !== value) return readOtherwise(i);
      values.set(what, value);
      readings.push({ unit: id, subject: about, metric, at: moment, value });
    }
    const added = await inTransaction(app.db, async (tx) => {
      const count = await addMeasured(tx, readings);
      // Looked at afterwards: whoever sent another value in the same moment is waited for by then.
      const other = await keptOtherwise(tx, readings);
      return other === null ? count : readOtherwise(other);
    });
    return isRefusal(added) ? added : { added };
  },
});

export const recordOperations = [previewEvent, recordEntries, statements, lamps, walkRound, addReadings];
