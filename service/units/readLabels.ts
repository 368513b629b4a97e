import { bayName, trayOf } from '../../core/unit/bayName';
import { toString as qrOf } from 'qrcode';
import { formatBytes } from '../../core/quantity/formatBytes';
import { compareBays } from '../../core/quantity/bayOrder';
import { isRefusal } from '../../core/value/refusal';
import { lifeOf } from '../../store/driveLives';
import type { App } from '../app';
import { findUnit } from './findUnit';

export interface Label {
  readonly kind: 'unit' | 'bay' | 'drive';
  /** Large: a name, a bay, the last four of a serial. */
  readonly large: string;
  readonly small: string;
  readonly serial: string | null;
  /** What the code says: an address here. */
  readonly address: string;
  /** The code (ISO/IEC 18004) as SVG. */
  readonly code: string;
}

/** Labels of a unit with its bays and drives, or of one drive; nothing for an address that names neither. */
export async function readLabels(
  app: App,
  { unit: unitId, drive: serial }: { readonly unit?: string | undefined; readonly drive?: string | undefined },
): Promise<Label[]> {
  const make = async (
    kind: Label['kind'],
    large: string,
    small: string,
    of: string | null,
    path: string,
  ): Promise<Label> => {
    const address = app.baseUrl + path;
    return {
      kind,
      large,
      small,
      serial: of,
      address,
      code: await qrOf(address, { type: 'svg', margin: 0, errorCorrectionLevel: 'M' }),
    };
  };
  const ofDrive = (of: string, small: string): Promise<Label> =>
    make('drive', of.slice(-4), small, of, `/drives/${encodeURIComponent(of)}`);
  if (serial !== undefined) {
    const stored = await lifeOf(app.db, serial);
    return stored ? [await ofDrive(stored.life.serial, formatBytes(stored.life.drive.bytes))] : [];
  }
  const unit = await findUnit(app, unitId);
  if (isRefusal(unit)) return [];
  const { id, state } = unit;
  const drives = Object.values(state.drives)
    .filter(({ bay }) => bay !== null)
    .sort((a, b) => compareBays(a.bay ?? '', b.bay ?? ''));
  return Promise.all([
    make('unit', state.name, `${state.place.site}, ${state.place.room}`, state.details.serial ?? null, `/units/${id}`),
    ...state.enclosures.flatMap(({ name, bays }) =>
      bays.map((bay) =>
        make(
          'bay',
          trayOf(state, bay)?.tray ?? bay,
          `${state.name}${state.enclosures.length > 1 ? `, ${name}` : ''}`,
          null,
          `/units/${id}?bay=${encodeURIComponent(bay)}`,
        ),
      ),
    ),
    ...drives.map((drive) =>
      ofDrive(drive.serial, `${formatBytes(drive.bytes)} · ${state.name}, ${bayName(state, drive.bay)}`),
    ),
  ]);
}
