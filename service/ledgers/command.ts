import type { Interlock } from '../../core/plan/engine/interlock';
import type { StepStopped } from '../../core/plan/run/doStep';
import type { Made } from '../../core/plan/run/runOf';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { Act, Actor } from '../../core/world/act';
import { ledgersOf } from '../../core/world/consequences';
import { planLedger, unitLedger, type LedgerName } from '../../core/world/ledger';
import { record } from '../../core/world/record';
import { unitIn, withLedgers, type World } from '../../core/world/world';
import { actById } from '../../store/acts';
import type { Transaction } from '../../store/database';
import { usedOf } from '../../store/readings';
import { asItStands } from './asItStands';
import { addMeasured } from '../units/measure';
import { hold, whoWasFirst, withUsed } from './recordAct';
import { save, type Done } from './save';

/** What a person asks of a plan: the model makes the entries, from the ledgers as they are when they are held. */
export interface Command extends Pick<Act, 'expects'> {
  /** Of the act (uuid, made by its sender): the same command sent twice is carried out once. */
  readonly id: string;
  readonly by: Actor;
  readonly happenedAt: string;
  readonly now: string;
  readonly plan: string;
  /** The units the plan acts on. */
  readonly units: readonly string[];
  /** Other ledgers it writes in. */
  readonly also?: readonly LedgerName[];
  readonly make: (world: World) => Made | StepStopped | Refusal;
}

/** A command the model stops; that it was tried is on record. */
export interface Stopped {
  readonly kind: 'stopped';
  readonly interlocks: readonly Interlock[];
  readonly done: Done;
}

export async function commandIn(tx: Transaction, command: Command): Promise<Done | Stopped | Refusal> {
  const { id, by, happenedAt, now, plan, units, expects, make, also = [] } = command;
  const names: LedgerName[] = [planLedger(plan), ...also, ...units.map(unitLedger)];
  const world = await hold(tx, [...names, ...expects], happenedAt);
  const known = await actById(tx, id);
  if (known)
    return known.entries.some((entry) => entry.kind === 'plan' && entry.id === plan)
      ? asItStands(tx, known)
      : refusal(
          'act-differs',
          'An act of this id is on record, and says something else. Give every act an id of its own.',
          '/act',
        );
  const first = await whoWasFirst(tx, world, expects);
  if (first) return first;
  const pools = units.flatMap((unit) => Object.keys(unitIn(world, unit)?.pools ?? {}));
  const made = make({ ...world, used: await usedOf(tx, pools) });
  if (isRefusal(made)) return made;
  const isStopped = made.kind === 'stopped';
  const act: Act = {
    kind: 'act',
    id,
    by,
    happenedAt: isStopped ? now : happenedAt,
    expects: [],
    entries: made.entries,
  };
  const drives = ledgersOf(made.entries).filter(({ kind }) => kind === 'drive');
  const whole =
    drives.length === 0 ? world : withLedgers(world, Object.values((await hold(tx, drives, act.happenedAt)).ledgers));
  const recorded = record(await withUsed(tx, whole, act), act);
  if (isRefusal(recorded))
    return { ...recorded, pointer: recorded.pointer === '/happenedAt' ? '/happenedAt' : '/evidence' };
  const done = await save(tx, whole, recorded);
  const fills = isStopped || isRefusal(done) ? [] : (made.fills ?? []);
  if (fills.length > 0)
    await addMeasured(
      tx,
      fills.map(({ unit, pool, bytes }) => ({
        unit,
        subject: pool,
        metric: 'used-bytes',
        at: happenedAt,
        value: bytes,
      })),
    );
  return isRefusal(done) || !isStopped ? done : { kind: 'stopped', interlocks: made.interlocks, done };
}
