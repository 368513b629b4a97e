import { randomUUID } from 'node:crypto';
import type { FromSchema } from 'json-schema-to-ts';
import { whereWords } from '../core/driveLife/driveEventWords';
import type { DriveEvent } from '../core/driveLife/event';
import { isRefusal, refusal } from '../core/value/refusal';
import { closeOrderSchema, newDriveEventSchema, newDrivesSchema, newOrderSchema } from '../schemas/record';
import { findLives, lifeOf, type PlaceKind } from '../store/driveLives';
import { closeOrder, insertOrder, listOrders } from '../store/orders';
import { unitsMatching } from '../store/shelf';
import type { App } from './app';
import { appendToDrives, type DriveEntry } from './driveLedger';
import { momentOf } from './moment';
import { operation, operationTaking } from './operation';
import { readDrive, readDrives } from './readDrives';

export interface Found {
  readonly kind: 'unit' | 'drive';
  /** Where it leads. */
  readonly href: string;
  readonly title: string;
  readonly detail: string;
}

const MOST_FOUND = 12;

/** Units by name or place, drives by any part of the serial, wherever they are. */
export async function find(app: App, text: string): Promise<Found[]> {
  const wanted = text.replaceAll('\0', '').trim().slice(0, 80);
  if (wanted === '') return [];
  const [units, drives] = await Promise.all([unitsMatching(app.db, wanted, MOST_FOUND), findLives(app.db, wanted, MOST_FOUND)]);
  return [
    ...units.map(({ id, name, site, room }): Found => ({ kind: 'unit', href: `/units/${id}`, title: name, detail: `${site}, ${room}` })),
    ...drives.map(({ life: { serial, where } }): Found => ({
      kind: 'drive',
      href: where.kind === 'bay' ? `/units/${where.unit}?bay=${encodeURIComponent(where.bay)}` : `/drives/${encodeURIComponent(serial)}`,
      title: serial,
      detail: whereWords(where),
    })),
  ].slice(0, MOST_FOUND);
}

const findAnything = operation({
  method: 'GET',
  path: '/find',
  summary: 'Find units and drives; ?q= is part of a name, a place or a serial',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, query }) => ({ found: await find(app, query.get('q') ?? '') }),
});

/** Drives a list hands out at a time. */
const PAGE = 1000;
const PLACES: readonly PlaceKind[] = ['in-hand', 'drawer', 'bay', 'under-warranty', 'gone'];

const listDrives = operation({
  method: 'GET',
  path: '/drives',
  summary: `Drives by serial, ${String(PAGE)} at a time; ?place= is one of ${PLACES.join(', ')}; ?from= is how many to skip`,
  needs: 'reader',
  scope: 'read',
  run: async ({ app, query }) => {
    const from = Number(query.get('from') ?? 0);
    if (!Number.isInteger(from) || from < 0) return refusal('bad-input', '"from" is a whole number, 0 and up.');
    const place = query.get('place') ?? undefined;
    if (place !== undefined && !(PLACES as readonly string[]).includes(place)) return refusal('bad-input', `"place" is one of ${PLACES.join(', ')}.`);
    return readDrives(app, place as PlaceKind | undefined, from, PAGE);
  },
});

const getDrive = operation({
  method: 'GET',
  path: '/drives/{serial}',
  summary: 'One drive: where it has lived, in which pools, what was measured of it',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params }) => (await readDrive(app, params['serial'] ?? '')) ?? noDrive,
});

const noDrive = refusal('not-found', 'There is no drive of this serial.');

const receive = operationTaking<FromSchema<typeof newDrivesSchema>>(newDrivesSchema, {
  method: 'POST',
  path: '/drives',
  summary: 'Take drives in: bought, received from an order, put into a drawer',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, body, now }) => {
    const happenedAt = momentOf(body.happenedAt, now);
    if (isRefusal(happenedAt)) return happenedAt;
    const keys = body.drives.map(({ serial }) => serial.toUpperCase());
    const twice = keys.findIndex((key, i) => keys.indexOf(key) !== i);
    if (twice >= 0) return refusal('serial-twice', `Serial ${body.drives[twice]?.serial ?? ''} is there twice.`, `/drives/${String(twice)}/serial`);
    const { order, drawer } = body;
    if (order !== undefined && (await listOrders(app.db, order)).length === 0) return refusal('order-unknown', 'There is no such order.', '/order');
    for (const [i, { serial }] of body.drives.entries()) {
      const known = await lifeOf(app.db, serial);
      if (known && known.life.where.kind === 'bay')
        return refusal('drive-elsewhere', `${serial} stands in ${whereWords(known.life.where)}.`, `/drives/${String(i)}/serial`);
    }
    const entries = body.drives.flatMap(({ serial, drive }): DriveEntry[] => [
      { serial, happenedAt, event: { kind: 'received', drive, ...(order === undefined ? {} : { order }) } },
      ...(drawer === undefined ? [] : [{ serial, happenedAt, event: { kind: 'put-in-drawer' as const, drawer } }]),
    ]);
    const result = await appendToDrives(app.db, entries, viewer.name);
    return isRefusal(result) ? result : { drives: result };
  },
});

const recordOfDrive = operationTaking<FromSchema<typeof newDriveEventSchema>>(newDriveEventSchema, {
  method: 'POST',
  path: '/drives/{serial}/events',
  summary: 'Record what happened to a drive outside of units',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const serial = params['serial'] ?? '';
    const event = body.event as DriveEvent;
    if (event.kind === 'fitted' || event.kind === 'taken-out')
      return refusal('unit-says', 'That a drive went into a bay or came out is recorded at its unit.', '/event/kind');
    if ((await lifeOf(app.db, serial)) === undefined && event.kind !== 'described' && event.kind !== 'received') return noDrive;
    if (event.kind === 'statement-withdrawn') {
      const about = (await readDrive(app, serial))?.ledger.find(({ seq }) => seq === event.seq);
      if (!about || about.unit !== undefined) return refusal('entry-stands', 'What the unit says of this drive is withdrawn at the unit.', '/event/seq');
    }
    const happenedAt = momentOf(body.happenedAt, now);
    if (isRefusal(happenedAt)) return happenedAt;
    const result = await appendToDrives(app.db, [{ serial, event, happenedAt }], viewer.name, body.expectedVersion);
    if (isRefusal(result)) return { ...result, pointer: result.code === 'version-conflict' ? '/expectedVersion' : `/event${result.pointer ?? ''}` };
    return result[0] ?? noDrive;
  },
});

const orderDrives = operationTaking<FromSchema<typeof newOrderSchema>>(newOrderSchema, {
  method: 'POST',
  path: '/drive-orders',
  summary: 'Write down drives that were ordered',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, body, now }) => {
    const orderedAt = momentOf(body.orderedAt, now);
    if (isRefusal(orderedAt)) return { ...orderedAt, pointer: '/orderedAt' };
    const id = randomUUID();
    const { supplier, count, drive, expectedOn = null, note = null } = body;
    await insertOrder(app.db, { id, orderedAt, supplier, count, drive, expectedOn, note, recordedBy: viewer.name });
    return { id };
  },
});

const orders = operation({
  method: 'GET',
  path: '/drive-orders',
  summary: 'Drives on order, with what has come of each',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ orders: await listOrders(app.db) }),
});

const endOrder = operationTaking<FromSchema<typeof closeOrderSchema>>(closeOrderSchema, {
  method: 'POST',
  path: '/drive-orders/{id}/close',
  summary: 'Expect nothing more of an order, with the reason',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, viewer, params, body }) => {
    const id = params['id'] ?? '';
    const known = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(id) && (await listOrders(app.db, id)).length > 0;
    if (!known) return refusal('not-found', 'There is no such order.');
    return (await closeOrder(app.db, id, body.reason, viewer.name)) ? { id } : refusal('order-closed', 'This order is closed already.');
  },
});

export const drives = [findAnything, listDrives, getDrive, receive, recordOfDrive, orderDrives, orders, endOrder];
