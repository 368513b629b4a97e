import type { Scheme } from '../../core/layout/scheme';
import causeway from '../../core/platform/profiles/causeway.json';
import plain from '../../core/platform/profiles/plain.json';
import reedbank from '../../core/platform/profiles/reedbank.json';
import saltern from '../../core/platform/profiles/saltern.json';
import tidemill from '../../core/platform/profiles/tidemill.json';
import type { UnitEvent } from '../../core/unit/event';
import { eventsOfUnit } from '../../core/unit/testUnit';

/** When every life begins. */
export const HAND_START = '2026-01-01T08:00:00.000Z';

const TB = 1e12;
const alike = (count: number): readonly number[] => Array.from({ length: count }, () => 4 * TB);
const unit = (
  profile: object,
  scheme: Scheme,
  sizes: readonly number[],
  width?: number,
  bays?: number,
  spares = 0,
): readonly UnitEvent[] =>
  eventsOfUnit({
    profile,
    scheme,
    sizes,
    serialIn: (bay) => `D-${bay}`,
    spares,
    ...(width === undefined ? {} : { width }),
    ...(bays === undefined ? {} : { bays }),
  });

/** The same with its last bays in a box of their own, behind a cable. */
const inTwoBoxes = (events: readonly UnitEvent[], inHead: number): readonly UnitEvent[] =>
  events.map((event) => {
    if (event.kind !== 'unit-registered') return event;
    const bays = event.enclosures.flatMap((box) => box.bays);
    return {
      ...event,
      enclosures: [
        { name: 'Head', bays: bays.slice(0, inHead) },
        { name: 'Extension 1', bays: bays.slice(inHead) },
      ],
    };
  });

/** The units a literal hand works at: every family, drives alike and not. */
export const HAND_UNITS: readonly (readonly [name: string, events: readonly UnitEvent[]])[] = [
  ['fixed classic levels, single parity', unit(reedbank, 'parity-1', alike(4))],
  ['fixed classic levels, double parity', unit(reedbank, 'parity-2', alike(5))],
  ['fixed classic levels, a mirror', unit(reedbank, 'mirror', alike(2))],
  ['fixed classic levels, unequal drives', unit(reedbank, 'parity-1', [4 * TB, 6 * TB, 8 * TB, 4 * TB])],
  ['banded pools', unit(saltern, 'mixed-1', alike(4))],
  ['single parity with a spare in the unit', unit(reedbank, 'parity-1', alike(5), undefined, 5, 1)],
  ['a banded pool with a spare in the unit', unit(saltern, 'mixed-1', alike(5), undefined, 6, 1)],
  ['banded pools that survive two', unit(saltern, 'mixed-2', alike(5))],
  ['banded pools of unequal drives', unit(saltern, 'mixed-1', [4 * TB, 4 * TB, 8 * TB, 8 * TB, 12 * TB])],
  ['dedicated parity by serial, changed while it is off', unit(tidemill, 'dedicated-1', alike(4))],
  ['dedicated parity over unequal drives', unit(tidemill, 'dedicated-2', [8 * TB, 8 * TB, 4 * TB, 6 * TB])],
  [
    'groups of equal width, one of them in an extension',
    inTwoBoxes(unit(causeway, 'parity-2-groups', alike(12), 6), 6),
  ],
  ['double parity over a head and two bays behind a cable', inTwoBoxes(unit(causeway, 'parity-2', alike(8)), 6)],
  ['groups of equal width', unit(causeway, 'parity-2-groups', alike(12), 6)],
  ['plain, striped mirrors', unit(plain, 'striped-mirrors', alike(4))],
  ['plain, striped mirrors of unequal drives', unit(plain, 'striped-mirrors', [4 * TB, 4 * TB, 8 * TB, 8 * TB])],
];

/** Units with bays to spare, for what makes, grows and changes. */
export const ROOMY_UNITS: readonly (readonly [name: string, events: readonly UnitEvent[]])[] = [
  ['fixed classic levels, a mirror in four bays', unit(reedbank, 'mirror', alike(2), undefined, 4)],
  ['fixed classic levels, single parity in five bays', unit(reedbank, 'parity-1', alike(3), undefined, 5)],
  ['fixed classic levels, unequal drives', unit(reedbank, 'parity-1', [4 * TB, 6 * TB, 8 * TB], undefined, 5)],
  ['banded pools in six bays', unit(saltern, 'mixed-1', [4 * TB, 4 * TB, 8 * TB], undefined, 6)],
  ['single parity and a spare', unit(reedbank, 'parity-1', alike(4), undefined, 5, 1)],
  ['a banded pool and a spare', unit(saltern, 'mixed-1', [4 * TB, 4 * TB, 8 * TB, 8 * TB], undefined, 6, 1)],
  [
    'banded pools with a cache of writes',
    [
      ...unit(saltern, 'mixed-1', alike(3), undefined, 4),
      ...['M1', 'M2'].map((bay): UnitEvent => ({
        kind: 'drive-inserted',
        bay,
        drive: { serial: `C-${bay}`, bytes: TB, basis: 'exact', media: 'nvme' },
      })),
      { kind: 'cache-set', serials: ['C-M1', 'C-M2'], holds: 'writes' },
    ],
  ],
  ['a banded pool that began with one drive', unit(saltern, 'mixed-1', alike(1), undefined, 4)],
  ['dedicated parity in five bays', unit(tidemill, 'dedicated-1', [8 * TB, 4 * TB, 6 * TB], undefined, 5)],
  ['groups of three in twelve bays', unit(causeway, 'parity-1-groups', alike(6), 3, 12)],
  ['plain, single parity in six bays', unit(plain, 'parity-1', alike(3), undefined, 6)],
  ['plain, striped mirrors in six bays', unit(plain, 'striped-mirrors', alike(4), undefined, 6)],
];
