import { readSize } from '~/core/drive/readSize';
import { sizeFacts } from '~/core/plan/engine/driveFacts';
import type { StepEvidence } from '~/core/plan/plan';
import { isRefusal } from '~/core/value/refusal';
import { DRIVE_LOOKS } from '~/schemas/plan';

type Drives = Extract<StepEvidence, { kind: 'drives' }>;
type Items = Extract<StepEvidence, { kind: 'items' }>;

/** Drives as they stand on a sheet, a line each: "QH8-00900-KFIT-1, 8 TB", "…, 8 TB, used". What has no size has none: it is refused by name. */
export function drivesTyped(text: string): Drives {
  return {
    kind: 'drives',
    drives: linesOf(text).map((line) => {
      const [serial = '', size = '', looks = 'new'] = line.split(/\s*[,;\t]\s*/);
      const read = readSize(size);
      const isLook = (of: string): of is (typeof DRIVE_LOOKS)[number] =>
        (DRIVE_LOOKS as readonly string[]).includes(of);
      return {
        serial,
        ...(isRefusal(read) ? { bytes: 0, basis: 'label' as const } : sizeFacts(read)),
        looks: isLook(looks) ? looks : 'new',
      };
    }),
  };
}

/** A drive as it stands on a sheet: "QH8-00900-KFIT-1", or with the size that was read off it, "…, 8 TB". */
export function driveTyped(line: string): Pick<Extract<StepEvidence, { kind: 'serial' }>, 'serial' | 'drive'> {
  const [serial = '', size = ''] = line.trim().split(/\s*[,;\t]\s*/);
  const read = readSize(size);
  return { serial, ...(isRefusal(read) ? {} : { drive: sizeFacts(read) }) };
}

/** What is missing as it stands on a sheet, a line each: "2 screws"; "0" or "none" where all is there. */
export function itemsTyped(text: string): Items {
  return {
    kind: 'items',
    missing: linesOf(text).flatMap((line) => {
      const [, count = '1', what = ''] = /^(\d*)\s*(.*)$/.exec(line) ?? [];
      return what === '' || /^(none|nothing|all there)$/i.test(what)
        ? []
        : { what, count: Number(count === '' ? 1 : count) };
    }),
  };
}

function linesOf(text: string): string[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
}
