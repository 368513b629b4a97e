import type { SerialKey } from '../drive/serial';
import { applyToDrive } from '../driveLife/applyToDrive';
import type { DriveEvent } from '../driveLife/event';
import type { DriveLife } from '../driveLife/life';
import type { Apply } from '../ledger/fold';
import type { Recorded, TakenBack } from '../ledger/recorded';
import { applyToPlan, type PlanEvent } from '../planRun/applyToPlan';
import type { PlanRun } from '../planRun/planRun';
import { apply } from '../unit/apply';
import type { UnitEvent } from '../unit/event';
import type { UnitState } from '../unit/state';

/** The three kinds of ledger, in the order in which they are held: whoever holds one never waits for an earlier kind. */
export const LEDGER_KINDS = ['plan', 'unit', 'drive'] as const;
export type LedgerKind = (typeof LEDGER_KINDS)[number];

/** One ledger: a plan or a unit by its id, a drive by its key. */
export interface LedgerName {
  readonly kind: LedgerKind;
  readonly id: string;
}

/** The ledger of a plan. */
export const planLedger = (id: string): LedgerName => ({ kind: 'plan', id });
/** The ledger of a unit. */
export const unitLedger = (id: string): LedgerName => ({ kind: 'unit', id });
/** The ledger of a drive. */
export const driveLedger = (key: SerialKey): LedgerName => ({ kind: 'drive', id: key });

export type AnyEvent = UnitEvent | DriveEvent | PlanEvent;
export type AnyState = UnitState | DriveLife | PlanRun;

/** A ledger as an act finds it. */
export interface Ledger extends LedgerName {
  /** How many entries it has; 0 before its first. */
  readonly version: number;
  /** The latest moment anything in it is said to have happened. */
  readonly lastHappenedAt: string | null;
  /** `null` before its first entry, and when none of its entries counts. */
  readonly state: AnyState | null;
  /** Its entries; `null` where they were not looked up: see `needsHistory`. */
  readonly history: readonly Recorded<AnyEvent | TakenBack>[] | null;
}

/** What a kind of ledger makes of an event. The one place where the three kinds differ. */
export function rulesOf({ kind, id }: LedgerName): Apply<AnyState, AnyEvent> {
  switch (kind) {
    case 'unit':
      return apply as Apply<AnyState, AnyEvent>;
    case 'drive':
      return ((life: DriveLife | null, event: DriveEvent, at: string) => applyToDrive(id, life, event, at)) as Apply<
        AnyState,
        AnyEvent
      >;
    case 'plan':
      return applyToPlan as Apply<AnyState, AnyEvent>;
  }
}

/** A ledger's name as one text, "unit:…": a key for maps, never shown. */
export function nameText({ kind, id }: LedgerName): string {
  return `${kind}:${id}`;
}
