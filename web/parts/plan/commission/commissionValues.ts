import { readSize } from '~/core/drive/readSize';
import type { Scheme } from '~/core/layout/scheme';
import type { CommissionWish } from '~/core/plan/makers/commission/commission';
import { shownAmount } from '~/core/quantity/shownAmount';
import { isRefusal } from '~/core/value/refusal';
import type { CopyLink } from '~/schemas/record';
import { keepHalfFilled } from '~/web/parts/form/sheet/halfFilled';
import { DECIMAL } from '../decimal';

/** A drive of one bay, as it is typed. */
export interface DriveTyped {
  readonly bay: string;
  readonly size: string;
  readonly serial: string;
  readonly model: string;
}

/** A plan that makes a pool: of a unit from its box, or one more in a unit that is in use. */
export type PoolJob = 'commission' | 'new-pool';

/** What stands in the form, field by field. */
export interface CommissionValues {
  /** The size that goes into every bay. */
  readonly all: string;
  readonly rows: readonly DriveTyped[];
  readonly layout: string;
  readonly spares: string;
  readonly name: string;
  readonly fileSystem: string;
  readonly copy: string;
  readonly copyOver: string;
  /** Bays of drives that stand in the unit idle and go into the pool too. */
  readonly idle: readonly string[];
}

/** The name under which the form of a unit is kept half filled. */
export const commissionKept = (unit: string, job: PoolJob = 'commission'): string => `${job} ${unit}`;

/** Begins the form of a unit with what was chosen elsewhere. */
export function beginCommission(unit: string, values: Partial<CommissionValues>): void {
  keepHalfFilled(commissionKept(unit), values);
}

interface DrivesRead {
  readonly drives: CommissionWish['drives'];
  /** What cannot be read, by field. */
  readonly faults: Readonly<Record<string, string>>;
}

export function drivesTyped(rows: readonly DriveTyped[]): DrivesRead {
  const drives: CommissionWish['drives'][number][] = [];
  const faults: Record<string, string> = {};
  for (const [i, { bay, size, serial, model }] of rows.entries()) {
    if (size.trim() === '') {
      if (serial.trim() !== '') faults[`rows.${String(i)}.size`] = 'A drive with a serial has a size too.';
      continue;
    }
    const read = readSize(size);
    if (isRefusal(read)) faults[`rows.${String(i)}.size`] = read.sentence;
    else
      drives.push({
        bay,
        bytes: read.bytes,
        basis: read.basis,
        ...(read.label === undefined ? {} : { label: read.label }),
        ...(serial.trim() === '' ? {} : { serial: serial.trim() }),
        ...(model.trim() === '' ? {} : { model: model.trim() }),
      });
  }
  return { drives, faults };
}

/** "striped-mirrors", or with the width of its groups "parity-1-groups:3" (see layoutKey). */
export function layoutTyped(text: string): { readonly scheme: Scheme; readonly groupWidth?: number } | null {
  const [scheme, width] = text.split(':');
  return scheme === undefined || scheme === ''
    ? null
    : { scheme: scheme as Scheme, ...(width === undefined ? {} : { groupWidth: Number(width) }) };
}

/** The wish for a plan, and what cannot be read of it. */
export function wishOf(
  values: CommissionValues,
  layout: string,
  count: number,
): { readonly wish: CommissionWish; readonly faults: Readonly<Record<string, string>> } {
  const { drives, faults } = drivesTyped(values.rows);
  const copied = values.copy.trim() === '' ? 0 : shownAmount(values.copy, DECIMAL);
  const chosen = layoutTyped(layout);
  const wish: CommissionWish = {
    drives,
    ...(chosen === null || count === 0
      ? {}
      : {
          pool: {
            name: values.name.trim() === '' ? 'Pool 1' : values.name.trim(),
            spares: Number(values.spares) || 0,
            ...chosen,
          },
        }),
    ...(values.fileSystem === '' ? {} : { fileSystem: values.fileSystem }),
    ...(!isRefusal(copied) && copied > 0 ? { copyBytes: copied, copyOver: values.copyOver as CopyLink } : {}),
  };
  return { wish, faults: { ...faults, ...(isRefusal(copied) ? { copy: copied.sentence } : {}) } };
}
