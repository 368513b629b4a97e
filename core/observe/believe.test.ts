import { unitsPlayed } from '../../standin/units';
import type { UnitEvent } from '../unit/event';
import type { UnitState } from '../unit/state';
import { believe } from './believe';
import { compareObservation } from './compareObservation';
import type { Observation, ObservedBay } from './observation';
import { afterEvents } from '../unit/testUnit';

const [HERON, COOT] = unitsPlayed(2, 1, Date.parse('2026-11-29T12:00:00Z'), process.cwd()).map(({ unit }) => unit) as [
  UnitState,
  UnitState,
];
const SICK = 'QH8-04422-4KH2';

const after = (unit: UnitState, ...events: UnitEvent[]): UnitState => afterEvents(unit, events, '2026-11-29T12:30:00Z');
function seenOf(
  unit: UnitState,
  changed: Record<string, Partial<ObservedBay>> = {},
  more: Partial<Observation> = {},
): Observation {
  const bays = unit.enclosures
    .flatMap((box) => box.bays)
    .map((bay): ObservedBay => {
      const drive = Object.values(unit.drives).find((one) => one.bay === bay);
      const state = !drive
        ? 'empty'
        : drive.condition === 'failed'
          ? 'failed'
          : drive.condition === 'suspected'
            ? 'sick'
            : 'well';
      return { kind: 'observed-bay', line: 0, bay, ...(drive ? { serial: drive.serial } : {}), state, ...changed[bay] };
    });
  return { kind: 'observation', by: 'unit', bays, counts: [], unread: [], ...more };
}
const comes = (unit: UnitState, seen: Observation, saying: readonly string[] = []) => {
  const { certain, doubtful, saying: still } = believe(unit, seen, compareObservation(unit, seen), saying);
  return { certain: certain.map(({ code }) => code), doubtful: doubtful.map(({ code }) => code), still };
};

it('records what lowers a margin, and leaves to a person what may be otherwise', () => {
  expect(comes(HERON, seenOf(HERON))).toMatchObject({ certain: [], doubtful: [] });
  expect(comes(HERON, seenOf(HERON, { 1: { state: 'sick' } }))).toMatchObject({
    certain: ['sick'],
    still: expect.arrayContaining([`sick ${SICK}`]) as string[],
  });
  expect(comes(HERON, seenOf(HERON, { 1: { state: 'failed' } })).certain).toEqual(['failed']);
  const { serial: _none, ...empty } = { serial: '', state: 'empty' as const };
  const seen = seenOf(HERON, { 1: empty });
  const bare = {
    ...seen,
    bays: seen.bays.map(({ serial, ...bay }) =>
      bay.bay === '1' ? bay : { ...bay, ...(serial === undefined ? {} : { serial }) },
    ),
  };
  expect(comes(HERON, bare)).toMatchObject({ certain: [], doubtful: ['gone'] });
  expect(comes(HERON, seenOf(HERON, { 1: { serial: 'OTHER' } }))).toMatchObject({
    certain: [],
    doubtful: ['other-serial'],
  });
  expect(comes(HERON, seenOf(HERON, { 2: { state: 'well' } }))).toMatchObject({ certain: [], doubtful: ['recovered'] });
});

it('believes nothing twice: cleared by a person, it waits for one as long as it is said', () => {
  const said = seenOf(HERON, { 1: { state: 'sick' } });
  const { still } = comes(HERON, said);
  expect(comes(HERON, said, still)).toMatchObject({ certain: [], doubtful: ['sick'], still });
  // On record before anybody asked it, and cleared since: the same.
  const known = comes(COOT, seenOf(COOT));
  expect(known).toMatchObject({ certain: [], doubtful: [], still: ['sick QH6-01904-19TD'] });
  const cleared = after(COOT, { kind: 'drive-cleared', serial: 'QH6-01904-19TD' });
  expect(comes(cleared, seenOf(COOT), known.still)).toMatchObject({ certain: [], doubtful: ['sick'] });
  // It stopped saying so: what it says later is news.
  const quiet = comes(HERON, seenOf(HERON), still).still;
  expect(comes(HERON, said, quiet).certain).toEqual(['sick']);
});

it('takes a rebuild for begun and for done where it can be only one, and leaves both to a plan that is under way', () => {
  const NEW = 'QH8-05102-V3KE';
  const swapped = after(
    HERON,
    { kind: 'drive-removed', serial: 'QH8-04417-77PX' },
    { kind: 'drive-inserted', bay: '2', drive: { serial: NEW, bytes: 8001563222016, basis: 'exact' } },
  );
  const begun = seenOf(swapped, { 2: { state: 'rebuilding', percent: 12 } });
  expect(comes(swapped, begun).certain).toEqual(['work-begun']);
  const [one] = compareObservation(swapped, begun);
  expect(one?.events.map(({ kind }) => kind)).toEqual(['job-started', 'job-progressed']);
  const running = after(swapped, ...((one?.events ?? []) as UnitEvent[]));
  const pools = [{ serials: Object.keys(running.drives), isWell: true }];
  expect(comes(running, seenOf(running, {}, { pools })).certain).toEqual(['work-done']);
  // Not while the pool is not well, nor while a percent is told of it.
  expect(
    comes(running, seenOf(running, {}, { pools: [{ serials: pools[0]?.serials ?? [], isWell: false }] })).certain,
  ).toEqual([]);
  // Work that is no rebuild may go on where a unit does not tell of it: nobody's margin comes back by that.
  const building = after(COOT, {
    kind: 'job-started',
    job: 'job-2',
    task: 'first-build',
    pool: Object.keys(COOT.pools)[0] as string,
  });
  const quiet = seenOf(building, {}, { pools: [{ serials: Object.keys(building.drives), isWell: true }] });
  expect(comes(building, quiet)).toMatchObject({ certain: [], doubtful: ['work-quiet'] });
  const planned = after(running, {
    kind: 'plan-began',
    plan: 'b7b0b0a4-0000-4000-8000-000000000001',
    job: 'replace',
    title: 'Replace bay 2',
    of: 9,
    serials: ['QH8-04417-77PX'],
  });
  expect(comes(planned, seenOf(planned, {}, { pools }))).toMatchObject({ certain: [], doubtful: ['work-done'] });
});

it('follows work by whole percents, takes the fall at a band’s end for the next band, and asks about any other', () => {
  const heard = (unit: UnitState, percent: number) =>
    after(
      unit,
      { kind: 'drive-removed', serial: 'QH6-01904-19TD' },
      { kind: 'drive-inserted', bay: '3', drive: { serial: 'NEW-3', bytes: 12000138625024, basis: 'exact' } },
      {
        kind: 'job-started',
        job: 'job-1',
        task: 'rebuild',
        pool: Object.keys(unit.pools)[0] as string,
        replaces: 'QH6-01904-19TD',
        onto: 'NEW-3',
      },
      { kind: 'job-progressed', job: 'job-1', percent },
    );
  const at = (unit: UnitState, percent: number) => comes(unit, seenOf(unit, { 3: { state: 'rebuilding', percent } }));
  expect(at(heard(COOT, 40.6), 40)).toEqual({ certain: [], doubtful: [], still: [] });
  expect(at(heard(COOT, 40), 41).certain).toEqual(['progress']);
  expect(at(heard(COOT, 40), 12)).toMatchObject({ certain: [], doubtful: ['went-back'] });
  // This family counts each band from 0 to 100.
  expect(at(heard(COOT, 97), 2).certain).toEqual(['progress']);
});
