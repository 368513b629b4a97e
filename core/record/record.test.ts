import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import saltern from '../platform/profiles/saltern.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { apply } from '../unit/apply';
import type { UnitEvent } from '../unit/event';
import { preview } from '../unit/preview';
import type { UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import { eventWords } from './eventWords';
import { readStatement } from './readStatement';
import { afterEvents, eventsOfUnit } from '../unit/testUnit';

const AT = '2026-01-01T00:00:00.000Z';
const sizes = [8e12, 8e12, 8e12];
const events: UnitEvent[] = [
  ...eventsOfUnit({ profile: reedbank, scheme: 'parity-1', sizes, bays: 4, serialIn: (bay) => `QH8-${bay}` }),
  { kind: 'data-set-described', dataSet: 'd', name: 'Accounts' },
  { kind: 'copy-described', dataSet: 'd', copy: 'c', where: 'bank', keeps: 'versions', offSite: true },
  { kind: 'job-started', job: 'j', task: 'scrub', pool: 'p' },
  { kind: 'sign-noted', note: 'beeping' },
];
const heron = afterEvents(null, events, AT);

describe('readStatement', () => {
  it.each<[string, object]>([
    ['bay 3 is clicking', { kind: 'drive-suspected', serial: 'QH8-3', note: 'clicking' }],
    ['Bay 2 failed', { kind: 'drive-failed', serial: 'QH8-2' }],
    ['bay 2: red lamp', { kind: 'drive-failed', serial: 'QH8-2' }],
    ['bay 1 out of service', { kind: 'drive-taken-out-of-service', serial: 'QH8-1' }],
    ['bay 1 pulled', { kind: 'drive-removed', serial: 'QH8-1' }],
    ['bay 3 is fine', { kind: 'drive-cleared', serial: 'QH8-3' }],
    ['bay 3 came back', { kind: 'drive-returned', serial: 'QH8-3' }],
    ['bay 1 is back', { kind: 'drive-returned', serial: 'QH8-1' }],
    ['deactivated bay 1', { kind: 'drive-taken-out-of-service', serial: 'QH8-1' }],
    ['pulled bay 2', { kind: 'drive-removed', serial: 'QH8-2' }],
    ['bay 2 expects to fail', { kind: 'drive-suspected', serial: 'QH8-2', note: 'expects to fail' }],
    ['QH8-3 is clicking', { kind: 'drive-suspected', serial: 'QH8-3', note: 'clicking' }],
    ['qh8-3 failed', { kind: 'drive-failed', serial: 'QH8-3' }],
    ['power supply 2 dead', { kind: 'part-lost', part: 'supply', name: '2' }],
    ['QH8-9 into bay 4, 8 TB', { kind: 'drive-inserted', bay: '4', drive: { serial: 'QH8-9', basis: 'label' } }],
    ['warning light', { kind: 'sign-noted', note: 'warning light' }],
    ['it beeps', { kind: 'sign-noted', note: 'it beeps' }],
    ['3 of 4 drives seen', { kind: 'drives-counted', seen: 3, expected: 4 }],
    ['all drives seen', { kind: 'drives-counted', seen: 3 }],
    ['firmware updated to 4.2', { kind: 'firmware-updated', version: '4.2' }],
    ['Firmware is now 2026.3-b', { kind: 'firmware-updated', version: '2026.3-b' }],
    ['backup restored', { kind: 'copy-confirmed', dataSet: 'd', copy: 'c', outcome: 'restore-worked' }],
    ['restore failed', { kind: 'copy-confirmed', outcome: 'restore-failed' }],
    ['backup ran', { kind: 'copy-confirmed', outcome: 'ran' }],
    ['62 %', { kind: 'job-progressed', job: 'j', percent: 62 }],
    ['check is at 62,5 %', { kind: 'job-progressed', percent: 62.5 }],
    ['scrub finished', { kind: 'job-finished', job: 'j' }],
    ['power supply 2 failed', { kind: 'part-lost', part: 'supply', name: '2' }],
    ['fan 1 replaced', { kind: 'part-back', part: 'fan', name: '1' }],
    ['switched off', { kind: 'power', on: false }],
    ['alarm mail arrived', { kind: 'check-confirmed', check: 'alarm-mail-tested' }],
    ['factory password changed', { kind: 'check-confirmed', check: 'factory-password-changed' }],
    [
      'reads 110 writes 95',
      { kind: 'speed-measured', readBytesPerSecond: 110e6, writeBytesPerSecond: 95e6, isBaseline: true },
    ],
    ['beeping stopped', { kind: 'signs-cleared' }],
    ['moved the desk lamp-post', { kind: 'sign-noted' }],
    ['cleaned the shelf', { kind: 'noted', note: 'cleaned the shelf' }],
  ])('reads “%s”', (text, event) => {
    const [first] = readStatement(heron, text);
    expect(first).toMatchObject({ kind: 'statement', event });
  });

  it('reads what became of volumes and of a whole pool, each pool offered where several can be meant', () => {
    const after = (of: UnitState, event: UnitEvent): UnitState => apply(of, event, AT) as UnitState;
    const two = after(heron, {
      kind: 'volume-set',
      volume: 'volume-1',
      pool: 'p',
      name: 'Projects',
      bytes: 5e12,
      thin: true,
      fileSystem: 'F',
    });
    const eventsOf = (text: string): unknown[] =>
      readStatement(two, text).flatMap((one) =>
        one.kind === 'statement' && one.event.kind !== 'noted' ? [one.event] : [],
      );
    const projects = {
      kind: 'volume-set',
      volume: 'volume-1',
      pool: 'p',
      name: 'Projects',
      thin: true,
      fileSystem: 'F',
    };
    expect(eventsOf('volume projects grown to 9 TiB')).toEqual([{ ...projects, bytes: 9 * 2 ** 40 }]);
    expect(eventsOf('Volume Old scans added, 2,5 TiB thin')).toEqual([
      { kind: 'volume-set', volume: 'volume-2', pool: 'p', name: 'Old scans', bytes: 2.5 * 2 ** 40, thin: true },
    ]);
    // Either of two: both are offered.
    expect(eventsOf('volume Projects grown to 5,480 GiB')).toMatchObject([
      { bytes: Math.floor(5.48 * 2 ** 30) },
      { bytes: 5480 * 2 ** 30 },
    ]);
    expect(eventsOf('volume Projects removed')).toEqual([{ kind: 'volume-removed', volume: 'volume-1' }]);
    for (const text of ['volume Else grown to 9 TiB', 'volume Else removed', 'volume Projects grown a lot'])
      expect([text, eventsOf(text)]).toEqual([text, []]);
    const gone = readStatement(two, 'pool erased')[0];
    expect(gone).toMatchObject({
      sentence: 'Pool: Pool taken apart; what it held is gone.',
      event: { kind: 'pool-destroyed', pool: 'p' },
    });
    // It is said before, and asks for a serial.
    expect(preview(two, { kind: 'pool-destroyed', pool: 'p' }, AT)).toMatchObject({
      hazards: [{ code: 'erases', serials: ['QH8-1', 'QH8-2', 'QH8-3'] }],
    });
  });

  it('reads the family’s own words for a lamp, at a bay and at the unit, as that sign and not as a failure', () => {
    const salt = { ...heron, profile: saltern as Profile };
    const events = (text: string): unknown[] =>
      readStatement(salt, text).flatMap((one) => (one.kind === 'statement' ? [one.event] : []));
    const fast = events('bay 2 lamp is fast orange');
    expect(fast[0]).toEqual({
      kind: 'sign-noted',
      note: 'bay 2 lamp is fast orange',
      lamp: 'Bay lamp fast orange',
      bay: '2',
    });
    expect(fast).not.toContainEqual(expect.objectContaining({ kind: 'drive-failed' }));
    expect(events('four knocking sounds, every half minute')[0]).toMatchObject({
      kind: 'sign-noted',
      lamp: 'Four knocking sounds every half minute',
    });
    expect(events('bay 2 failed, fast orange')).toContainEqual(
      expect.objectContaining({ kind: 'drive-failed', serial: 'QH8-2' }),
    );
  });

  it('reads a level that was changed, by the one rule for built pools; and none the family does not change to', () => {
    const offered = heron.profile.growth.conversions.map(({ from, to }) => `${from} ${to}`);
    expect(offered).toContain('parity-1 parity-2');
    const five = ['4', '5'].reduce(
      (of, bay) =>
        apply(
          of,
          { kind: 'drive-inserted', bay, drive: { serial: `QH8-${bay}`, bytes: 8e12, basis: 'exact' } },
          AT,
        ) as UnitState,
      { ...heron, enclosures: [{ name: 'Head', bays: ['1', '2', '3', '4', '5'] }] } as UnitState,
    );
    const first = readStatement(five, 'pool changed to level 6')[0];
    expect(first).toMatchObject({ event: { kind: 'pool-converted', pool: 'p', scheme: 'parity-2' } });
    expect(readStatement(five, 'changed to double parity')[0]).toMatchObject({ event: { kind: 'pool-converted' } });
    expect(
      readStatement(five, 'pool changed to level 10').map((one) =>
        one.kind === 'statement' ? one.event.kind : one.kind,
      ),
    ).toEqual(['noted']);
  });

  it('says of which box a part is, and what it does not understand', () => {
    const boxes = {
      ...heron,
      enclosures: [...heron.enclosures, { name: 'Extension 1', bays: ['5'] }, { name: 'Extension 2', bays: ['6'] }],
    } as UnitState;
    expect(readStatement(boxes, 'power supply of extension 2 dead')[0]).toMatchObject({
      event: { kind: 'part-lost', part: 'supply', name: '1 of Extension 2' },
    });
    expect(readStatement(boxes, 'fan 2 in extension 1 replaced')[0]).toMatchObject({
      event: { kind: 'part-back', part: 'fan', name: '2 of Extension 1' },
    });
    expect(readStatement(heron, 'the thing did its thing')).toEqual([
      {
        kind: 'statement',
        event: { kind: 'noted', note: 'the thing did its thing' },
        sentence: 'Not understood, and changes nothing in the record. Only note: “the thing did its thing”',
      },
    ]);
  });

  it('reads how full it is as a measured value', () => {
    const shown = heron.pools['p']?.shownBytes ?? 0;
    // Three digits behind the only separator: what the pool can hold decides, and where both can be both are offered.
    const used = (text: string): number[] =>
      readStatement(heron, text).flatMap((one) => (one.kind === 'measured' ? [one.value] : []));
    expect(used('5,480 GiB used')).toEqual([Math.floor(5.48 * 2 ** 30), 5480 * 2 ** 30]);
    expect(used('980,000 GiB used')).toEqual([980 * 2 ** 30]);
    expect(readStatement(heron, '83 % full')[0]).toEqual({
      kind: 'measured',
      subject: 'p',
      metric: 'used-bytes',
      value: Math.round(0.83 * shown),
      sentence: 'Pool is 83 % full.',
    });
    expect(readStatement(heron, 'used 8 TB')[0]).toMatchObject({ kind: 'measured' });
  });

  it('reads what a drive counts of itself as measured values', () => {
    expect(readStatement(heron, 'bay 3: 16 reallocated sectors')[0]).toEqual({
      kind: 'measured',
      subject: 'QH8-3',
      metric: 'reallocated-sectors',
      value: 16,
      sentence: 'Bay 3: 16 reallocated sectors.',
    });
    expect(readStatement(heron, 'bay 3: 62 % of its rated life left')).toEqual([
      expect.objectContaining({ metric: 'life-left', value: 62, sentence: 'Bay 3: 62 % of its rated life left.' }),
      expect.objectContaining({ event: expect.objectContaining({ kind: 'noted' }) as object }),
    ]);
    expect(readStatement(heron, 'bay 3: 9% life left')[0]).toMatchObject({ metric: 'life-left', value: 9 });
    expect(readStatement(heron, 'bay 1 is at 41 degrees')[0]).toMatchObject({ metric: 'temperature', value: 41 });
  });

  it('takes a command for what is still to be done, and never files it as a sign', () => {
    for (const text of ['pull bay 3', 'Replace bay 3', 'please swap bay 3', 'take out bay 3']) {
      const meanings = readStatement(heron, text);
      expect(meanings[0]).toMatchObject({ kind: 'to-do', serial: 'QH8-3' });
      expect(meanings[1]).toMatchObject({ kind: 'statement', event: { kind: 'drive-removed', serial: 'QH8-3' } });
      expect(JSON.stringify(meanings)).not.toMatch(/drive-suspected|drive-failed/);
    }
    expect(readStatement(heron, 'bay 3 was pulled')[0]).toMatchObject({ event: { kind: 'drive-removed' } });
  });

  it('understands that the power failed, and that it restarted', () => {
    for (const text of ['power cut', 'lost power', 'power failure in the hut'])
      expect(readStatement(heron, text)[0]).toMatchObject({ event: { kind: 'power', on: false } });
    expect(readStatement({ ...heron, power: 'off' } as UnitState, 'it restarted')[0]).toMatchObject({
      event: { kind: 'power', on: true },
    });
    expect(readStatement(heron, 'it restarted')[0]).toMatchObject({
      event: { kind: 'noted' },
      sentence: expect.stringContaining('began again'),
    });
  });

  it('counts no more drives than there are bays', () => {
    expect(readStatement(heron, '15 of 16 drives seen')[0]).toMatchObject({ event: { kind: 'noted' } });
  });

  it('always offers to keep the words as a note, and never an event the unit refuses', () => {
    for (const text of ['bay 9 failed', 'bay 4 failed', 'constructor into bay 1', '300 %', 'x']) {
      const meanings = readStatement(heron, text);
      expect(meanings.at(-1)).toMatchObject({ event: { kind: 'noted' } });
      for (const meaning of meanings)
        if (meaning.kind === 'statement') expect(isRefusal(apply(heron, meaning.event, AT))).toBe(false);
    }
    expect(readStatement(heron, '   ')).toEqual([]);
  });
});

describe('eventWords', () => {
  it('says every entry in a sentence', () => {
    for (const event of events) expect(eventWords(event, { enclosures: [] })).toMatch(/^\S.*[.]$/);
    expect(eventWords({ kind: 'taken-back', act: 'a', reason: 'wrong bay' }, { enclosures: [] })).toBe(
      'Taken back: wrong bay.',
    );
    expect(eventWords({ kind: 'round-walked', signs: [], seen: 4 }, { enclosures: [] })).toBe(
      'Evening round: nothing out of the ordinary; 4 drives seen.',
    );
  });
});
