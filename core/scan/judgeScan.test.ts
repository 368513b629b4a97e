import { describe, expect, it } from '@jest/globals';
import reedbank from '../platform/profiles/reedbank.json';
import tidemill from '../platform/profiles/tidemill.json';
import { apply } from '../unit/apply';
import { afterEvents, eventsOfUnit } from '../unit/testUnit';
import type { UnitState } from '../unit/state';
import type { DriveLife } from '../driveLife/life';
import { movePlan } from '../plan/makers/move/move';
import { begun, NEWER, newerIn, OLD, oldIn, twoUnits, workedOn } from '../plan/makers/move/testMoves';
import { must } from '../plan/makers/testPlans';
import type { PlanStep } from '../plan/plan';
import { judgeScan, scanKnown, type Scanned, type ScanKnown } from './judgeScan';
import { freeBayList, scanListOf, type ScanList } from './scanList';
import { standsThere } from '../unit/standsThere';

const AT = '2026-01-01T00:00:00.000Z';
const BYTES = 4e12;
const HERON = '55555555-5555-4555-8555-555555555555';

/** A unit with a pool over bays 1 to 3, and bays 4 to 8 free. */
const egret = afterEvents(
  null,
  eventsOfUnit({
    profile: reedbank,
    scheme: 'parity-1',
    sizes: [4e12, 4e12, 4e12],
    bays: 8,
    name: 'Egret',
    serialIn: (bay) => `EGR-500${bay}`,
  }),
  AT,
);
/** Another one, whose pool can lose one. */
const heron = afterEvents(
  null,
  eventsOfUnit({
    profile: reedbank,
    scheme: 'parity-1',
    sizes: [4e12, 4e12, 4e12],
    pool: 'Papers',
    serialIn: (bay) => `HRN-900${bay}`,
  }),
  AT,
);
const thin = apply(heron, { kind: 'drive-failed', serial: 'HRN-9002' }, AT) as UnitState;

const fit: PlanStep = {
  id: 'fit-1',
  kind: 'act',
  part: 'Drives',
  title: 'Fit them',
  why: '',
  asks: {
    kind: 'scans',
    bays: [
      { bay: '4', expects: 'NEW-ABC44' },
      { bay: '5', expects: 'NEW-XYZ55' },
      { bay: '6', expects: 'NEW-KLM66' },
    ],
  },
  after: [],
  does: ['NEW-ABC44', 'NEW-XYZ55', 'NEW-KLM66'].map((serial, i) => ({
    kind: 'fit-drive',
    drive: { bay: String(4 + i), serial, bytes: BYTES, basis: 'exact' },
  })),
};
const planned = scanListOf(egret, fit) as ScanList;
const free = freeBayList(egret);

const life = (serial: string, where: DriveLife['where'], more: Partial<DriveLife> = {}): DriveLife => ({
  kind: 'drive-life',
  serial: serial as DriveLife['serial'],
  drive: { bytes: BYTES, basis: 'exact' },
  where,
  whereSince: AT,
  wiped: null,
  sick: null,
  tested: null,
  ...more,
});
const drawer = { kind: 'drawer', site: 'Main office', room: 'Rack', drawer: 'Drawer 2' } as const;
const inHeron = (state: UnitState, bay = '1'): ScanKnown =>
  scanKnown(
    life(`HRN-900${bay}`, { kind: 'bay', unit: HERON, unitName: 'Heron', bay }),
    standsThere(HERON, state, `HRN-900${bay}`),
  );
const judged = (list: ScanList, typed: string, more: Partial<Scanned> = {}) =>
  judgeScan(list, { typed, read: {}, known: null, near: [], at: AT, ...more });

describe('a scan, judged as it is read', () => {
  it('says the bay of one that is planned: this one, or which', () => {
    expect(judged(planned, 'new-abc44')).toMatchObject({
      verdict: 'here',
      bay: '4',
      sentence: 'NEW-ABC44 into bay 4: push until it clicks.',
    });
    expect(judged(planned, 'KLM66')).toMatchObject({
      verdict: 'other-bay',
      bay: '6',
      serial: 'NEW-KLM66',
      sentence: 'NEW-KLM66 belongs into bay 6: put it there, not into bay 4.',
    });
    expect(judged(planned, 'NEW-XYZ55', { bay: '5' })).toMatchObject({ verdict: 'here', bay: '5' });
  });

  it('knows one that was read, and one that stands in the unit', () => {
    expect(judged(planned, 'NEW-ABC44', { read: { 4: 'new-abc44' } })).toMatchObject({
      verdict: 'already-in',
      bay: '4',
    });
    expect(judged(planned, 'EGR-5002')).toMatchObject({
      verdict: 'already-in',
      bay: '2',
      sentence: expect.stringContaining('put it back there'),
    });
    // By its last four as well.
    expect(judged(planned, '5002')).toMatchObject({ verdict: 'already-in', bay: '2' });
  });

  it('sends a drive another unit counts on back into its bay first, whatever the list is', () => {
    for (const list of [planned, free]) {
      expect(judged(list, 'HRN-9001', { known: inHeron(heron) })).toMatchObject({
        verdict: 'other-unit',
        unit: HERON,
        pool: 'p',
        marginThere: 1,
        bay: '1',
        sentence:
          'HRN-9001 is a working member of Papers in bay 1 of Heron: without it that pool can lose none. Put it back into bay 1 of Heron now, before anything else.',
      });
      const last = judged(list, 'HRN-9001', { known: inHeron(thin) });
      expect(last).toMatchObject({ verdict: 'other-unit', marginThere: 0 });
      expect(last.sentence).toBe(
        'HRN-9001 holds Heron together: it stands in bay 1 there, and Papers can lose none. Put it back into bay 1 of Heron now, before anything else.',
      );
      expect(last.sentence).not.toContain('click');
    }
  });

  it('knows a member that is out, a spare, an idle drive, and one that is carried over', () => {
    const out = apply(heron, { kind: 'drive-removed', serial: 'HRN-9001' }, AT) as UnitState;
    const gone = scanKnown(life('HRN-9001', { kind: 'in-hand' }), standsThere(HERON, out, 'HRN-9001'));
    expect(judged(free, 'HRN-9001', { known: gone })).toMatchObject({ verdict: 'other-unit', marginThere: 0 });
    expect(judged(free, 'HRN-9001', { known: gone })).not.toHaveProperty('bay');
    const idle = afterEvents(heron, [{ kind: 'pool-destroyed', pool: 'p' }], AT);
    expect(judged(free, 'HRN-9001', { known: inHeron(idle) }).sentence).toContain('in no pool');
    const packed = afterEvents(
      heron,
      [
        { kind: 'power', on: false },
        { kind: 'unit-packed', to: NEWER },
        { kind: 'drive-removed', serial: 'HRN-9001' },
      ],
      AT,
    );
    const carried = scanKnown(life('HRN-9001', { kind: 'in-hand' }), standsThere(HERON, packed, 'HRN-9001'));
    expect(judged(free, 'HRN-9001', { known: carried })).toMatchObject({
      verdict: 'other-unit',
      sentence: expect.stringContaining('is carried over from Heron'),
    });
  });

  it('knows one that is stored: into an open bay, or instead of which', () => {
    const known = scanKnown(life('SPARE-77', drawer), null);
    expect(judged(free, 'SPARE-77', { known })).toMatchObject({
      verdict: 'stored',
      bay: '4',
      sentence: expect.stringContaining('Drawer 2'),
    });
    const which = judged(planned, 'SPARE-77', { known });
    expect(which).toMatchObject({ verdict: 'stored', insteadOf: [{ bay: '4' }, { bay: '5' }, { bay: '6' }] });
    expect(which).not.toHaveProperty('bay');
    expect(which.sentence).not.toContain('click');
  });

  it('stops one that is sick, too small or holds another pool, before it goes anywhere', () => {
    const open: ScanList = {
      ...planned,
      bays: [{ bay: '4' }],
      step: { ...fit, asks: { kind: 'scans', bays: [{ bay: '4' }] } },
    };
    const known = (more: Partial<DriveLife>): ScanKnown => scanKnown(life('SPARE-77', drawer, more), null);
    expect(judged(open, 'SPARE-77', { known: known({ sick: { what: 'failed', at: AT } }) })).toMatchObject({
      verdict: 'stored',
      stop: { code: 'sick-drive' },
    });
    expect(judged(open, 'SPARE-77', { known: known({ drive: { bytes: BYTES / 2, basis: 'exact' } }) })).toMatchObject({
      stop: { code: 'too-small' },
    });
    expect(
      judged(open, 'SPARE-77', {
        known: known({ holds: { pool: 'x', name: 'Photos', unitName: 'Wren', unit: HERON } }),
      }),
    ).toMatchObject({ stop: { code: 'holds-data' } });
    expect(judged(open, '4477')).toMatchObject({ verdict: 'unknown', stop: { code: 'serial-short' } });
  });

  it('asks of one that may be misread: planned, standing here, or on record', () => {
    expect(judged(planned, 'NEW-A8C44')).toMatchObject({ verdict: 'alike', alike: ['NEW-ABC44'] });
    expect(judged(planned, 'NEW-ABC4')).toMatchObject({ verdict: 'alike', alike: ['NEW-ABC44'] });
    expect(judged(free, 'HRN-90O1', { near: ['HRN-9001'] })).toMatchObject({ verdict: 'alike', alike: ['HRN-9001'] });
    expect(judged(free, 'QQQ-9001', { near: ['HRN-9001'] })).toMatchObject({ verdict: 'alike', alike: ['HRN-9001'] });
    // It was said that it is not: then it is on no list.
    expect(judged(free, 'HRN-90O1', { near: ['HRN-9001'], not: ['HRN-9001'] })).toMatchObject({
      verdict: 'unknown',
      bay: '4',
    });
  });

  it('asks where the last four are of the planned one and of one that is somewhere else', () => {
    expect(judged(planned, 'BC44', { known: inHeron(heron) })).toMatchObject({
      verdict: 'alike',
      alike: ['NEW-ABC44', 'HRN-9001'],
    });
  });

  it('never lets an unplanned serial push a planned one out of its bay', () => {
    expect(judged(planned, 'QQ-777123')).toMatchObject({
      verdict: 'unknown',
      insteadOf: [{ bay: '4' }, { bay: '5' }, { bay: '6' }],
    });
    expect(judged(planned, 'QQ-777123')).not.toHaveProperty('bay');
  });

  it('says that it does not know, where the record could not be asked', () => {
    expect(judged(free, 'QQ-777123', { known: undefined }).sentence).toMatch(/could not be asked.*only if it is new/);
  });
});

describe('drives that are carried', () => {
  const bySlot = (): ScanList => {
    const start = twoUnits(reedbank, [4, 4, 4], 'parity-1', [4, 5]);
    const plan = must(
      movePlan(oldIn(start), {
        to: NEWER,
        way: 'carry-by-slot',
        around: { from: OLD, target: newerIn(start), used: {} },
      }),
    );
    const world = workedOn(begun(start, plan), 'in-1');
    return scanListOf(newerIn(world), plan.steps.find(({ id }) => id === 'in-1') as PlanStep, {
      [OLD]: oldIn(world),
      [NEWER]: newerIn(world),
    }) as ScanList;
  };

  it('go into the bay of their number, and a swapped one is told at once', () => {
    expect(judged(bySlot(), 'D-1')).toMatchObject({ verdict: 'here', bay: '1' });
    expect(judged(bySlot(), 'D-3')).toMatchObject({
      verdict: 'other-bay',
      bay: '3',
      sentence: 'D-3 belongs into bay 3: put it there, not into bay 1.',
    });
  });

  it('go into any bay where roles follow serials; and nothing foreign goes in', () => {
    const start = twoUnits(tidemill, [8, 4, 4], 'dedicated-1', [4, 6]);
    const plan = must(
      movePlan(oldIn(start), {
        to: NEWER,
        way: 'carry-by-serial',
        around: { from: OLD, target: newerIn(start), used: {} },
      }),
    );
    const list = scanListOf(newerIn(start), plan.steps.find(({ id }) => id === 'in-1') as PlanStep) as ScanList;
    expect(judged(list, 'D-3')).toMatchObject({ verdict: 'here', bay: '1' });
    expect(judged(list, 'D-3', { read: { 1: 'D-3' } })).toMatchObject({ verdict: 'already-in' });
    const foreign = judged(list, 'QQ-777123');
    expect(foreign).toMatchObject({ verdict: 'unknown', sentence: expect.stringContaining('nothing foreign goes in') });
    expect(foreign).not.toHaveProperty('insteadOf');
  });

  it('come out of the bays of the record; another one is left where it is', () => {
    const start = twoUnits(reedbank, [4, 4, 4], 'parity-1', [4, 5]);
    const plan = must(
      movePlan(oldIn(start), {
        to: NEWER,
        way: 'carry-by-slot',
        around: { from: OLD, target: newerIn(start), used: {} },
      }),
    );
    const list = scanListOf(oldIn(start), plan.steps.find(({ id }) => id === 'out-1') as PlanStep) as ScanList;
    expect(judged(list, 'D-2')).toMatchObject({
      verdict: 'other-bay',
      bay: '2',
      sentence: 'D-2 out of bay 2: write 2 on it.',
    });
    expect(judged(list, 'QQ-777123').sentence).toContain('leave it in its bay');
  });
});
