import { sql } from 'kysely';
import type { LiveEstimate } from '../core/rebuild/liveEstimate';
import type { UnitCard } from '../core/unit/card';
import type { JobTask, UnitState } from '../core/unit/state';
import { againstDrawers, byUrgency } from '../core/upkeep/needsHands';
import { type NeedForHands } from '../core/upkeep/need';
import type { DrawerDrive } from '../core/upkeep/spareCoverage';
import { canonicalJson } from '../core/value/canonicalJson';
import type { Database, Transaction } from './database';
import { isInUse } from './units';

/** What stands across units: cards for the shelf, what needs hands, what is waited for. All projections. */

export interface StoredCard {
  readonly id: string;
  readonly version: number;
  readonly card: UnitCard;
}

export interface StoredWait {
  readonly unit: string;
  readonly unitName: string;
  readonly job: string;
  readonly task: JobTask;
  /** The bay of the drive that is written, as its unit counts it. */
  readonly bay: string | null;
  readonly percent: number;
  readonly startedAt: string;
  readonly heardAt: string;
  /** `null` where nothing is known to reckon with. */
  readonly estimate: LiveEstimate | null;
  /** The plan that waits for it. */
  readonly plan: string | null;
}

/** A wait as a unit projects it. */
export type UnitWait = Omit<StoredWait, 'unit' | 'unitName'>;

export interface PlaceCount {
  readonly site: string;
  readonly units: number;
}

/** Units that are out of use, by name. */
export async function retiredUnits(db: Database): Promise<{ readonly id: string; readonly name: string }[]> {
  const rows = await db
    .selectFrom('unit_now')
    .select(['unit', 'name'])
    .where(sql<boolean>`state ? 'retired'`)
    .orderBy('name')
    .execute();
  return rows.map(({ unit, name }) => ({ id: unit, name }));
}

/** Sites with how many units stand at each. */
export async function sitesOf(db: Database): Promise<PlaceCount[]> {
  const rows = await db
    .selectFrom('unit_now')
    .select((of) => ['site', of.fn.countAll<string>().as('n')])
    .where(isInUse)
    .groupBy('site')
    .orderBy('site')
    .execute();
  return rows.map(({ site, n }) => ({ site, units: Number(n) }));
}

/** Cards by place and name, at one site or at all, `most` at a time. */
export async function cardsFrom(
  db: Database,
  site: string | undefined,
  from: number,
  most: number,
): Promise<StoredCard[]> {
  const rows = await db
    .selectFrom('unit_now')
    .select(['unit', 'version', 'card'])
    .where(isInUse)
    .$if(site !== undefined, (query) => query.where('site', '=', site ?? ''))
    .orderBy('site')
    .orderBy('room')
    .orderBy('name')
    .offset(from)
    .limit(most)
    .execute();
  return rows.map(({ unit, version, card }) => ({ id: unit, version, card: card as unknown as UnitCard }));
}

/** What needs hands at a unit, each held against what lies in the drawers. */
export async function saveNeeds(
  tx: Transaction,
  unit: string,
  needs: readonly NeedForHands[],
  drawers: readonly DrawerDrive[],
): Promise<void> {
  await tx.deleteFrom('need_now').where('unit', '=', unit).execute();
  if (needs.length === 0) return;
  await tx
    .insertInto('need_now')
    .values(
      needs.map((need, n) => ({
        unit,
        n,
        urgency: need.urgency,
        from_at: need.from,
        until_at: need.until ?? null,
        need: JSON.stringify(need),
        shown: shownText(need, drawers),
      })),
    )
    .execute();
}

function shownText(need: NeedForHands, drawers: readonly DrawerDrive[]): string | null {
  const [shown] = againstDrawers(need, drawers);
  return shown ? JSON.stringify(shown) : null;
}

/** After a drawer has changed: every need that a drawer may meet is held against the drawers again. */
export async function holdAgainstDrawers(tx: Transaction, drawers: readonly DrawerDrive[]): Promise<void> {
  const rows = await tx
    .selectFrom('need_now')
    .select(['unit', 'n', 'need', 'shown'])
    .where(sql<boolean>`need ? 'unless'`)
    .orderBy('unit')
    .orderBy('n')
    .execute();
  for (const { unit, n, need, shown } of rows) {
    const text = shownText(need as unknown as NeedForHands, drawers);
    if (canonicalJson(shown) === canonicalJson(text === null ? null : JSON.parse(text))) continue;
    await tx.updateTable('need_now').set({ shown: text }).where('unit', '=', unit).where('n', '=', n).execute();
  }
}

/** What needs hands now, most urgent first. */
export async function needsNow(
  db: Database,
  now: string,
  most: number,
  unit?: string,
): Promise<{ readonly needs: NeedForHands[]; readonly total: number }> {
  const holds = db
    .selectFrom('need_now')
    .where('shown', 'is not', null)
    .where('from_at', '<=', new Date(now))
    .where((or) => or.or([or('until_at', 'is', null), or('until_at', '>', new Date(now))]))
    .$if(unit !== undefined, (query) => query.where('unit', '=', unit ?? ''));
  const [rows, count] = await Promise.all([
    holds
      .select('shown')
      .orderBy('urgency')
      .orderBy(sql`shown->>'title'`)
      .limit(most)
      .execute(),
    holds.select((of) => of.fn.countAll<string>().as('n')).executeTakeFirstOrThrow(),
  ]);
  return { needs: byUrgency(rows.map(({ shown }) => shown as unknown as NeedForHands)), total: Number(count.n) };
}

/** A mark of everything that needs hands now: another one as soon as anything of it is another. */
export async function markOfNeeds(db: Database, now: string): Promise<string> {
  const { rows } = await sql<{ mark: string }>`
    select count(*) || ' ' || coalesce(sum(hashtextextended(unit::text || shown::text, 0)), 0) as mark from need_now
    where shown is not null and from_at <= ${now}::timestamptz and (until_at is null or until_at > ${now}::timestamptz)`.execute(
    db,
  );
  return rows[0]?.mark ?? '';
}

export async function saveWaits(tx: Transaction, unit: string, waits: readonly UnitWait[]): Promise<void> {
  await tx.deleteFrom('wait_now').where('unit', '=', unit).execute();
  if (waits.length === 0) return;
  await tx
    .insertInto('wait_now')
    .values(
      waits.map(({ startedAt, heardAt, estimate, ...wait }) => ({
        ...wait,
        unit,
        started_at: startedAt,
        heard_at: heardAt,
        estimate: estimate === null ? null : JSON.stringify(estimate),
      })),
    )
    .execute();
}

/** Units at which work is under way, of some families or of all. */
export async function unitsAtWork(
  db: Database,
  families?: readonly string[],
): Promise<{ readonly id: string; readonly state: UnitState }[]> {
  return db
    .selectFrom('unit_now')
    .select(['unit as id', sql<UnitState>`state`.as('state')])
    .where((of) => of.exists(of.selectFrom('wait_now').select('job').whereRef('wait_now.unit', '=', 'unit_now.unit')))
    .$if(families !== undefined, (query) =>
      query.where(sql<string>`state->'profile'->>'id'`, 'in', [...(families ?? []), '']),
    )
    .orderBy('unit')
    .execute();
}

/** Another moment for work that is waited for already; what is there no longer is let be. */
export async function saveEstimate(
  tx: Transaction,
  unit: string,
  { job, heardAt, estimate }: Pick<UnitWait, 'job' | 'heardAt' | 'estimate'>,
): Promise<void> {
  await tx
    .updateTable('wait_now')
    .set({ estimate: estimate === null ? null : JSON.stringify(estimate) })
    .where('unit', '=', unit)
    .where('job', '=', job)
    .where('heard_at', '=', new Date(heardAt))
    .execute();
}

/** Everything that is waited for, the longest under way first. */
export async function waitsNow(db: Database, most: number): Promise<StoredWait[]> {
  const rows = await db
    .selectFrom('wait_now')
    .innerJoin('unit_now', 'unit_now.unit', 'wait_now.unit')
    .select(['wait_now.unit', 'name', 'job', 'task', 'bay', 'percent', 'started_at', 'heard_at', 'estimate', 'plan'])
    .orderBy('started_at')
    .limit(most)
    .execute();
  return rows.map(({ name, task, started_at, heard_at, estimate, ...row }) => ({
    ...row,
    unitName: name,
    task: task as JobTask,
    startedAt: started_at.toISOString(),
    heardAt: heard_at.toISOString(),
    estimate: estimate as unknown as LiveEstimate | null,
  }));
}

/** One part of the state of every unit in use, without the rest of it. */
export async function partsOfUnits<K extends keyof UnitState>(
  db: Database,
  parts: readonly K[],
): Promise<
  {
    readonly id: string;
    readonly name: string;
    readonly site: string;
    /** Of its ledger, and when its newest entry happened. */
    readonly version: number;
    readonly lastAt: string;
    readonly state: Pick<UnitState, K>;
  }[]
> {
  const rows = await db
    .selectFrom('unit_now')
    .select(['unit', 'name', 'site', 'version', 'last_happened_at'])
    .select(
      sql<unknown>`jsonb_build_object(${sql.join(parts.flatMap((part) => [sql.lit(part), sql`state->${sql.lit(part)}`]))})`.as(
        'state',
      ),
    )
    .where(isInUse)
    .orderBy('name')
    .execute();
  return rows.map(({ unit, name, site, version, last_happened_at, state }) => ({
    id: unit,
    name,
    site,
    version,
    lastAt: last_happened_at.toISOString(),
    state: state as Pick<UnitState, K>,
  }));
}

/** Units whose name or place holds the text. */
export async function unitsMatching(
  db: Database,
  text: string,
  most: number,
): Promise<{ id: string; name: string; site: string; room: string }[]> {
  const like = `%${text.replace(/[\\%_]/g, '\\$&')}%`;
  const rows = await db
    .selectFrom('unit_now')
    .select(['unit', 'name', 'site', 'room'])
    .where(sql<boolean>`name || ' ' || site || ' ' || room ilike ${like}`)
    .orderBy(sql`name ilike ${like}`, 'desc')
    .orderBy('name')
    .limit(most)
    .execute();
  return rows.map(({ unit, ...row }) => ({ id: unit, ...row }));
}

export interface PlaceName {
  readonly site: string;
  readonly room: string;
}

/** Every room a unit stands in or a drawer is in. */
export async function placesOf(db: Database): Promise<PlaceName[]> {
  const rows = await db
    .selectFrom('unit_now')
    .select(['site', 'room'])
    .union(
      db
        .selectFrom('drive_life')
        .select([sql<string>`site`.as('site'), sql<string>`room`.as('room')])
        .where('place', '=', 'drawer'),
    )
    .execute();
  return rows.sort((a, b) => (a.site + a.room < b.site + b.room ? -1 : 1));
}
