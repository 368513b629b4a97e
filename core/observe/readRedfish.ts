import type { Metric } from '../../schemas/metrics';
import { isSameSerial, LONGEST_SERIAL, printedSerial, serialKey } from '../drive/serial';
import { MOST_BYTES } from '../quantity/bytes';
import { baysMeant } from '../unit/bayName';
import { membersOf, poolsOf, type UnitState } from '../unit/state';
import { isSameName } from '../value/sameName';
import type { Observation, ObservedBay, ObservedPart, ObservedPool } from './observation';

/** Resources of a unit as its service gave them (DMTF Redfish, DSP0268; SNIA Swordfish), of whatever shape they came in. */
export interface Gathered {
  readonly drives: readonly unknown[];
  /** What is measured of a drive, by the address of the drive. */
  readonly metrics: Readonly<Record<string, { readonly metrics?: unknown; readonly surroundings?: unknown }>>;
  readonly volumes: readonly unknown[];
  readonly chassis: readonly unknown[];
  readonly supplies: readonly unknown[];
  readonly fans: readonly unknown[];
}

/** States of a volume (DMTF Redfish, Resource.State) in which it serves nobody. */
const NOT_SERVED: ReadonlySet<string> = new Set(['UnavailableOffline', 'Disabled', 'Absent']);

/** Something measured, of a drive by its key or of a pool by its id. */
export interface Measured {
  readonly subject: string;
  readonly metric: Metric;
  readonly value: number;
}

/** The locate light of a bay, and the address it is switched at. */
export interface Light {
  readonly bay: string;
  readonly path: string;
  readonly isOn: boolean;
}

export interface ReadUnit {
  readonly observation: Observation;
  readonly lights: readonly Light[];
  readonly measured: readonly Measured[];
  /** What it says and cannot be: nothing of it is believed. */
  readonly impossible: readonly string[];
}

/**
 * What a unit says of itself by Redfish. Total: whatever it sends, what has no sense is named and left out.
 *
 * @param unit as it is on record: its boxes and bays have the names it goes by here
 */
export function readRedfish(unit: UnitState, gathered: Gathered): ReadUnit {
  const impossible: string[] = [];
  const boxes = new Map<string, string>();
  const parts: ObservedPart[] = [];
  for (const [i, body] of gathered.chassis.entries()) {
    const path = textIn(body, '@odata.id') ?? '';
    const name = textIn(body, 'Name') ?? '';
    const isEven = gathered.chassis.length === unit.enclosures.length;
    const box = unit.enclosures.find((one) => isSameName(one.name, name)) ?? (isEven ? unit.enclosures[i] : undefined);
    if (!box) {
      impossible.push(`It has an enclosure “${name.slice(0, 60)}” that is not on record.`);
      continue;
    }
    boxes.set(path, box.name);
    parts.push({ part: 'enclosure', name: box.name, isLost: isGone(body) });
  }
  const gone = gathered.chassis.filter(isGone).flatMap((body) => textIn(body, '@odata.id') ?? []);
  for (const part of ['supply', 'fan'] as const)
    for (const body of part === 'supply' ? gathered.supplies : gathered.fans) {
      const path = textIn(body, '@odata.id') ?? '';
      // What is in a box that does not answer is no loss of its own.
      if (gone.some((box) => path.startsWith(`${box}/`))) continue;
      const name = textIn(body, 'Name')?.trim().slice(0, 60) ?? '';
      const health = textIn(at(body, 'Status'), 'Health');
      if (name === '') impossible.push(`It has a ${part === 'supply' ? 'power supply' : 'fan'} without a name.`);
      else parts.push({ part, name, isLost: isGone(body) || health === 'Critical' });
    }
  const bays: ObservedBay[] = [];
  const measured: Measured[] = [];
  const serialAt = new Map<string, string>();
  const lights: Light[] = [];
  for (const body of gathered.drives) {
    const drive = driveIn(unit, body, boxes);
    if (typeof drive === 'string') {
      impossible.push(drive);
      continue;
    }
    const { serial } = drive;
    // Two drives in one bay, or one in two: neither is believed.
    const same = bays.findIndex(
      (one) =>
        one.bay === drive.bay || (serial !== undefined && one.serial !== undefined && isSameSerial(one.serial, serial)),
    );
    if (same >= 0) {
      const [other] = bays.splice(same, 1);
      impossible.push(
        other?.bay === drive.bay ? `It shows two drives in bay ${drive.bay}.` : `It shows ${serial ?? ''} in two bays.`,
      );
      continue;
    }
    bays.push(drive);
    const path = textIn(body, '@odata.id') ?? '';
    const isOn = at(body, 'LocationIndicatorActive');
    if (typeof isOn === 'boolean') lights.push({ bay: drive.bay, path, isOn });
    if (serial === undefined) continue;
    serialAt.set(path, serial);
    measured.push(...measuredOf(serialKey(serial), gathered.metrics[path]));
    const left = numberIn(body, 'PredictedMediaLifeLeftPercent', 0, 100);
    if (left !== undefined) measured.push({ subject: serialKey(serial), metric: 'life-left', value: Math.floor(left) });
  }
  const pools: ObservedPool[] = [];
  for (const body of gathered.volumes) {
    const serials = list(at(at(body, 'Links'), 'Drives')).flatMap(
      (one) => serialAt.get(textIn(one, '@odata.id') ?? '') ?? [],
    );
    const used = numberIn(at(at(body, 'Capacity'), 'Data'), 'ConsumedBytes', 0, MOST_BYTES);
    const percent = numberIn(list(at(body, 'Operations'))[0], 'PercentageComplete', 0, 100);
    pools.push({
      serials,
      isWell: textIn(at(body, 'Status'), 'Health') === 'OK',
      ...(NOT_SERVED.has(textIn(at(body, 'Status'), 'State') ?? '') ? { isStopped: true as const } : {}),
      ...(used === undefined ? {} : { usedBytes: used }),
      ...(percent === undefined ? {} : { percent }),
    });
    const pool = poolsOf(unit).find((one) =>
      membersOf(one).some((member) => serials.some((serial) => isSameSerial(serial, member))),
    );
    // A unit that says more is used than there is has said something else.
    if (pool && used !== undefined && used <= 1.1 * pool.shownBytes)
      measured.push({ subject: pool.id, metric: 'used-bytes', value: used });
    else if (pool && used !== undefined) impossible.push(`It says more is used of ${pool.name} than it holds.`);
  }
  return {
    observation: Object.freeze({
      kind: 'observation',
      by: 'unit',
      bays: withPools(bays, pools),
      counts: [],
      parts,
      pools,
      unread: [],
    }),
    lights,
    measured,
    impossible: impossible.slice(0, MOST_TOLD),
  };
}

/** Members of what the unit has well are told as such. */
function withPools(bays: readonly ObservedBay[], pools: readonly ObservedPool[]): ObservedBay[] {
  const whole = new Set(pools.filter(({ isWell }) => isWell).flatMap(({ serials }) => serials.map(serialKey)));
  return bays.map((bay) =>
    bay.serial !== undefined && whole.has(serialKey(bay.serial)) ? { ...bay, isInWholePool: true } : bay,
  );
}

const MOST_TOLD = 20;
/** No name, serial or address of a unit is longer. */
const LONGEST_TEXT = 400;
/** As long as a model is written down. */
const LONGEST_MODEL = 64;

function driveIn(unit: UnitState, body: unknown, boxes: ReadonlyMap<string, string>): ObservedBay | string {
  const location = at(at(body, 'PhysicalLocation'), 'PartLocation');
  const label = textIn(location, 'ServiceLabel') ?? '';
  const said = textIn(body, 'SerialNumber');
  const serial = said === undefined ? undefined : printedSerial(said);
  const box = boxes.get(textIn(at(at(body, 'Links'), 'Chassis'), '@odata.id') ?? '');
  const number = numberIn(location, 'LocationOrdinalValue', 0, 1000);
  const inBox = unit.enclosures.find(({ name }) => name === box)?.bays ?? [];
  const named = baysMeant(unit, label.slice(0, 120));
  const bay =
    named.length === 1
      ? named[0]
      : (inBox.find((one) => one === String(number ?? '')) ?? (number === undefined ? undefined : inBox[number - 1]));
  const what = (serial ?? label).slice(0, 60);
  if (bay === undefined) return `It shows “${what}” where the record has no bay.`;
  const status = at(body, 'Status');
  const [state, health] = [textIn(status, 'State'), textIn(status, 'Health')];
  const seen = { kind: 'observed-bay', line: 0, bay } as const;
  if (state === 'Absent') return { ...seen, state: 'empty' };
  if (typeof status !== 'object' || status === null) return `It does not say how the drive in bay ${bay} is.`;
  if (serial === undefined || serial === '' || serial.length > LONGEST_SERIAL || /[<>]/.test(serial))
    return `It gives the drive in bay ${bay} no serial that could be one.`;
  const bytes = numberIn(body, 'CapacityBytes', 1, MOST_BYTES);
  if (bytes === undefined && at(body, 'CapacityBytes') != null) return `It gives ${serial} a size that cannot be.`;
  const model = textIn(body, 'Model')?.trim().slice(0, LONGEST_MODEL);
  const operation = list(at(body, 'Operations'))[0];
  const percent = numberIn(operation, 'PercentageComplete', 0, 100);
  const isDead = health === 'Critical' || state === 'UnavailableOffline';
  const isSick = health === 'Warning' || at(body, 'FailurePredicted') === true;
  const words = isDead ? 'failed' : percent !== undefined ? 'rebuilding' : isSick ? 'sick' : undefined;
  const well = words === undefined && health === 'OK' && state !== 'Disabled' ? 'well' : words;
  return {
    ...seen,
    serial,
    ...(model === undefined || model === '' ? {} : { model }),
    ...(bytes === undefined ? {} : { size: { kind: 'drive-size', bytes, basis: 'exact' } }),
    ...(well === undefined ? {} : { state: well }),
    ...(percent === undefined ? {} : { percent }),
  };
}

/** Which counts of the standard are which of ours. */
const COUNTS = [
  ['PowerOnHours', 'power-on-hours'],
  ['BadBlockCount', 'reallocated-sectors'],
  ['UncorrectableIOReadErrorCount', 'read-errors'],
] as const;

function measuredOf(
  subject: string,
  of: { readonly metrics?: unknown; readonly surroundings?: unknown } | undefined,
): Measured[] {
  const counts = COUNTS.flatMap(([name, metric]): Measured[] => {
    const value = numberIn(of?.metrics, name, 0, 1e12);
    return value === undefined ? [] : [{ subject, metric, value }];
  });
  const celsius = numberIn(at(of?.surroundings, 'TemperatureCelsius'), 'Reading', -40, 150);
  return celsius === undefined ? counts : [...counts, { subject, metric: 'temperature', value: celsius }];
}

function isGone(body: unknown): boolean {
  const state = textIn(at(body, 'Status'), 'State');
  return state === 'UnavailableOffline' || state === 'Absent';
}

/** A property of whatever it is; `undefined` where it has none. */
function at(body: unknown, name: string): unknown {
  return typeof body === 'object' && body !== null && Object.hasOwn(body, name)
    ? (body as Record<string, unknown>)[name]
    : undefined;
}

function textIn(body: unknown, name: string): string | undefined {
  const value = at(body, name);
  // What no eye sees and no table keeps is left out of whatever it sends.
  return typeof value === 'string' ? value.slice(0, LONGEST_TEXT).replace(/\p{C}/gu, '') : undefined;
}

function numberIn(body: unknown, name: string, least: number, most: number): number | undefined {
  const value = at(body, name);
  return typeof value === 'number' && value >= least && value <= most ? value : undefined;
}

function list(value: unknown): readonly unknown[] {
  return Array.isArray(value) ? value : [];
}
