import { poolsOf, type UnitState } from '../../core/unit/state';
import type { FromSchema } from 'json-schema-to-ts';
import { randomUUID } from 'node:crypto';
import { SHEET_HEAD, sheetRows } from '../../core/drive/driveSheet';
import { serialKey } from '../../core/drive/serial';
import { planLayout } from '../../core/layout/planLayout';
import type { Profile } from '../../core/platform/profile';
import { oneMoreDrive } from '../../core/pool/oneMore';
import { poolDrives } from '../../core/unit/grownByExpand';
import { usualUpkeep } from '../../core/upkeep/upkeepOf';
import { BayName, bayName } from '../../core/unit/bayName';
import { enclosuresNamed, enclosuresOf, fewestBays } from '../../core/unit/enclosures';
import type { UnitEvent } from '../../core/unit/event';
import { unitLedger } from '../../core/world/ledger';
import { marginOfUnit, standingOfUnit, type Standing } from '../../core/unit/margin';
import type { Hazard } from '../../core/unit/preview';
import { poolCreated } from '../../core/unit/poolCreated';
import { poolFound, type FoundPool } from '../../core/unit/poolFound';
import { PAGE_ROUNDS } from '../../core/observe/whyNotMeasured';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { Withdrawal } from '../../schemas/unitEvent';
import { additionSchema, newEventSchema, newUnitSchema } from '../../schemas/units';
import { actOfEntry, entriesOf } from '../../store/acts';
import type { Reading } from '../../store/readings';
import { type StoredUnit, unitsFrom } from '../../store/units';
import { toCsv } from '../takeAway/csv';
import { whyDrivesDoNotFit } from '../bench/reckoning';
import { profileOf } from '../settings/profiles';
import { askedFrom } from '../door/pageFrom';
import { operation, operationTaking } from '../door/operation';
import { actOf, expectsUnit, named, ofUnit } from '../ledgers/asked';
import { inTransaction } from '../ledgers/inTransaction';
import { recordAct, recordActIn } from '../ledgers/recordAct';
import { aboutUnit } from './findUnit';
import { addMeasured } from './measure';
import type { Done } from '../ledgers/save';
import { takeBackAct } from '../ledgers/takeBackAct';

/** A unit as the interface shows it. */
export interface ShownUnit {
  readonly id: string;
  readonly version: number;
  /** The least of its pools'; `null` where it has none. */
  readonly margin: number | null;
  readonly standing: Standing;
  readonly state: UnitState;
}

export function unitAnswer({ id, version, state }: StoredUnit): ShownUnit {
  return { id, version, margin: marginOfUnit(state), standing: standingOfUnit(state), state };
}

const putOnShelf = operationTaking<FromSchema<typeof newUnitSchema>>(newUnitSchema)({
  method: 'POST',
  path: '/units',
  summary: 'Put a unit on the shelf, with its drives and its pool',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async (asked) => {
    const { app, body, now } = asked;
    const profile = await profileOf(app, body.profile as string | Profile);
    if (isRefusal(profile)) return profile;
    const drives = body.drives ?? [];
    const boxes = body.enclosures?.length === 0 ? undefined : body.enclosures;
    const bays = boxes?.reduce((sum, box) => sum + box.bays, 0) ?? body.bays;
    if (bays === undefined)
      return refusal('bays-missing', 'Say how many bays it has, or list its enclosures.', '/bays');
    if (body.bays !== undefined && bays !== body.bays)
      return refusal(
        'bays-differ',
        `The enclosures have ${String(bays)} bays together, not ${String(body.bays)}.`,
        '/enclosures',
      );
    const serials = drives.map(({ serial }) => serialKey(serial));
    const twice = serials.findIndex((serial, i) => serials.indexOf(serial) !== i);
    if (twice >= 0)
      return refusal(
        'serial-twice',
        `Serial ${drives[twice]?.serial ?? ''} is there twice.`,
        `/drives/${String(twice)}/serial`,
      );
    const wrong = whyDrivesDoNotFit(drives, bays);
    if (wrong) return wrong;
    const beyond = drives.findIndex(({ bay }) => fewestBays([bay]) > bays);
    if (beyond >= 0)
      return refusal(
        'bay-unknown',
        `A unit of ${String(bays)} bays has no bay ${drives[beyond]?.bay ?? ''}.`,
        `/drives/${String(beyond)}/bay`,
      );

    const enclosures = boxes
      ? enclosuresNamed(boxes)
      : enclosuresOf(
          profile,
          bays,
          drives.map(({ bay }) => bay),
        );
    const events: UnitEvent[] = [
      { kind: 'unit-registered', name: body.name.trim(), place: body.place, profile, enclosures },
      ...(body.details === undefined ? [] : [{ kind: 'unit-described' as const, details: body.details }]),
      usualUpkeep(profile, now.toISOString().slice(0, 10)),
      ...drives.map(({ bay, shows: _shows, ...drive }): UnitEvent => ({ kind: 'drive-inserted', bay, drive })),
    ];
    if (body.pool) {
      const { scheme, groupWidth, spares = 0, spareScope, name = 'Pool 1' } = body.pool;
      const layout = planLayout(
        profile,
        scheme,
        drives,
        spareScope === 'group' ? { perGroup: spares } : spares,
        groupWidth,
      );
      const built = poolCreated(layout, randomUUID(), name, new Map(drives.map(({ bay, serial }) => [bay, serial])));
      if (isRefusal(built)) return refusal(built.code, built.sentence, '/pool/scheme');
      events.push(built);
    }
    const found = foundPools({ enclosures, profile }, body.pools ?? [], drives);
    if (isRefusal(found)) return found;
    // A pool stands as built before it is said what of it is not well: what failed in it is missing from it.
    events.push(...found.events, ...drives.flatMap(notWell));
    const cache = cacheOf({ enclosures }, body.cache ?? [], drives);
    if (isRefusal(cache)) return cache;
    events.push(...cache);
    const id = randomUUID();
    const act = actOf(asked, ofUnit(id, events), expectsUnit(id, 0));
    if (isRefusal(act)) return act;
    const readings = found.used.map(([subject, value]): Reading => ({
      unit: id,
      subject,
      metric: 'used-bytes',
      at: act.happenedAt,
      value,
    }));
    const result = await inTransaction(app.db, async (tx) => {
      const done = await recordActIn(tx, act);
      if (!isRefusal(done)) await addMeasured(tx, readings);
      return done;
    });
    if (isRefusal(result)) return named(result, (entry) => fieldOf(events, entry));
    return recorded(result, result.units[0] as StoredUnit);
  },
});

function notWell({ serial, shows }: { readonly serial: string; readonly shows?: 'failed' | 'signs' }): UnitEvent[] {
  if (shows === undefined) return [];
  const note = "so says the unit's page";
  return [shows === 'failed' ? { kind: 'drive-failed', serial, note } : { kind: 'drive-suspected', serial, note }];
}

function cacheOf(
  boxes: Pick<UnitState, 'enclosures'>,
  bays: readonly string[],
  drives: readonly { readonly bay: string; readonly serial: string }[],
): UnitEvent[] | Refusal {
  const serials = bays.map((bay) => drives.find((drive) => drive.bay === bay)?.serial);
  const empty = serials.indexOf(undefined);
  if (empty >= 0)
    return refusal(
      'bay-empty',
      `There is no drive in ${bayName(boxes, bays[empty])}: say first what is in it.`,
      `/cache/${String(empty)}`,
    );
  return serials.length === 0 ? [] : [{ kind: 'cache-set', serials: serials as string[] }];
}

/** The field of the request an event was made of. */
function fieldOf(events: readonly UnitEvent[], entry: number): string {
  const kind = events[entry]?.kind;
  const nth = events.slice(0, entry).filter((event) => event.kind === kind).length;
  if (kind === 'drive-inserted') return `/drives/${String(nth)}`;
  return kind === 'pool-arrived'
    ? `/pools/${String(nth)}`
    : kind === 'volume-set'
      ? '/pools'
      : kind === 'cache-set'
        ? '/cache'
        : kind === 'unit-described'
          ? '/details'
          : '/pool';
}

type Found = NonNullable<FromSchema<typeof newUnitSchema>['pools']>[number];

/** Pools that are there already, with their volumes and what is in them. */
function foundPools(
  unit: Pick<UnitState, 'enclosures' | 'profile'>,
  pools: readonly Found[],
  drives: readonly { readonly bay: string; readonly serial: string; readonly bytes: number }[],
): { readonly events: UnitEvent[]; readonly used: (readonly [string, number])[] } | Refusal {
  const byBay = new Map(drives.map((drive) => [drive.bay, { ...drive, serial: serialKey(drive.serial) }]));
  const events: UnitEvent[] = [];
  const used: (readonly [string, number])[] = [];
  let volumes = 0;
  for (const [i, { volumes: shown = [], usedBytes, builtAt = null, ...found }] of pools.entries()) {
    const pool = randomUUID();
    const arrived = poolFound(
      unit,
      { ...found, builtAt: builtAt === null ? null : new Date(builtAt).toISOString() } as FoundPool,
      byBay,
      pool,
    );
    if (isRefusal(arrived)) return { ...arrived, pointer: `/pools/${String(i)}${arrived.pointer ?? ''}` };
    events.push(
      arrived,
      ...shown.map((volume): UnitEvent => ({
        kind: 'volume-set',
        volume: `volume-${String(++volumes)}`,
        pool,
        ...volume,
      })),
    );
    if (usedBytes !== undefined && usedBytes > arrived.shownBytes * PAGE_ROUNDS)
      return refusal(
        'used-too-large',
        'There cannot be more in it than the page shows of it.',
        `/pools/${String(i)}/usedBytes`,
      );
    if (usedBytes !== undefined) used.push([pool, usedBytes]);
  }
  return { events, used };
}

/** The answer to what was recorded of a unit: as it is now, the act, and what a person must hear. */
export interface RecordedUnit extends ShownUnit, Heard {}

/** What came of an act: its id, to take it back by, and what a person must hear. */
export interface Heard {
  readonly act: string;
  readonly hazards: readonly Hazard[];
}

export function recorded({ act, hazards }: Done, unit: StoredUnit): RecordedUnit {
  return { ...unitAnswer(unit), act, hazards };
}

/** Units a list hands out at a time. */
const PAGE = 500;

const listUnits = operation({
  method: 'GET',
  path: '/units',
  summary: `Units on the shelf by name, ${String(PAGE)} at a time; "next" is where the following ones begin`,
  query: { from: 'How many to skip.' },
  needs: 'reader',
  scope: 'read',
  run: async ({ app, query }) => {
    const from = askedFrom(query);
    if (isRefusal(from)) return from;
    const units = await unitsFrom(app.db, from, PAGE + 1);
    return { units: units.slice(0, PAGE).map(unitAnswer), next: units.length > PAGE ? from + PAGE : null };
  },
});

const getUnit = operation({
  method: 'GET',
  path: '/units/{id}',
  summary: 'One unit, as its ledger makes it',
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(({}, unit) => unitAnswer(unit)),
});

const listEvents = operation({
  method: 'GET',
  path: '/units/{id}/events',
  summary: "A unit's ledger",
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(async ({ app }, unit) => ({
    version: unit.version,
    events: await entriesOf(app.db, unitLedger(unit.id)),
  })),
});

const recordEvent = operationTaking<FromSchema<typeof newEventSchema>>(newEventSchema)({
  method: 'POST',
  path: '/units/{id}/events',
  summary: 'Record what happened; or that an entry was not so, which takes back the whole act it came by',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: aboutUnit(async (asked, unit) => {
    const { app, body } = asked;
    const event = body.event as UnitEvent | Withdrawal;
    const expects = expectsUnit(unit.id, body.expectedVersion);
    const act = actOf(asked, event.kind === 'statement-withdrawn' ? [] : ofUnit(unit.id, [event]), expects);
    if (isRefusal(act)) return act;
    if (event.kind !== 'statement-withdrawn') {
      const result = await recordAct(app.db, act);
      return isRefusal(result) ? named(result, () => '/event') : recorded(result, result.units[0] as StoredUnit);
    }
    const target = await actOfEntry(app.db, unitLedger(unit.id), event.seq);
    if (target === undefined)
      return refusal('entry-unknown', `There is no entry ${String(event.seq)} to withdraw.`, '/event/seq');
    const taken = await takeBackAct(app.db, act, target, event.reason);
    if (isRefusal(taken)) return taken.code === 'version-conflict' ? taken : { ...taken, pointer: '/event/seq' };
    const now = taken.units.find(({ id }) => id === unit.id);
    return now ? recorded(taken, now) : { id: unit.id, act: taken.act, hazards: taken.hazards };
  }),
});

const additions = operationTaking<FromSchema<typeof additionSchema>>(additionSchema)({
  method: 'POST',
  path: '/units/{id}/additions',
  summary: 'What one more drive really adds to the pools of a unit as they were built',
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(({ body }, unit) => {
    const { profile } = unit.state;
    return {
      additions: poolsOf(unit.state).map((pool) => ({
        pool: pool.id,
        ...oneMoreDrive(profile, pool, poolDrives(unit.state, pool), body.bytes),
      })),
    };
  }),
});

/** With several enclosures, where each drive stands as they count their trays; the bay is what is read back. */
function drivesSheet(unit: UnitState, rows: readonly (string | number)[][]): string {
  if (unit.enclosures.length < 2) return toCsv(SHEET_HEAD, rows);
  return toCsv(
    ['place', ...SHEET_HEAD],
    rows.map((row) => [BayName(unit, String(row[0])), ...row]),
  );
}

const drivesAsCsv = operation({
  method: 'GET',
  path: '/units/{id}/drives.csv',
  file: 'text/csv',
  summary: "A unit's drives, as a sheet to take away",
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(({}, unit) => {
    const drives = Object.values(unit.state.drives).flatMap((drive) =>
      drive.bay === null ? [] : [{ ...drive, bay: drive.bay }],
    );
    const name = unit.state.name.replace(/[^\w-]+/g, '-');
    return {
      kind: 'file' as const,
      name: `${name}-drives.csv`,
      type: 'text/csv; charset=utf-8',
      text: drivesSheet(unit.state, sheetRows(drives, true)),
    };
  }),
});

export const units = [putOnShelf, listUnits, getUnit, listEvents, recordEvent, additions, drivesAsCsv];
