import { compareBays } from '../quantity/bayOrder';
import type { ListedDrive } from './driveList';

/** The columns of a sheet of drives, by names `readDriveList` reads back. */
export const SHEET_HEAD = ['bay', 'size', 'bytes', 'serial', 'model', 'kind', 'price', 'bought', 'lot'] as const;

/** What a sheet says of a drive. */
export type SheetDrive = Omit<ListedDrive, 'kind' | 'row'>;

/**
 * Drives as the rows of a sheet, by bay. Exact bytes are written as bytes, everything else as it was read.
 *
 * @param isOnRecord writes the bytes beside every label: what is on record counts to the byte
 */
export function sheetRows(drives: readonly SheetDrive[], isOnRecord = false): (string | number)[][] {
  return [...drives]
    .sort((a, b) => compareBays(a.bay, b.bay))
    .map(({ bay, label, basis, bytes, serial, model, media, priceCents, boughtOn, lot }) => [
      bay,
      basis === 'exact' && !isOnRecord ? '' : (label ?? ''),
      isOnRecord || basis === 'exact' || label === undefined ? bytes : '',
      serial ?? '',
      model ?? '',
      media ?? '',
      priceCents === undefined ? '' : (priceCents / 100).toFixed(2),
      boughtOn ?? '',
      lot ?? '',
    ]);
}
