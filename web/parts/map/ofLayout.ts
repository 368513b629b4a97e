import { bayName, bayShort, trayOf } from '~/core/unit/bayName';
import type { Layout } from '~/core/layout/layout';
import type { PlannedDrive } from '~/core/layout/planLayout';
import { compareBays } from '~/core/quantity/bayOrder';
import { formatBytes } from '~/core/quantity/formatBytes';
import { membersOf, type Enclosure, type Pool, type UnitState } from '~/core/unit/state';
import type { MapInput } from './geometry';

/** The map of a layout that is being planned: columns by bay, drives that are thought away crossed out. */
export function mapOfLayout(
  layout: Layout,
  drives: readonly PlannedDrive[],
  enclosures: readonly Enclosure[] = [],
  missing: ReadonlySet<string> = new Set(),
): MapInput {
  return {
    columns: drives.map(({ bay, bytes }) => {
      const isSpare = layout.spareBays.includes(bay);
      const state = missing.has(bay) ? ('missing' as const) : isSpare ? ('spare' as const) : undefined;
      const under = bayName({ enclosures }, bay);
      const short =
        drives.length > MOST_WITH_BOX ? (trayOf({ enclosures }, bay)?.tray ?? bay) : bayShort({ enclosures }, bay);
      return {
        name: bay,
        short,
        title: formatBytes(bytes),
        under: isSpare ? `${under}, spare` : under,
        bytes,
        ...(state ? { state } : {}),
      };
    }),
    bands: layout.bands,
    unused: layout.unused,
  };
}

/** Columns under which there is room for the enclosure as well. */
const MOST_WITH_BOX = 10;

/** The map of a pool as it was built: columns by serial, members that are missing crossed out. */
export function mapOfPool(unit: UnitState, pool: Pool): MapInput {
  // By bay; drives that were taken out come last.
  const place = (serial: string): string => unit.drives[serial]?.bay ?? '\uffff';
  const serials = [...membersOf(pool), ...pool.spares].sort((a, b) => compareBays(place(a), place(b)));
  const top = (serial: string): number =>
    Math.max(0, ...pool.bands.filter(({ members }) => members.includes(serial)).map(({ toBytes }) => toBytes));
  return {
    columns: serials.map((serial) => {
      const drive = unit.drives[serial];
      const state = pool.missing.includes(serial)
        ? ('missing' as const)
        : pool.spares.includes(serial)
          ? ('spare' as const)
          : undefined;
      const under =
        drive?.bay == null
          ? 'taken out'
          : state === 'spare'
            ? `${bayName(unit, drive.bay)}, spare`
            : bayName(unit, drive.bay);
      return {
        name: serial,
        short:
          drive?.bay == null
            ? '–'
            : serials.length > MOST_WITH_BOX
              ? (trayOf(unit, drive.bay)?.tray ?? '')
              : bayShort(unit, drive.bay),
        title: formatBytes(drive?.bytes ?? 0),
        under,
        bytes: drive?.bytes ?? 0,
        ...(state ? { state } : {}),
      };
    }),
    bands: pool.bands,
    unused: serials.flatMap((serial) => {
      const bytes = unit.drives[serial]?.bytes ?? 0;
      return top(serial) < bytes && !pool.spares.includes(serial)
        ? [{ bay: serial, fromBytes: top(serial), toBytes: bytes, why: 'Not part of any band.' }]
        : [];
    }),
  };
}
