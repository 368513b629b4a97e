import papaparse from 'papaparse';
import type { ListedDrive } from '~/core/drive/driveList';
import { SHEET_HEAD, sheetRows, type SheetDrive } from '~/core/drive/driveSheet';
import type { Media } from '~/core/drive/media';
import { readSize } from '~/core/drive/readSize';
import type { Enclosure } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';

/** The drives as a sheet again. */
export function writeSheet(drives: readonly SheetDrive[]): string {
  return papaparse.unparse({ fields: [...SHEET_HEAD], data: sheetRows(drives) }, { newline: '\n' });
}

/** Other drives in some bays: of the size and kind that were said, and nothing else known of them. `null` when that is no size. */
export function withDrivesInBays(
  drives: readonly ListedDrive[],
  bays: readonly string[],
  sizeText: string,
  media: Media,
): string | null {
  const size = readSize(sizeText);
  if (isRefusal(size)) return null;
  const others = drives.filter(({ bay }) => !bays.includes(bay));
  const { bytes, basis, label } = size;
  const fresh = {
    bytes,
    basis,
    ...(label === undefined ? {} : { label }),
    ...(media === 'hard-disk' ? {} : { media }),
  };
  return writeSheet([...others, ...bays.map((bay) => ({ bay, ...fresh }))]);
}

/** A drive out of the drawer, in a bay. */
export function withDrawerDrive(drives: readonly ListedDrive[], bay: string, drive: ListedDrive): string {
  return writeSheet([...drives.filter((other) => other.bay !== bay), { ...drive, bay }]);
}

/** Two bays with their drives exchanged; a free one only gives its place. */
export function withBaysSwapped(drives: readonly ListedDrive[], bay: string, other: string): string {
  return writeSheet(
    drives.map((drive) =>
      drive.bay === bay ? { ...drive, bay: other } : drive.bay === other ? { ...drive, bay } : drive,
    ),
  );
}

export function withoutBay(drives: readonly ListedDrive[], bay: string): string {
  return writeSheet(drives.filter((drive) => drive.bay !== bay));
}

/** Bays that hold nothing yet, box after box. */
export function freeBays(drives: readonly ListedDrive[], enclosures: readonly Enclosure[]): string[] {
  const taken = new Set(drives.map(({ bay }) => bay));
  return enclosures.flatMap(({ bays }) => bays).filter((bay) => !taken.has(bay));
}
