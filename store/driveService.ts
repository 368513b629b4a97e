import { sql } from 'kysely';
import type { Media } from '../core/drive/media';
import { serialKey } from '../core/drive/serial';
import type { ServiceMark } from '../core/risk/ownRate';
import type { Database } from './database';

const WHAT = {
  fitted: 'fitted',
  'taken-out': 'taken-out',
  'drive-failed': 'failed',
  'drive-returned': 'back',
  'put-in-drawer': 'elsewhere',
  'sent-under-warranty': 'elsewhere',
  'sent-away': 'elsewhere',
} as const satisfies Record<string, ServiceMark['what']>;
type Kind = keyof typeof WHAT;

/** A drive that was ever in a unit, and what the ledgers say of its service there. */
export interface ServiceStory {
  readonly media: Media;
  readonly model?: string;
  readonly lot?: string;
  readonly marks: readonly ServiceMark[];
}

/** Every drive's service in units: fitted, failed, only dropped out, taken out. What was withdrawn is left out. */
export async function serviceStories(db: Database): Promise<ServiceStory[]> {
  const rows = await db
    .selectFrom('entry')
    .select([
      'entry.kind',
      'happened_at',
      sql<string>`case ledger when 'drive' then subject else body->>'serial' end`.as('serial'),
    ])
    .where('entry.kind', 'in', Object.keys(WHAT))
    .where(({ not, exists, selectFrom }) =>
      not(
        exists(
          selectFrom('entry as back')
            .select('back.seq')
            .whereRef('back.ledger', '=', 'entry.ledger')
            .whereRef('back.subject', '=', 'entry.subject')
            .where('back.kind', '=', 'taken-back')
            .where(sql<boolean>`back.body->>'act' = entry.act::text`),
        ),
      ),
    )
    .orderBy('entry.seq')
    .execute();
  const known = new Map(
    (
      await db
        .selectFrom('drive_life')
        .select([
          'serial',
          sql<Media | null>`life->'drive'->>'media'`.as('media'),
          sql<string | null>`life->'drive'->>'model'`.as('model'),
          sql<string | null>`life->'drive'->>'lot'`.as('lot'),
        ])
        .execute()
    ).map(({ serial, media, model, lot }) => [
      serial,
      {
        media: media ?? ('hard-disk' as const),
        ...(model === null ? {} : { model }),
        ...(lot === null ? {} : { lot }),
      },
    ]),
  );
  const stories = new Map<string, ServiceMark[]>();
  for (const { kind, happened_at, serial } of rows) {
    const key = serialKey(serial);
    const marks = stories.get(key) ?? [];
    marks.push({ what: WHAT[kind as Kind], at: happened_at.toISOString() });
    stories.set(key, marks);
  }
  return [...stories]
    .filter(([, marks]) => marks.some(({ what }) => what === 'fitted'))
    .map(([serial, marks]) => ({ media: 'hard-disk', ...known.get(serial), marks }));
}
