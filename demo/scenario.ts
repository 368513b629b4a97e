import { labelBytes } from '../core/drive/labelBytes';
import type { Scheme } from '../core/layout/scheme';
import type { UnitEvent } from '../core/unit/event';
import type { Place } from '../core/unit/state';

const OFFICE: Place = { site: 'Main office', room: 'rack' };
const PACKING: Place = { site: 'Packing house', room: 'comms cupboard' };
const HUT: Place = { site: 'Field station', room: 'hut' };

export interface DemoDrive {
  readonly bay: string;
  readonly serial: string;
  readonly gigabytes: number;
  readonly model: string;
  readonly priceCents: number;
}

/** Something that happened later, in days before today (fractions are hours). */
export interface DemoEvent {
  readonly daysAgo: number;
  readonly event: UnitEvent;
}

export interface DemoUnit {
  readonly name: string;
  readonly place: Place;
  readonly profile: string;
  readonly bays: number;
  readonly daysAgo: number;
  readonly drives: readonly DemoDrive[];
  readonly pool: { readonly scheme: Scheme; readonly groupWidth?: number; readonly spares?: number; readonly name: string };
  readonly later: readonly DemoEvent[];
  /** Used space as shares of what the unit's page shows: `days` before today, rising to now. */
  readonly fill: { readonly from: number; readonly to: number; readonly days: number; readonly everyDays: number };
}

/** Serials of an invented maker: size class, lot, and four characters from an alphabet without look-alikes. */
function drive(bay: number, terabytes: number, lot: string, last: string): DemoDrive {
  const gigabytes = terabytes * 1000;
  return {
    bay: String(bay),
    serial: `QH${String(terabytes)}-${lot}-${last}`,
    gigabytes,
    model: `Quernholt Q${String(terabytes)}C`,
    priceCents: 4900 + terabytes * 1790,
  };
}

/** `count` drives of one lot, with last fours counted out of the same alphabet. */
function lot(firstBay: number, count: number, terabytes: number, number: string, seed: number): DemoDrive[] {
  const alphabet = 'ACDEFHJKMNPRTUVWXY3479';
  return Array.from({ length: count }, (_, i) => {
    let rest = (seed + i * 7919) % alphabet.length ** 4;
    let last = '';
    for (let k = 0; k < 4; k++) {
      last += alphabet[rest % alphabet.length] as string;
      rest = Math.floor(rest / alphabet.length);
    }
    return drive(firstBay + i, terabytes, number, last);
  });
}

const replacement = drive(2, 4, '05231', 'M58R');

/** Marrowfen Growers' Cooperative: three places, units named after marsh birds, every maker and serial invented. */
export const MARROWFEN = {
  name: "Marrowfen Growers' Cooperative",
  currency: 'EUR',
  units: [
    {
      name: 'Heron',
      place: PACKING,
      profile: 'reedbank',
      bays: 4,
      daysAgo: 1170,
      drives: [drive(1, 8, '04422', '4KH2'), drive(2, 8, '04417', '77PX'), drive(3, 8, '04422', '4KH9'), drive(4, 8, '04423', '4KR1')],
      pool: { scheme: 'parity-1', name: 'Accounts and orders' },
      later: [
        { daysAgo: 3.2, event: { kind: 'drive-suspected', serial: 'QH8-04417-77PX', note: 'read errors in the log' } },
        { daysAgo: 0.6, event: { kind: 'drive-failed', serial: 'QH8-04417-77PX', note: 'bay lamp steady amber, beeping' } },
      ],
      fill: { from: 0.38, to: 0.71, days: 720, everyDays: 7 },
    },
    {
      name: 'Coot',
      place: PACKING,
      profile: 'saltern',
      bays: 6,
      daysAgo: 2230,
      drives: [drive(1, 12, '06110', 'A7C3'), drive(2, 12, '06110', 'A7C7'), drive(3, 6, '01904', '19TD'), drive(4, 6, '01904', '19TF')],
      pool: { scheme: 'mixed-1', name: 'Aerial survey' },
      later: [{ daysAgo: 9, event: { kind: 'drive-suspected', serial: 'QH6-01904-19TD', note: '14 reallocated sectors in 9 days' } }],
      fill: { from: 0.2, to: 0.46, days: 720, everyDays: 7 },
    },
    {
      name: 'Plover',
      place: OFFICE,
      profile: 'causeway',
      bays: 24,
      daysAgo: 980,
      drives: lot(1, 20, 16, '07355', 40213),
      pool: { scheme: 'parity-2-groups', groupWidth: 6, spares: 2, name: 'Survey archive' },
      later: [
        { daysAgo: 0.4, event: { kind: 'job-started', job: 'scrub-1', task: 'scrub', pool: 'pool-1' } },
        { daysAgo: 0.05, event: { kind: 'job-progressed', job: 'scrub-1', percent: 18 } },
      ],
      fill: { from: 0.41, to: 0.83, days: 730, everyDays: 1 },
    },
    {
      name: 'Wren',
      place: OFFICE,
      profile: 'reedbank',
      bays: 2,
      daysAgo: 640,
      drives: [drive(1, 4, '03016', 'M55T'), drive(2, 4, '03016', 'M57W')],
      pool: { scheme: 'mirror', name: 'Office share' },
      later: [
        { daysAgo: 1.1, event: { kind: 'drive-failed', serial: 'QH4-03016-M57W', note: 'clicking, then gone' } },
        { daysAgo: 0.34, event: { kind: 'drive-removed', serial: 'QH4-03016-M57W' } },
        {
          daysAgo: 0.33,
          event: {
            kind: 'drive-inserted',
            bay: '2',
            drive: { serial: replacement.serial, bytes: labelBytes(4000), basis: 'exact', model: replacement.model, priceCents: replacement.priceCents },
          },
        },
        {
          daysAgo: 0.32,
          event: { kind: 'job-started', job: 'rebuild-1', task: 'rebuild', pool: 'pool-1', replaces: 'QH4-03016-M57W', onto: replacement.serial },
        },
        { daysAgo: 0.02, event: { kind: 'job-progressed', job: 'rebuild-1', percent: 62 } },
      ],
      fill: { from: 0.22, to: 0.38, days: 630, everyDays: 7 },
    },
    {
      name: 'Bittern',
      place: HUT,
      profile: 'tidemill',
      bays: 8,
      daysAgo: 1480,
      drives: [
        drive(1, 8, '04390', 'T3EN'),
        drive(2, 8, '04390', 'T4FA'),
        drive(3, 6, '01871', 'R9KD'),
        drive(4, 4, '02988', 'W7MC'),
        drive(5, 4, '02988', 'W7PH'),
      ],
      pool: { scheme: 'dedicated-1', name: 'Cold-store logs' },
      later: [],
      fill: { from: 0.3, to: 0.52, days: 720, everyDays: 7 },
    },
    {
      name: 'Teal',
      place: HUT,
      profile: 'reedbank',
      bays: 1,
      daysAgo: 2640,
      drives: [drive(1, 3, '00719', 'C4DX')],
      pool: { scheme: 'separate', name: 'Weather station' },
      later: [],
      fill: { from: 0.5, to: 0.66, days: 720, everyDays: 30 },
    },
  ] satisfies DemoUnit[],
};
