import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { takeBack } from '../../core/world/takeBack';
import { actById } from '../../store/acts';
import type { Database, Transaction } from '../../store/database';
import { inTransaction } from './inTransaction';
import { asItStands } from './asItStands';
import { hold, whoWasFirst } from './recordAct';
import { save, type Done } from './save';
import type { Act } from '../../core/world/act';

/** The taking back itself, as its sender made it: an act without entries of its own. */
type TakingBack = Pick<Act, 'id' | 'by' | 'happenedAt' | 'expects'>;

/**
 * Takes a whole act back, in every ledger it touched.
 *
 * @param act the id of the act that was not so
 */
export function takeBackAct(db: Database, asked: TakingBack, act: string, reason: string): Promise<Done | Refusal> {
  return inTransaction(db, (tx) => takeBackActIn(tx, asked, act, reason));
}

export async function takeBackActIn(
  tx: Transaction,
  { id, by, happenedAt, expects }: TakingBack,
  act: string,
  reason: string,
): Promise<Done | Refusal> {
  const target = await actById(tx, act);
  if (!target) return refusal('not-found', 'There is no such act.');
  const world = await hold(tx, [...target.entries, ...expects]);
  const known = await actById(tx, id);
  if (known)
    return known.takesBack === act
      ? asItStands(tx, known)
      : refusal('act-differs', 'An act of this id is on record, and says something else.', '/id');
  const first = await whoWasFirst(tx, world, expects);
  if (first) return first;
  const taken = takeBack(world, { id, by, happenedAt, act, reason });
  return isRefusal(taken) ? taken : save(tx, world, taken, { takesBack: act });
}
