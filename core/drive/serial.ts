import { refusal, type Refusal } from '../value/refusal';

declare const brand: unique symbol;

/**
 * What a drive goes by: one drive has one, however its serial was typed. Made only here, and used as key in states,
 * ledgers, tables and wherever two serials are held against each other.
 */
export type SerialKey = string & { readonly [brand]: 'serial' };

export const LONGEST_SERIAL = 64;

/** Characters that are not seen: control and format characters, fillers, the blank of Braille. */
const UNSEEN = /[\p{Cc}\p{Cf}\p{Default_Ignorable_Code_Point}\u2800]/gu;

/** Letters, digits and marks of ASCII, without a blank: their own normal form. */
const PLAIN = /^[!-~]*$/;

/** A serial as it is printed, for the eye: without what cannot be seen, and without blanks around it. */
export function printedSerial(text: string): string {
  // Nearly all are of plain letters, digits and marks, in which nothing is hidden and nothing has two forms.
  return PLAIN.test(text) ? text : text.normalize('NFKC').replace(UNSEEN, '').trim();
}

/**
 * The key of a serial: Unicode normalised (UAX #15, form KC), unseen characters, surrounding blanks and case folded away,
 * nothing else. Total; a text without a visible character gives the empty key, which no drive has (see {@link readKey}).
 */
export function serialKey(text: string): SerialKey {
  return printedSerial(printedSerial(text).toUpperCase()) as SerialKey;
}

/** The key of a serial that came from outside, or why it is none. */
export function readKey(text: string, pointer?: string): SerialKey | Refusal {
  const key = serialKey(text);
  if (key === '') return refusal('serial-blank', 'A serial has at least one character that can be seen.', pointer);
  if (key.length > LONGEST_SERIAL)
    return refusal('serial-too-long', `A serial has at most ${String(LONGEST_SERIAL)} characters.`, pointer);
  return key;
}

/** True where two serials, however they are typed, are of one drive: their keys are the same. */
export function isSameSerial(a: string, b: string): boolean {
  return serialKey(a) === serialKey(b);
}
