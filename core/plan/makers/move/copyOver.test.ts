import { describe, expect, it } from '@jest/globals';
import reedbank from '../../../platform/profiles/reedbank.json';
import saltern from '../../../platform/profiles/saltern.json';
import { marginOfPool } from '../../../unit/margin';
import { isProven } from '../../../unit/provenCopy';
import { apply } from '../../../unit/apply';
import { needsOf } from '../../../upkeep/needsHands';
import { isRefusal } from '../../../value/refusal';
import { driveIn, planIn, type World } from '../../../world/world';
import { COMPARED, PROVEN } from '../../engine/copying';
import { dryRunOver } from '../../engine/dryRun';
import type { PlanBody, StepEvidence } from '../../plan';
import type { StepStopped } from '../../run/doStep';
import { actingOn } from '../makePlan';
import type { Made } from '../../run/runOf';
import { must, NOW, TB } from '../testPlans';
import { movePlan, type MoveWish } from './move';
import {
  begun,
  happened,
  NEW_POOL,
  NEWER,
  newerIn,
  OLD,
  oldIn,
  oneBayMoved,
  POOL,
  recorded,
  tryStep,
  workedOn,
} from './testMoves';

const USED = { [POOL]: 1 * TB };

const oneBay = (newSize = 3): World => oneBayMoved(reedbank, 3, newSize);
/** The newer unit is of a family whose mixed pool may begin with one drive. */
const toAlone = (): World => oneBayMoved(reedbank, 3, 3, 'mixed-1', saltern);
const plan = (world: World, wish: Partial<MoveWish> = {}): ReturnType<typeof movePlan> =>
  movePlan(oldIn(world), {
    to: NEWER,
    way: 'copy',
    addOld: true,
    around: { from: OLD, target: newerIn(world), used: USED },
    ...wish,
  });
const body = (world: World, wish: Partial<MoveWish> = {}): PlanBody => must(plan(world, wish));
const stop = (made: unknown): StepStopped['interlocks'][number] | undefined => (made as StepStopped).interlocks[0];
const copies = (world: World, of: 'old' | 'newer'): unknown =>
  Object.values((of === 'old' ? oldIn(world) : newerIn(world)).dataSets).map((set) => [
    set.name,
    set.pool,
    Object.values(set.copies).map((copy) => [copy.where, isProven(copy)]),
  ]);

describe('everything copied over, and cut over', () => {
  it('the register says at every moment where the data is, and which copy is proven', () => {
    const start = oneBay();
    const at = (step: string): World => workedOn(begun(start, body(start)), step);
    expect(copies(at('copied'), 'old')).toEqual([
      [
        'Accounts',
        POOL,
        [
          ['bank', false],
          ['Egret, Field data', false],
        ],
      ],
    ]);
    expect(copies(at('compared'), 'old')).toEqual([
      [
        'Accounts',
        POOL,
        [
          ['bank', false],
          ['Egret, Field data', false],
        ],
      ],
    ]);
    expect(copies(at('old-off'), 'old')).toEqual([
      [
        'Accounts',
        POOL,
        [
          ['bank', false],
          ['Egret, Field data', true],
        ],
      ],
    ]);
    const over = at('another-copy');
    expect(copies(over, 'old')).toEqual([]);
    // What is left in the old unit is a copy: nobody is told that it has none.
    expect(oldIn(over).movedTo).toMatchObject({ unit: NEWER });
    expect(needsOf({ id: 'x', state: oldIn(over), used: {} }).map(({ code }) => code)).not.toContain('no-copy');
    expect(copies(over, 'newer')).toEqual([
      [
        'Accounts',
        NEW_POOL,
        [
          ['bank', false],
          ['Heron, as it was before the move', true],
        ],
      ],
    ]);
    const end = workedOn(begun(start, body(start)));
    expect(copies(end, 'newer')).toEqual([['Accounts', NEW_POOL, [['bank', true]]]]);
  });

  it.each([
    ['of a drive of its own', oneBay, 'mirror', 'add-converted'],
    ['of a mixed pool that began with one', toAlone, 'mixed-1', 'add-taken-in'],
  ] as const)(
    'ends with the old drive as the second of a mirror, and counts its margin only then: %s',
    (_of, starting, scheme, guarded) => {
      const start = starting();
      const margins: [string, number][] = [];
      const end = workedOn(begun(start, body(start)), undefined, 'r', (world, step) => {
        const pool = newerIn(world).pools[NEW_POOL];
        margins.push([step, pool ? marginOfPool(pool) : -9]);
      });
      expect(newerIn(end).pools[NEW_POOL]).toMatchObject({ scheme, missing: [], lost: [] });
      expect(margins.find(([, margin]) => margin === 1)?.[0]).toBe(guarded);
      expect(oldIn(end)).toMatchObject({ pools: {}, power: 'off' });
      expect(driveIn(end, 'D-1' as never)?.where).toMatchObject({ kind: 'bay', unit: NEWER, bay: '2' });
      expect(planIn(end, 'r')?.refused).toBe(0);
    },
  );

  it('is what the dry run said, without a stop', () => {
    const start = oneBay();
    const run = dryRunOver({ [OLD]: oldIn(start), [NEWER]: newerIn(start) }, actingOn(body(start), OLD), NOW);
    expect(run.filter(({ kind }) => kind === 'dry-stop')).toEqual([]);
    expect(run.flatMap((step) => (step.kind === 'dry-step' ? step.interlocks : []))).toEqual([]);
  });

  it('stops when the two ends differ, and when no file comes back', () => {
    const start = oneBay();
    const compared = workedOn(begun(start, body(start)), 'compared');
    expect(stop(tryStep(compared, 'compared', { kind: 'choice', choice: COMPARED[1] }))).toMatchObject({
      code: 'copies-differ',
      mayOverride: false,
    });
    const last = workedOn(compared, 'another-copy');
    expect(stop(tryStep(last, 'another-copy', { kind: 'choice', choice: PROVEN[1] }))?.code).toBe('last-copy');
  });

  it('takes the last second copy away from nobody: without another one that is proven the old drive stays', () => {
    // Nobody has ever kept a copy elsewhere.
    const start = happened(oneBay(), OLD, { kind: 'copy-removed', dataSet: 'd', copy: 'c' });
    // "None" was said at the first step: it is a note, and no copy.
    const without = workedOn(begun(start, body(start)), 'given-up');
    expect(
      Object.values(newerIn(without).dataSets)
        .flatMap(({ copies: of }) => Object.values(of))
        .every(({ on }) => on !== undefined),
    ).toBe(true);
    const stopped = stop(tryStep(without, 'given-up', { kind: 'serial', serial: 'D-1' }));
    expect(stopped).toMatchObject({
      code: 'last-copy',
      serial: 'D-1',
      sentence: 'This would take away the last second copy of Accounts: no other copy is proven.',
    });
    const both = tryStep(without, 'given-up', { kind: 'serial', serial: 'D-1' }) as StepStopped;
    expect(both.interlocks).toHaveLength(1);
    // With one that is proven it goes on.
    const proven = happened(
      without,
      NEWER,
      { kind: 'copy-described', dataSet: 'd', copy: 'x', where: 'vault', keeps: 'versions', offSite: true },
      { kind: 'copy-confirmed', dataSet: 'd', copy: 'x', outcome: 'restore-worked' },
    );
    expect(tryStep(proven, 'given-up', { kind: 'serial', serial: 'D-1' })).toMatchObject({ kind: 'made' });
    // One that has failed since is proven no more.
    const failed = happened(proven, NEWER, { kind: 'copy-confirmed', dataSet: 'd', copy: 'x', outcome: 'failed' });
    expect(stop(tryStep(failed, 'given-up', { kind: 'serial', serial: 'D-1' }))?.code).toBe('last-copy');
  });

  it('gives up nothing by another serial', () => {
    const start = oneBay();
    const world = workedOn(begun(start, body(start)), 'given-up');
    expect(stop(tryStep(world, 'given-up', { kind: 'serial', serial: 'N-1' }))?.code).toBe('wrong-serial');
  });

  it('keeps the order: shares before people, comparison before the old unit is off, off before its address', () => {
    const start = oneBay();
    const world = begun(start, body(start));
    const order = [
      'doors',
      'shares',
      'people',
      'permissions',
      'copy-start',
      'compared-again',
      'old-off',
      'address',
      'block-restored',
      'held',
      'another-copy',
      'given-up',
    ];
    const ids = body(start).steps.map(({ id }) => id);
    expect(order.map((id) => ids.indexOf(id))).toEqual(order.map((id) => ids.indexOf(id)).sort((a, b) => a - b));
    expect(ids).toEqual(expect.arrayContaining(order));
    for (const id of ['people', 'address', 'given-up']) {
      const early = tryStep(world, id, { kind: 'tick' });
      expect(isRefusal(early) && early.code).toBe('not-yet');
    }
  });

  it('by the assistant it is the same, with what it brings over in one step', () => {
    const start = oneBay();
    const ids = body(start, { way: 'assistant' }).steps.map(({ id }) => id);
    expect(ids).toContain('assistant');
    expect(ids).not.toContain('shares');
    expect(newerIn(workedOn(begun(start, body(start, { way: 'assistant' })))).pools[NEW_POOL]?.scheme).toBe('mirror');
  });

  it.each<[string, World, Partial<MoveWish>, RegExp]>([
    ['an old drive smaller than the new one', oneBay(4), {}, /less than the 4 TB/],
    [
      'a drive that shows signs',
      happened(oneBay(), OLD, { kind: 'drive-suspected', serial: 'D-1', note: 'slow' }),
      {},
      /shows signs/,
    ],
    ['a pool that is not there', oneBay(), { pool: POOL }, /no pool/],
  ])('says what is wrong with %s', (_what, world, wish, words) => {
    const made = plan(world, wish);
    expect(isRefusal(made) && made.sentence).toMatch(words);
    // Without adding it there is a plan all the same, where there is a pool.
    expect(isRefusal(plan(world, { ...wish, addOld: false }))).toBe(wish.pool !== undefined);
  });

  it('nothing is taken over before it was compared', () => {
    const start = oneBay();
    const world = workedOn(begun(start, body(start)), 'address');
    const moved = Object.values(oldIn(world).dataSets['d']?.copies ?? {}).find(({ on }) => on !== undefined);
    const differs = happened(world, OLD, {
      kind: 'copy-confirmed',
      dataSet: 'd',
      copy: moved?.id ?? '',
      outcome: 'differs',
    });
    const taken = tryStep(differs, 'address', { kind: 'text', text: '10.1.1.1' });
    expect(isRefusal(taken) && taken.code).toBe('not-compared');
  });
});

describe('joined to a unit that serves others', () => {
  const serving = (): World =>
    happened(
      oneBay(),
      NEWER,
      { kind: 'unit-described', details: { address: '10.1.1.9' } },
      { kind: 'stock-taken', lines: [] },
      { kind: 'data-set-described', dataSet: 'd', name: 'Maps', pool: NEW_POOL },
      { kind: 'copy-described', dataSet: 'd', copy: 'c', where: 'vault', keeps: 'versions', offSite: true },
    );
  const ids = (world: World, wish: Partial<MoveWish> = {}): string[] => body(world, wish).steps.map(({ id }) => id);
  const stock = (...names: string[]) =>
    ({ kind: 'stock', lines: names.map((name) => ({ what: 'share', name }) as const) }) as const;

  it('it keeps its name, its address and its own data, and what comes stands beside', () => {
    const start = serving();
    expect(body(start).title).toBe('Join Heron to Egret');
    expect(ids(start)).toEqual(expect.arrayContaining(['stock-there', 'pointed']));
    expect(ids(start)).not.toEqual(expect.arrayContaining(['address']));
    expect(ids(start)).not.toEqual(expect.arrayContaining(['alarm-mail']));
    const end = workedOn(begun(start, body(start, { addOld: false })));
    expect(newerIn(end)).toMatchObject({ name: 'Egret', details: { address: '10.1.1.9' } });
    // Both data sets went by one id, each in its own unit.
    expect(Object.values(newerIn(end).dataSets).map(({ name, pool }) => [name, pool])).toEqual([
      ['Maps', NEW_POOL],
      ['Accounts', NEW_POOL],
    ]);
    expect(newerIn(end).dataSets['d']).toMatchObject({ name: 'Maps', copies: { c: { where: 'vault' } } });
    expect(oldIn(end).movedTo).toMatchObject({ unit: NEWER });
  });

  it('is so by itself where somebody counts on it already, and otherwise where it is said', () => {
    expect(ids(serving(), { joins: false })).toContain('address');
    expect(ids(oneBay())).toContain('address');
    expect(ids(oneBay(), { joins: true })).toContain('pointed');
    // Filled by more than a file system keeps for itself, it holds somebody's data.
    const around = { from: OLD, target: newerIn(oneBay(9)) };
    const filled = (bytes: number): string[] =>
      ids(oneBay(9), { addOld: false, around: { ...around, used: { [POOL]: 1 * TB, [NEW_POOL]: bytes } } });
    expect([filled(0.1 * TB).includes('pointed'), filled(2 * TB).includes('pointed')]).toEqual([false, true]);
  });

  it('stops at a name that is taken there, before anything is copied over it', () => {
    const start = serving();
    const before = workedOn(begun(start, body(start)), 'stock');
    const noted = must(tryStep(before, 'stock', stock('Maps', 'Papers'))) as Made;
    const world = recorded(before, noted.entries);
    const at = workedOn(world, 'stock-there');
    const taken = tryStep(at, 'stock-there', stock('Plans', 'MAPS'));
    expect(stop(taken)).toMatchObject({
      code: 'names-taken',
      mayOverride: false,
      sentence: 'One name of Heron is taken: share Maps.',
    });
    expect(tryStep(at, 'stock-there', { ...stock('Plans', 'MAPS'), seen: true })).toMatchObject({ kind: 'made' });
    expect(tryStep(at, 'stock-there', stock('Plans'))).toMatchObject({ kind: 'made' });
  });

  it('expects afterwards what it did before, and what has come', () => {
    const start = serving();
    const noted = (world: World, id: string, evidence: StepEvidence): World => {
      const before = workedOn(world, id);
      return recorded(before, (must(tryStep(before, id, evidence)) as Made).entries);
    };
    const two = noted(noted(begun(start, body(start)), 'stock', stock('Papers')), 'stock-there', stock('Maps'));
    const again = workedOn(two, 'stock-again');
    expect(tryStep(again, 'stock-again', stock('Maps', 'Papers'))).toMatchObject({ kind: 'made' });
    expect(stop(tryStep(again, 'stock-again', stock('Papers')))?.sentence).toBe(
      'One line is not as before: share Maps: missing.',
    );
    expect(stop(tryStep(again, 'stock-again', stock('Maps')))?.sentence).toMatch(/share Papers: missing/);
  });

  it('is refused for a pool that has no room for it', () => {
    const made = plan(oneBay(3), {
      pool: NEW_POOL,
      around: { from: OLD, target: newerIn(oneBay(3)), used: { [POOL]: 1 * TB, [NEW_POOL]: 2.5 * TB } },
    });
    expect(isRefusal(made) && made.sentence).toMatch(/has room for/);
  });
});

describe('what a comparison says of a copy', () => {
  it('the same is proof until it differs or fails; a run alone is none', () => {
    const unit = oldIn(oneBay());
    const after = (...outcomes: readonly ('ran' | 'same' | 'differs' | 'failed')[]): boolean => {
      const end = outcomes.reduce(
        (state, outcome) => must(apply(state, { kind: 'copy-confirmed', dataSet: 'd', copy: 'c', outcome }, NOW)),
        unit,
      );
      const copy = end.dataSets['d']?.copies['c'];
      return copy !== undefined && isProven(copy);
    };
    expect(after('ran')).toBe(false);
    expect(after('ran', 'same')).toBe(true);
    expect(after('ran', 'same', 'differs')).toBe(false);
    expect(after('same', 'differs', 'ran')).toBe(false);
    expect(after('same', 'failed')).toBe(false);
    expect(after('failed', 'same')).toBe(true);
    // A proof holds a year.
    const seen = must(apply(unit, { kind: 'copy-confirmed', dataSet: 'd', copy: 'c', outcome: 'restore-worked' }, NOW));
    const copy = seen.dataSets['d']?.copies['c'];
    expect(['2026-12-31', '2027-01-03'].map((day) => copy && isProven(copy, `${day}T00:00:00.000Z`))).toEqual([
      true,
      false,
    ]);
  });
});
