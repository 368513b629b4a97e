import { isUuid } from '../../core/value/isUuid';
import type { FromSchema } from 'json-schema-to-ts';
import { serialKey } from '../../core/drive/serial';
import type { Hazard } from '../../core/unit/preview';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { AnyEvent, LedgerName } from '../../core/world/ledger';
import { actBackSchema, actSchema } from '../../schemas/record';
import { actOf, named } from './asked';
import { recordAct } from './recordAct';
import type { Done } from './save';
import { takeBackAct } from './takeBackAct';
import { operationTaking } from '../door/operation';

/** A ledger as a request names it. */
interface Named {
  readonly unit?: string;
  readonly drive?: string;
  readonly plan?: string;
}

function ledgerNamed({ unit, drive, plan }: Named): LedgerName {
  // Ids are compared as the database writes them.
  if (unit !== undefined) return { kind: 'unit', id: unit.toLowerCase() };
  return drive === undefined
    ? { kind: 'plan', id: (plan ?? '').toLowerCase() }
    : { kind: 'drive', id: serialKey(drive) };
}

/** What came of an act, and where the ledgers it touched are now. */
interface ActRecorded {
  readonly id: string;
  readonly versions: readonly (Named & { readonly version: number })[];
  readonly hazards: readonly Hazard[];
}

function answered({ act, versions, hazards }: Done): ActRecorded {
  return { id: act, versions: versions.map(({ kind, id, version }) => ({ [kind]: id, version })), hazards };
}

/** A ledger that is not there is at fault as a whole. */
function withoutRest(no: Refusal): Refusal {
  return { ...no, pointer: /^\/entries\/\d+/.exec(no.pointer ?? '')?.[0] ?? '' };
}

interface ActSent {
  readonly id: string;
  readonly happenedAt?: string;
  readonly expects?: readonly (Named & { readonly version: number })[];
  readonly entries: readonly (Named & { readonly event: AnyEvent })[];
}

const send = operationTaking<ActSent>(actSchema)({
  method: 'POST',
  path: '/acts',
  summary:
    'Record what happened to units, drives and plans at once: whole or not at all, and once however often it is sent',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, body, now }) => {
    const entries = body.entries.map((entry) => ({ ledger: ledgerNamed(entry), event: entry.event }));
    const expects = (body.expects ?? []).map((one) => ({ ...ledgerNamed(one), version: one.version }));
    const happened = body.happenedAt === undefined ? {} : { happenedAt: body.happenedAt };
    const act = actOf({ viewer, now, body: { act: body.id, ...happened } }, entries, expects);
    if (isRefusal(act)) return act;
    const result = await recordAct(app.db, act);
    if (!isRefusal(result))
      return !result.isNew ? { kind: 'status-answer' as const, status: 200, body: answered(result) } : answered(result);
    if (result.code === 'version-conflict') return result;
    const field = { 'not-registered': 'unit', 'drive-unknown': 'drive' }[result.code];
    return named(
      field === undefined ? result : withoutRest(result),
      (entry) => `/entries/${String(entry)}/${field ?? 'event'}`,
    );
  },
});

const back = operationTaking<FromSchema<typeof actBackSchema>>(actBackSchema)({
  method: 'POST',
  path: '/acts/{id}/back',
  summary: 'Take a whole act back, in every ledger it touched. It stands: what was right after all is recorded again',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async (asked) => {
    const { app, params, body } = asked;
    const id = (params['id'] ?? '').toLowerCase();
    if (!isUuid(id)) return refusal('not-found', 'There is no such act.');
    const act = actOf(asked, []);
    if (isRefusal(act)) return act;
    const taken = await takeBackAct(app.db, act, id, body.reason);
    if (!isRefusal(taken)) return answered(taken);
    const { pointer: _none, ...no } = taken;
    return no;
  },
});

export const acts = [send, back];
