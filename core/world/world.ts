import type { DriveLife } from '../driveLife/life';
import { pointsOf, standingOf } from '../ledger/fold';
import type { PlanRun } from '../planRun/planRun';
import type { UnitState } from '../unit/state';
import { entryOf } from '../value/entryOf';
import { driveLedger, nameText, rulesOf, type AnyState, type Ledger, type LedgerName } from './ledger';
import type { SerialKey } from '../drive/serial';

/** The states of the ledgers an act touches. */
export interface World {
  readonly kind: 'world';
  readonly ledgers: Readonly<Record<string, Ledger>>;
  /** Bytes used by pool, as last read: whether work goes as it should depends on it where only used space is rebuilt. */
  readonly used?: Readonly<Record<string, number>>;
}

/** The world of these ledgers; of two of one name the later counts. */
export function worldOf(ledgers: readonly Ledger[]): World {
  return Object.freeze({
    kind: 'world',
    ledgers: Object.freeze(Object.fromEntries(ledgers.map((ledger) => [nameText(ledger), ledger]))),
  });
}

/** A ledger nothing has been written in. */
export function emptyLedger({ kind, id }: LedgerName): Ledger {
  return { kind, id, version: 0, lastHappenedAt: null, state: null, history: [] };
}

/** A ledger of the world; an empty one where it has none of that name. */
export function ledgerIn(world: World, name: LedgerName): Ledger {
  return entryOf(world.ledgers, nameText(name)) ?? emptyLedger(name);
}

/** The world with some ledgers as they are now. */
export function withLedgers(world: World, ledgers: readonly Ledger[]): World {
  return { ...world, ledgers: { ...world.ledgers, ...worldOf(ledgers).ledgers } };
}

/** A unit's state; `null` before its first entry. */
export function unitIn(world: World, id: string): UnitState | null {
  return ledgerIn(world, { kind: 'unit', id }).state as UnitState | null;
}

/** A drive's life; `null` before its first entry. */
export function driveIn(world: World, key: SerialKey): DriveLife | null {
  return ledgerIn(world, driveLedger(key)).state as DriveLife | null;
}

/** How a plan stands; `null` before its first entry. */
export function planIn(world: World, id: string): PlanRun | null {
  return ledgerIn(world, { kind: 'plan', id }).state as PlanRun | null;
}

/** True for what happened before something that is in the ledger already: its history is needed to place it. */
export function isLateFor({ lastHappenedAt }: Pick<Ledger, 'lastHappenedAt'>, happenedAt: string): boolean {
  return lastHappenedAt !== null && happenedAt < lastHappenedAt;
}

/** The world as it was at a moment: every ledger folded up to it. Ledgers whose history is not there stay as they are. */
export function worldAt(world: World, at: string): World {
  const then = worldOf(
    Object.values(world.ledgers).map((ledger) =>
      isLateFor(ledger, at) && ledger.history ? { ...ledger, state: stateAt(ledger, at) } : ledger,
    ),
  );
  return world.used === undefined ? then : { ...then, used: world.used };
}

function stateAt(ledger: Ledger, at: string): AnyState | null {
  const points = pointsOf(
    standingOf(ledger.history ?? []).filter(({ happenedAt }) => happenedAt <= at),
    rulesOf(ledger),
  );
  return 'refusal' in points ? null : (points.at(-1)?.state ?? null);
}
