import { randomUUID } from 'node:crypto';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import type { Act, ActEntry } from '../../core/world/act';
import { unitLedger } from '../../core/world/ledger';
import type { UnitEvent } from '../../core/unit/event';
import { momentOf } from '../door/moment';
import type { Asked } from '../door/operation';
import { actorOf } from '../access/viewer';

/** What a request says of the act it makes, whatever it is about. */
interface Sent {
  readonly act?: string;
  readonly happenedAt?: string;
}

/** The act of a request: its sender's id or a new one, who is asking, and when it happened. */
export function actOf(
  { viewer, body, now }: Pick<Asked<Sent>, 'viewer' | 'body' | 'now'>,
  entries: readonly ActEntry[],
  expects: Act['expects'] = [],
): Act | Refusal {
  const happenedAt = momentOf(body.happenedAt, now);
  if (isRefusal(happenedAt)) return happenedAt;
  return {
    kind: 'act',
    id: body.act?.toLowerCase() ?? randomUUID(),
    by: actorOf(viewer),
    happenedAt,
    ...(body.happenedAt === undefined ? {} : { isDated: true }),
    expects,
    entries,
  };
}

/** Events of one unit. */
export function ofUnit(unit: string, events: readonly UnitEvent[]): ActEntry[] {
  return events.map((event) => ({ ledger: unitLedger(unit), event }));
}

/** The version of one unit its author looked at. */
export function expectsUnit(unit: string, version: number): Act['expects'] {
  return [{ kind: 'unit', id: unit, version }];
}

/**
 * A refusal as the fields of a request know it: entries of an act are told by their number, which the request may call
 * otherwise.
 *
 * @param field the request's own pointer for an entry; the rest is appended
 */
export function named(no: Refusal, field: (entry: number) => string): Refusal {
  const { pointer } = no;
  if (pointer === undefined) return no;
  if (no.code === 'version-conflict') return { ...no, pointer: '/expectedVersion' };
  const [, entry, rest = ''] = /^\/entries\/(\d+)(?:\/event)?(.*)$/.exec(pointer) ?? [];
  return entry === undefined ? no : { ...no, pointer: field(Number(entry)) + rest };
}
