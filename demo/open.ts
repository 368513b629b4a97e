import { randomUUID } from 'node:crypto';
import { labelBytes } from '../core/drive/labelBytes';
import { planLayout } from '../core/layout/planLayout';
import { enclosuresOf } from '../core/unit/enclosures';
import type { UnitEvent } from '../core/unit/event';
import { poolCreated } from '../core/unit/poolCreated';
import { isRefusal, type Refusal } from '../core/value/refusal';
import type { App } from '../service/app';
import { hashOfKey } from '../service/oneTimeKey';
import { append, type Entry } from '../service/unitLedger';
import { SCOPES } from '../schemas/access';
import { organisation, saveOrganisation } from '../store/organisation';
import { allPeople } from '../store/people';
import { addReadings, type Reading } from '../store/readings';
import { recordedSoFar } from '../store/units';
import { insertToken, revokeTokensNamed } from '../store/tokens';
import { MARROWFEN, type DemoUnit } from './scenario';

const DAY_MS = 24 * 3600e3;
const RECORDED_BY = 'Demo';
const OWNER_EMAIL = 'owner@marrowfen.example';
const TOKEN_NAME = 'entry key of this demo';

/**
 * Opens the demo: its owner, its units as events and readings relative to now, and a bearer token that is the entry
 * key of this start. Data that is there already stays as it is.
 */
export async function openDemo(app: App, now: Date, key: string): Promise<{ readonly kind: 'open'; readonly owner: string } | { readonly kind: 'not-a-demo' }> {
  const people = await allPeople(app.db);
  const { isDemo } = await organisation(app.db);
  if (people.length > 0 && !isDemo) return { kind: 'not-a-demo' };
  const owner = people.find(({ email }) => email === OWNER_EMAIL)?.id ?? (await makeOwner(app));
  if (!isDemo) {
    for (const unit of MARROWFEN.units) await putUp(app, unit, now);
    // Last, so that an interrupted start is taken up again rather than taken for a finished demo.
    await saveOrganisation(app.db, { name: MARROWFEN.name, currency: MARROWFEN.currency, isDemo: true });
  }
  await revokeTokensNamed(app.db, owner, TOKEN_NAME);
  await insertToken(app.db, { id: randomUUID(), userId: owner, name: TOKEN_NAME, hash: hashOfKey(key), scopes: SCOPES });
  return { kind: 'open', owner };
}

/**
 * True for a demo of an earlier day that nobody has changed anything in: it is dated relative to the day it was made,
 * and would look stale.
 */
export async function isStaleDemo(app: App, now: Date): Promise<boolean> {
  const { isDemo } = await organisation(app.db);
  if (!isDemo || (await allPeople(app.db)).length > 1) return false;
  const { last, others } = await recordedSoFar(app.db, RECORDED_BY);
  return last !== null && last.slice(0, 10) < now.toISOString().slice(0, 10) && others === 0;
}

async function makeOwner(app: App): Promise<string> {
  const { internalAdapter } = await app.auth.$context;
  const owner = await internalAdapter.createUser({ name: 'Demo owner', email: OWNER_EMAIL, emailVerified: false, role: 'owner' }, { method: 'admin' });
  return owner.id;
}

async function putUp(app: App, unit: DemoUnit, now: Date): Promise<void> {
  const at = (daysAgo: number): string => new Date(now.getTime() - daysAgo * DAY_MS).toISOString();
  const { events, shownBytes } = eventsOf(app, unit);
  const entries = [
    ...events.map((event): Entry => ({ event, happenedAt: at(unit.daysAgo) })),
    ...unit.later.map(({ daysAgo, event }): Entry => ({ event, happenedAt: at(daysAgo) })),
  ];
  const id = randomUUID();
  const result = await append(app.db, id, 0, entries, RECORDED_BY);
  if (isRefusal(result)) {
    if (result.code === 'name-taken') return;
    throw new Error(`The demo does not hold: ${result.sentence}`);
  }
  await addReadings(app.db, readingsOf(unit, id, shownBytes, at));
}

function eventsOf(app: App, { name, place, profile: profileId, bays, drives, pool }: DemoUnit): { events: UnitEvent[]; shownBytes: number } {
  const profile = app.profiles.get(profileId);
  if (!profile) throw new Error(`The demo needs the profile ${profileId}.`);
  const planned = drives.map(({ bay, gigabytes }) => ({ bay, bytes: labelBytes(gigabytes) }));
  const layout = planLayout(profile, pool.scheme, planned, pool.spares ?? 0, pool.groupWidth);
  const built = orThrow(poolCreated(layout, 'pool-1', pool.name, new Map(drives.map(({ bay, serial }) => [bay, serial]))));
  const inserted = drives.map(({ bay, serial, gigabytes, model, priceCents }): UnitEvent => ({
    kind: 'drive-inserted',
    bay,
    drive: { serial, bytes: labelBytes(gigabytes), basis: 'exact', label: `${String(gigabytes / 1000)} TB`, model, priceCents },
  }));
  const registered: UnitEvent = {
    kind: 'unit-registered',
    name,
    place,
    profile,
    enclosures: enclosuresOf(
      profile,
      bays,
      drives.map(({ bay }) => bay),
    ),
  };
  return { events: [registered, ...inserted, built], shownBytes: layout.shownBytes };
}

/** A steady climb with a ripple of seasons and days; the same at every start, chance has no part in it. */
function readingsOf({ fill: { from, to, days, everyDays } }: DemoUnit, unit: string, shownBytes: number, at: (daysAgo: number) => string): Reading[] {
  const readings: Reading[] = [];
  for (let daysAgo = days; daysAgo >= 0; daysAgo -= everyDays) {
    const passed = (days - daysAgo) / days;
    const ripple = 0.012 * Math.sin((daysAgo / 365) * 2 * Math.PI) * (daysAgo / days) + 0.003 * Math.sin(daysAgo * 2.4) * (daysAgo > 0 ? 1 : 0);
    readings.push({
      unit,
      pool: 'pool-1',
      metric: 'used-bytes',
      at: at(daysAgo + 0.1),
      value: Math.round(shownBytes * (from + (to - from) * passed + ripple)),
    });
  }
  return readings;
}

function orThrow<T>(value: T | Refusal): T {
  if (isRefusal(value)) throw new Error(`The demo does not hold: ${value.sentence}`);
  return value;
}
