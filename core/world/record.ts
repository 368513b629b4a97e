import { keyed } from '../drive/keyed';
import { serialKey } from '../drive/serial';
import type { DriveLife } from '../driveLife/life';
import { whyNotWhole } from '../driveLife/whyNotWhole';
import { pointsOf } from '../ledger/fold';
import type { Recorded } from '../ledger/recorded';
import type { UnitEvent } from '../unit/event';
import { hazardsOf, type Hazard } from '../unit/preview';
import { contentsOf, hasNotArrived, type PoolContents } from '../unit/applyPoolMoved';
import type { Pool, UnitState } from '../unit/state';
import { canonicalJson } from '../value/canonicalJson';
import { entryOf } from '../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import type { Act, ActEntry, Written } from './act';
import { alongTheWay } from './alongTheWay';
import { consequencesOf } from './consequences';
import { messagesOf, type WorkMessage } from './messages';
import { driveLedger, nameText, rulesOf, type AnyEvent, type AnyState, type Ledger } from './ledger';
import { isLateFor, ledgerIn, worldAt, type World } from './world';

/** What an act comes to: nothing is true before this is saved. */
export interface RecordedAct {
  readonly kind: 'recorded';
  readonly act: Pick<Act, 'id' | 'by' | 'happenedAt'>;
  /** The ledgers it touched, as they are after it. */
  readonly ledgers: readonly Ledger[];
  readonly written: readonly Written[];
  /** What a person must hear: for what lies in the past, along the whole way from there to now. */
  readonly hazards: readonly Hazard[];
  /** What people are told of it, once. */
  readonly messages: readonly WorkMessage[];
}

/**
 * Makes an act true, in a world: the only way anything becomes true. Pure, and the same for everybody who records.
 *
 * Each ledger is judged at the moment the act says it happened, and everything that is in it later is folded again. What
 * the act means for the ledgers of the drives it moves is part of it.
 *
 * @param world the ledgers `ledgersOf` names; with their history where the act is late for them
 * @returns a refusal, with the pointer of the entry at fault (RFC 6901), for what cannot have happened then or makes
 * impossible what is on record since; `version-conflict` when a ledger has moved on
 */
export function record(world: World, act: Act): RecordedAct | Refusal {
  const moved = movedOn(world, act);
  if (moved) return moved;
  const entries = keyed(act.entries, '/entries');
  if (isRefusal(entries)) return entries;
  if (entries.length === 0) return refusal('nothing-to-record', 'There is nothing to record.', '/entries');
  const open = new Map<string, Open>();
  const left = new Map<string, Leaving>();
  const hazards: Hazard[] = [];
  const written: Written[] = [];
  for (const [i, entry] of entries.entries()) {
    const arrives = arriving(left, entry, (serial) => {
      const to = stateAt(open, world, entry.ledger) as UnitState | null;
      return to !== null && hasNotArrived(to, serial);
    });
    if (isRefusal(arrives)) return { ...arrives, pointer: `/entries/${String(i)}/event${arrives.pointer ?? ''}` };
    const empty = notWhole(open, world, entry);
    if (empty) return { ...empty, pointer: `/entries/${String(i)}/event${empty.pointer ?? ''}` };
    const leaves = leaving(open, world, act, entry);
    if (leaves) left.set(leaves.pool.id, leaves);
    for (const [n, one] of [
      entry,
      ...arrives,
      ...consequencesOf(
        entry,
        entry.ledger.kind === 'unit' ? (stateAt(open, world, entry.ledger) as UnitState | null) : null,
      ),
    ].entries()) {
      const wrong = enter(open, world, act, one, hazards, written);
      // What an entry means elsewhere is at fault at the entry itself.
      if (wrong)
        return { ...wrong, pointer: `/entries/${String(i)}${n === 0 ? `/event${wrong.pointer ?? ''}` : `/event`}` };
    }
  }
  const ledgers: Ledger[] = [];
  for (const of of open.values()) {
    const after = closed(of, act, hazards);
    if (isRefusal(after)) return after;
    ledgers.push(after);
  }
  return {
    kind: 'recorded',
    act: { id: act.id, by: act.by, happenedAt: act.happenedAt },
    ledgers,
    written,
    hazards,
    // Whoever only tries, takes in or works on without a network tells nobody: made when asked for.
    get messages() {
      return messagesOf(world, ledgers, written);
    },
  };
}

/** A pool that leaves a unit in this act, with what is in it. */
interface Leaving {
  readonly unit: string;
  readonly pool: Pool;
  readonly contents: PoolContents;
}

function leaving(
  open: ReadonlyMap<string, Open>,
  world: World,
  act: Act,
  { ledger, event }: ActEntry,
): Leaving | undefined {
  if (ledger.kind !== 'unit' || event.kind !== 'pool-left') return undefined;
  const before = ledgerIn(world, ledger);
  const unit = (
    isLateFor(before, act.happenedAt)
      ? ledgerIn(worldAt(world, act.happenedAt), ledger).state
      : (open.get(nameText(ledger))?.state ?? before.state)
  ) as UnitState | null;
  const pool = unit ? entryOf(unit.pools, event.pool) : undefined;
  return unit && pool ? { unit: ledger.id, pool, contents: contentsOf(unit, pool.id) } : undefined;
}

/** What arrives is what left: as it was built, and with what is in it; without what died or stayed behind on the way. */
function arriving(
  left: ReadonlyMap<string, Leaving>,
  { ledger, event }: ActEntry,
  isNotThere: (serial: string) => boolean,
): ActEntry[] | Refusal {
  if (ledger.kind !== 'unit' || event.kind !== 'pool-arrived') return [];
  const leaves = left.get(event.pool);
  if (!leaves) return [];
  const { pool, contents, unit } = leaves;
  const plain = ({
    scheme,
    groupWidth,
    bands,
    spares,
    usableBytes,
    shownBytes,
    builtAt,
    missing = [],
  }: Pick<Pool, 'scheme' | 'groupWidth' | 'bands' | 'spares' | 'usableBytes' | 'shownBytes' | 'builtAt'> & {
    readonly missing?: readonly string[];
  }): string => canonicalJson({ scheme, groupWidth, bands, spares, usableBytes, shownBytes, builtAt, missing });
  const missing = (event.missing ?? []).filter((serial) => pool.missing.includes(serial) || !isNotThere(serial));
  if (event.from !== unit || plain({ ...event, missing } as never) !== plain(pool))
    return refusal(
      'not-as-it-left',
      `${pool.name} arrives as it left, or not at all: as it was built, with its age and its members.`,
      '/bands',
    );
  return [
    {
      ledger,
      event: { kind: 'pool-contents', pool: event.pool, volumes: contents.volumes, dataSets: contents.dataSets },
    },
  ];
}

/** A ledger that is being written in. */
interface Open {
  readonly before: Ledger;
  readonly fresh: Recorded<AnyEvent>[];
  /** As it is so far; for a late act, as it is now. */
  state: AnyState | null;
}

function stateAt(open: ReadonlyMap<string, Open>, world: World, ledger: Pick<Ledger, 'kind' | 'id'>): AnyState | null {
  return open.get(nameText(ledger))?.state ?? ledgerIn(world, ledger).state;
}

/** Members the unit is said to have taken back whole that have been out since, and cannot be. */
function notWhole(open: ReadonlyMap<string, Open>, world: World, { ledger, event }: ActEntry): Refusal | undefined {
  if (ledger.kind !== 'unit' || (event.kind !== 'pool-restored' && event.kind !== 'pool-back')) return undefined;
  const unit = stateAt(open, world, ledger) as UnitState | null;
  for (const [i, serial] of event.serials.entries()) {
    if (entryOf(unit?.drives ?? {}, serial)?.backIn !== true) continue;
    const life = stateAt(open, world, driveLedger(serialKey(serial))) as DriveLife | null;
    const why = life && whyNotWhole(life, event.pool);
    if (why != null) return { ...why, pointer: `/serials/${String(i)}` };
  }
  return undefined;
}

function enter(
  open: Map<string, Open>,
  world: World,
  act: Act,
  { ledger: name, event }: ActEntry,
  hazards: Hazard[],
  written: Written[],
): Refusal | undefined {
  const before = ledgerIn(world, name);
  const of: Open = open.get(nameText(name)) ?? { before, fresh: [], state: before.state };
  open.set(nameText(name), of);
  const seq = before.version + of.fresh.length + 1;
  of.fresh.push({ seq, happenedAt: act.happenedAt, event, act: act.id });
  written.push({ kind: name.kind, id: name.id, seq, event });
  if (isLateFor(before, act.happenedAt)) return undefined;
  const next = rulesOf(name)(of.state, event, act.happenedAt);
  if (isRefusal(next)) return next;
  if (next.kind === 'unit') hazards.push(...hazardsOf(of.state as UnitState | null, event as UnitEvent, next));
  of.state = next;
  return undefined;
}

function closed({ before, fresh, state }: Open, act: Act, hazards: Hazard[]): Ledger | Refusal {
  const history = before.history === null ? null : [...before.history, ...fresh];
  const version = before.version + fresh.length;
  if (!isLateFor(before, act.happenedAt)) return { ...before, version, lastHappenedAt: act.happenedAt, state, history };
  const late = placed(before, fresh, act);
  if (isRefusal(late)) return late;
  hazards.push(...late.hazards);
  return { ...before, version, state: late.state, history };
}

/**
 * Late entries placed where they belong in a ledger, and everything after them folded again: the state now, and what a
 * person must hear, from their own moment on and along the whole way.
 */
export function placed(
  before: Ledger,
  fresh: readonly Recorded<AnyEvent>[],
  { id, happenedAt }: Pick<Act, 'id' | 'happenedAt'>,
): { readonly state: AnyState | null; readonly hazards: readonly Hazard[] } | Refusal {
  if (before.history === null)
    throw new Error(`The history of ${nameText(before)} is needed to place what happened at ${happenedAt}.`);
  const rules = rulesOf(before);
  const after = pointsOf<AnyState, AnyEvent>([...before.history, ...fresh], rules);
  if ('refusal' in after) return after.at.act === id ? after.refusal : makesImpossible(after.refusal, after.at);
  const was = pointsOf<AnyState, AnyEvent>(before.history, rules);
  const hazards = before.kind === 'unit' && !('refusal' in was) ? alongTheWay(was, after, happenedAt) : [];
  return { state: after.at(-1)?.state ?? null, hazards };
}

/** A late entry that leaves no room for something recorded since. */
function makesImpossible({ pointer: _pointer, ...no }: Refusal, { happenedAt }: Recorded<AnyEvent>): Refusal {
  const when = `${happenedAt.slice(0, 16).replace('T', ' ')} UTC`;
  return {
    ...no,
    sentence: `With that, what is on record for ${when} cannot have happened: ${no.sentence}`,
    pointer: '/happenedAt',
  };
}

/** The ledgers that have moved on since their author looked. */
function movedOn(world: World, { expects }: Act): Refusal | undefined {
  const moved = expects.filter((one) => ledgerIn(world, one).version !== one.version);
  const [first] = moved;
  if (!first) return undefined;
  return {
    ...refusal(
      'version-conflict',
      'Somebody recorded something in the meantime. Look again, then decide.',
      `/expects/${String(expects.indexOf(first))}/version`,
    ),
    more: {
      ledgers: moved.map((one) => ({
        [one.kind]: one.id,
        version: ledgerIn(world, one).version,
        expected: one.version,
      })),
    },
  };
}
