import type { Database } from './database';

export const PAPER_TYPES = [
  'image/png',
  'image/jpeg',
  'image/webp',
  'application/pdf',
  'text/plain',
  'text/csv',
] as const;
export type PaperType = (typeof PAPER_TYPES)[number];

/** A picture or a paper kept with a unit or a drive. */
export interface Paper {
  readonly id: string;
  readonly unit: string | null;
  readonly serial: string | null;
  readonly name: string;
  readonly type: PaperType;
  readonly size: number;
  readonly sha256: string;
  readonly addedAt: string;
  readonly addedBy: string;
}

const ABOUT = ['id', 'unit', 'serial', 'name', 'type', 'size', 'sha256', 'added_at', 'added_by'] as const;

/** @param addedAt left out means now */
export async function insertPaper(
  db: Database,
  { addedBy, addedAt, ...paper }: Omit<Paper, 'addedAt'> & { readonly addedAt?: string },
  bytes: Buffer,
): Promise<void> {
  await db
    .insertInto('paper')
    .values({ ...paper, added_by: addedBy, bytes, ...(addedAt === undefined ? {} : { added_at: addedAt }) })
    .execute();
}

export async function papersOf(
  db: Database,
  of: { readonly unit: string } | { readonly serial: string },
): Promise<Paper[]> {
  const rows = await db
    .selectFrom('paper')
    .select(ABOUT)
    .$if('unit' in of, (query) => query.where('unit', '=', 'unit' in of ? of.unit : ''))
    .$if('serial' in of, (query) => query.where('serial', '=', 'serial' in of ? of.serial : ''))
    .orderBy('added_at', 'desc')
    .execute();
  return rows.map(toPaper);
}

/** One paper with what is in it. */
export async function paperById(db: Database, id: string): Promise<(Paper & { readonly bytes: Buffer }) | undefined> {
  const row = await db
    .selectFrom('paper')
    .select([...ABOUT, 'bytes'])
    .where('id', '=', id)
    .executeTakeFirst();
  return row && { ...toPaper(row), bytes: row.bytes };
}

export async function deletePaper(db: Database, id: string): Promise<boolean> {
  return (await db.deleteFrom('paper').where('id', '=', id).executeTakeFirst()).numDeletedRows > 0n;
}

function toPaper(row: {
  id: string;
  unit: string | null;
  serial: string | null;
  name: string;
  type: string;
  size: number;
  sha256: string;
  added_at: Date;
  added_by: string;
}): Paper {
  const { id, unit, serial, name, type, size, sha256 } = row;
  return {
    id,
    unit,
    serial,
    name,
    type: type as PaperType,
    size,
    sha256,
    addedAt: row.added_at.toISOString(),
    addedBy: row.added_by,
  };
}
