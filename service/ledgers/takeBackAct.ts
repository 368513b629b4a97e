import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { Actor } from '../../core/world/act';
import { takeBack } from '../../core/world/takeBack';
import { actById } from '../../store/acts';
import type { Database, Transaction } from '../../store/database';
import { inTransaction } from './inTransaction';
import { asItStands } from './asItStands';
import { hold, told } from './recordAct';
import { save, type Done } from './save';
import type { Act } from '../../core/world/act';

export interface TakingBackAsked extends Pick<Act, 'expects'> {
  /** Of the taking back itself (uuid, made by its sender). */
  readonly id: string;
  /** The act that was not so. */
  readonly act: string;
  readonly by: Actor;
  readonly happenedAt: string;
  readonly reason: string;
}

/** Takes a whole act back, in every ledger it touched. */
export function takeBackAct(db: Database, asked: TakingBackAsked): Promise<Done | Refusal> {
  return inTransaction(db, (tx) => takeBackActIn(tx, asked));
}

export async function takeBackActIn(
  tx: Transaction,
  { id, act, by, happenedAt, reason, expects }: TakingBackAsked,
): Promise<Done | Refusal> {
  const target = await actById(tx, act);
  if (!target) return refusal('not-found', 'There is no such act.');
  const world = await hold(tx, [...target.entries, ...expects]);
  const known = await actById(tx, id);
  if (known)
    return known.takesBack === act
      ? asItStands(tx, known)
      : refusal('act-differs', 'An act of this id is on record, and says something else.', '/id');
  const moved = expects.findIndex((one) => (world.ledgers[`${one.kind}:${one.id}`]?.version ?? 0) !== one.version);
  if (moved >= 0)
    return told(
      tx,
      { expects },
      refusal(
        'version-conflict',
        'Somebody recorded something in the meantime. Look again, then decide.',
        '/expectedVersion',
      ),
    );
  const taken = takeBack(world, { id, by, happenedAt, act, reason });
  return isRefusal(taken) ? taken : save(tx, world, taken, { takesBack: act });
}
