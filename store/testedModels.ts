import type { Database } from './database';

/** A model on the user's own list of tested drives. */
export interface TestedModel {
  readonly model: string;
  readonly verdict: 'works' | 'avoid';
  readonly note: string | null;
}

export async function testedModels(db: Database): Promise<TestedModel[]> {
  const rows = await db.selectFrom('tested_model').select(['model', 'verdict', 'note']).orderBy('model').execute();
  return rows.map((row) => ({ ...row, verdict: row.verdict as TestedModel['verdict'] }));
}

export async function saveTestedModel(db: Database, { model, verdict, note }: TestedModel, by: string): Promise<void> {
  await db
    .insertInto('tested_model')
    .values({ model, verdict, note, recorded_by: by })
    .onConflict((conflict) =>
      conflict.column('model').doUpdateSet({ verdict, note, recorded_by: by, recorded_at: new Date() }),
    )
    .execute();
}

export async function deleteTestedModel(db: Database, model: string): Promise<boolean> {
  return (await db.deleteFrom('tested_model').where('model', '=', model).executeTakeFirst()).numDeletedRows > 0n;
}
