import fc from 'fast-check';
import { isRefusal } from '../value/refusal';
import { foldLedger } from '../ledger/fold';
import { applyToDrive } from './applyToDrive';
import { driveEventWords, whereWords } from './driveEventWords';
import type { DriveEvent, RecordedDriveEvent } from './event';
import type { DriveLife } from './life';

const at = (minute: number): string => new Date(Date.UTC(2026, 0, 1, 0, minute)).toISOString();
const recorded = (...events: DriveEvent[]): RecordedDriveEvent[] =>
  events.map((event, i) => ({ seq: i + 1, happenedAt: at(i), event }));
const UNIT = '00000000-0000-4000-8000-000000000001';
const drive = { bytes: 8001563222016, basis: 'exact' as const };
const drawer = { site: 'Packing house', room: 'cupboard', drawer: 'top' };
const fitted: DriveEvent = { kind: 'fitted', unit: UNIT, unitName: 'Heron', bay: '2', drive };
const taken: DriveEvent = { kind: 'taken-out', unit: UNIT };
const wiped: DriveEvent = { kind: 'wiped', method: 'purge', how: 'secure erase', by: 'M. Sedge' };

const foldDrive = (serial: string, events: readonly RecordedDriveEvent[]) =>
  foldLedger<DriveLife, DriveEvent>(events, (before, event, when) => applyToDrive(serial, before, event, when));

function life(...events: DriveEvent[]): DriveLife {
  const folded = foldDrive('S1', recorded(...events));
  if (folded === null || isRefusal(folded)) throw new Error(folded?.sentence ?? 'nothing');
  return folded;
}

it('goes from a box to a drawer, a bay, in hand, wiped and away', () => {
  const steps: DriveEvent[] = [
    { kind: 'received', drive },
    { kind: 'put-in-drawer', drawer },
    fitted,
    taken,
    wiped,
    { kind: 'sent-away', to: 'the shredder' },
  ];
  const places = steps.map((_, i) => whereWords(life(...steps.slice(0, i + 1)).where));
  expect(places).toEqual([
    'in hand, not put anywhere yet',
    'top, Packing house, cupboard',
    'Heron, bay 2',
    'in hand, not put anywhere yet',
    'in hand, not put anywhere yet',
    'gone to the shredder',
  ]);
  expect(life(...steps).wiped).toMatchObject({ method: 'purge', by: 'M. Sedge', checked: false });
  for (const event of steps) expect(driveEventWords(event)).toMatch(/^[A-Z].*\.$/);
});

it('forgets a wipe when the drive goes in again: there is something on it then', () => {
  expect(life({ kind: 'received', drive }, wiped, fitted).wiped).toBeNull();
});

it.each<[string, DriveEvent[]]>([
  ['drive-in-bay', [fitted, { kind: 'put-in-drawer', drawer }]],
  ['drive-in-bay', [fitted, wiped]],
  ['drive-in-bay', [fitted, { kind: 'sent-away', to: 'x' }]],
  ['drive-destroyed', [{ kind: 'received', drive }, { ...wiped, method: 'destroy' } as DriveEvent, fitted]],
  [
    'drive-destroyed',
    [{ kind: 'received', drive }, { ...wiped, method: 'destroy' } as DriveEvent, { kind: 'put-in-drawer', drawer }],
  ],
  ['drive-unknown', [{ kind: 'put-in-drawer', drawer }]],
  ['drive-elsewhere', [fitted, { ...fitted, unit: '00000000-0000-4000-8000-000000000002', bay: '1' }]],
])('refuses what cannot have happened: %s', (code, events) => {
  expect(foldDrive('S1', recorded(...events))).toMatchObject({ kind: 'refusal', code });
});

it('passes over what was withdrawn, and places late entries by when they happened', () => {
  const acts = recorded(
    { kind: 'received', drive },
    { kind: 'put-in-drawer', drawer },
    { kind: 'taken-back', act: 'act 2', reason: 'wrong drive' },
  );
  expect(
    foldDrive(
      'S1',
      acts.map((one) => ({ ...one, act: `act ${String(one.seq)}` })),
    ),
  ).toMatchObject({ where: { kind: 'in-hand' } });
  expect(foldDrive('S1', [])).toBeNull();
  const late: RecordedDriveEvent[] = [
    ...recorded({ kind: 'received', drive }, fitted),
    { seq: 3, happenedAt: at(0.5), event: { kind: 'put-in-drawer', drawer } },
  ];
  expect(foldDrive('S1', late)).toMatchObject({ where: { kind: 'bay' } });
});

it('is the same whatever order the ledger holds (property)', () => {
  const history = recorded({ kind: 'received', drive }, { kind: 'put-in-drawer', drawer }, fitted, taken, wiped);
  fc.assert(
    fc.property(fc.shuffledSubarray(history, { minLength: history.length }), (shuffled) => {
      expect(foldDrive('S1', shuffled)).toEqual(foldDrive('S1', history));
    }),
  );
});
