import { apply } from '../unit/apply';
import type { UnitEvent } from '../unit/event';
import type { UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import { compareObservation } from './compareObservation';
import { readPage } from './readPage';
import saltern from '../platform/profiles/saltern.json' with { type: 'json' };
import { afterEvents, eventsOfUnit } from '../unit/testUnit';
import { AT, BAYS, drives, serialOf, unitAfter } from './testHeron';

/** Boxes without a drive on record. */
const BARE = { enclosures: [{ name: 'Head', bays: BAYS }], drives: {} };
const compared = (unit: UnitState, text: string) => compareObservation(unit, readPage(text, unit));

describe('readPage', () => {
  it('reads free text, tabs and CSV with its columns in any order', () => {
    const expected = { bay: '2', serial: 'QH8-04422', size: { bytes: 8001563222016, label: '8 TB' }, state: 'failed' };
    expect(readPage('Bay 2: QH8-04422 8 TB Failed', BARE).bays).toMatchObject([expected]);
    expect(readPage('2\tQH8-04422\t8 TB\tfailed', BARE).bays).toMatchObject([expected]);
    const csv = readPage('Serial,Health,Slot,Size\nQH8-04422,Failed,2,8 TB\nQH8-04423,Normal,3,8 TB', BARE);
    expect(csv.bays).toMatchObject([expected, { bay: '3', state: 'well' }]);
    expect(csv.bays[0]?.line).toBe(2);
  });

  it('reads a percentage of a bay and one of the unit, and keeps what it did not understand', () => {
    const report = readPage('Drive 1  QH8-04421  rebuilding 42,5 %\nRebuild progress: 42 %\nHave a nice day', BARE);
    expect(report.bays).toMatchObject([{ bay: '1', state: 'rebuilding', percent: 42.5 }]);
    expect([report.percent, report.unread]).toEqual([42, [{ line: 3, text: 'Have a nice day' }]]);
  });

  it('keeps what is longer than any page as not understood, and looks no further than a page goes', () => {
    const long = `Bay 1 QH8-04421 ${' '.repeat(600)} Failed`;
    expect(readPage(long, BARE)).toMatchObject({ bays: [], unread: [{ line: 1 }] });
    expect(readPage('\n'.repeat(6000) + 'Bay 1 QH8-04421 Failed', BARE).bays).toEqual([]);
    expect(readPage('\n'.repeat(4000) + 'Bay 1 QH8-04421 Failed', BARE).bays).toHaveLength(1);
  });

  it('takes nothing for a bay that is none, nor a size for a serial', () => {
    expect(readPage('Bay 77: QH8-1 8 TB', BARE).bays).toEqual([]);
    expect(readPage('Bay 1: 8001TB Normal', BARE).bays[0]).not.toHaveProperty('serial');
  });
});

describe('slots for cache on a page', () => {
  const bytes = 500_107_862_016;
  const inSlot = (bay: string): UnitEvent => ({
    kind: 'drive-inserted',
    bay,
    drive: { serial: `NC-7700${bay.slice(1)}`, bytes, basis: 'exact', media: 'nvme' },
  });
  const unit = afterEvents(
    null,
    [
      ...eventsOfUnit({
        profile: saltern,
        scheme: 'mixed-1',
        sizes: [8001563222016, 8001563222016],
        bays: 4,
        serialIn: (bay) => `QH8-0555${bay}`,
      }),
      inSlot('M1'),
      inSlot('M2'),
    ],
    AT,
  );
  const bays = 'Bay 1  QH8-05551  8 TB  Normal\nBay 2  QH8-05552  8 TB  Normal\n';

  it.each([
    ['Cache slot M1', 'M1'],
    ['Cache 2', 'M2'],
    ['Cache drive 1', 'M1'],
    ['M.2 slot 2', 'M2'],
    ['NVMe 1', 'M1'],
    ['Slot M2', 'M2'],
    ['M1', 'M1'],
  ])('are read as “%s”', (words, bay) => {
    const seen = readPage(`${bays}${words}\tNC-7700${bay.slice(1)}\t500 GB\tWarning`, unit);
    expect(seen.bays[2]).toMatchObject({ bay, serial: `NC-7700${bay.slice(1)}`, state: 'sick' });
    expect(compareObservation(unit, seen)).toMatchObject([
      { code: 'sick', bay, events: [{ kind: 'drive-suspected' }] },
      { code: 'not-reported', bay: bay === 'M1' ? 'M2' : 'M1', events: [] },
    ]);
  });

  it('are none where the family has none, or where only a size is said', () => {
    expect(readPage('Cache 1  NC-77001  500 GB  Normal', BARE)).toMatchObject({ bays: [], unread: [{ line: 1 }] });
    expect(readPage('Bay 1  QH8-05551  8 TB  cache 1 GB  Normal', unit).bays).toMatchObject([{ bay: '1' }]);
    expect(readPage('Bay 2  QH8-05552  M.2 2280  Normal', unit).bays).toMatchObject([{ bay: '2' }]);
  });

  it('are missed where a page shows drives and not these: silence is not well', () => {
    expect(compareObservation(unit, readPage(bays, unit)).map(({ code, bay }) => [code, bay])).toEqual([
      ['not-reported', 'M1'],
      ['not-reported', 'M2'],
    ]);
  });
});

describe('compareObservation', () => {
  const all = (change: Record<string, string> = {}): string =>
    drives.map(({ bay }) => change[bay] ?? `Bay ${bay}  ${serialOf.get(bay) ?? ''}  7.3 TiB  Normal`).join('\n');

  it('finds nothing when the page says what the record says', () => {
    expect(compared(unitAfter(), all())).toEqual([]);
  });

  it.each<[string, string, UnitEvent[], object]>([
    [
      'failed',
      'Bay 2  QH8-04422  7.3 TiB  Failed',
      [],
      { code: 'failed', events: [{ kind: 'drive-failed', serial: 'QH8-04422' }] },
    ],
    ['sick', 'Bay 2  QH8-04422  7.3 TiB  Warning', [], { code: 'sick', events: [{ kind: 'drive-suspected' }] }],
    ...['Failing', 'Critical', 'Predicted failure', 'Expects to fail', 'About to fail'].map(
      (word): [string, string, UnitEvent[], object] => [
        `sick by “${word}”`,
        `Bay 2  QH8-04422  7.3 TiB  ${word}`,
        [],
        { code: 'sick', events: [{ kind: 'drive-suspected' }] },
      ],
    ),
    [
      'recovered',
      'Bay 2  QH8-04422  7.3 TiB  Normal',
      [{ kind: 'drive-failed', serial: 'QH8-04422' }],
      { code: 'recovered', events: [{ kind: 'drive-returned' }] },
    ],
    ['gone', 'Bay 2  empty', [], { code: 'gone', events: [{ kind: 'drive-removed', serial: 'QH8-04422' }] }],
    [
      'other serial',
      'Bay 2  QH8-99999  8 TB  Normal',
      [],
      {
        code: 'other-serial',
        events: [{ kind: 'drive-removed' }, { kind: 'drive-inserted', bay: '2', drive: { serial: 'QH8-99999' } }],
      },
    ],
    ['size', 'Bay 2  QH8-04422  4 TB  Normal', [], { code: 'size', events: [] }],
    ['progress without work', 'Bay 2  QH8-04422  7.3 TiB  Normal 40 %', [], { code: 'progress', events: [] }],
  ])('finds %s, says both sides, and what accepting would record', (_what, line, later, expected) => {
    const unit = unitAfter(...later);
    const found = compared(unit, all({ '2': line }));
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ kind: 'contradiction', bay: '2', ...expected });
    let state = unit;
    for (const event of found[0]?.events ?? []) {
      const next = apply(state, event, AT);
      if (isRefusal(next)) throw new Error(next.sentence);
      state = next;
    }
  });

  it('finds a drive the record has not, and a bay the page does not mention', () => {
    expect(compared(unitAfter(), `${all()}\nBay 5  QH8-77777  8 TB  Normal`)).toMatchObject([
      { code: 'not-in-record', bay: '5' },
    ]);
    const short = all().split('\n').slice(0, 3).join('\n');
    expect(compared(unitAfter(), short)).toMatchObject([
      { code: 'not-reported', bay: '4' },
      { code: 'count', bay: '', events: [{ kind: 'drives-counted', seen: 3, expected: 4 }] },
    ]);
  });

  it('says of a health it does not know that it does not, and offers it as a sign', () => {
    const told = compared(unitAfter(), all({ '2': 'Bay 2  QH8-04422  7.3 TiB  Wobbly' }));
    expect(told).toMatchObject([
      {
        code: 'unknown-word',
        bay: '2',
        events: [{ kind: 'drive-suspected', serial: 'QH8-04422', note: "the unit's page says “Wobbly”" }],
      },
    ]);
    expect(compared(unitAfter(), `Bay;Serial;Health\n1;${serialOf.get('1') ?? ''};Abnormal use`)).toMatchObject([
      { code: 'unknown-word', bay: '1' },
    ]);
    // What a drive is, is no health.
    for (const word of ['SATA', 'HDD', 'Spare', 'SAS disk 12'])
      expect(compared(unitAfter(), all({ '2': `Bay 2  QH8-04422  7.3 TiB  ${word}` }))).toEqual([]);
  });

  it('holds the count of each box against that box', () => {
    const unit = unitAfter(
      { kind: 'enclosure-added', enclosure: { name: 'Extension 1', bays: ['X1', 'X2'] } },
      { kind: 'drive-inserted', bay: 'X1', drive: { serial: 'QH8-55555', bytes: 8e12, basis: 'exact' } },
    );
    expect(compared(unit, 'Head: 4 drives\nExtension 1: 1 of 2 disks')).toEqual([]);
    expect(compared(unit, 'Head: 5 drives\nExtension 1\n0 drives present')).toMatchObject([
      {
        code: 'count',
        sentence: 'The page shows 5 drives in Head, 4 are expected.',
        events: [{ kind: 'drives-counted', seen: 5, expected: 4, enclosure: 'Head' }],
      },
      { code: 'count', sentence: 'The page shows 0 drives in Extension 1, 1 are expected.' },
    ]);
    expect(compared(unit, 'Drives: 5')).toEqual([]);
    expect(compared(unit, '4 drives found')).toMatchObject([{ code: 'count', events: [{ seen: 4, expected: 5 }] }]);
  });

  it('moves work on, and says so when it has gone back', () => {
    const unit = unitAfter(
      { kind: 'job-started', job: 'j', task: 'scrub', pool: 'p' },
      { kind: 'job-progressed', job: 'j', percent: 50 },
    );
    expect(compared(unit, 'Scrub progress 60 %')).toMatchObject([
      { code: 'progress', events: [{ kind: 'job-progressed', job: 'j', percent: 60 }] },
    ]);
    expect(compared(unit, 'Scrub progress 10 %')).toMatchObject([
      {
        events: [{ kind: 'job-restarted' }, { kind: 'job-progressed', percent: 10 }],
        sentence: expect.stringContaining('gone back'),
      },
    ]);
    expect(compared(unit, 'Scrub progress 50 %')).toEqual([]);
  });
});
