import { isUuid } from '../../core/value/isUuid';
import { randomUUID } from 'node:crypto';
import { writeOrder } from './writeOrder';
import type { FromSchema } from 'json-schema-to-ts';
import { whereWords } from '../../core/driveLife/driveEventWords';
import { isSameSerial, printedSerial, serialKey } from '../../core/drive/serial';
import type { DriveEvent } from '../../core/driveLife/event';
import type { ActEntry } from '../../core/world/act';
import { driveLedger } from '../../core/world/ledger';
import type { DriveDescription } from '../../schemas/driveEvent';
import type { Withdrawal } from '../../schemas/unitEvent';
import { isRefusal, refusal } from '../../core/value/refusal';
import { closeOrderSchema, newDriveEventSchema, newDrivesSchema, newOrderSchema } from '../../schemas/record';
import { findLives, lifeOf, type PlaceKind } from '../../store/driveLives';
import { closeOrder, listOrders } from '../../store/orders';
import { unitsMatching } from '../../store/shelf';
import type { App } from '../app';
import { actOf, named } from '../ledgers/asked';
import { recordAct } from '../ledgers/recordAct';
import { takeBackAct } from '../ledgers/takeBackAct';
import { momentOf } from '../door/moment';
import { askedFrom } from '../door/pageFrom';
import { operation, operationTaking } from '../door/operation';
import { readOwnRates } from './ownRates';
import { readDrive, readDrives } from './readDrives';
import { readTrends } from './readTrends';
import { actOfEntry, entriesOf } from '../../store/acts';

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
  const [units, drives] = await Promise.all([
    unitsMatching(app.db, wanted, MOST_FOUND),
    findLives(app.db, wanted, MOST_FOUND),
  ]);
  return [
    ...units.map(({ id, name, site, room }): Found => ({
      kind: 'unit',
      href: `/units/${id}`,
      title: name,
      detail: `${site}, ${room}`,
    })),
    ...drives.map(({ life: { serial, where } }): Found => ({
      kind: 'drive',
      href:
        where.kind === 'bay'
          ? `/units/${where.unit}?bay=${encodeURIComponent(where.bay)}`
          : `/drives/${encodeURIComponent(serial)}`,
      title: serial,
      detail: whereWords(where),
    })),
  ].slice(0, MOST_FOUND);
}

const findAnything = operation({
  method: 'GET',
  path: '/find',
  summary: 'Find units and drives',
  query: { q: 'Part of a name, a place or a serial.' },
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
  summary: `Drives by serial, ${String(PAGE)} at a time`,
  query: { place: `One of ${PLACES.join(', ')}.`, from: 'How many to skip.' },
  needs: 'reader',
  scope: 'read',
  run: async ({ app, query }) => {
    const from = askedFrom(query);
    if (isRefusal(from)) return from;
    const place = query.get('place') ?? undefined;
    if (place !== undefined && !(PLACES as readonly string[]).includes(place))
      return refusal('bad-input', `"place" is one of ${PLACES.join(', ')}.`);
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

const getTrends = operation({
  method: 'GET',
  path: '/drives/{serial}/trends',
  summary: 'What was measured of a drive over all its years, beside the others of its lot',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params, now }) => {
    const trends = await readTrends(app, params['serial'] ?? '', now);
    return trends ? { trends } : noDrive;
  },
});

const noDrive = refusal('not-found', 'There is no drive of this serial.');

const receive = operationTaking<FromSchema<typeof newDrivesSchema>>(newDrivesSchema)({
  method: 'POST',
  path: '/drives',
  summary: 'Take drives in: bought, received from an order, put into a drawer',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async (asked) => {
    const { app, body } = asked;
    const keys = body.drives.map(({ serial }) => serialKey(serial));
    const twice = keys.findIndex((key, i) => keys.indexOf(key) !== i);
    if (twice >= 0)
      return refusal(
        'serial-twice',
        `Serial ${body.drives[twice]?.serial ?? ''} is there twice.`,
        `/drives/${String(twice)}/serial`,
      );
    const { order, drawer } = body;
    if (order !== undefined && (await listOrders(app.db, order)).length === 0)
      return refusal('order-unknown', 'There is no such order.', '/order');
    for (const [i, key] of keys.entries()) {
      const known = await lifeOf(app.db, key);
      if (known && known.life.where.kind === 'bay')
        return refusal(
          'drive-elsewhere',
          `${key} stands in ${whereWords(known.life.where)}.`,
          `/drives/${String(i)}/serial`,
        );
    }
    const perDrive = drawer === undefined ? 1 : 2;
    const entries = body.drives.flatMap(({ serial, drive }, i): ActEntry[] => {
      const ledger = driveLedger(keys[i] as (typeof keys)[number]);
      const received = {
        kind: 'received' as const,
        drive: describedAs(drive, serial),
        ...(order === undefined ? {} : { order }),
      };
      return [
        { ledger, event: received },
        ...(drawer === undefined ? [] : [{ ledger, event: { kind: 'put-in-drawer' as const, drawer } }]),
      ];
    });
    const act = actOf(asked, entries);
    if (isRefusal(act)) return act;
    const result = await recordAct(app.db, act);
    if (isRefusal(result)) return named(result, (entry) => `/drives/${String(Math.floor(entry / perDrive))}`);
    return { act: result.act, drives: result.drives };
  },
});

/** A description with the serial as it is printed, where the drive goes by another form of it. */
function describedAs(drive: DriveDescription, serial: string): DriveDescription {
  const { printed: _said, ...rest } = drive;
  const printed = printedSerial(serial);
  return printed === serialKey(serial) ? rest : { ...rest, printed };
}

const recordOfDrive = operationTaking<FromSchema<typeof newDriveEventSchema>>(newDriveEventSchema)({
  method: 'POST',
  path: '/drives/{serial}/events',
  summary: 'Record what happened to a drive outside of units',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async (asked) => {
    const { app, params, body } = asked;
    const serial = params['serial'] ?? '';
    const ledger = driveLedger(serialKey(serial));
    const event = body.event as DriveEvent | Withdrawal;
    const isFirst = event.kind === 'described' || event.kind === 'received';
    if (!isFirst && (await lifeOf(app.db, ledger.id)) === undefined) return noDrive;
    const expects = [{ ...ledger, version: body.expectedVersion }];
    const said =
      event.kind === 'described' || event.kind === 'received'
        ? { ...event, drive: describedAs(event.drive, serial) }
        : event;
    const act = actOf(asked, said.kind === 'statement-withdrawn' ? [] : [{ ledger, event: said }], expects);
    if (isRefusal(act)) return act;
    if (event.kind === 'statement-withdrawn') {
      const about = (await entriesOf<DriveEvent>(app.db, ledger)).find(({ seq }) => seq === event.seq);
      const target = await actOfEntry(app.db, ledger, event.seq);
      if (!about || target === undefined || about.event.kind === 'fitted' || about.event.kind === 'taken-out')
        return refusal('entry-stands', 'What the unit says of this drive is withdrawn at the unit.', '/event/seq');
      const taken = await takeBackAct(app.db, act, target, event.reason);
      if (isRefusal(taken)) return taken.code === 'version-conflict' ? taken : { ...taken, pointer: '/event/seq' };
      return { act: taken.act, ...(taken.drives.find(({ life }) => isSameSerial(life.serial, serial)) ?? {}) };
    }
    const result = await recordAct(app.db, act);
    if (isRefusal(result)) return named(result, () => '/event');
    return { act: result.act, ...(result.drives[0] ?? {}) };
  },
});

const orderDrives = operationTaking<FromSchema<typeof newOrderSchema>>(newOrderSchema)({
  method: 'POST',
  path: '/drive-orders',
  summary: 'Write down drives that were ordered',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, body, now }) => {
    const orderedAt = momentOf(body.orderedAt, now);
    if (isRefusal(orderedAt)) return { ...orderedAt, pointer: '/orderedAt' };
    const { supplier, count, drive, expectedOn = null, note = null } = body;
    const order = {
      id: body.act?.toLowerCase() ?? randomUUID(),
      supplier,
      count,
      drive,
      expectedOn,
      note,
      recordedBy: viewer.name,
    };
    const written = await writeOrder(
      app.db,
      { ...order, orderedAt },
      { isDated: body.orderedAt !== undefined, isNamed: body.act !== undefined },
    );
    return written === 'differs'
      ? refusal(
          'act-differs',
          'An order of this id is on record, and says something else. Give every order an id of its own.',
          '/act',
        )
      : { id: written };
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

const endOrder = operationTaking<FromSchema<typeof closeOrderSchema>>(closeOrderSchema)({
  method: 'POST',
  path: '/drive-orders/{id}/close',
  summary: 'Expect nothing more of an order, with the reason',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, viewer, params, body }) => {
    const id = params['id'] ?? '';
    const known = isUuid(id) && (await listOrders(app.db, id)).length > 0;
    if (!known) return refusal('not-found', 'There is no such order.');
    return (await closeOrder(app.db, id, body.reason, viewer.name))
      ? { id }
      : refusal('order-closed', 'This order is closed already.');
  },
});

const failureRates = operation({
  method: 'GET',
  path: '/failure-rates',
  summary:
    'How often the drives of this shelf fail, learnt from its ledgers: failures, drive-years, and the rate a year with its span',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, now }) => ({ rates: await readOwnRates(app, now) }),
});

export const drives = [
  findAnything,
  listDrives,
  getDrive,
  getTrends,
  receive,
  recordOfDrive,
  orderDrives,
  orders,
  endOrder,
  failureRates,
];
