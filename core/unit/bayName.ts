import { isSameName } from '../value/sameName';
import type { Enclosure, UnitState } from './state';

/** A box with its trays, as much of a unit as a bay is named by. */
type Boxes = Pick<UnitState, 'enclosures'>;

/** Where a bay is: its enclosure, and the number it has there by itself. */
export interface Tray {
  readonly enclosure: Enclosure;
  readonly tray: string;
}

/**
 * The enclosure of a bay and the number its tray has in it. A unit goes by bays of different names; an enclosure counts its
 * own trays from 1, and that is what stands on it.
 */
export function trayOf({ enclosures }: Boxes, bay: string): Tray | null {
  for (const enclosure of enclosures) {
    const at = enclosure.bays.indexOf(bay);
    if (at >= 0) return { enclosure, tray: enclosures.length > 1 && /^\d+$/.test(bay) ? String(at + 1) : bay };
  }
  return null;
}

/** A bay as the unit counts it: "bay 3", or "Extension 3, tray 5" where there is more than one enclosure. */
export function bayName(unit: Boxes, bay: string | null | undefined): string {
  const at = bay == null ? null : trayOf(unit, bay);
  if (!at && bay != null && SLOT.test(bay)) return `cache slot ${bay}`;
  return at && unit.enclosures.length > 1 ? `${at.enclosure.name}, tray ${at.tray}` : `bay ${bay ?? ''}`;
}

/** A slot for cache, which stands in no box's list of bays. */
const SLOT = /^M\d$/;

/** The same at the beginning of a sentence. */
export function BayName(unit: Boxes, bay: string | null | undefined): string {
  const name = bayName(unit, bay);
  return `${name[0]?.toUpperCase() ?? ''}${name.slice(1)}`;
}

/** The same where there is little room: "3", or "E3·5". */
export function bayShort(unit: Boxes, bay: string): string {
  const at = trayOf(unit, bay);
  return at && unit.enclosures.length > 1 ? `${shortOf(unit, at.enclosure)}·${at.tray}` : bay;
}

/** The first letter of an enclosure's name with its number; its place in the chain where two would be called the same. */
function shortOf({ enclosures }: Boxes, { name }: Enclosure): string {
  const short = (of: string): string => `${of.trim()[0]?.toUpperCase() ?? ''}${/(\d+)\s*$/.exec(of)?.[1] ?? ''}`;
  const isAlone = enclosures.filter((one) => short(one.name) === short(name)).length === 1;
  return isAlone ? short(name) : `#${String(enclosures.findIndex((one) => one.name === name) + 1)}`;
}

/**
 * The bays a person or a page means: "tray 5 of extension 3", "extension 3 bay 5", "E3·5", "bay 5". More than one where it
 * was not said which enclosure.
 */
export function baysMeant(unit: Boxes, words: string): string[] {
  const low = words.toLowerCase();
  const { enclosures } = unit;
  const slot = SLOT_SAID.exec(low)?.[1];
  if (slot !== undefined) return [`M${slot}`];
  const all = enclosures.flatMap(({ bays }) => bays);
  const shorts = all.filter(
    (bay) =>
      enclosures.length > 1 &&
      new RegExp(`(^|[^\\w])${escaped(bayShort(unit, bay).toLowerCase()).replace('·', '[·.: -]?')}(?![\\w·])`).test(
        low,
      ),
  );
  if (shorts.length > 0) return shorts;
  const number = /\b(?:bay|slot|tray|drive|disk) #?([\w.:-]{1,16})\b/.exec(low)?.[1];
  if (number === undefined) return [];
  const boxes = enclosuresMeant(unit, low);
  // One that is not there has no trays either.
  if (boxes.length === 0 && enclosures.length > 1 && BOX_SAID.test(low)) return [];
  if (boxes.length > 0)
    return boxes.flatMap(({ bays }) => bays.filter((bay) => isSameName(trayOf(unit, bay)?.tray ?? '', number)));
  const inEach = all.filter((bay) => isSameName(trayOf(unit, bay)?.tray ?? '', number));
  // A number no enclosure has can only be counted through.
  return inEach.length > 0 ? inEach : all.filter((bay) => isSameName(bay, number));
}

/** A slot for cache as people and pages call it: "cache slot M1", "cache 1", "M.2 slot 2", "NVMe 1", "slot M1". */
const SLOT_SAID =
  /\b(?:(?:cache|m\.2|nvme)(?: (?:cache|slot|drive|disk|ssd|bay))* ?#?m?|(?:bay|slot|drive|disk) ?#?m)(\d)\b(?! ?[gtm]i?b)/;

/** A box called by its number. */
const BOX_SAID = /\b(?:extension|enclosure|expansion|box|dial) #?(\d{1,3})\b/;

/** The enclosures that are named in some words: by their name, or "extension 3" by its place or its dial. */
export function enclosuresMeant({ enclosures }: Boxes, words: string): Enclosure[] {
  if (enclosures.length < 2) return [];
  const low = words.toLowerCase();
  const named = enclosures.filter(({ name }) =>
    new RegExp(`(^|[^\\w])${escaped(name.toLowerCase())}(?![\\w])`).test(low),
  );
  if (named.length > 0) return named;
  if (/\b(head|main unit|main box)\b/.test(low)) return enclosures.slice(0, 1);
  const number = BOX_SAID.exec(low)?.[1];
  if (number === undefined) return [];
  const byDial = enclosures.filter(({ dial }) => dial === Number(number));
  return byDial.length > 0 ? byDial : enclosures.slice(Number(number), Number(number) + 1);
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
}
