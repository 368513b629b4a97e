import { TRAYS_WORDS } from './traysWords';
import { FIELD_WORDS } from '~/core/record/eventWords';
import { serviceOf } from '~/core/unit/serviceOf';
import type { UnitState } from '~/core/unit/state';

/** Where a unit is not as its family. */
export const DIFFERS = {
  driveChange: TRAYS_WORDS,
  locateLight: { yes: 'blinks when asked', no: 'none' },
} as const;
export type Differing = keyof typeof DIFFERS;
export const DIFFERING = Object.keys(DIFFERS) as Differing[];
export const FIELDS = [
  'serial',
  'address',
  'hardwareAddress',
  'firmware',
  'supplies',
  'ports',
  'call',
  'boughtOn',
  'warrantyUntil',
  'notes',
] as const;

/** How a unit is in that, in words. */
export function wordsOf(field: Differing, value: string): string {
  return (DIFFERS[field] as Readonly<Record<string, string>>)[value] ?? value;
}

/** What its family has. */
export function ofFamily({ profile }: Pick<UnitState, 'profile'>): {
  readonly driveChange: 'running' | 'off' | 'case-opened';
  readonly locateLight: 'yes' | 'no';
} {
  const { isCold, opensCase, locateLight } = serviceOf({ profile, details: {} });
  return {
    driveChange: opensCase ? 'case-opened' : isCold ? 'off' : 'running',
    locateLight: locateLight ? 'yes' : 'no',
  };
}

/** What a field is called, as a heading. */
export function headOf(field: string): string {
  const word = FIELD_WORDS[field] ?? field;
  return `${word[0]?.toUpperCase() ?? ''}${word.slice(1)}`;
}
