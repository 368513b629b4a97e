import { isSameName } from '../value/sameName';
import { frozen } from '../value/frozen';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { goMissing, poolUnknown } from './applyPool';
import type { Of } from './event';
import { drivesExpected, type UnitState } from './state';

/** What happens to the unit as a box: its name and papers, its parts, its power, what was seen and made sure of. */

/**
 * A unit comes on the record: its enclosures with their bays, and nothing in them. Refused when two bays have one name.
 */
export function register(
  { name, place, profile, enclosures }: Of<'unit-registered'>,
  happenedAt: string,
): UnitState | Refusal {
  const bays = enclosures.flatMap((enclosure) => enclosure.bays);
  const twice = bays.find((bay, index) => bays.indexOf(bay) !== index);
  if (twice !== undefined)
    return refusal('bay-twice', `Two bays are called ${twice}. Every bay of a unit needs its own name.`, '/enclosures');
  const nothing = {
    drives: {},
    pools: {},
    jobs: {},
    volumes: {},
    dataSets: {},
    confirmed: {},
    upkeep: {},
    upkeepDone: {},
    plans: {},
    details: {},
  };
  return frozen<UnitState>({
    kind: 'unit',
    name,
    place,
    profile,
    enclosures,
    ...nothing,
    cache: [],
    power: 'on',
    away: [],
    parts: [],
    signs: [],
    counted: null,
    roundAt: null,
    firmwareAt: null,
    speed: { baseline: null, last: null },
    registeredAt: happenedAt,
  });
}

/** New name, place or details; what is not said stays, a detail of `null` or nothing is struck out. */
export function describeUnit(
  unit: UnitState,
  { name = unit.name, place = unit.place, details = {} }: Of<'unit-described'>,
): UnitState {
  const merged = Object.fromEntries(
    Object.entries({ ...unit.details, ...details }).filter(([, value]) => value !== null && value !== ''),
  );
  return frozen({ ...unit, name, place, details: merged });
}

/** An extension is attached. Refused when its name or one of its bays is there already. */
export function addEnclosure(unit: UnitState, { enclosure }: Of<'enclosure-added'>): UnitState | Refusal {
  if (unit.enclosures.some(({ name }) => name === enclosure.name))
    return refusal('enclosure-exists', `${unit.name} has an enclosure called ${enclosure.name}.`, '/enclosure/name');
  const bays = [...unit.enclosures.flatMap((one) => one.bays), ...enclosure.bays];
  const twice = bays.find((bay, index) => bays.indexOf(bay) !== index);
  if (twice !== undefined)
    return refusal(
      'bay-twice',
      `There is a bay ${twice} already. Every bay of a unit needs its own name.`,
      '/enclosure/bays',
    );
  return frozen({ ...unit, enclosures: [...unit.enclosures, enclosure] });
}

/** A whole enclosure drops out, as by its cable or its supplies: every member in it is missing at once. */
export function loseEnclosure(unit: UnitState, { enclosure: name }: Of<'enclosure-lost'>): UnitState | Refusal {
  const enclosure = unit.enclosures.find((one) => one.name === name);
  if (!enclosure) return enclosureUnknown(unit, name);
  if (unit.away.includes(name)) return unit;
  const inside = Object.values(unit.drives).flatMap(({ bay, serial }) =>
    bay !== null && enclosure.bays.includes(bay) ? [serial] : [],
  );
  return frozen(goMissing({ ...unit, away: [...unit.away, name] }, inside));
}

/** It is seen again. Its members stay missing until the unit is recorded to have taken them back. */
export function regainEnclosure(unit: UnitState, { enclosure: name }: Of<'enclosure-back'>): UnitState | Refusal {
  if (!unit.away.includes(name))
    return unit.enclosures.some((one) => one.name === name) ? unit : enclosureUnknown(unit, name);
  return frozen({ ...unit, away: unit.away.filter((one) => one !== name) });
}

function enclosureUnknown(unit: UnitState, name: string): Refusal {
  return refusal('enclosure-unknown', `${unit.name} has no enclosure called ${name}.`, '/enclosure');
}

/** A supply, fan or cable is gone since `since` (ISO). What that takes with it is said by events of its own. */
export function losePart(unit: UnitState, { kind: _kind, ...lost }: Of<'part-lost'>, since: string): UnitState {
  return frozen({ ...unit, parts: [...unit.parts.filter((one) => !isPart(one, lost)), { ...lost, since }] });
}

/** A part works again. No change when it was not lost. */
export function regainPart(unit: UnitState, back: Of<'part-back'>): UnitState {
  return frozen({ ...unit, parts: unit.parts.filter((one) => !isPart(one, back)) });
}

function isPart(
  a: { readonly part: string; readonly name: string },
  b: { readonly part: string; readonly name: string },
): boolean {
  return a.part === b.part && isSameName(a.name, b.name);
}

/** Firmware of this version runs since `at` (ISO). */
export function updateFirmware(unit: UnitState, { version }: Of<'firmware-updated'>, at: string): UnitState {
  return frozen({ ...unit, firmwareAt: at, details: { ...unit.details, firmware: version } });
}

/** A lamp, sound or message was noted, seen first at `since` (ISO). */
export function noteSign(unit: UnitState, { kind: _kind, ...sign }: Of<'sign-noted'>, since: string): UnitState {
  return frozen({
    ...unit,
    signs: [...unit.signs.filter(({ note, bay }) => note !== sign.note || bay !== sign.bay), { ...sign, since }],
  });
}

/** `expected` left out means what the record expects at that moment. */
export function countDrives(
  unit: UnitState,
  { seen, enclosure, expected }: Of<'drives-counted'>,
  at: string,
): UnitState | Refusal {
  if (enclosure !== undefined && !unit.enclosures.some(({ name }) => name === enclosure))
    return enclosureUnknown(unit, enclosure);
  const where = enclosure === undefined ? {} : { enclosure };
  return frozen({ ...unit, counted: { seen, expected: expected ?? drivesExpected(unit, enclosure), at, ...where } });
}

/** The evening round is a fresh look: signs seen before and no longer are settled. */
export function walkRound(unit: UnitState, { seen, signs }: Of<'round-walked'>, at: string): UnitState | Refusal {
  const kept = signs.map((note) => unit.signs.find((sign) => sign.note === note) ?? { note, since: at });
  const walked = frozen({ ...unit, signs: kept, roundAt: at });
  return seen === undefined ? walked : countDrives(walked, { kind: 'drives-counted', seen }, at);
}

/**
 * Speeds were measured at `at` (ISO), in bytes/s each way; what is recorded as the baseline is what later ones are held
 * against.
 */
export function measureSpeed(
  unit: UnitState,
  { readBytesPerSecond, writeBytesPerSecond, isBaseline = false }: Of<'speed-measured'>,
  at: string,
): UnitState {
  const last = { readBytesPerSecond, writeBytesPerSecond, at };
  return frozen({ ...unit, speed: { baseline: isBaseline ? last : unit.speed.baseline, last } });
}

/** A volume is made or changed. Refused for a pool that is not here. */
export function setVolume(unit: UnitState, { kind: _kind, volume, ...body }: Of<'volume-set'>): UnitState | Refusal {
  if (!entryOf(unit.pools, body.pool)) return poolUnknown(unit, body.pool);
  return frozen({ ...unit, volumes: { ...unit.volumes, [volume]: { id: volume, ...body } } });
}

/** A volume is deleted. Refused for one that is not here. */
export function removeVolume(unit: UnitState, { volume }: Of<'volume-removed'>): UnitState | Refusal {
  if (!entryOf(unit.volumes, volume))
    return refusal('volume-unknown', `${unit.name} has no volume ${volume}.`, '/volume');
  const { [volume]: _gone, ...volumes } = unit.volumes;
  return frozen({ ...unit, volumes });
}

/** The tasks of upkeep this unit has, with their intervals; those of the same name are replaced. */
export function planUpkeep(unit: UnitState, { tasks }: Of<'upkeep-planned'>): UnitState {
  return frozen({ ...unit, upkeep: { ...unit.upkeep, ...Object.fromEntries(tasks.map((task) => [task.id, task])) } });
}

/** A task of upkeep is given up. Refused for one that is not planned. */
export function dropUpkeep(unit: UnitState, { task }: Of<'upkeep-dropped'>): UnitState | Refusal {
  if (!entryOf(unit.upkeep, task))
    return refusal('upkeep-unknown', `${unit.name} has no upkeep called ${task}.`, '/task');
  const { [task]: _gone, ...upkeep } = unit.upkeep;
  return frozen({ ...unit, upkeep });
}
