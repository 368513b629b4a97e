import type { UnitEvent } from '../../core/unit/event';
import { unitLedger } from '../../core/world/ledger';
import { entriesOfActs, pageOfEntries, takenBackActs, type LedgerRow } from '../../store/acts';
import type { App } from '../app';

/** A page of a unit's ledger. */
export interface LedgerPage {
  /** Newest first. */
  readonly rows: readonly LedgerRow<UnitEvent>[];
  /** As many entries of these kinds there are in all. */
  readonly total: number;
  /** What the acts of these entries recorded in this ledger, all of it, whatever the page shows. */
  readonly ofActs: readonly LedgerRow<UnitEvent>[];
  /** Acts that no longer count, and why. */
  readonly withdrawn: ReadonlyMap<string, string>;
}

/** Entries of a unit, of some kinds or of all, after the newest `from`. */
export async function readLedger(
  { db }: App,
  unit: string,
  page: { readonly from: number; readonly most: number; readonly kinds?: readonly string[] | undefined },
): Promise<LedgerPage> {
  const ledger = unitLedger(unit);
  const [{ rows, total }, withdrawn] = await Promise.all([
    pageOfEntries<UnitEvent>(db, ledger, page),
    takenBackActs(db, ledger),
  ]);
  const isAll = rows.length === total && page.kinds === undefined;
  const ofActs = isAll ? rows : await entriesOfActs<UnitEvent>(db, ledger, [...new Set(rows.map(({ act }) => act))]);
  return { rows, total, ofActs, withdrawn };
}
