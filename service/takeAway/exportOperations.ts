import { eventWords } from '../../core/record/eventWords';
import { whereWords } from '../../core/driveLife/driveEventWords';
import { canonicalJson } from '../../core/value/canonicalJson';
import { standingOfUnit, marginOfUnit } from '../../core/unit/margin';
import { importSchema, takeAwaySchema } from '../../schemas/takeAway';
import type { UnitEvent } from '../../core/unit/event';
import { unitLedger } from '../../core/world/ledger';
import { entriesOf, ledgersOfKind } from '../../store/acts';
import { listLives } from '../../store/driveLives';
import { allReadings } from '../../store/takeAway';
import { unitById } from '../../store/units';
import type { App } from '../app';
import { csvLines, toCsv } from './csv';
import { importAll, type ExportDocument } from './importAll';
import { operation, operationTaking } from '../door/operation';
import { sheetMetadata, type ColumnTypes } from './sheetMetadata';
import { wholeShelf } from './wholeShelf';

const DAY = (now: Date): string => now.toISOString().slice(0, 10);

const exportAll = operation({
  method: 'GET',
  path: '/export',
  file: 'application/json',
  summary: 'Everything but people and keys, as one JSON document',
  needs: 'reader',
  scope: 'read',
  run: ({ app, now }) =>
    Promise.resolve({
      kind: 'file' as const,
      name: `patient-shelf-${DAY(now)}.json`,
      type: 'application/json; charset=utf-8',
      pieces: wholeShelf(app, now),
    }),
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
  // As long as a text can be here.
  mostBytes: 500_000_000,
  run: ({ app, viewer, body, now }) =>
    importAll(app, body.document, { by: viewer.name, now, isTrial: body.try === true }),
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
      Promise.resolve({
        kind: 'file' as const,
        name: `${name}-${DAY(now)}.csv`,
        type: 'text/csv; charset=utf-8',
        pieces: lines(head, rows(app)),
      }),
  });
}

/** What the columns of a sheet are, where the standard of such metadata looks for it. */
function columnsOf<const P extends string>(path: P, head: readonly string[], types: ColumnTypes) {
  return operation({
    method: 'GET',
    path: `${path}-metadata.json` as const,
    file: 'application/csvm+json',
    summary: `What the columns of ${path.slice(1)} are: text, numbers, moments (CSV on the Web)`,
    needs: 'reader',
    scope: 'read',
    run: () =>
      Promise.resolve({
        kind: 'file' as const,
        name: `${path.slice(1)}-metadata.json`,
        type: 'application/csvm+json; charset=utf-8',
        text: JSON.stringify(sheetMetadata(path.slice(1), head, types)),
      }),
  });
}

async function* lines(
  head: readonly string[],
  rows: AsyncGenerator<(string | number | null)[]>,
): AsyncGenerator<string> {
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

const UNIT_COLUMNS = [
  'unit',
  'site',
  'room',
  'family',
  'bays',
  'standing',
  'can lose',
  'serial',
  'address',
  'firmware',
  'id',
] as const;
const unitsSheet = sheet('/units.csv', 'Every unit as a sheet', 'units', UNIT_COLUMNS, async function* (app) {
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
});

const DRIVE_COLUMNS = [
  'serial',
  'where',
  'bytes',
  'model',
  'kind',
  'lot',
  'bought',
  'warranty until',
  'price',
  'condition',
] as const;
const drivesSheet = sheet('/drives.csv', 'Every drive as a sheet', 'drives', DRIVE_COLUMNS, async function* (app) {
  const most = 1000;
  for (let from = 0; ; from += most) {
    const drives = await listLives(app.db, undefined, from, most);
    for (const { life, condition } of drives) {
      const {
        bytes,
        model = '',
        media = 'hard-disk',
        lot = '',
        boughtOn = '',
        warrantyUntil = '',
        priceCents,
      } = life.drive;
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
});

const EVENT_COLUMNS = [
  'unit',
  'entry',
  'happened at',
  'recorded at',
  'recorded by',
  'kind',
  'what',
  'details',
] as const;
const eventsSheet = sheet(
  '/events.csv',
  'Every entry of every unit as a sheet',
  'events',
  EVENT_COLUMNS,
  async function* (app) {
    for (const id of await ledgersOfKind(app.db, 'unit')) {
      const unit = (await unitById(app.db, id))?.state ?? { name: id, enclosures: [] };
      for (const { seq, happenedAt, recordedAt, recordedBy, event } of await entriesOf<UnitEvent>(
        app.db,
        unitLedger(id),
      ))
        yield [
          unit.name,
          seq,
          happenedAt,
          recordedAt,
          recordedBy,
          event.kind,
          eventWords(event, unit),
          canonicalJson(event),
        ];
    }
  },
);

const READING_COLUMNS = ['unit', 'subject', 'metric', 'at', 'value'] as const;
const readingsSheet = sheet(
  '/readings.csv',
  'Every reading as a sheet',
  'readings',
  READING_COLUMNS,
  async function* (app) {
    for await (const { unit, subject, metric, at, value } of allReadings(app.db))
      yield [unit, subject, metric, at, value];
  },
);

export const takeAway = [
  exportAll,
  exportSchema,
  bringBack,
  unitsSheet,
  columnsOf('/units.csv', UNIT_COLUMNS, { bays: 'integer', 'can lose': 'integer' }),
  drivesSheet,
  columnsOf('/drives.csv', DRIVE_COLUMNS, { bytes: 'integer', price: 'decimal' }),
  eventsSheet,
  columnsOf('/events.csv', EVENT_COLUMNS, { entry: 'integer', 'happened at': 'dateTime', 'recorded at': 'dateTime' }),
  readingsSheet,
  columnsOf('/readings.csv', READING_COLUMNS, { at: 'dateTime', value: 'number' }),
];
