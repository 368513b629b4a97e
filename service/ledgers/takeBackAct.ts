import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { Actor } from '../../core/world/act';
import { takeBack } from '../../core/world/takeBack';
import { actById } from '../../store/acts';
import type { Database, Work } from '../../store/database';
import { inOnePiece } from './inOnePiece';
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
  return inOnePiece(db, (work) => takeBackActIn(work, asked));
}

export async function takeBackActIn(
  work: Work,
  { id, act, by, happenedAt, reason, expects }: TakingBackAsked,
): Promise<Done | Refusal> {
  const target = await actById(work, act);
  if (!target) return refusal('not-found', 'There is no such act.');
  const world = await hold(work, [...target.entries, ...expects]);
  const known = await actById(work, id);
  if (known)
    return known.takesBack === act
      ? asItStands(work, known)
      : refusal('act-differs', 'An act of this id is on record, and says something else.', '/id');
  const moved = expects.findIndex((one) => (world.ledgers[`${one.kind}:${one.id}`]?.version ?? 0) !== one.version);
  if (moved >= 0)
    return told(
      work,
      { expects },
      refusal(
        'version-conflict',
        'Somebody recorded something in the meantime. Look again, then decide.',
        '/expectedVersion',
      ),
    );
  const taken = takeBack(world, { id, by, happenedAt, act, reason });
  return isRefusal(taken) ? taken : save(work, world, taken, { takesBack: act });
}
