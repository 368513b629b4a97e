import { sql } from 'kysely';
import { serialKey } from '../core/drive/serial';
import type { DriveLife } from '../core/driveLife/life';
import { MODEL } from '../core/world/model';
import { sicknessOf } from '../core/driveLife/sickness';
import type { DrawerDrive } from '../core/upkeep/spareCoverage';
import type { Database, Transaction } from './database';

/** A drive's life as its snapshot holds it. */
export interface StoredLife {
  readonly version: number;
  readonly lastHappenedAt: string;
  readonly life: DriveLife;
}

export type PlaceKind = DriveLife['where']['kind'];

/** A life, and what the unit it stands in makes of it. */
export interface ListedDrive extends StoredLife {
  readonly condition: string | null;
  readonly role: string | null;
  readonly pool: string | null;
}

/** A drive's life, however its serial was typed. */
export async function lifeOf(db: Database, serial: string): Promise<StoredLife | undefined> {
  const row = await db
    .selectFrom('drive_life')
    .select(['version', 'last_happened_at', 'life'])
    .where('serial', '=', serialKey(serial))
    .executeTakeFirst();
  return row && toLife(row);
}

/** The life of the drive a person means: by its serial, or by its end where only one drive ends so. */
export async function lifeMeant(db: Database, typed: string): Promise<StoredLife | undefined> {
  const exact = await lifeOf(db, typed);
  if (exact) return exact;
  const end = serialKey(typed).replace(/[\\%_]/g, '\\$&');
  if (end.length < SHORTEST_END) return undefined;
  const rows = await db
    .selectFrom('drive_life')
    .select(['version', 'last_happened_at', 'life'])
    .where('serial', 'like', `%${end}`)
    .limit(2)
    .execute();
  return rows.length === 1 && rows[0] ? toLife(rows[0]) : undefined;
}

/** As many characters of the end of a serial are read off a label at arm's length. */
const SHORTEST_END = 4;

/** As many drives of one length there are in a small business, and as many are held against what was read. */
const MOST_NEAR = 20_000;

/** Serials of about as many characters, or with the same end: those that one which was read may be taken for. */
export async function serialsNear(db: Database, serial: string): Promise<readonly string[]> {
  const end = serial.slice(-SHORTEST_END).replace(/[\\%_]/g, '\\$&');
  const rows = await db
    .selectFrom('drive_life')
    .select('serial')
    .where((or) =>
      or.or([
        sql<boolean>`length(serial) between ${serial.length - 2} and ${serial.length + 2}`,
        or('serial', 'like', `%${end}`),
      ]),
    )
    .where('serial', '!=', serial)
    .limit(MOST_NEAR)
    .execute();
  return rows.map((row) => row.serial);
}

/** Drives that were never there after all. */
export async function forgetLife(tx: Transaction, serial: string): Promise<void> {
  await tx.deleteFrom('drive_life').where('serial', '=', serial).execute();
}

export async function saveLives(tx: Transaction, lives: readonly StoredLife[]): Promise<void> {
  if (lives.length === 0) return;
  await tx
    .insertInto('drive_life')
    .values(
      lives.map(({ version, lastHappenedAt, life }) => {
        const { serial, where, drive } = life;
        const [site, room] = where.kind === 'drawer' ? [where.site, where.room] : [null, null];
        const { bytes, model = null, lot = null } = drive;
        return {
          serial,
          version,
          model_version: MODEL,
          last_happened_at: lastHappenedAt,
          place: where.kind,
          site,
          room,
          bytes,
          model,
          lot,
          life: JSON.stringify(life),
        };
      }),
    )
    .onConflict((conflict) =>
      conflict.column('serial').doUpdateSet((set) => ({
        version: set.ref('excluded.version'),
        model_version: set.ref('excluded.model_version'),
        last_happened_at: set.ref('excluded.last_happened_at'),
        place: set.ref('excluded.place'),
        site: set.ref('excluded.site'),
        room: set.ref('excluded.room'),
        bytes: set.ref('excluded.bytes'),
        model: set.ref('excluded.model'),
        lot: set.ref('excluded.lot'),
        life: set.ref('excluded.life'),
      })),
    )
    .execute();
}

/** How a list of drives is ordered, and which of them are in it. */
export interface DriveOrdered {
  readonly words: string;
  readonly by: DriveColumn | null;
  readonly desc: boolean;
}

/** What drives can be ordered by. */
const COLUMNS = {
  serial: sql`drive_life.serial`,
  where: sql`concat_ws(' ', drive_life.place, life->'where'->>'unitName', drive_life.site, drive_life.room, life->'where'->>'drawer')`,
  size: sql`drive_life.bytes`,
  model: sql`drive_life.model`,
  condition: sql`drive_now.condition`,
  role: sql`drive_now.role`,
  since: sql`life->>'whereSince'`,
  warranty: sql`life->'drive'->>'warrantyUntil'`,
};
export type DriveColumn = keyof typeof COLUMNS;
export const DRIVE_COLUMNS = Object.keys(COLUMNS) as readonly DriveColumn[];

/** A drive whose serial, model, lot or place has these words in it. */
function hasWords(words: string) {
  const like = `%${words.replace(/[\\%_]/g, '\\$&')}%`;
  return sql<boolean>`concat_ws(' ', drive_life.serial, drive_life.model, drive_life.lot, life->'where'->>'unitName', drive_life.site, drive_life.room, life->'where'->>'drawer', drive_now.condition, drive_now.role) ilike ${like}`;
}

/** How many of a place have these words in them. */
export async function countListed(db: Database, place: PlaceKind | undefined, words: string): Promise<number> {
  const { n } = await db
    .selectFrom('drive_life')
    .leftJoin('drive_now', 'drive_now.serial', 'drive_life.serial')
    .select((of) => of.fn.countAll<string>().as('n'))
    .$if(place !== undefined, (query) => query.where('place', '=', place ?? ''))
    .where(hasWords(words))
    .executeTakeFirstOrThrow();
  return Number(n);
}

/** By serial, in one kind of place or in all, `most` at a time. */
export async function listLives(
  db: Database,
  place: PlaceKind | undefined,
  from: number,
  most: number,
  order?: DriveOrdered,
): Promise<ListedDrive[]> {
  return (
    await listed(db)
      .$if(place !== undefined, (query) => query.where('place', '=', place ?? ''))
      .$if((order?.words ?? '') !== '', (query) => query.where(hasWords(order?.words ?? '')))
      .$if(order?.by != null, (query) =>
        query.orderBy(COLUMNS[order?.by ?? 'serial'], (ordered) =>
          (order?.desc === true ? ordered.desc() : ordered.asc()).nullsLast(),
        ),
      )
      .orderBy('drive_life.serial')
      .offset(from)
      .limit(most)
      .execute()
  ).map(toListed);
}

/** Drives that came out of a unit with its data on them, and were neither emptied since nor in another; by serial. */
export async function livesHolding(db: Database, unit: string): Promise<DriveLife[]> {
  const rows = await db
    .selectFrom('drive_life')
    .select('life')
    .where('place', '!=', 'bay')
    .where(sql<boolean>`life->'holds'->>'unit' = ${unit}`)
    .orderBy('serial')
    .execute();
  return rows.map(({ life }) => life as unknown as DriveLife);
}

/** Every drive that stands ready in a drawer: not known to be sick, not wiped to be sent away. */
export async function drawerDrives(db: Database): Promise<DrawerDrive[]> {
  const rows = await db
    .selectFrom('drive_life')
    .select('life')
    .where('place', '=', 'drawer')
    .orderBy('serial')
    .execute();
  return rows.flatMap((row): DrawerDrive[] => {
    const { serial, where, drive, sick, tested } = row.life as unknown as DriveLife;
    if (where.kind !== 'drawer') return [];
    const sickness = sicknessOf({ sick, tested });
    const { bytes, basis, media, form } = drive;
    const { site, room, drawer } = where;
    return [
      {
        serial,
        bytes,
        basis,
        ...(media === undefined ? {} : { media }),
        ...(form === undefined ? {} : { form }),
        place: { site, room, drawer },
        ...(sickness === undefined ? {} : { sick: sickness }),
      },
    ];
  });
}

/** Drives of one lot, wherever they are. */
export async function livesOfLot(db: Database, lot: string, most: number): Promise<ListedDrive[]> {
  return (await listed(db).where('lot', '=', lot).orderBy('drive_life.serial').limit(most).execute()).map(toListed);
}

/** How many drives there are in each kind of place. */
export async function countLives(db: Database): Promise<Readonly<Partial<Record<PlaceKind, number>>>> {
  const rows = await db
    .selectFrom('drive_life')
    .select((of) => ['place', of.fn.countAll<string>().as('n')])
    .groupBy('place')
    .execute();
  return Object.fromEntries(rows.map(({ place, n }) => [place, Number(n)]));
}

/** Drives whose serial or model holds the text; those whose serial ends with it come first, as people read last fours. */
export async function findLives(db: Database, text: string, most: number): Promise<ListedDrive[]> {
  const like = text.replace(/[\\%_]/g, '\\$&');
  const rows = await listed(db)
    .where((or) => or.or([or('drive_life.serial', 'ilike', `%${like}%`), or('drive_life.model', 'ilike', `%${like}%`)]))
    .orderBy(sql`drive_life.serial ilike ${'%' + like}`, 'desc')
    .orderBy('drive_life.serial')
    .limit(most)
    .execute();
  return rows.map(toListed);
}

export async function forgetLives(tx: Transaction): Promise<void> {
  await tx.deleteFrom('drive_life').execute();
}

function listed(db: Database) {
  return db
    .selectFrom('drive_life')
    .leftJoin('drive_now', 'drive_now.serial', 'drive_life.serial')
    .select(['version', 'last_happened_at', 'life', 'condition', 'role', 'pool']);
}

function toListed({
  condition,
  role,
  pool,
  ...row
}: Awaited<ReturnType<ReturnType<typeof listed>['execute']>>[number]): ListedDrive {
  return { ...toLife(row), condition, role, pool };
}

function toLife(row: { version: number; last_happened_at: Date; life: unknown }): StoredLife {
  return { version: row.version, lastHappenedAt: row.last_happened_at.toISOString(), life: row.life as DriveLife };
}
