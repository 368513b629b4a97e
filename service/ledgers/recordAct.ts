import type { UnitEvent } from '../../core/unit/event';
import { canonicalJson } from '../../core/value/canonicalJson';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { keyed } from '../../core/drive/keyed';
import type { Act } from '../../core/world/act';
import { ledgersOf } from '../../core/world/consequences';
import { nameText, type LedgerName } from '../../core/world/ledger';
import { record } from '../../core/world/record';
import { isOfWork } from '../../core/world/messages';
import { ledgerIn, unitIn, worldOf, type World } from '../../core/world/world';
import { actById, entriesOf, loadLedgers, lockLedgers, type LedgerRow, type StoredAct } from '../../store/acts';
import type { Database, Transaction } from '../../store/database';
import { usedOf } from '../../store/readings';
import { planById } from '../../store/plans';
import { unitById } from '../../store/units';
import { inTransaction } from './inTransaction';
import { save, type Done, type Kept } from './save';
import { asItStands } from './asItStands';
import { entryWords } from './entryWords';

/**
 * The one road for a change: holds the ledgers an act touches, loads them, lets the model judge, and saves what it says;
 * all in one transaction or not at all. The same act sent twice is written once.
 */
export function recordAct(db: Database, act: Act, kept: Kept = {}): Promise<Done | Refusal> {
  return inTransaction(db, (tx) => recordActIn(tx, act, kept));
}

/** The same inside a transaction that does more. */
export async function recordActIn(tx: Transaction, act: Act, kept: Kept = {}): Promise<Done | Refusal> {
  const world = await hold(tx, [...ledgersOf(act.entries), ...act.expects], act.happenedAt);
  const known = await actById(tx, act.id);
  if (known) return repeated(tx, known, act);
  const recorded = record(await withUsed(tx, world, act), act);
  if (isRefusal(recorded)) return recorded.code === 'version-conflict' ? told(tx, act, recorded) : recorded;
  return save(tx, world, recorded, kept);
}

/** What is told of work that is under way depends on how full its pool is. */
export async function withUsed(tx: Transaction, world: World, { entries }: Act): Promise<World> {
  const units = entries
    .filter(({ ledger, event }) => ledger.kind === 'unit' && isOfWork(event as UnitEvent))
    .map(({ ledger }) => unitIn(world, ledger.id));
  const pools = units.flatMap((unit) => Object.keys(unit?.pools ?? {}));
  return pools.length === 0 ? world : { ...world, used: await usedOf(tx, pools) };
}

/** The ledgers of these names, held until the transaction ends, with their histories where something is late for them. */
export async function hold(tx: Transaction, names: readonly LedgerName[], at?: string): Promise<World> {
  await lockLedgers(tx, names);
  return worldOf(await loadLedgers(tx, names, at));
}

/** An act that is there already: answered as the first time, unless it says something else now. */
export async function repeated(tx: Transaction, known: StoredAct, act: Act): Promise<Done | Refusal> {
  const stands = new Set(known.entries.map((entry) => text(entry, entry.event)));
  const sent = keyed(act.entries);
  if (isRefusal(sent)) return sent;
  const isAtAnother = act.isDated === true && act.happenedAt !== known.happenedAt;
  if (isAtAnother || !sent.every(({ ledger, event }) => stands.has(text(ledger, event))))
    return refusal(
      'act-differs',
      `An act of this id is on record, and ${isAtAnother ? 'happened at another time' : 'says something else'}. Give every act an id of its own.`,
      '/id',
    );
  return asItStands(tx, known);
}

function text(ledger: LedgerName, event: object): string {
  return `${nameText(ledger)} ${canonicalJson(event)}`;
}

/**
 * Somebody recorded something in a ledger its author did not see: said before anything is judged by a state nobody saw.
 * `undefined` where nobody did.
 */
export async function whoWasFirst(
  tx: Transaction,
  world: World,
  expects: Act['expects'],
): Promise<Refusal | undefined> {
  if (expects.every((one) => ledgerIn(world, one).version === one.version)) return undefined;
  const conflict = refusal(
    'version-conflict',
    'Somebody recorded something in the meantime. Look again, then decide.',
    '/expectedVersion',
  );
  return told(tx, { expects }, conflict);
}

/** A conflict in the words of the ledgers: who was first, and what they recorded. */
async function told(tx: Transaction, { expects }: Pick<Act, 'expects'>, conflict: Refusal): Promise<Refusal> {
  const ledgers: object[] = [];
  let onlyHeard = true;
  const sentences: string[] = [];
  for (const { kind, id, version } of expects) {
    const since = await entriesOf(tx, { kind, id }, version);
    if (since.length === 0) continue;
    // Nothing but how far some work is: no reason to ask anybody again.
    onlyHeard &&= since.every(({ event }) => event.kind === 'job-progressed');
    const boxes = (kind === 'unit' ? await unitById(tx, id) : undefined)?.state ?? { enclosures: [] };
    const steps = (kind === 'plan' ? await planById(tx, id) : undefined)?.run.plan.steps ?? [];
    const last = since.slice(-MOST_TOLD).map(({ event, recordedBy, happenedAt }) => ({
      words: entryWords(kind, event, boxes, steps),
      by: recordedBy,
      happenedAt,
    }));
    ledgers.push({ [kind]: id, version: (since.at(-1) as LedgerRow).seq, since: last });
    sentences.push(...last.map(({ words, by }) => `“${words}” (${by})`));
  }
  if (sentences.length === 0) return conflict;
  return {
    ...conflict,
    sentence: `Somebody recorded something in the meantime: ${sentences.slice(-MOST_TOLD).join(', ')}. Look again, then decide.`,
    more: { ledgers, onlyHeard },
  };
}

const MOST_TOLD = 3;
