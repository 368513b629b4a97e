import plain from '../platform/profiles/plain.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { planLayout } from '../layout/planLayout';
import { canonicalJson } from '../value/canonicalJson';
import { isRefusal } from '../value/refusal';
import { apply } from './apply';
import { cardOf } from './card';
import type { RecordedEvent, UnitEvent } from './event';
import { foldUnit } from './fold';
import { marginOfUnit } from './margin';
import { poolCreated } from './poolCreated';
import { preview } from './preview';
import { drivesExpected, type UnitState } from './state';

const at = (minute: number): string => new Date(Date.UTC(2026, 0, 1, 0, minute)).toISOString();
const bays = ['1', '2', '3', '4', '5', '6'];
const registered: UnitEvent = {
  kind: 'unit-registered',
  name: 'Heron',
  place: { site: 'Packing house', room: 'Cupboard' },
  profile: plain as Profile,
  enclosures: [
    { name: 'Head', bays: bays.slice(0, 4) },
    { name: 'Extension 1', bays: bays.slice(4), dial: 1 },
  ],
};
const inserted = (bay: string, bytes = 8): UnitEvent => ({
  kind: 'drive-inserted',
  bay,
  drive: { serial: `S${bay}`, bytes, basis: 'exact' },
});
const built = (of: readonly string[], spares = 0, scheme: 'parity-1' | 'parity-2' = 'parity-1'): UnitEvent => {
  const event = poolCreated(
    planLayout(
      plain as Profile,
      scheme,
      of.map((bay) => ({ bay, bytes: 8 })),
      spares,
    ),
    'p',
    'Pool',
    new Map(of.map((bay) => [bay, `S${bay}`])),
  );
  if (isRefusal(event)) throw new Error(event.sentence);
  return event;
};
const recorded = (...events: UnitEvent[]): RecordedEvent[] =>
  events.map((event, i) => ({ seq: i + 1, happenedAt: at(i), event }));
function after(...events: UnitEvent[]): UnitState {
  const state = foldUnit(recorded(...events));
  if (isRefusal(state)) throw new Error(state.sentence);
  return state;
}
const refusalOf = (...events: UnitEvent[]): string => {
  const state = foldUnit(recorded(...events));
  return isRefusal(state) ? state.code : 'none';
};
const start = [registered, ...bays.map((bay) => inserted(bay))];

describe('an enclosure that drops out', () => {
  it('takes its members with it at once, and gives them back only when the unit has taken them back whole', () => {
    const whole = after(...start, built(bays));
    expect(marginOfUnit(whole)).toBe(1);
    const lost: UnitEvent = { kind: 'enclosure-lost', enclosure: 'Extension 1' };
    expect(preview(whole, lost, at(20))).toMatchObject({ hazards: [{ code: 'data-lost', serials: ['S5', 'S6'] }] });
    const away = after(...start, built(bays), lost);
    expect([marginOfUnit(away), away.away, drivesExpected(away)]).toEqual([-1, ['Extension 1'], 4]);
    const back = after(...start, built(bays), lost, { kind: 'enclosure-back', enclosure: 'Extension 1' });
    expect([marginOfUnit(back), drivesExpected(back)]).toEqual([-1, 6]);
    const taken = after(
      ...start,
      built(bays),
      lost,
      { kind: 'enclosure-back', enclosure: 'Extension 1' },
      { kind: 'pool-restored', pool: 'p', serials: ['S5', 'S6'] },
    );
    expect([marginOfUnit(taken), taken.pools['p']?.lost]).toEqual([1, []]);
    expect(cardOf(away).front.enclosures.map(({ isAway }) => isAway)).toEqual([false, true]);
  });
});

describe('pools over their life', () => {
  const pool = built(['1', '2', '3']);
  const three = [...start, pool];
  const wider = built(['1', '2', '3', '4']) as Extract<UnitEvent, { kind: 'pool-created' }>;
  const { bands, usableBytes, shownBytes, fileSystemReserveBytes } = wider;
  const shape = { bands, usableBytes, shownBytes, fileSystemReserveBytes };

  it('grow, and keep what is missing', () => {
    const grown = after(...three, { kind: 'drive-failed', serial: 'S2' }, { kind: 'pool-grown', pool: 'p', ...shape });
    expect([grown.pools['p']?.usableBytes, grown.pools['p']?.missing, marginOfUnit(grown)]).toEqual([24, ['S2'], 0]);
  });

  it('convert to another scheme', () => {
    const double = built(['1', '2', '3', '4'], 0, 'parity-2') as Extract<UnitEvent, { kind: 'pool-created' }>;
    const converted = after(...three, {
      kind: 'pool-converted',
      pool: 'p',
      scheme: 'parity-2',
      bands: double.bands,
      usableBytes: double.usableBytes,
      shownBytes: double.shownBytes,
      fileSystemReserveBytes: 0,
    });
    expect([converted.pools['p']?.scheme, marginOfUnit(converted)]).toEqual(['parity-2', 2]);
  });

  it('take a spare in when a member goes, and are whole when its rebuild is done', () => {
    const withSpare = [...start, built(['1', '2', '3', '4'], 1)];
    const spare = after(...withSpare).pools['p']?.spares[0] ?? '';
    const member = bays.map((bay) => `S${bay}`).find((serial) => serial !== spare) ?? '';
    const steps: UnitEvent[] = [
      { kind: 'drive-failed', serial: member },
      { kind: 'spare-took-over', pool: 'p', spare, replaces: member, job: 'r' },
    ];
    expect(marginOfUnit(after(...withSpare, ...steps))).toBe(0);
    const done = after(...withSpare, ...steps, { kind: 'job-finished', job: 'r' });
    expect([marginOfUnit(done), done.pools['p']?.spares, done.pools['p']?.missing]).toEqual([1, [], []]);
    expect(
      refusalOf(
        ...three,
        { kind: 'drive-failed', serial: 'S1' },
        { kind: 'spare-took-over', pool: 'p', spare: 'S5', replaces: 'S1', job: 'r' },
      ),
    ).toBe('not-a-spare');
  });

  it('are gone when taken apart, their drives idle', () => {
    const gone = after(
      ...three,
      { kind: 'volume-set', volume: 'v', pool: 'p', name: 'V', bytes: 20, thin: true },
      { kind: 'pool-destroyed', pool: 'p' },
    );
    expect([gone.pools, gone.volumes, Object.keys(gone.drives).length]).toEqual([{}, {}, 6]);
  });

  it.each<[string, UnitEvent]>([
    ['pool-unknown', { kind: 'pool-grown', pool: 'q', ...shape }],
    ['bands-inconsistent', { kind: 'pool-grown', pool: 'p', ...shape, usableBytes: 25 }],
    ['not-missing', { kind: 'pool-restored', pool: 'p', serials: ['S1'] }],
    ['drive-in-pool', { kind: 'spare-assigned', pool: 'p', serial: 'S1' }],
    ['drive-not-here', { kind: 'spare-assigned', pool: 'p', serial: 'nobody' }],
    ['enclosure-unknown', { kind: 'enclosure-lost', enclosure: 'Cellar' }],
    ['bay-twice', { kind: 'enclosure-added', enclosure: { name: 'E', bays: ['1'] } }],
    ['enclosure-exists', { kind: 'enclosure-added', enclosure: { name: 'Head', bays: ['90'] } }],
    ['volume-unknown', { kind: 'volume-removed', volume: 'v' }],
    [
      'data-set-unknown',
      { kind: 'copy-described', dataSet: 'd', copy: 'c', where: 'w', keeps: 'versions', offSite: true },
    ],
    ['data-set-unknown', { kind: 'data-set-removed', dataSet: 'constructor' }],
    ['upkeep-unknown', { kind: 'upkeep-dropped', task: 'toString' }],
    ['plan-unknown', { kind: 'plan-ended', plan: 'x', how: 'stopped' }],
    ['job-unknown', { kind: 'job-restarted', job: 'x' }],
  ])('refuse %s', (code, event) => {
    expect(refusalOf(...three, event)).toBe(code);
  });
});

describe('a drive under suspicion', () => {
  it('is cleared when looked at, and one that failed is not cleared by saying so', () => {
    const cleared = after(
      ...start,
      { kind: 'drive-suspected', serial: 'S1', note: 'clicking' },
      { kind: 'drive-cleared', serial: 'S1', note: 'it was the fan' },
    );
    expect(cleared.drives['S1']).toMatchObject({ condition: 'well', note: 'it was the fan' });
    expect(
      after(...start, { kind: 'drive-failed', serial: 'S1' }, { kind: 'drive-cleared', serial: 'S1' }).drives['S1']
        ?.condition,
    ).toBe('failed');
  });

  it('that dropped out and came back works, and is still missing from its pool', () => {
    const state = after(
      ...start,
      built(bays),
      { kind: 'drive-failed', serial: 'S1' },
      { kind: 'drive-returned', serial: 'S1' },
    );
    expect([state.drives['S1']?.condition, state.pools['p']?.missing, marginOfUnit(state)]).toEqual([
      'suspected',
      ['S1'],
      0,
    ]);
  });
});

describe('what is seen and made sure of', () => {
  it('keeps signs until a round no longer sees them', () => {
    const seen = after(
      ...start,
      { kind: 'sign-noted', note: 'beeping' },
      { kind: 'sign-noted', note: 'amber', bay: '2' },
    );
    expect(seen.signs.map(({ note }) => note)).toEqual(['beeping', 'amber']);
    const walked = after(
      ...start,
      { kind: 'sign-noted', note: 'beeping' },
      { kind: 'round-walked', seen: 5, signs: ['amber', 'beeping'] },
    );
    expect([walked.signs, walked.counted]).toEqual([
      [
        { note: 'amber', since: at(8) },
        { note: 'beeping', since: at(7) },
      ],
      { seen: 5, expected: 6, at: at(8) },
    ]);
    expect(after(...start, { kind: 'sign-noted', note: 'beeping' }, { kind: 'signs-cleared' }).signs).toEqual([]);
  });

  it('takes a part out and back by its name, and forgets a detail that is set to nothing', () => {
    const out: UnitEvent = { kind: 'part-lost', part: 'supply', name: 'Left' };
    expect(after(...start, out).parts).toHaveLength(1);
    expect(after(...start, out, { kind: 'part-back', part: 'supply', name: 'left' }).parts).toEqual([]);
    const described = after(
      ...start,
      { kind: 'unit-described', details: { serial: 'X1', call: 'Ada' } },
      { kind: 'unit-described', details: { call: null } },
    );
    expect(described.details).toEqual({ serial: 'X1' });
    expect(after(...start, { kind: 'firmware-updated', version: '4.2' }).details.firmware).toBe('4.2');
  });

  it('keeps a copy’s history when it is described anew', () => {
    const copy = { dataSet: 'd', copy: 'c' } as const;
    const described: UnitEvent = { kind: 'copy-described', ...copy, where: 'bank', keeps: 'versions', offSite: true };
    const state = after(
      ...start,
      { kind: 'data-set-described', dataSet: 'd', name: 'Accounts' },
      described,
      { kind: 'copy-confirmed', ...copy, outcome: 'ran', freeBytes: 7 },
      { kind: 'copy-confirmed', ...copy, outcome: 'restore-failed' },
      { ...described, where: 'vault' },
    );
    expect(state.dataSets['d']?.copies['c']).toMatchObject({
      where: 'vault',
      ranAt: at(9),
      restoreTriedAt: at(10),
      restoreWorked: false,
      describedAt: at(8),
    });
  });

  it('measures against what it was when new', () => {
    const speeds = { readBytesPerSecond: 100, writeBytesPerSecond: 90 };
    const state = after(
      ...start,
      { kind: 'speed-measured', ...speeds, isBaseline: true },
      { kind: 'speed-measured', ...speeds, readBytesPerSecond: 50 },
    );
    expect([state.speed.baseline?.readBytesPerSecond, state.speed.last?.readBytesPerSecond]).toEqual([100, 50]);
  });
});

describe('taking back', () => {
  /** Every entry by an act of its own, numbered as the entries are. */
  const byActs = (...events: UnitEvent[]): RecordedEvent[] =>
    recorded(...events).map((one) => ({ ...one, act: `act ${String(one.seq)}` }));
  const back = (seq: number): UnitEvent => ({ kind: 'taken-back', act: `act ${String(seq)}`, reason: 'wrong bay' });

  it('folds as if the act had never been, and leaves it in the ledger', () => {
    const history = byActs(...start, built(bays), { kind: 'drive-failed', serial: 'S3' }, back(9));
    expect(canonicalJson(foldUnit(history))).toBe(canonicalJson(after(...start, built(bays))));
  });

  it('takes every entry of the act with it', () => {
    const together = recorded(
      ...start,
      built(bays),
      { kind: 'drive-failed', serial: 'S3' },
      { kind: 'noted', note: 'n' },
      back(9),
    ).map((one) => ({
      ...one,
      act: one.seq === 9 || one.seq === 10 ? 'act 9' : `act ${String(one.seq)}`,
    }));
    expect(canonicalJson(foldUnit(together))).toBe(canonicalJson(after(...start, built(bays))));
  });

  it('stands: it is not taken back itself', () => {
    const history = byActs(...start, { kind: 'drive-failed', serial: 'S3' }, back(8), back(9));
    expect((foldUnit(history) as UnitState).drives['S3']?.condition).toBe('well');
  });

  it('refuses when what came after rests on the entry', () => {
    expect(foldUnit(byActs(...start, built(bays), back(7)))).toMatchObject({ code: 'drive-not-here' });
  });

  it('changes nothing when applied to a state alone: the fold does it', () => {
    const state = after(...start);
    expect(apply(state, back(2), at(9))).toBe(state);
  });
});
