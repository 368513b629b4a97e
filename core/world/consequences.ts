import { serialKey } from '../drive/serial';
import { bayName } from '../unit/bayName';
import type { UnitEvent } from '../unit/event';
import { poolOfDrive, type UnitState } from '../unit/state';
import { entryOf } from '../value/entryOf';
import { driveLedger, type LedgerName } from './ledger';
import type { ActEntry } from './act';

/** The ledgers an act's entries touch, with those of the drives its entries move. */
export function ledgersOf(entries: readonly ActEntry[]): LedgerName[] {
  return entries.flatMap(({ ledger, event }) => [
    ledger,
    ...(ledger.kind === 'unit' ? movedBy(event as UnitEvent) : []),
  ]);
}

function movedBy(event: UnitEvent): LedgerName[] {
  if (event.kind === 'drive-inserted') return [driveLedger(serialKey(event.drive.serial))];
  if (event.kind === 'drive-removed') return [driveLedger(serialKey(event.serial))];
  // Whether it can be whole is known to its own ledger.
  return event.kind === 'pool-restored' ? event.serials.map((serial) => driveLedger(serialKey(serial))) : [];
}

/**
 * What an entry of a unit's ledger means for the ledger of the drive it moves: it went into a bay, or came out. In the
 * same act, so that a drive is never in two places or in none.
 *
 * @param unit as it is at the entry
 */
export function consequencesOf({ ledger, event }: ActEntry, unit: UnitState | null): ActEntry[] {
  if (ledger.kind !== 'unit' || !unit) return [];
  const of = event as UnitEvent;
  if (of.kind === 'drive-inserted') {
    const { serial, ...drive } = of.drive;
    const carries = of.carries === undefined ? {} : { carries: of.carries };
    const place = unit.enclosures.length > 1 ? { place: bayName(unit, of.bay) } : {};
    return [
      {
        ledger: driveLedger(serialKey(serial)),
        event: { kind: 'fitted', unit: ledger.id, unitName: unit.name, bay: of.bay, ...place, drive, ...carries },
      },
    ];
  }
  if (of.kind === 'drive-removed') {
    const serial = serialKey(of.serial);
    const { sick, note, carries } = entryOf(unit.drives, serial) ?? {};
    const pool = poolOfDrive(unit, serial);
    const holds =
      pool && !pool.spares.includes(serial)
        ? { holds: { pool: pool.id, name: pool.name, unitName: unit.name } }
        : carries
          ? { holds: { pool: carries.pool, name: carries.name, unitName: carries.unitName } }
          : {};
    const marks = sick === undefined ? {} : { sick, ...(note === undefined ? {} : { note }) };
    return [{ ledger: driveLedger(serial), event: { kind: 'taken-out', unit: ledger.id, ...marks, ...holds } }];
  }
  return [];
}
