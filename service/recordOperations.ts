import type { FromSchema } from 'json-schema-to-ts';
import { lampsOf, decodeLamp } from '../core/upkeep/decodeLamp';
import { readStatement } from '../core/record/readStatement';
import { compareReport } from '../core/report/compareReport';
import { readReport } from '../core/report/readReport';
import type { UnitEvent } from '../core/unit/event';
import { preview } from '../core/unit/preview';
import { baysOf } from '../core/unit/state';
import { isRefusal, refusal } from '../core/value/refusal';
import { entriesSchema, previewSchema, readingsSchema, reportSchema, roundSchema, statementSchema } from '../schemas/record';
import type { Reading } from '../store/readings';
import { momentOf } from './moment';
import { operation, operationTaking } from './operation';
import { addMeasured } from './measure';
import { append, appendIn } from './unitLedger';
import { inOnePiece } from './inOnePiece';
import { findUnit, shown } from './unitOperations';

const previewEvent = operationTaking<FromSchema<typeof previewSchema>>(previewSchema, {
  method: 'POST',
  path: '/units/{id}/previews',
  summary: 'What an event would change, and what must be heard before; records nothing',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params, body, now }) => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const happenedAt = momentOf(body.happenedAt, now);
    if (isRefusal(happenedAt)) return happenedAt;
    const seen = preview(unit.state, body.event as UnitEvent, happenedAt);
    if (isRefusal(seen)) return { ...seen, pointer: `/event${seen.pointer ?? ''}` };
    const { marginBefore, marginAfter, hazards } = seen;
    return { version: unit.version, marginBefore, marginAfter, hazards };
  },
});

const recordEntries = operationTaking<FromSchema<typeof entriesSchema>>(entriesSchema, {
  method: 'POST',
  path: '/units/{id}/entries',
  summary: 'Record several things that belong together: all of them or none',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const happenedAt = momentOf(body.happenedAt, now);
    if (isRefusal(happenedAt)) return happenedAt;
    const entries = (body.events as UnitEvent[]).map((event) => ({ event, happenedAt }));
    const result = await append(app.db, unit.id, body.expectedVersion, entries, viewer.name);
    return isRefusal(result) ? result : { ...shown(result.unit), hazards: result.hazards };
  },
});

const statements = operationTaking<FromSchema<typeof statementSchema>>(statementSchema, {
  method: 'POST',
  path: '/units/{id}/statements',
  summary: 'What a few words about a unit could mean, the likeliest first; records nothing',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params, body }) => {
    const unit = await findUnit(app, params['id']);
    return isRefusal(unit) ? unit : { version: unit.version, meanings: readStatement(unit.state, body.text) };
  },
});

const reports = operationTaking<FromSchema<typeof reportSchema>>(reportSchema, {
  method: 'POST',
  path: '/units/{id}/reports',
  summary: "Hold what a unit's page reports, pasted, against the record; records nothing",
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params, body }) => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const report = readReport(body.text, baysOf(unit.state), Object.keys(unit.state.drives));
    return { version: unit.version, report, contradictions: compareReport(unit.state, report) };
  },
});

const lamps = operation({
  method: 'GET',
  path: '/units/{id}/lamps',
  summary: 'What can be seen and heard on this unit, what it means in its family, and what it means now',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params }) => {
    const unit = await findUnit(app, params['id']);
    return isRefusal(unit) ? unit : { lamps: lampsOf(unit.state.profile).map(({ see }) => decodeLamp(unit.state, see)) };
  },
});

const walkRound = operationTaking<FromSchema<typeof roundSchema>>(roundSchema, {
  method: 'POST',
  path: '/units/{id}/rounds',
  summary: 'One unit of the evening round: lamps, drives seen, fill',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const at = now.toISOString();
    const readings: Reading[] = [];
    for (const [i, { pool: id, share }] of (body.used ?? []).entries()) {
      const pool = unit.state.pools[id];
      if (!pool) return refusal('pool-unknown', `${unit.state.name} has no pool ${id}.`, `/used/${String(i)}/pool`);
      readings.push({ unit: unit.id, subject: id, metric: 'used-bytes', at, value: Math.round(share * pool.shownBytes) });
    }
    const { seen, signs, note } = body;
    const event: UnitEvent = { kind: 'round-walked', signs, ...(seen === undefined ? {} : { seen }), ...(note === undefined || note === '' ? {} : { note }) };
    const result = await inOnePiece(app.db, async (work) => {
      const appended = await appendIn(work, unit.id, body.expectedVersion, [{ event, happenedAt: at }], viewer.name);
      if (!isRefusal(appended)) await addMeasured(work, readings);
      return appended;
    });
    return isRefusal(result) ? result : shown(result.unit);
  },
});

const addReadings = operationTaking<FromSchema<typeof readingsSchema>>(readingsSchema, {
  method: 'POST',
  path: '/readings',
  summary: 'Add measured values, of pools and of drives; all of them or none',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  mostCharacters: 10_000_000,
  run: async ({ app, body, now }) => {
    const readings: Reading[] = [];
    const known = new Map<string, ReadonlySet<string>>();
    for (const [i, { unit: id, subject, metric, at, value }] of body.readings.entries()) {
      let subjects = known.get(id);
      if (!subjects) {
        const unit = await findUnit(app, id);
        if (isRefusal(unit)) return refusal('unit-unknown', unit.sentence, `/readings/${String(i)}/unit`);
        subjects = new Set([...Object.keys(unit.state.pools), ...Object.keys(unit.state.drives)]);
        known.set(id, subjects);
      }
      if (!subjects.has(subject))
        return refusal('subject-unknown', `This unit has neither a pool nor a drive called ${subject}.`, `/readings/${String(i)}/subject`);
      const moment = momentOf(at, now);
      if (isRefusal(moment)) return { ...moment, pointer: `/readings/${String(i)}/at` };
      readings.push({ unit: id, subject, metric, at: moment, value });
    }
    const added = await inOnePiece(app.db, (work) => addMeasured(work, readings));
    return isRefusal(added) ? added : { added };
  },
});

export const record = [previewEvent, recordEntries, statements, reports, lamps, walkRound, addReadings];
