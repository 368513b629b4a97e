import { unitsPlayed } from '../../standin/units';
import type { UnitEvent } from '../unit/event';
import type { UnitState } from '../unit/state';
import type { PlanStep } from '../plan/plan';
import { provesStep } from './provesStep';
import { afterEvents } from '../unit/testUnit';

/** Heron of the demo: four bays, single parity, the drive of bay 2 failed. Rules by reasoning: a unit that is wrong costs data. */
const NOW = Date.parse('2026-11-29T12:00:00Z');
const [HERON] = unitsPlayed(1, 1, NOW, process.cwd()).map(({ unit }) => unit) as [UnitState];
const OLD = 'QH8-04417-77PX';
const NEW = 'QH8-05102-V3KE';
const POOL = Object.keys(HERON.pools)[0] as string;

const after = (unit: UnitState, ...events: UnitEvent[]): UnitState => afterEvents(unit, events, '2026-11-29T12:30:00Z');

const step = (asks: PlanStep['asks'], ...does: PlanStep['does']): PlanStep => ({
  id: 'step',
  kind: 'act',
  part: 'doing',
  title: 'A step',
  why: 'Why.',
  asks,
  after: [],
  does,
});
const seenOf = (unit: UnitState, changed: Record<string, object> = {}) =>
  unit.enclosures
    .flatMap(({ bays }) => bays)
    .map((bay) => {
      const serial = Object.values(unit.drives).find((drive) => drive.bay === bay)?.serial;
      const own = serial === undefined ? { state: 'empty' as const } : { serial, state: 'well' as const };
      return { bay, ...(changed[bay] ?? own) };
    });

const PULL = step({ kind: 'serial', expects: OLD }, { kind: 'pull-drive', serial: OLD });

it('has the drive out only when its own bay is empty and every other drive is seen', () => {
  expect(provesStep(HERON, PULL, [])).toBeNull();
  expect(provesStep(HERON, PULL, seenOf(HERON))).toMatchObject({ sentence: `The unit still sees ${OLD} in bay 2.` });
  expect(provesStep(HERON, PULL, seenOf(HERON))?.evidence).toBeUndefined();
  const out = seenOf(HERON, { 2: { state: 'empty' } });
  expect(provesStep(HERON, PULL, out, [OLD.toLowerCase()])?.evidence).toEqual({ kind: 'serial', serial: OLD });
  // A dead drive may be in its bay and not be seen: without having been seen, an empty bay proves nothing.
  expect(provesStep(HERON, PULL, out)).toMatchObject({ sentence: expect.stringContaining('may not see a dead drive') });
  expect(provesStep(HERON, PULL, out)?.evidence).toBeUndefined();
  // Nor does it where it does not tell of the others.
  expect(provesStep(HERON, PULL, seenOf(HERON, { 2: { state: 'empty' }, 3: {} }), [OLD])?.evidence).toBeUndefined();
  expect(
    provesStep(
      HERON,
      PULL,
      out.filter(({ bay }) => bay !== '4'),
      [OLD],
    )?.evidence,
  ).toBeUndefined();
  // A bay it says nothing of is no empty bay.
  expect(provesStep(HERON, PULL, seenOf(HERON, { 2: {} }), [OLD])?.evidence).toBeUndefined();
});

it('stops a hand that holds another drive, whether the right one is out as well or not', () => {
  const wrong = provesStep(HERON, PULL, seenOf(HERON, { 3: { state: 'empty' } }));
  expect(wrong).toMatchObject({ isWrong: true, sentence: expect.stringContaining('misses QH8-04422-4KH9 in bay 3') });
  expect(wrong?.sentence).toContain('put it back where it was');
  const both = provesStep(HERON, PULL, seenOf(HERON, { 2: { state: 'empty' }, 3: { state: 'empty' } }), [OLD]);
  expect([both?.isWrong, both?.evidence]).toEqual([true, undefined]);
  // At any step: one that drops out meanwhile is told there, too.
  const other = step({ kind: 'tick' }, { kind: 'note' });
  expect(provesStep(HERON, other, seenOf(HERON, { 1: { state: 'empty' } }))).toMatchObject({ isWrong: true });
  expect(provesStep(HERON, other, seenOf(HERON))).toBeNull();
  // A drive that went into another bay is not out.
  const moved = seenOf(HERON, { 2: { serial: 'QH8-04422-4KH9', state: 'well' }, 3: { state: 'empty' } });
  expect(provesStep(HERON, PULL, moved)?.isWrong).toBeUndefined();
  expect(provesStep(HERON, PULL, moved, [OLD])?.evidence).toBeUndefined();
});

it('reads the serial of the one that was put in, and stops at another', () => {
  const out = after(HERON, { kind: 'drive-removed', serial: OLD });
  const drive = { serial: NEW, bytes: 8001563222016, basis: 'exact' as const, bay: '2' };
  const fit = step({ kind: 'serial', expects: NEW }, { kind: 'fit-drive', drive, for: OLD });
  expect(provesStep(out, fit, seenOf(out))).toMatchObject({ sentence: 'The unit sees bay 2 empty so far.' });
  expect(provesStep(out, fit, seenOf(out, { 2: { serial: NEW.toLowerCase(), state: 'well' } }))?.evidence).toEqual({
    kind: 'serial',
    serial: NEW.toLowerCase(),
  });
  expect(provesStep(out, fit, seenOf(out, { 2: { serial: 'OTHER', state: 'well' } }))).toMatchObject({ isWrong: true });
  expect(
    provesStep(out, step({ kind: 'tick' }, { kind: 'fit-drive', drive, for: OLD }), seenOf(out, { 2: { serial: NEW } }))
      ?.evidence,
  ).toEqual({ kind: 'tick' });
});

it('takes a rebuild for done only when the whole pool is well with the drive in it', () => {
  const begun = after(
    HERON,
    { kind: 'drive-removed', serial: OLD },
    { kind: 'drive-inserted', bay: '2', drive: { serial: NEW, bytes: 8001563222016, basis: 'exact' } },
    { kind: 'job-started', job: 'job-1', task: 'rebuild', pool: POOL, replaces: OLD, onto: NEW },
  );
  const finish = step({ kind: 'tick' }, { kind: 'finish-rebuild', pool: POOL, replaces: OLD });
  const start = step({ kind: 'tick' }, { kind: 'start-rebuild', pool: POOL, replaces: OLD, bay: '2', task: 'rebuild' });
  const at = (bay: object) => seenOf(begun, { 2: { serial: NEW, ...bay } });
  expect(provesStep(begun, start, at({ state: 'rebuilding', percent: 3 }))?.evidence).toEqual({ kind: 'tick' });
  // In, well, and not begun: nothing is proven by it.
  for (const bay of [
    { state: 'well' },
    { state: 'rebuilding', percent: 99 },
    { state: 'sick', isInWholePool: true },
    {},
  ])
    expect([bay, provesStep(begun, finish, at(bay))?.evidence]).toEqual([bay, undefined]);
  expect(provesStep(begun, finish, at({ state: 'well', isInWholePool: true }))?.evidence).toMatchObject({
    kind: 'page',
    says: 'done',
    again: true,
  });
});
