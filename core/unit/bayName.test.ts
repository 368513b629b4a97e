import causeway from '../platform/profiles/causeway.json' with { type: 'json' };
import { readStatement } from '../record/readStatement';
import { compareObservation } from '../observe/compareObservation';
import { readPage } from '../observe/readPage';
import type { Profile } from '../platform/profile';
import { isRefusal } from '../value/refusal';
import { apply } from './apply';
import { BayName, bayName, bayShort, baysMeant, enclosuresMeant, trayOf } from './bayName';
import { frontOf } from './card';
import { enclosuresNamed } from './enclosures';
import type { UnitEvent } from './event';
import { afterEvents } from './testUnit';

const AT = '2026-01-01T00:00:00.000Z';
/** A head of 16 and four extensions of 16, with a drive in every bay. */
const boxes = enclosuresNamed([
  { name: 'Head', bays: 16 },
  ...[1, 2, 3, 4].map((n) => ({ name: `Extension ${String(n)}`, bays: 16, dial: n + 10 })),
]);
const all = boxes.flatMap(({ bays }) => bays);
const serialIn = (bay: string): string => `QH16-${bay.padStart(3, '0')}-${bay.padStart(4, '0')}`;
const events: UnitEvent[] = [
  {
    kind: 'unit-registered',
    name: 'Plover',
    place: { site: 'S', room: 'R' },
    profile: causeway as unknown as Profile,
    enclosures: boxes,
  },
  ...all.map((bay): UnitEvent => ({
    kind: 'drive-inserted',
    bay,
    drive: { serial: serialIn(bay), bytes: 16e12, basis: 'exact' },
  })),
];
const unit = afterEvents(null, events, AT);
const one = { enclosures: [{ name: 'Head', bays: ['1', '2', 'A3'] }] };
/** The fifth tray of the third extension, counted through from the head. */
const E35 = String(16 * 3 + 5);

it('is called as the unit counts it', () => {
  expect([bayName(unit, E35), BayName(unit, E35), bayShort(unit, E35), trayOf(unit, E35)?.tray]).toEqual([
    'Extension 3, tray 5',
    'Extension 3, tray 5',
    'E3·5',
    '5',
  ]);
  expect([bayName(one, '2'), BayName(one, '2'), bayShort(one, '2'), bayName(one, 'A3')]).toEqual([
    'bay 2',
    'Bay 2',
    '2',
    'bay A3',
  ]);
  expect(frontOf(unit).enclosures[3]?.bays[4]).toMatchObject({ bay: E35, tray: '5', name: 'Extension 3, tray 5' });
  // Two boxes that begin with the same letter and have no number are told by their place.
  const twins = {
    enclosures: [
      { name: 'Left', bays: ['1'] },
      { name: 'Lower', bays: ['2'] },
    ],
  };
  expect([bayShort(twins, '1'), bayShort(twins, '2')]).toEqual(['#1·1', '#2·1']);
});

it.each<[string, readonly string[]]>([
  ['tray 5 of extension 3 slow magenta', [E35]],
  ['extension 3, tray 5', [E35]],
  ['Extension 3 bay #5', [E35]],
  ['E3·5', [E35]],
  ['e3-5 is out', [E35]],
  ['tray 5 of dial 13', [E35]],
  ['tray 5 of the head', ['5']],
  ['head bay 5', ['5']],
  ['tray 5', ['5', '21', '37', '53', '69']],
  ['bay 53', ['53']],
  ['extension 9 tray 5', []],
  ['nothing of the kind', []],
])('"%s"', (words, bays) => expect(baysMeant(unit, words)).toEqual(bays));

it('is in one box or in the unit that has only one', () => {
  expect(enclosuresMeant(unit, 'Extension 12: 15 of 16').map(({ name }) => name)).toEqual(['Extension 2']);
  expect(enclosuresMeant(unit, 'extension 3: 15 of 16 drives seen').map(({ name }) => name)).toEqual(['Extension 3']);
  expect(enclosuresMeant(one, 'extension 3')).toEqual([]);
  expect(baysMeant(one, 'slot a3 clicks')).toEqual(['A3']);
});

describe('what a person says', () => {
  it('is of the drive in that tray of that box, and of no other', () => {
    const [first] = readStatement(unit, 'tray 5 of extension 3 slow magenta');
    expect(first).toMatchObject({
      sentence: expect.stringMatching(/^Extension 3, tray 5: /),
      // In this family it works still: a sign, and no failure.
      event: {
        kind: 'sign-noted',
        bay: E35,
        lamp: 'Tray lamp slow magenta',
        note: 'tray 5 of extension 3 slow magenta',
      },
    });
  });

  it('is offered for every box where it was not said which', () => {
    const meant = readStatement(unit, 'tray 5 failed').flatMap((one) =>
      one.kind === 'statement' && one.event.kind === 'drive-failed' ? one.sentence.split(':')[0] : [],
    );
    expect(meant).toEqual([
      'Head, tray 5',
      'Extension 1, tray 5',
      'Extension 2, tray 5',
      'Extension 3, tray 5',
      'Extension 4, tray 5',
    ]);
  });

  it('counts the drives of the box that was named', () => {
    const [first] = readStatement(unit, 'extension 3: 15 of 16 drives seen');
    expect(first).toMatchObject({
      event: { kind: 'drives-counted', seen: 15, expected: 16, enclosure: 'Extension 3' },
    });
    const counted = apply(unit, { kind: 'drives-counted', seen: 15, enclosure: 'Extension 3' }, AT);
    expect(isRefusal(counted) ? counted : counted.counted).toMatchObject({
      seen: 15,
      expected: 16,
      enclosure: 'Extension 3',
    });
    expect(apply(unit, { kind: 'drives-counted', seen: 1, enclosure: 'Cellar' }, AT)).toMatchObject({
      code: 'enclosure-unknown',
    });
  });
});

describe('what a page shows', () => {
  const line = (tray: number, bay: string, before = ''): string =>
    `${before}${String(tray)}  ${serialIn(bay)}  14.6 TiB  Normal`;
  const compared = (text: string) => compareObservation(unit, readPage(text, unit));
  it.each<[string, string]>([
    [
      'counts each box from 1 under its heading',
      boxes
        .map(({ name, bays }) => `${name}\n${bays.map((bay, i) => line(i + 1, bay, 'Tray ')).join('\n')}`)
        .join('\n\n'),
    ],
    [
      'names the box in each line',
      boxes.flatMap(({ name, bays }) => bays.map((bay, i) => line(i + 1, bay, `${name} tray `))).join('\n'),
    ],
    [
      'has a column for the box',
      `Enclosure,Slot,Serial,Size,Status\n${boxes.flatMap(({ name, bays }) => bays.map((bay, i) => `${name},${String(i + 1)},${serialIn(bay)},16 TB,Normal`)).join('\n')}`,
    ],
    ['counts through', all.map((bay) => line(Number(bay), bay, 'Bay ')).join('\n')],
    [
      'counts each box from 1 and names none: the drives tell',
      boxes.flatMap(({ bays }) => bays.map((bay, i) => line(i + 1, bay, 'Tray '))).join('\n'),
    ],
  ])('%s: nothing differs', (_what, text) => expect(compared(text)).toEqual([]));

  it('marks the right drive in the right box', () => {
    const text = boxes
      .map(
        ({ name, bays }) =>
          `${name}\n${bays.map((bay, i) => line(i + 1, bay, 'Tray ').replace('Normal', bay === E35 ? 'Failed' : 'Normal')).join('\n')}`,
      )
      .join('\n');
    expect(compared(text)).toMatchObject([
      {
        bay: E35,
        code: 'failed',
        sentence: expect.stringContaining('Extension 3, tray 5'),
        events: [{ serial: serialIn(E35) }],
      },
    ]);
  });
});
