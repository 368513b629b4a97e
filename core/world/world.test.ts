import fc from 'fast-check';
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import { planLayout } from '../layout/planLayout';
import { foldLedger } from '../ledger/fold';
import type { Profile } from '../platform/profile';
import type { UnitEvent } from '../unit/event';
import { poolCreated } from '../unit/poolCreated';
import type { Pool, UnitState } from '../unit/state';
import { canonicalJson } from '../value/canonicalJson';
import { isRefusal, type Refusal } from '../value/refusal';
import { serialKey } from '../drive/serial';
import type { Act, ActEntry, Actor } from './act';
import { broughtUp } from './broughtUp';
import { driveLedger, nameText, rulesOf, unitLedger, type AnyEvent, type AnyState } from './ledger';
import { record, type RecordedAct } from './record';
import { takeBack } from './takeBack';
import { driveIn, ledgerIn, unitIn, withLedgers, worldAt, worldOf, type World } from './world';

const A = '00000000-0000-4000-8000-00000000000a';
const B = '00000000-0000-4000-8000-00000000000b';
const BY: Actor = { kind: 'person', id: 'p', name: 'A keeper' };
const hour = (n: number): string => new Date(Date.UTC(2026, 0, 1) + n * 3_600_000).toISOString();
const EMPTY = worldOf([]);
let acts = 0;

const at = (n: number, entries: readonly ActEntry[], expects: Act['expects'] = []): Act => ({
  kind: 'act',
  id: `act-${String(++acts)}`,
  by: BY,
  happenedAt: hour(n),
  expects,
  entries,
});
const of = (unit: string, ...events: UnitEvent[]): ActEntry[] =>
  events.map((event) => ({ ledger: unitLedger(unit), event }));
const registered = (name: string): UnitEvent => ({
  kind: 'unit-registered',
  name,
  place: { site: 'S', room: 'R' },
  profile: plain as Profile,
  enclosures: [{ name: 'Head', bays: ['1', '2', '3', '4'] }],
});
const inserted = (bay: string, serial: string): UnitEvent => ({
  kind: 'drive-inserted',
  bay,
  drive: { serial, bytes: 8e12, basis: 'exact' },
});
const pool = (...serials: string[]): UnitEvent => {
  const drives = serials.map((bay) => ({ bay, bytes: 8e12 }));
  return poolCreated(
    planLayout(plain as Profile, 'parity-1', drives),
    'p',
    'Pool',
    new Map(serials.map((serial) => [serial, serial])),
  ) as UnitEvent;
};

function done(world: World, result: RecordedAct | Refusal): { readonly world: World; readonly result: RecordedAct } {
  if (isRefusal(result)) throw new Error(`${result.code}: ${result.sentence}`);
  return { world: withLedgers(world, result.ledgers), result };
}
const recorded = (world: World, act: Act): World => done(world, record(world, act)).world;
/** A unit with a pool of three that can lose one. */
const withPool = (): World =>
  recorded(
    EMPTY,
    at(
      0,
      of(
        A,
        registered('Avocet'),
        inserted('1', 'd1'),
        inserted('2', 'd2'),
        inserted('3', 'd3'),
        pool('D1', 'D2', 'D3'),
      ),
    ),
  );
const margin = (world: World): readonly string[] => unitIn(world, A)?.pools['p']?.missing ?? [];

describe('an act', () => {
  it('is written in every ledger it touches, with what it means for the drives it moves', () => {
    const { world, result } = done(EMPTY, record(EMPTY, at(0, of(A, registered('Avocet'), inserted('1', 'abc-1')))));
    expect(result.written.map(({ kind, seq, event }) => [kind, seq, event.kind])).toEqual([
      ['unit', 1, 'unit-registered'],
      ['unit', 2, 'drive-inserted'],
      ['drive', 1, 'fitted'],
    ]);
    expect(unitIn(world, A)?.drives['ABC-1']).toMatchObject({ serial: 'ABC-1', printed: 'abc-1', bay: '1' });
    expect(driveIn(world, serialKey('Abc-1'))).toMatchObject({ where: { kind: 'bay', unitName: 'Avocet', bay: '1' } });
  });

  it('moves a drive from one unit to another at once, and leaves it nowhere twice', () => {
    const two = recorded(withPool(), at(1, of(B, registered('Bittern'))));
    const move = at(2, [...of(A, { kind: 'drive-removed', serial: 'd3' }), ...of(B, inserted('4', 'D3'))]);
    const { world } = done(two, record(two, move));
    expect([unitIn(world, A)?.drives['D3']?.bay, unitIn(world, B)?.drives['D3']?.bay]).toEqual([null, '4']);
    expect(driveIn(world, serialKey('d3'))?.where).toMatchObject({ unit: B, bay: '4' });
    // The other way round it would stand in two bays for a moment.
    expect(record(two, { ...move, entries: [...move.entries].reverse() })).toMatchObject({
      code: 'drive-elsewhere',
      pointer: '/entries/0/event',
    });
  });

  it('is refused whole, with the entry at fault', () => {
    const world = withPool();
    expect(
      record(world, at(1, of(A, { kind: 'noted', note: 'n' }, { kind: 'drive-failed', serial: 'nobody' }))),
    ).toMatchObject({
      code: 'drive-not-here',
      pointer: '/entries/1/event/serial',
    });
    expect(record(world, at(1, of(B, { kind: 'noted', note: 'n' })))).toMatchObject({ code: 'not-registered' });
    expect(
      record(world, at(1, [{ ledger: driveLedger(serialKey('z')), event: { kind: 'noted', note: 'n' } }])),
    ).toMatchObject({ code: 'drive-unknown' });
    expect(record(world, at(1, of(A, inserted('4', 'd1'))))).toMatchObject({ code: 'drive-elsewhere' });
    expect(record(world, at(1, of(A, inserted('9', 'x'))))).toMatchObject({
      code: 'bay-unknown',
      pointer: '/entries/0/event/bay',
    });
    expect(record(world, at(1, []))).toMatchObject({ code: 'nothing-to-record' });
  });

  it('goes by the versions its author looked at, of every ledger', () => {
    const world = withPool();
    const expects = [
      { ...unitLedger(A), version: 5 },
      { ...driveLedger(serialKey('d1')), version: 7 },
    ];
    expect(record(world, at(1, of(A, { kind: 'noted', note: 'n' }), expects))).toMatchObject({
      code: 'version-conflict',
      pointer: '/expects/1/version',
      more: { ledgers: [{ drive: 'D1', version: 1, expected: 7 }] },
    });
    expect(isRefusal(record(world, at(1, of(A, { kind: 'noted', note: 'n' }), expects.slice(0, 1))))).toBe(false);
  });

  it('says what people are told of work that ends or goes odd, once, and nothing of what is taken back', () => {
    const scrub: UnitEvent = { kind: 'job-started', job: 's', task: 'scrub', pool: 'p' };
    const running = recorded(withPool(), at(1, of(A, scrub)));
    const started = new Date(hour(1)).toISOString();
    const ended = done(running, record(running, at(20, of(A, { kind: 'job-finished', job: 's' }))));
    expect(ended.result.messages).toEqual([
      {
        unit: A,
        job: 's',
        aboutAt: started,
        code: 'done',
        sentence: 'Avocet: reading everything to check it is done.',
      },
    ]);
    const stopped = record(running, at(20, of(A, { kind: 'job-aborted', job: 's' })));
    expect(stopped).toMatchObject({
      messages: [{ code: 'ended', sentence: 'Avocet: reading everything to check it was stopped before its end.' }],
    });
    expect(record(running, at(20, of(A, { kind: 'noted', note: 'n' })))).toMatchObject({ messages: [] });
    // 40 % after four hours, and the same ten hours later.
    const told = recorded(running, at(5, of(A, { kind: 'job-progressed', job: 's', percent: 40 })));
    expect(record(told, at(15, of(A, { kind: 'job-progressed', job: 's', percent: 40 })))).toMatchObject({
      messages: [{ code: 'stalled', aboutAt: started }],
    });
    expect(
      takeBack(ended.world, { id: 'back', by: BY, happenedAt: hour(21), act: ended.result.act.id, reason: 'r' }),
    ).toMatchObject({ messages: [] });
  });

  it('is judged at its own time, and along everything since', () => {
    // A second member fails at 2 h and is rebuilt by 8 h: before and after, one may go; between, none.
    let world = withPool();
    world = recorded(world, at(2, of(A, { kind: 'drive-failed', serial: 'd2' })));
    world = recorded(world, at(3, of(A, inserted('4', 'n1'))));
    world = recorded(
      world,
      at(3.5, of(A, { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'p', replaces: 'd2', onto: 'n1' })),
    );
    world = recorded(world, at(8, of(A, { kind: 'job-finished', job: 'r' })));
    expect(margin(world)).toEqual([]);
    const out = (n: number): readonly string[] => {
      const seen = record(world, at(n, of(A, { kind: 'drive-taken-out-of-service', serial: 'd1' })));
      return isRefusal(seen) ? [seen.code] : seen.hazards.map(({ code }) => code);
    };
    expect(out(9)).toEqual(['margin-lowered']);
    expect(out(3.1)).toContain('data-lost');
    // At its own moment it would only thin the pool; what failed an hour later would have lost it.
    expect(out(1)).toEqual(expect.arrayContaining(['margin-lowered', 'data-lost']));
    expect(unitIn(worldAt(world, hour(2.5)), A)?.pools['p']?.missing).toEqual(['D2']);
  });

  it('is refused where it leaves no room for what is on record since', () => {
    const world = recorded(withPool(), at(5, of(A, inserted('4', 'n1'))));
    expect(record(world, at(4, of(A, inserted('4', 'n2'))))).toMatchObject({
      code: 'bay-occupied',
      pointer: '/happenedAt',
      sentence: expect.stringContaining('2026-01-01 05:00 UTC cannot have happened'),
    });
  });
});

describe('a pool that moves', () => {
  const P = '00000000-0000-4000-8000-0000000000cc';
  const members = ['D1', 'D2', 'D3'];
  const begin = (): World => {
    const made = { ...pool(...members), pool: P } as UnitEvent;
    const world = recorded(
      EMPTY,
      at(0, of(A, registered('Avocet'), inserted('1', 'd1'), inserted('2', 'd2'), inserted('3', 'd3'), made)),
    );
    const described: UnitEvent[] = [
      { kind: 'volume-set', volume: 'volume-1', pool: P, name: 'Office', bytes: 20e12, thin: true },
      { kind: 'data-set-described', dataSet: 'd', name: 'Accounts', pool: P },
      { kind: 'copy-described', dataSet: 'd', copy: 'c', where: 'bank', keeps: 'versions', offSite: true },
      { kind: 'data-set-described', dataSet: 'e', name: 'Else' },
    ];
    return recorded(recorded(world, at(1, of(A, ...described))), at(1, of(B, registered('Bittern'))));
  };
  const arrives = (world: World, change: object = {}): UnitEvent => {
    const { kind: _kind, id: _id, missing: _missing, lost: _lost, ...as } = unitIn(world, A)?.pools[P] as Pool;
    return { kind: 'pool-arrived', pool: P, from: A, ...as, ...change } as UnitEvent;
  };
  const move = (world: World, n: number, change?: object): Act =>
    at(n, [
      ...of(A, { kind: 'pool-left', pool: P, to: B }),
      ...members.flatMap((serial, i) => [
        ...of(A, { kind: 'drive-removed', serial }),
        ...of(B, inserted(String(4 - i), serial)),
      ]),
      ...of(B, arrives(world, change)),
    ]);

  it('arrives as it was built, with its age and all that is in it; nothing is lost and nothing erased', () => {
    const before = begin();
    const { world, result } = done(before, record(before, move(before, 2)));
    expect(result.hazards).toEqual([]);
    const [old, now] = [unitIn(world, A), unitIn(world, B)];
    expect([old?.pools, old?.volumes, Object.keys(old?.dataSets ?? {})]).toEqual([{}, {}, ['e']]);
    expect(now?.pools[P]).toMatchObject({
      bands: unitIn(before, A)?.pools[P]?.bands,
      builtAt: hour(0),
      arrivedFrom: A,
      lost: [],
      missing: [],
    });
    expect(now?.volumes['volume-1']).toMatchObject({ name: 'Office', pool: P });
    expect(now?.dataSets['d']?.copies['c']).toMatchObject({ where: 'bank' });
    expect(members.map((serial) => driveIn(world, serialKey(serial))?.where)).toMatchObject([
      { unit: B, bay: '4' },
      { bay: '3' },
      { bay: '2' },
    ]);
    // Taken back, all of it is where it was.
    const back = done(
      world,
      takeBack(world, { id: 'back', by: BY, happenedAt: hour(9), act: result.act.id, reason: 'not today' }),
    ).world;
    expect(canonicalJson(unitIn(back, A))).toBe(canonicalJson(unitIn(before, A)));
    expect(canonicalJson(unitIn(back, B))).toBe(canonicalJson(unitIn(before, B)));
  });

  it('is refused whole where it is not the pool that left, or has not all its members', () => {
    const world = begin();
    expect(record(world, move(world, 2, { builtAt: hour(1) }))).toMatchObject({
      code: 'not-as-it-left',
      pointer: '/entries/7/event/bands',
    });
    const without = move(world, 2);
    const short = {
      ...without,
      entries: without.entries.filter(({ event }) => !(event.kind === 'drive-inserted' && event.drive.serial === 'D2')),
    };
    expect(record(world, short)).toMatchObject({ code: 'drive-not-here', pointer: '/entries/6/event/bands' });
    expect(record(world, at(2, of(B, arrives(world))))).toMatchObject({ code: 'drive-not-here' });
  });

  it('does not leave while a rebuild runs', () => {
    let world = begin();
    world = recorded(world, at(2, of(A, { kind: 'drive-failed', serial: 'd2' }, inserted('4', 'n1'))));
    world = recorded(
      world,
      at(3, of(A, { kind: 'job-started', job: 'r', task: 'rebuild', pool: P, replaces: 'd2', onto: 'n1' })),
    );
    expect(record(world, at(4, of(A, { kind: 'pool-left', pool: P, to: B })))).toMatchObject({ code: 'work-runs' });
  });

  it('is heard when it is taken apart instead, with its drives', () => {
    const world = begin();
    expect(done(world, record(world, at(2, of(A, { kind: 'pool-destroyed', pool: P })))).result.hazards).toMatchObject([
      { code: 'erases', serials: ['D1', 'D2', 'D3'] },
    ]);
    // Nothing is said of erasing when it leaves, also by itself.
    expect(done(world, record(world, at(2, of(A, { kind: 'pool-left', pool: P, to: B })))).result.hazards).toEqual([]);
  });

  it('does not leave as if it were whole once it is lost', () => {
    const world = recorded(
      begin(),
      at(2, of(A, { kind: 'drive-failed', serial: 'd2' }, { kind: 'drive-failed', serial: 'd3' })),
    );
    expect(unitIn(world, A)?.pools[P]?.lost).not.toEqual([]);
    expect(record(world, move(world, 3))).toMatchObject({ code: 'pool-lost', pointer: '/entries/0/event/pool' });
  });
});

describe('taking an act back', () => {
  const back = (world: World, act: string) =>
    takeBack(world, { id: `back-${act}`, by: BY, happenedAt: hour(20), act, reason: 'wrong unit' });

  it('takes it out of every ledger it touched, once and for good', () => {
    const before = withPool();
    const act = at(1, of(A, { kind: 'noted', note: 'n' }, inserted('4', 'n1')));
    const world = recorded(before, act);
    const { world: after, result } = done(world, back(world, act.id));
    expect(result.written.map(({ kind, event }) => [kind, event.kind])).toEqual([
      ['drive', 'taken-back'],
      ['unit', 'taken-back'],
    ]);
    expect(canonicalJson(unitIn(after, A))).toBe(canonicalJson(unitIn(before, A)));
    expect([driveIn(after, serialKey('n1')), ledgerIn(after, driveLedger(serialKey('n1'))).version]).toEqual([null, 2]);
    expect(back(after, act.id)).toMatchObject({ code: 'entry-withdrawn' });
    expect(back(after, `back-${act.id}`)).toMatchObject({ code: 'entry-stands' });
    expect(back(after, 'nothing')).toMatchObject({ code: 'entry-unknown' });
    // The drive may be recorded again, and is then the same ledger going on.
    const again = recorded(after, at(21, of(A, inserted('4', 'n1'))));
    expect(ledgerIn(again, driveLedger(serialKey('n1'))).version).toBe(3);
  });

  it('is refused where something rests on it', () => {
    const first = at(0, of(A, registered('Avocet'), inserted('1', 'd1')));
    const world = recorded(recorded(EMPTY, first), at(1, of(A, { kind: 'drive-failed', serial: 'd1' })));
    expect(back(world, first.id)).toMatchObject({ code: 'rests-on-it' });
  });

  it('says what a ledger says, whatever another ledger took back', () => {
    const one = at(1, of(A, { kind: 'noted', note: 'n' }));
    const two = recorded(recorded(withPool(), one), at(1, of(B, registered('Bittern'))));
    const other = at(2, of(B, { kind: 'noted', note: 'n' }));
    const world = done(recorded(two, other), back(recorded(two, other), one.id)).world;
    expect(isRefusal(back(world, other.id))).toBe(false);
  });
});

describe('histories over many ledgers (property)', () => {
  interface Doing {
    readonly unit: string;
    readonly what: 'insert' | 'remove' | 'fail' | 'note' | 'move' | 'drawer' | 'back';
    readonly n: number;
    readonly hours: number;
  }
  const doing = fc.record<Doing>({
    unit: fc.constantFrom(A, B),
    what: fc.constantFrom('insert', 'remove', 'fail', 'note', 'move', 'drawer', 'back'),
    n: fc.integer({ min: 1, max: 5 }),
    hours: fc.integer({ min: 1, max: 40 }),
  });

  it('fold to the same states entry by entry as all at once, with late acts and acts taken back; no drive is in two bays', () => {
    fc.assert(
      fc.property(fc.array(doing, { maxLength: 30 }), (doings) => {
        let world = recorded(recorded(EMPTY, at(0, of(A, registered('Avocet')))), at(0, of(B, registered('Bittern'))));
        const ids: string[] = [];
        for (const { unit, what, n, hours } of doings) {
          const serial = `s-${String(n)}`;
          const other = unit === A ? B : A;
          const entries: Partial<Record<Doing['what'], ActEntry[]>> = {
            insert: of(unit, inserted(String(Math.min(n, 4)), serial)),
            remove: of(unit, { kind: 'drive-removed', serial }),
            fail: of(unit, { kind: 'drive-failed', serial }),
            note: of(unit, { kind: 'noted', note: 'n' }),
            move: [
              ...of(unit, { kind: 'drive-removed', serial }),
              ...of(other, inserted(String(Math.min(n, 4)), serial)),
            ],
            drawer: [
              {
                ledger: driveLedger(serialKey(serial)),
                event: { kind: 'received', drive: { bytes: 8e12, basis: 'exact' } },
              },
              {
                ledger: driveLedger(serialKey(serial)),
                event: { kind: 'put-in-drawer', drawer: { site: 'S', room: 'R', drawer: 'D' } },
              },
            ],
          };
          const act = at(hours, entries[what] ?? []);
          const result =
            what === 'back'
              ? takeBack(world, {
                  id: act.id,
                  by: BY,
                  happenedAt: hour(50),
                  act: ids[(n * 7 + hours) % Math.max(1, ids.length)] ?? '',
                  reason: 'r',
                })
              : record(world, act);
          if (isRefusal(result)) continue;
          world = withLedgers(world, result.ledgers);
          ids.push(act.id);
        }
        const standing = new Map<string, string>();
        for (const ledger of Object.values(world.ledgers)) {
          const folded = foldLedger<AnyState, AnyEvent>(ledger.history ?? [], rulesOf(ledger));
          expect([nameText(ledger), canonicalJson(folded)]).toEqual([nameText(ledger), canonicalJson(ledger.state)]);
          expect(ledger.history?.map(({ seq }) => seq)).toEqual(
            Array.from({ length: ledger.version }, (_, i) => i + 1),
          );
          if (ledger.kind !== 'unit') continue;
          for (const { serial, bay } of Object.values((ledger.state as UnitState).drives)) {
            if (bay === null) continue;
            expect([serial, standing.get(serial)]).toEqual([serial, undefined]);
            standing.set(serial, ledger.id);
            expect(driveIn(world, serialKey(serial))?.where).toMatchObject({ kind: 'bay', unit: ledger.id, bay });
          }
        }
      }),
      { numRuns: 300 },
    );
  });
});

it('brings an entry of an older shape up on reading, one step a version', () => {
  const steps = [
    (_kind: string, event: { readonly kind: string }) => ({ ...event, kind: `${event.kind}-2` }),
    (_kind: string, event: { readonly kind: string }) => ({ ...event, kind: `${event.kind}-3` }),
  ];
  expect(broughtUp('unit', { kind: 'noted' }, 1, steps).kind).toBe('noted-2-3');
  expect(broughtUp('unit', { kind: 'noted' }, 2, steps).kind).toBe('noted-3');
  expect(broughtUp('unit', { kind: 'noted' }, 3, steps).kind).toBe('noted');
});
