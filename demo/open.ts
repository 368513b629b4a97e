import { randomUUID } from 'node:crypto';
import { serialKey } from '../core/drive/serial';
import { labelBytes } from '../core/drive/labelBytes';
import type { Profile } from '../core/platform/profile';
import type { UnitEvent } from '../core/unit/event';
import { isRefusal } from '../core/value/refusal';
import { driveLedger } from '../core/world/ledger';
import type { App } from '../service/app';
import { hashOfKey } from '../service/access/oneTimeKey';
import { SCOPES } from '../schemas/access';
import { organisation, saveOrganisation } from '../store/organisation';
import { insertOrder, listOrders } from '../store/orders';
import { allPeople } from '../store/people';
import type { Reading } from '../store/readings';
import { saveTestedModel } from '../store/testedModels';
import { inTransaction } from '../service/ledgers/inTransaction';
import { addMeasured } from '../service/units/measure';
import { usualUpkeep } from '../core/upkeep/upkeepOf';
import { recordedSoFar } from '../store/acts';
import { lifeOf } from '../store/driveLives';
import { insertToken, revokeTokensNamed } from '../store/tokens';
import { putUpAs } from './putUpAs';
import { DEFECTS, MARROWFEN, THE_POOL, type DemoUnit } from './scenario';
import { DEMO, recordAt, recordPast, type Past } from './past';

const DAY_MS = 24 * 3600e3;
const RECORDED_BY = DEMO.name;
const OWNER_EMAIL = 'owner@marrowfen.example';
const TOKEN_NAME = 'entry key of this demo';

/**
 * Opens the demo: its owner, its units as events and readings relative to now, and a bearer token that is the entry
 * key of this start. Data that is there already stays as it is.
 *
 * @param tokenHours how long the key is a token too; 0 where others can reach it
 */
export async function openDemo(
  app: App,
  now: Date,
  key: string,
  tokenHours: number,
): Promise<
  { readonly kind: 'open'; readonly owner: string; readonly isFresh: boolean } | { readonly kind: 'not-a-demo' }
> {
  const people = await allPeople(app.db);
  const { isDemo } = await organisation(app.db);
  if (people.length > 0 && !isDemo) return { kind: 'not-a-demo' };
  const owner = people.find(({ email }) => email === OWNER_EMAIL)?.id ?? (await makeOwner(app));
  if (!isDemo) {
    for (const unit of MARROWFEN.units) await putUp(app, unit, now);
    await fillDrawers(app, now);
    // Last, so that an interrupted start is taken up again rather than taken for a finished demo.
    await saveOrganisation(app.db, { name: MARROWFEN.name, currency: MARROWFEN.currency, isDemo: true });
  }
  await revokeTokensNamed(app.db, owner, TOKEN_NAME);
  const expiresAt = new Date(now.getTime() + tokenHours * 3600e3);
  if (tokenHours > 0)
    await insertToken(app.db, {
      id: randomUUID(),
      userId: owner,
      name: TOKEN_NAME,
      hash: hashOfKey(key),
      scopes: SCOPES,
      expiresAt,
    });
  return { kind: 'open', owner, isFresh: !isDemo };
}

/**
 * True for a demo of an earlier day that nobody has changed anything in: it is dated relative to the day it was made,
 * and would look stale.
 */
export async function isStaleDemo(app: App, now: Date): Promise<boolean> {
  const { isDemo } = await organisation(app.db);
  if (!isDemo || (await allPeople(app.db)).length > 1) return false;
  const { last, others } = await recordedSoFar(app.db, DEMO.kind);
  return last !== null && last.slice(0, 10) < now.toISOString().slice(0, 10) && others === 0;
}

async function makeOwner(app: App): Promise<string> {
  const { internalAdapter } = await app.auth.$context;
  const owner = await internalAdapter.createUser(
    { name: 'Demo owner', email: OWNER_EMAIL, emailVerified: false, role: 'owner' },
    { method: 'admin' },
  );
  return owner.id;
}

async function putUp(app: App, unit: DemoUnit, now: Date): Promise<void> {
  const at = (daysAgo: number): string => new Date(now.getTime() - daysAgo * DAY_MS).toISOString();
  const pool = randomUUID();
  const { events, shownBytes } = putUpAs(profileOf(app, unit), unit, at, pool);
  const past: Past[] = [
    { happenedAt: at(unit.daysAgo), events },
    ...caredFor(profileOf(app, unit), unit, at, pool),
    ...unit.later.map(({ daysAgo, event }): Past => ({
      happenedAt: at(daysAgo),
      events: ['pool' in event && event.pool === THE_POOL ? ({ ...event, pool } as UnitEvent) : event],
    })),
  ];
  const { replacing } = unit;
  const id = randomUUID();
  const refused = await recordPast(
    app,
    id,
    past,
    replacing && {
      startedAt: at(replacing.daysAgo),
      wish: {
        serial: replacing.serial,
        way: 'in-place',
        drive: {
          serial: replacing.by.serial,
          bytes: labelBytes(replacing.by.gigabytes),
          basis: 'exact',
          model: replacing.by.model,
        },
      },
      steps: replacing.stepsDaysAgo.map(at),
    },
  );
  if (refused) {
    if (refused.code === 'name-taken') return;
    throw new Error(`The demo does not hold: ${refused.sentence}`);
  }
  const readings = readingsOf(unit, id, pool, shownBytes, at);
  if (unit.name === DEFECTS.unit)
    readings.push(
      ...DEFECTS.counts.map(([daysAgo, value]): Reading => ({
        unit: id,
        subject: DEFECTS.serial,
        metric: 'reallocated-sectors',
        at: at(daysAgo),
        value,
      })),
      ...unit.drives.flatMap(({ serial }, n) => warmthOf(serialKey(serial), n, unit.daysAgo, id, at)),
    );
  const added = await inTransaction(app.db, (work) => addMeasured(work, readings));
  if (isRefusal(added)) throw new Error(added.sentence);
}

function profileOf(app: App, { profile: id }: Pick<DemoUnit, 'profile'>): Profile {
  const profile = app.profiles.get(id);
  if (!profile) throw new Error(`The demo needs the profile ${id}.`);
  return profile;
}

/** What has been made sure of, copied and kept up since a unit was put up. */
function caredFor(
  profile: Profile,
  { care, daysAgo, pool }: DemoUnit,
  at: (daysAgo: number) => string,
  poolId: string,
): Past[] {
  const on = (daysAfterwards: number, event: UnitEvent): Past => ({
    events: [event],
    happenedAt: at(daysAgo - daysAfterwards),
  });
  const ago = (days: number, event: UnitEvent): Past => ({ events: [event], happenedAt: at(days) });
  const copy = { dataSet: 'data-1', copy: 'copy-1' } as const;
  const speed = { readBytesPerSecond: care.readMegabytes * 1e6, writeBytesPerSecond: care.writeMegabytes * 1e6 };
  const since = Math.min(UPKEEP_SINCE, daysAgo);
  const planned = usualUpkeep(profile, at(since).slice(0, 10));
  return [
    on(0.1, { kind: 'check-confirmed', check: 'factory-password-changed' }),
    on(0.1, { kind: 'check-confirmed', check: 'alarm-mail-tested' }),
    on(0.5, { kind: 'speed-measured', ...speed, isBaseline: true }),
    on(1, { kind: 'data-set-described', dataSet: 'data-1', name: pool.name, pool: poolId }),
    on(1, {
      kind: 'copy-described',
      ...copy,
      where: care.copyAt,
      keeps: 'versions',
      offSite: care.offSite,
      everyDays: 7,
    }),
    ago(since - 1, planned),
    ...planned.tasks
      .filter(({ id }) => care.overdue?.includes(id) !== true)
      .map(({ id }) => ago(UPKEEP_DONE, { kind: 'upkeep-done', task: id })),
    ago(care.restoreDaysAgo, { kind: 'copy-confirmed', ...copy, outcome: 'restore-worked' }),
    ago(care.ranDaysAgo, { kind: 'copy-confirmed', ...copy, outcome: 'ran' }),
  ];
}

/** Days before today that upkeep has been planned since, and was last done. */
const UPKEEP_SINCE = 380;
const UPKEEP_DONE = 12;

/** Spares in drawers, the one that came out of Wren, an order under way, and the list of tested drives. */
async function fillDrawers(app: App, now: Date): Promise<void> {
  const at = (daysAgo: number): string => new Date(now.getTime() - daysAgo * DAY_MS).toISOString();
  for (const { drive, drawer, daysAgo } of MARROWFEN.spares) {
    const { serial, gigabytes, model, priceCents, lot } = drive;
    const description = {
      bytes: labelBytes(gigabytes),
      basis: 'exact' as const,
      label: `${String(gigabytes / 1000)} TB`,
      model,
      priceCents,
      lot,
    };
    const ledger = driveLedger(serialKey(serial));
    if (await lifeOf(app.db, serial)) continue;
    const entries = [
      { ledger, event: { kind: 'received' as const, drive: description } },
      { ledger, event: { kind: 'put-in-drawer' as const, drawer } },
    ];
    const refused = await recordAt(app, at(daysAgo), entries, false);
    if (refused) throw new Error(`The demo does not hold: ${refused.sentence}`);
  }
  for (const tested of MARROWFEN.tested) await saveTestedModel(app.db, tested, RECORDED_BY);
  if ((await listOrders(app.db)).length === 0)
    await insertOrder(app.db, {
      id: randomUUID(),
      orderedAt: at(2),
      supplier: 'Fenside Supplies',
      count: 2,
      drive: { bytes: labelBytes(8000), basis: 'label', label: '8 TB', model: 'Quernholt Q8C', priceCents: 19200 },
      expectedOn: new Date(now.getTime() + 5 * DAY_MS).toISOString().slice(0, 10),
      note: null,
      recordedBy: RECORDED_BY,
    });
}

/** A steady climb with a ripple of seasons and days; the same at every start, chance has no part in it. */
/** How warm a drive was over the years, once a fortnight: by the season, by its bay, and the sick one a little more of late. */
function warmthOf(subject: string, n: number, days: number, unit: string, at: (daysAgo: number) => string): Reading[] {
  const readings: Reading[] = [];
  for (let daysAgo = days; daysAgo >= 0; daysAgo -= 14) {
    const season = 4 * Math.cos(((daysAgo - 130) / 365.25) * 2 * Math.PI);
    const sick = subject === DEFECTS.serial && daysAgo < 200 ? (200 - daysAgo) / 40 : 0;
    const value = Math.round(31 + season + (n % 3) + Math.sin(daysAgo * (n + 1)) + sick);
    readings.push({ unit, subject, metric: 'temperature', at: at(daysAgo), value });
  }
  return readings;
}

function readingsOf(
  { fill: { from, to, days, everyDays } }: DemoUnit,
  unit: string,
  pool: string,
  shownBytes: number,
  at: (daysAgo: number) => string,
): Reading[] {
  const readings: Reading[] = [];
  for (let daysAgo = days; daysAgo >= 0; daysAgo -= everyDays) {
    const passed = (days - daysAgo) / days;
    const ripple =
      0.012 * Math.sin((daysAgo / 365) * 2 * Math.PI) * (daysAgo / days) +
      0.003 * Math.sin(daysAgo * 2.4) * (daysAgo > 0 ? 1 : 0);
    readings.push({
      unit,
      subject: pool,
      metric: 'used-bytes',
      at: at(daysAgo + 0.1),
      value: Math.round(shownBytes * (from + (to - from) * passed + ripple)),
    });
  }
  return readings;
}
