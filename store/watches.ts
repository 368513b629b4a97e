import { sql, type Selectable } from 'kysely';
import type { Contradiction } from '../core/observe/compareObservation';
import type { ObservedBay } from '../core/observe/observation';
import type { Light } from '../core/observe/readRedfish';
import type { Database, Transaction } from './database';
import type { Watch as Row } from './generated';

/** Why a unit gave no answer that could be read. */
export interface Trouble {
  readonly code: string;
  readonly sentence: string;
  /** The certificate it shows now, where that is another than before. */
  readonly fingerprint?: string;
}

/** What a unit said last. */
export interface Seen {
  readonly bays: readonly Pick<ObservedBay, 'bay' | 'serial' | 'state' | 'percent' | 'isInWholePool'>[];
  /** Locate lights, and where they are switched. */
  readonly lights: readonly Light[];
  /** What a person has to look at. */
  readonly doubtful: readonly Contradiction[];
  readonly impossible: readonly string[];
  /** What it said of sick drives and lost parts: said again, it is no news. */
  readonly saying: readonly string[];
}

/** A unit that is asked how it is. */
export interface Watch {
  readonly unit: string;
  readonly address: string;
  readonly userName: string;
  /** Sealed: of use only with a key that is not in the database. */
  readonly secret: Buffer;
  readonly fingerprint: string | null;
  readonly everySeconds: number;
  readonly isOn: boolean;
  readonly askedAt: string | null;
  readonly heardAt: string | null;
  readonly readAt: string | null;
  readonly fails: number;
  readonly silentSince: string | null;
  readonly trouble: Trouble | null;
  readonly seen: Seen | null;
  /** Lights that were switched on, by bay, with when they go off again (ISO). */
  readonly lit: Readonly<Record<string, string>>;
  /** Where the unit keeps that it tells us of events; empty where it would not; `null` before it was asked to. */
  readonly subscription: string | null;
  /** How many it has told. */
  readonly events: number;
  readonly setBy: string;
}

export type NewWatch = Pick<
  Watch,
  'unit' | 'address' | 'userName' | 'secret' | 'fingerprint' | 'everySeconds' | 'isOn' | 'setBy'
>;

/** Sets where a unit is asked, and asks it soon. */
export async function saveWatch(db: Database, watch: NewWatch): Promise<void> {
  const { unit, address, userName, secret, fingerprint, everySeconds, isOn, setBy } = watch;
  const values = {
    address,
    user_name: userName,
    secret,
    fingerprint,
    every_seconds: everySeconds,
    is_on: isOn,
    set_by: setBy,
    next_at: sql<Date>`now()`,
    set_at: sql<Date>`now()`,
    fails: 0,
    silent_since: null,
    trouble: null,
  };
  await db
    .insertInto('watch')
    .values({ unit, ...values })
    .onConflict((conflict) =>
      conflict.column('unit').doUpdateSet({
        ...values,
        // At the same unit it stands still; one that would not is asked to once more.
        subscription: sql<
          string | null
        >`case when watch.address = excluded.address then nullif(watch.subscription, '') end`,
      }),
    )
    .execute();
}

export async function watchOf(db: Database, unit: string): Promise<Watch | undefined> {
  const row = await db.selectFrom('watch').selectAll().where('unit', '=', unit).executeTakeFirst();
  return row && watchIn(row);
}

export async function deleteWatch(db: Database, unit: string): Promise<boolean> {
  const { numDeletedRows } = await db.deleteFrom('watch').where('unit', '=', unit).executeTakeFirst();
  return numDeletedRows > 0n;
}

/**
 * Takes the units that are due, each held by whoever took it: any number of processes may do so at once, and none asks a
 * unit that another is asking. One whose holder died is free again after `heldSeconds`.
 */
export async function takeDue(db: Database, most: number, heldSeconds: number): Promise<Watch[]> {
  const { rows } = await sql<Selectable<Row>>`
    update watch set held_until = now() + make_interval(secs => ${heldSeconds}), asked_at = now()
    where unit in (
      select unit from watch
      where is_on and next_at <= now() and (held_until is null or held_until <= now())
      order by next_at limit ${most} for update skip locked
    ) returning *`.execute(db);
  return rows.map(watchIn);
}

/** Takes one unit, whenever it is due; `undefined` where somebody is asking it, or nobody watches it. */
export async function takeOne(db: Database, unit: string, heldSeconds: number): Promise<Watch | undefined> {
  const { rows } = await sql<Selectable<Row>>`
    update watch set held_until = now() + make_interval(secs => ${heldSeconds}), asked_at = now()
    where unit = ${unit} and (held_until is null or held_until <= now()) returning *`.execute(db);
  return rows[0] && watchIn(rows[0]);
}

/** Spread by so much of the interval, so that units that were set together are not asked together. */
const JITTER = 0.1;
/** One that does not answer is asked ever more seldom, at least this often. */
const MOST_SECONDS = 900;

/** It has answered: it is free again, and due after its interval. Nothing is kept where it was set elsewhere meanwhile. */
export async function saveHeard(
  tx: Transaction,
  { unit, address }: Pick<Watch, 'unit' | 'address'>,
  heard: { readonly seen: Seen; readonly fingerprint: string | null; readonly hasRead: boolean },
): Promise<void> {
  await sql`
    update watch set held_until = null, heard_at = now(), ended_at = now(), fails = 0, silent_since = null, trouble = null,
      seen = ${JSON.stringify(heard.seen)}::jsonb, fingerprint = ${heard.fingerprint},
      read_at = case when ${heard.hasRead} then now() else read_at end,
      next_at = now() + make_interval(secs => every_seconds * (1 - ${JITTER}::float8 * random()))
    where unit = ${unit} and address = ${address}`.execute(tx);
}

/** It has not: it is asked again, later each time. Returns since when it is silent. */
export async function saveSilent(
  db: Database,
  { unit, address }: Pick<Watch, 'unit' | 'address'>,
  trouble: Trouble,
): Promise<{ readonly since: string; readonly fails: number } | undefined> {
  const { rows } = await sql<{ since: Date; fails: number }>`
    update watch set held_until = null, ended_at = now(), fails = fails + 1, silent_since = coalesce(silent_since, now()),
      trouble = ${JSON.stringify(trouble)}::jsonb,
      next_at = now() + make_interval(secs =>
        least(greatest(every_seconds, ${MOST_SECONDS}), every_seconds * power(2, least(fails, 10))) * (1 - ${JITTER}::float8 * random()))
    where unit = ${unit} and address = ${address} returning silent_since as since, fails`.execute(db);
  const [row] = rows;
  return row && { since: row.since.toISOString(), fails: row.fails };
}

/** A light was switched on, to go off again by itself; or off. */
export async function saveLight(db: Database, unit: string, bay: string, until: Date | null): Promise<void> {
  const change =
    until === null
      ? sql`lit - ${bay}::text`
      : sql`lit || jsonb_build_object(${bay}::text, ${until.toISOString()}::text)`;
  await sql`update watch set lit = ${change} where unit = ${unit}`.execute(db);
}

/** Where it keeps that it is to tell us of events. */
export async function saveSubscription(db: Database, unit: string, subscription: string): Promise<void> {
  await db.updateTable('watch').set({ subscription }).where('unit', '=', unit).execute();
}

/** A unit has told of something: it is asked soon, and no more than once a second. Returns whether it is watched at all. */
export async function nudge(db: Database, unit: string, events: number): Promise<boolean> {
  const { numAffectedRows } = await sql`
    update watch set events = events + ${events},
      next_at = least(next_at, greatest(now(), coalesce(asked_at, now()) + interval '1 second'))
    where unit = ${unit} and is_on`.execute(db);
  return (numAffectedRows ?? 0n) > 0n;
}

/** Lets go of a unit whose look ended without either; it is asked again when it is due. */
export async function letGo(db: Database, unit: string): Promise<void> {
  await sql`update watch set held_until = null, next_at = now() + make_interval(secs => every_seconds) where unit = ${unit}`.execute(
    db,
  );
}

/** How the watch is as a whole: units it asks, those that do not answer, and when a look last ended. */
export async function watchAtLarge(
  db: Database,
): Promise<{ readonly units: number; readonly silent: number; readonly lastEnded: string | null }> {
  const { rows } = await sql<{ units: string; silent: string; ended: Date | null }>`
    select count(*) as units, count(*) filter (where silent_since is not null) as silent, max(ended_at) as ended
    from watch where is_on`.execute(db);
  const row = rows[0];
  return { units: Number(row?.units), silent: Number(row?.silent), lastEnded: row?.ended?.toISOString() ?? null };
}

/** Its certificate as a person has accepted it. */
export async function acceptFingerprint(db: Database, unit: string, fingerprint: string): Promise<void> {
  await db
    .updateTable('watch')
    .set({ fingerprint, next_at: sql<Date>`now()`, fails: 0, trouble: null })
    .where('unit', '=', unit)
    .execute();
}

function watchIn(row: Selectable<Row>): Watch {
  const iso = (at: Date | null): string | null => at?.toISOString() ?? null;
  return {
    unit: row.unit,
    address: row.address,
    userName: row.user_name,
    secret: row.secret,
    fingerprint: row.fingerprint,
    everySeconds: row.every_seconds,
    isOn: row.is_on,
    askedAt: iso(row.asked_at),
    heardAt: iso(row.heard_at),
    readAt: iso(row.read_at),
    fails: row.fails,
    silentSince: iso(row.silent_since),
    trouble: row.trouble as unknown as Trouble | null,
    seen: row.seen as unknown as Seen | null,
    lit: row.lit as unknown as Record<string, string>,
    subscription: row.subscription,
    events: Number(row.events),
    setBy: row.set_by,
  };
}
