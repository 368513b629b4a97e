import type { UnitEvent } from '../../core/unit/event';
import type { UnitState } from '../../core/unit/state';
import { unitLedger, type LedgerName } from '../../core/world/ledger';
import { entriesOfActs, pageOfEntries, takenBackActs, type LedgerRow } from '../../store/acts';
import type { Database } from '../../store/database';
import { unitById } from '../../store/units';
import type { App } from '../app';
import { entryWords } from '../ledgers/entryWords';

interface OneUnit {
  readonly id: string;
  readonly state: UnitState;
}

/** An entry that goes when the act it came by is taken back. */
export interface Together extends LedgerName {
  readonly seq: number;
  readonly words: string;
}

/** A page of a unit's ledger. */
export interface LedgerPage {
  /** Newest first. */
  readonly rows: readonly LedgerRow<UnitEvent>[];
  /** As many entries of these kinds there are in all. */
  readonly total: number;
  /**
   * What the acts of these entries recorded, all of it, whatever the page shows: in this ledger, in those of other units
   * and in the lives of drives. What a drive's life or a plan says again of an entry of a unit is not named twice.
   */
  readonly ofActs: ReadonlyMap<string, readonly Together[]>;
  /** Acts that no longer count, and why. */
  readonly withdrawn: ReadonlyMap<string, string>;
}

/** Entries of a unit, of some kinds or of all, after the newest `from`. */
export async function readLedger(
  { db }: App,
  unit: OneUnit,
  page: { readonly from: number; readonly most: number; readonly kinds?: readonly string[] | undefined },
): Promise<LedgerPage> {
  const ledger = unitLedger(unit.id);
  const [{ rows, total }, withdrawn] = await Promise.all([
    pageOfEntries<UnitEvent>(db, ledger, page),
    takenBackActs(db, ledger),
  ]);
  const standing = new Set(rows.map(({ act }) => act).filter((act) => !withdrawn.has(act)));
  return { rows, total, ofActs: await recordedTogether(db, unit, [...standing]), withdrawn };
}

async function recordedTogether(
  db: Database,
  unit: OneUnit,
  acts: readonly string[],
): Promise<Map<string, Together[]>> {
  const entries = (await entriesOfActs(db, acts)).filter(
    ({ kind, event }) => kind !== 'plan' && event.kind !== 'fitted' && event.kind !== 'taken-out',
  );
  const elsewhere = [...new Set(entries.flatMap(({ kind, id }) => (kind === 'unit' && id !== unit.id ? [id] : [])))];
  const found = await Promise.all(elsewhere.map((id) => unitById(db, id)));
  const units = new Map([unit, ...found].flatMap((one) => (one ? [[one.id, one.state] as const] : [])));
  const byAct = new Map<string, Together[]>();
  for (const { act, kind, id, seq, event } of entries) {
    const state = units.get(id);
    const where = id === unit.id ? '' : `${kind === 'unit' ? (state?.name ?? 'Another unit') : `Drive ${id}`}: `;
    const words = `${where}${entryWords(kind, event, state ?? { enclosures: [] }, [])}`;
    byAct.set(act, [...(byAct.get(act) ?? []), { kind, id, seq, words }]);
  }
  return byAct;
}
