import { eventWords } from '../../core/record/eventWords';
import { whereWords } from '../../core/driveLife/driveEventWords';
import { canonicalJson } from '../../core/value/canonicalJson';
import { standingOfUnit, marginOfUnit } from '../../core/unit/margin';
import { importSchema, takeAwaySchema } from '../../schemas/takeAway';
import type { UnitEvent } from '../../core/unit/event';
import { unitLedger } from '../../core/world/ledger';
import { actsAfter, entriesOf, ledgersOfKind } from '../../store/acts';
import { listLives } from '../../store/driveLives';
import { listOrders } from '../../store/orders';
import { paperById } from '../../store/papers';
import { ownProfiles } from '../../store/profiles';
import { allReadings, paperIds } from '../../store/takeAway';
import { testedModels } from '../../store/testedModels';
import { snapshotOf, type Work } from '../../store/database';
import { unitById } from '../../store/units';
import type { App } from '../app';
import { csvLines, toCsv } from './csv';
import { importAll, type ExportDocument } from './importAll';
import { operation, operationTaking } from '../door/operation';

const DAY = (now: Date): string => now.toISOString().slice(0, 10);

/** The whole shelf as it is at one moment, as one JSON document that is written as it is read. */
async function* wholeShelf({ db }: App, now: Date): AsyncGenerator<string> {
  const { at, end } = await snapshotOf(db);
  try {
    yield* wholeShelfAt(at, now);
  } finally {
    // Whoever stops reading ends it too.
    await end();
  }
}

async function* wholeShelfAt(db: Work, now: Date): AsyncGenerator<string> {
  yield `{"format":"patient-shelf-export","version":2,"exportedAt":${JSON.stringify(now.toISOString())}`;
  yield* wholeActs(db);
  const orders = await listOrders(db);
  yield* list('orders', orders, ({ received: _received, ...order }) => Promise.resolve(order));
  yield* list('profiles', await ownProfiles(db), (profile) => Promise.resolve(profile));
  yield* list('testedModels', await testedModels(db), (model) => Promise.resolve(model));
  yield* list('papers', await paperIds(db), async (id) => {
    const paper = await paperById(db, id);
    if (!paper) return undefined;
    const { unit, serial, name, bytes, addedBy } = paper;
    return { id, unit, serial, name, base64: bytes.toString('base64'), addedBy };
  });
  yield ',\n"readings":[';
  let piece = '';
  let isFirst = true;
  for await (const { unit, subject, metric, at, value } of allReadings(db)) {
    piece += `${isFirst ? '\n' : ',\n'}${JSON.stringify([unit, subject, metric, at, value])}`;
    isFirst = false;
    if (piece.length > 60_000) {
      yield piece;
      piece = '';
    }
  }
  yield `${piece}]}\n`;
}

/** Every act in the order they were recorded, so many at a time. */
async function* wholeActs(db: Work): AsyncGenerator<string> {
  yield ',\n"acts":[';
  let [n, isFirst] = [0, true];
  for (;;) {
    const acts = await actsAfter(db, n, ACTS);
    for (const { n: _n, takesBack, entries, ...act } of acts) {
      const said = entries.map(({ kind, id, seq, event }) => ({ [kind]: id, seq, event }));
      yield `${isFirst ? '\n' : ',\n'}${JSON.stringify({ ...act, ...(takesBack === null ? {} : { takesBack }), entries: said })}`;
      isFirst = false;
    }
    n = acts.at(-1)?.n ?? n;
    if (acts.length < ACTS) break;
  }
  yield ']';
}

const ACTS = 500;

async function* list<T>(name: string, items: readonly T[], write: (item: T) => Promise<unknown>): AsyncGenerator<string> {
  yield `,\n"${name}":[`;
  let isFirst = true;
  for (const item of items) {
    const written = await write(item);
    if (written === undefined) continue;
    yield `${isFirst ? '\n' : ',\n'}${JSON.stringify(written)}`;
    isFirst = false;
  }
  yield ']';
}

const exportAll = operation({
  method: 'GET',
  path: '/export',
  file: 'application/json',
  summary: 'Everything but people and keys, as one JSON document',
  needs: 'reader',
  scope: 'read',
  run: ({ app, now }) =>
    Promise.resolve({ kind: 'file' as const, name: `patient-shelf-${DAY(now)}.json`, type: 'application/json; charset=utf-8', pieces: wholeShelf(app, now) }),
});

const exportSchema = operation({
  method: 'GET',
  path: '/schemas/export',
  summary: 'The JSON Schema of an export',
  needs: 'reader',
  scope: 'read',
  run: (): Promise<object> => Promise.resolve(takeAwaySchema),
});

const bringBack = operationTaking<{ document: ExportDocument; try?: boolean }>(importSchema)({
  method: 'POST',
  path: '/import',
  summary: 'Bring an export back: say row by row what would be added, changed, refused, and do it whole or not at all',
  needs: 'owner',
  scope: 'write',
  mostCharacters: 200_000_000,
  run: ({ app, viewer, body }) => importAll(app, body.document, viewer.name, body.try === true),
});

/** A sheet that is written as it is read. */
function sheet<const P extends string>(
  path: P,
  summary: string,
  name: string,
  head: readonly string[],
  rows: (app: App) => AsyncGenerator<(string | number | null)[]>,
) {
  return operation({
    method: 'GET',
    path,
    file: 'text/csv',
    summary,
    needs: 'reader',
    scope: 'read',
    run: ({ app, now }) =>
      Promise.resolve({ kind: 'file' as const, name: `${name}-${DAY(now)}.csv`, type: 'text/csv; charset=utf-8', pieces: lines(head, rows(app)) }),
  });
}

async function* lines(head: readonly string[], rows: AsyncGenerator<(string | number | null)[]>): AsyncGenerator<string> {
  yield toCsv(head, []);
  let some: (string | number | null)[][] = [];
  for await (const row of rows) {
    some.push(row);
    if (some.length < 500) continue;
    yield csvLines(some);
    some = [];
  }
  if (some.length > 0) yield csvLines(some);
}

const unitsSheet = sheet(
  '/units.csv',
  'Every unit as a sheet',
  'units',
  ['unit', 'site', 'room', 'family', 'bays', 'standing', 'can lose', 'serial', 'address', 'firmware', 'id'],
  async function* (app) {
    for (const id of await ledgersOfKind(app.db, 'unit')) {
      const unit = await unitById(app.db, id);
      if (!unit) continue;
      const { state } = unit;
      const { serial = '', address = '', firmware = '' } = state.details;
      const bays = state.enclosures.reduce((sum, { bays: of }) => sum + of.length, 0);
      yield [
        state.name,
        state.place.site,
        state.place.room,
        state.profile.name,
        bays,
        standingOfUnit(state),
        marginOfUnit(state),
        serial,
        address,
        firmware,
        id,
      ];
    }
  },
);

const drivesSheet = sheet(
  '/drives.csv',
  'Every drive as a sheet',
  'drives',
  ['serial', 'where', 'bytes', 'model', 'kind', 'lot', 'bought', 'warranty until', 'price', 'condition'],
  async function* (app) {
    const most = 1000;
    for (let from = 0; ; from += most) {
      const drives = await listLives(app.db, undefined, from, most);
      for (const { life, condition } of drives) {
        const { bytes, model = '', media = 'hard-disk', lot = '', boughtOn = '', warrantyUntil = '', priceCents } = life.drive;
        yield [
          life.serial,
          whereWords(life.where),
          bytes,
          model,
          media,
          lot,
          boughtOn,
          warrantyUntil,
          priceCents === undefined ? '' : (priceCents / 100).toFixed(2),
          condition ?? '',
        ];
      }
      if (drives.length < most) return;
    }
  },
);

const eventsSheet = sheet(
  '/events.csv',
  'Every entry of every unit as a sheet',
  'events',
  ['unit', 'entry', 'happened at', 'recorded at', 'recorded by', 'kind', 'what', 'details'],
  async function* (app) {
    for (const id of await ledgersOfKind(app.db, 'unit')) {
      const unit = (await unitById(app.db, id))?.state ?? { name: id, enclosures: [] };
      for (const { seq, happenedAt, recordedAt, recordedBy, event } of await entriesOf<UnitEvent>(app.db, unitLedger(id)))
        yield [unit.name, seq, happenedAt, recordedAt, recordedBy, event.kind, eventWords(event, unit), canonicalJson(event)];
    }
  },
);

const readingsSheet = sheet('/readings.csv', 'Every reading as a sheet', 'readings', ['unit', 'subject', 'metric', 'at', 'value'], async function* (app) {
  for await (const { unit, subject, metric, at, value } of allReadings(app.db)) yield [unit, subject, metric, at, value];
});

export const takeAway = [exportAll, exportSchema, bringBack, unitsSheet, drivesSheet, eventsSheet, readingsSheet];
