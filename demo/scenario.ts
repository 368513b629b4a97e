import type { Scheme } from '../core/layout/scheme';
import type { UnitEvent } from '../core/unit/event';
import type { Drawer } from '../core/driveLife/life';
import type { Place } from '../core/unit/state';
import type { UnitDetails } from '../schemas/unitEvent';

const OFFICE: Place = { site: 'Main office', room: 'rack' };
const PACKING: Place = { site: 'Packing house', room: 'comms cupboard' };
const HUT: Place = { site: 'Field station', room: 'hut' };

/** Stands for the id of a unit's pool, which is made when the demo is. */
export const THE_POOL = 'the-pool';

export interface DemoDrive {
  readonly bay: string;
  readonly serial: string;
  readonly gigabytes: number;
  readonly model: string;
  readonly priceCents: number;
  readonly lot: string;
}

/** Something that happened later, in days before today (fractions are hours). */
export interface DemoEvent {
  readonly daysAgo: number;
  readonly event: UnitEvent;
}

/** How it has been looked after: where its copy is, when things were last done, in days before today. */
export interface Care {
  readonly copyAt: string;
  readonly offSite: boolean;
  readonly ranDaysAgo: number;
  readonly restoreDaysAgo: number;
  readonly readMegabytes: number;
  readonly writeMegabytes: number;
  /** Upkeep that has been let slip. */
  readonly overdue?: readonly string[];
}

/** A drive that lies in a drawer. */
export interface DemoSpare {
  readonly drive: DemoDrive;
  readonly drawer: Drawer;
  readonly daysAgo: number;
}

export interface DemoUnit {
  readonly name: string;
  readonly place: Place;
  readonly profile: string;
  readonly bays: number;
  readonly daysAgo: number;
  readonly drives: readonly DemoDrive[];
  readonly pool: {
    readonly scheme: Scheme;
    readonly groupWidth?: number;
    readonly spares?: number;
    readonly name: string;
  };
  readonly details: UnitDetails;
  readonly care: Care;
  readonly later: readonly DemoEvent[];
  /** A replacement by a plan, begun and so many of its steps done. */
  readonly replacing?: {
    readonly serial: string;
    readonly by: DemoDrive;
    readonly daysAgo: number;
    readonly stepsDaysAgo: readonly number[];
  };
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
    lot,
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

/** Growing defects of one drive: days before today, and how many sectors it had put aside. */
export const DEFECTS = {
  unit: 'Coot',
  serial: 'QH6-01904-19TD',
  counts: [
    [120, 0],
    [60, 0],
    [30, 2],
    [21, 2],
    [14, 3],
    [9, 9],
    [6, 12],
    [3, 15],
    [1, 16],
  ],
} as const;

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
      drives: [
        drive(1, 8, '04422', '4KH2'),
        drive(2, 8, '04417', '77PX'),
        drive(3, 8, '04422', '4KH9'),
        drive(4, 8, '04423', '4KR1'),
      ],
      pool: { scheme: 'parity-1', name: 'Accounts and orders' },
      details: {
        serial: 'RB4-22071',
        address: '10.4.2.20',
        firmware: '4.1',
        call: 'Orchard office, extension 14',
        supplies: 'one, outside',
      },
      care: {
        copyAt: 'Main office, Plover',
        offSite: true,
        ranDaysAgo: 0.9,
        restoreDaysAgo: 61,
        readMegabytes: 112,
        writeMegabytes: 98,
      },
      later: [
        { daysAgo: 3.2, event: { kind: 'drive-suspected', serial: 'QH8-04417-77PX', note: 'read errors in the log' } },
        {
          daysAgo: 0.6,
          event: { kind: 'drive-failed', serial: 'QH8-04417-77PX', note: 'bay lamp steady violet, two falling tones' },
        },
      ],
      fill: { from: 0.38, to: 0.71, days: 720, everyDays: 7 },
    },
    {
      name: 'Coot',
      place: PACKING,
      profile: 'saltern',
      bays: 6,
      daysAgo: 2230,
      drives: [
        drive(1, 12, '06110', 'A7C3'),
        drive(2, 12, '06110', 'A7C7'),
        drive(3, 6, '01904', '19TD'),
        drive(4, 6, '01904', '19TF'),
      ],
      pool: { scheme: 'mixed-1', name: 'Aerial survey' },
      details: { serial: 'SA6-10442', address: '10.4.2.21', firmware: '7.2.1', supplies: 'one, inside' },
      care: {
        copyAt: 'Rented store',
        offSite: true,
        ranDaysAgo: 2.2,
        restoreDaysAgo: 120,
        readMegabytes: 235,
        writeMegabytes: 180,
      },
      later: [
        {
          daysAgo: 9,
          event: { kind: 'drive-suspected', serial: 'QH6-01904-19TD', note: '14 reallocated sectors in 9 days' },
        },
      ],
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
      details: {
        serial: 'CW24-00317',
        address: '10.4.1.10',
        firmware: '2026.3',
        supplies: 'two an enclosure',
        ports: 'two of 10 gigabit, bonded',
      },
      care: {
        copyAt: 'Tape box, bank',
        offSite: true,
        ranDaysAgo: 5.5,
        restoreDaysAgo: 88,
        readMegabytes: 940,
        writeMegabytes: 610,
        overdue: ['dust'],
      },
      later: [
        { daysAgo: 0.4, event: { kind: 'job-started', job: 'scrub-1', task: 'scrub', pool: THE_POOL } },
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
      details: { serial: 'RB2-19850', address: '10.4.1.31', firmware: '4.1' },
      care: {
        copyAt: 'Rented store',
        offSite: true,
        ranDaysAgo: 0.7,
        restoreDaysAgo: 200,
        readMegabytes: 110,
        writeMegabytes: 84,
      },
      later: [
        { daysAgo: 1.1, event: { kind: 'drive-failed', serial: 'QH4-03016-M57W', note: 'clicking, then gone' } },
        ...(
          [
            [0.27, 10],
            [0.2, 25],
            [0.12, 42],
            [0.07, 52],
            [0.02, 62],
          ] as const
        ).map(([daysAgo, percent]) => ({
          daysAgo,
          event: { kind: 'job-progressed', job: 'rebuild-1', percent } as const,
        })),
      ],
      replacing: {
        serial: 'QH4-03016-M57W',
        by: replacement,
        daysAgo: 0.4,
        stepsDaysAgo: [0.39, 0.38, 0.37, 0.36, 0.345, 0.34, 0.33, 0.32],
      },
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
      details: { serial: 'TM8-04413', address: '10.4.3.8', firmware: '6.12' },
      care: {
        copyAt: 'Main office, Plover',
        offSite: true,
        ranDaysAgo: 1.4,
        restoreDaysAgo: 431,
        readMegabytes: 108,
        writeMegabytes: 62,
      },
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
      details: { serial: 'RB1-07702', address: '10.4.3.9', firmware: '3.9' },
      care: {
        copyAt: 'Main office, Plover',
        offSite: true,
        ranDaysAgo: 1.4,
        restoreDaysAgo: 150,
        readMegabytes: 71,
        writeMegabytes: 55,
      },
      later: [],
      fill: { from: 0.5, to: 0.66, days: 720, everyDays: 30 },
    },
    {
      // The newer one, with a drive of its own, that Teal is to be moved to.
      name: 'Snipe',
      place: HUT,
      profile: 'reedbank',
      bays: 2,
      daysAgo: 44,
      drives: [drive(1, 3, '07120', 'N2HD')],
      pool: { scheme: 'separate', name: 'Field station' },
      details: { serial: 'RB2-31007', address: '10.4.3.12', firmware: '4.4' },
      care: {
        copyAt: 'Main office, Plover',
        offSite: true,
        ranDaysAgo: 1.4,
        restoreDaysAgo: 5,
        readMegabytes: 110,
        writeMegabytes: 88,
      },
      later: [],
      fill: { from: 0.01, to: 0.01, days: 42, everyDays: 7 },
    },
  ] satisfies DemoUnit[],
  spares: [
    {
      drive: drive(0, 8, '05102', 'V3KE'),
      drawer: { site: PACKING.site, room: PACKING.room, drawer: 'Drawer 2' },
      daysAgo: 240,
    },
    {
      drive: drive(0, 12, '06110', 'A7D9'),
      drawer: { site: PACKING.site, room: PACKING.room, drawer: 'Drawer 2' },
      daysAgo: 240,
    },
    {
      drive: drive(0, 4, '05231', 'M61C'),
      drawer: { site: OFFICE.site, room: OFFICE.room, drawer: 'Grey cabinet' },
      daysAgo: 35,
    },
    {
      drive: drive(0, 4, '05231', 'M64N'),
      drawer: { site: OFFICE.site, room: OFFICE.room, drawer: 'Grey cabinet' },
      daysAgo: 35,
    },
  ] satisfies DemoSpare[],
  /** Models on their own list of tested drives. */
  tested: [
    { model: 'Quernholt Q8C', verdict: 'works', note: 'Heron and Bittern since 2022' },
    { model: 'Quernholt Q12C', verdict: 'works', note: null },
    { model: 'Quernholt Q6S', verdict: 'avoid', note: 'shingled: stalled for minutes in a rebuild' },
  ] as const,
};
