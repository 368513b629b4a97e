import { isRefusal, type Refusal } from '../../core/value/refusal';
import type { Database, Transaction } from '../../store/database';

/** Two that wait for each other: the database ends one, which begins again. */
const DEADLOCK = '40P01';
const TRIES = 4;

/**
 * Runs work in one transaction: a refusal leaves nothing behind, as an exception does. It may run more than once; only
 * the last counts.
 */
export async function inTransaction<T>(
  db: Database,
  work: (tx: Transaction) => Promise<T | Refusal>,
  tries = TRIES,
): Promise<T | Refusal> {
  try {
    return await db.transaction().execute(async (inside) => {
      const result = await work(inside);
      // Leaving by an exception is what rolls the transaction back.
      if (isRefusal(result)) throw new Refused(result);
      return result;
    });
  } catch (error) {
    if (error instanceof Refused) return error.refusal;
    if ((error as { code?: string }).code === DEADLOCK && tries > 1) return inTransaction(db, work, tries - 1);
    if ((error as { code?: string }).code === '23505') return conflictOf(error as { constraint?: string });
    throw error;
  }
}

class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.sentence);
  }
}

/** Two at once, past the checks: the database's own constraints have the last word. */
function conflictOf({ constraint }: { constraint?: string }): Refusal {
  const refused = (code: string, sentence: string, pointer: string): Refusal => ({
    kind: 'refusal',
    code,
    sentence,
    pointer,
  });
  if (constraint === 'unit_now_name')
    return refused('name-taken', 'Somebody has just put a unit of that name on the shelf.', '/name');
  if (constraint?.startsWith('drive_now') === true)
    return refused('drive-elsewhere', 'One of these serials has just been recorded in another unit.', '/drives');
  return refused('version-conflict', 'Somebody recorded something in the same moment. Look again.', '/expectedVersion');
}
