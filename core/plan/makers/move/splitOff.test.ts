import { describe, expect, it } from '@jest/globals';
import reedbank from '../../../platform/profiles/reedbank.json';
import { apply } from '../../../unit/apply';
import { isProven } from '../../../unit/provenCopy';
import type { DataSet } from '../../../unit/state';
import { isRefusal } from '../../../value/refusal';
import { planIn, type World } from '../../../world/world';
import { COMPARED, PROVEN } from '../../engine/copying';
import { dryRunOver } from '../../engine/dryRun';
import type { PlanBody, StepEvidence } from '../../plan';
import type { StepStopped } from '../../run/doStep';
import type { Made } from '../../run/runOf';
import { actingOn } from '../makePlan';
import { must, NOW, TB } from '../testPlans';
import { movePlan, type MoveWish } from './move';
import { bytesOfParts, partsOf } from './splitOff';
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

/** Accounts of 0.4 TB and maps nobody has measured on one pool, 1 TB of it in use. */
const start = (): World =>
  happened(
    oneBayMoved(reedbank, 3),
    OLD,
    { kind: 'data-set-described', dataSet: 'd', name: 'Accounts', pool: POOL, bytes: 0.4 * TB },
    { kind: 'data-set-described', dataSet: 'm', name: 'Maps', pool: POOL },
    { kind: 'copy-described', dataSet: 'm', copy: 'c', where: 'vault', keeps: 'versions', offSite: true },
  );
const plan = (world: World, wish: Partial<MoveWish> = {}): ReturnType<typeof movePlan> =>
  movePlan(oldIn(world), {
    to: NEWER,
    way: 'copy',
    dataSets: ['d'],
    around: { from: OLD, target: newerIn(world), used: { [POOL]: 1 * TB } },
    ...wish,
  });
const body = (world: World, wish: Partial<MoveWish> = {}): PlanBody => must(plan(world, wish));
const stop = (made: unknown): StepStopped['interlocks'][number] | undefined => (made as StepStopped).interlocks[0];

describe('a part of a unit that goes to another', () => {
  it('is at home there afterwards, and the rest stays at home where it was, with its copies', () => {
    const world = start();
    const there = workedOn(begun(world, body(world)), 'client');
    expect(Object.values(newerIn(there).dataSets).map(({ name, pool }) => [name, pool])).toEqual([
      ['Accounts', NEW_POOL],
    ]);
    expect(oldIn(there).dataSets['m']).toMatchObject({ name: 'Maps', pool: POOL, copies: { c: { where: 'vault' } } });
    expect(Object.keys(oldIn(there).dataSets)).toEqual(['m']);
    // It goes on being used: on, at home, and never said to have moved.
    expect(oldIn(there).movedTo).toBeUndefined();
    expect(oldIn(there).power).toBe('on');
    // What is left of it in the old unit is a copy, as good as the last comparison.
    const copies = Object.values(newerIn(there).dataSets['d']?.copies ?? {});
    expect(copies.map((copy) => [copy.where, isProven(copy)])).toContainEqual([
      'Heron, as it was before the move',
      true,
    ]);
    const end = workedOn(begun(world, body(world)));
    expect(Object.values(newerIn(end).dataSets['d']?.copies ?? {}).map(({ where }) => where)).toEqual(['bank']);
    expect(planIn(end, 'r')?.refused).toBe(0);
  });

  it('stops at a name the other unit has given, before anything is copied over it', () => {
    const world = start();
    const stock = (...names: string[]): StepEvidence => ({
      kind: 'stock',
      lines: names.map((name) => ({ what: 'share', name })),
    });
    const there = workedOn(begun(world, body(world)), 'stock-there');
    const noted = recorded(there, (must(tryStep(there, 'stock-there', stock('Films', 'Accounts'))) as Made).entries);
    expect(newerIn(noted).stock?.lines).toHaveLength(2);
    const at = workedOn(noted, 'stock');
    expect(stop(tryStep(at, 'stock', stock('ACCOUNTS')))).toMatchObject({
      code: 'names-taken',
      sentence: 'One name that would go over is taken on Egret: share ACCOUNTS.',
    });
    const other = must(tryStep(at, 'stock', stock('Accounts of the hut'))) as Made;
    // A part is not all that the old unit does: its own stock is left as it was.
    expect(oldIn(recorded(at, other.entries)).stock).toEqual(oldIn(at).stock);
    expect(tryStep(at, 'stock', { ...stock('Accounts'), seen: true } as StepEvidence)).toMatchObject({ kind: 'made' });
  });

  it('says nothing of what the other unit had before, though it goes by the same name and is copied to the old one', () => {
    const [at] = [{ unit: OLD, pool: POOL }];
    const world = happened(
      start(),
      NEWER,
      { kind: 'data-set-described', dataSet: 'd', name: 'Films', pool: NEW_POOL },
      { kind: 'copy-described', dataSet: 'd', copy: 'n', where: 'Heron', keeps: 'mirror', offSite: false, on: at },
      { kind: 'copy-described', dataSet: 'd', copy: 'v', where: 'vault', keeps: 'versions', offSite: true },
    );
    const end = workedOn(begun(world, body(world)));
    const [films, accounts] = Object.values(newerIn(end).dataSets);
    expect([films?.name, accounts?.name]).toEqual(['Films', 'Accounts']);
    // Still copied to the old unit, and nobody has tried to fetch any of it back.
    expect(Object.keys(films?.copies ?? {})).toEqual(['n', 'v']);
    expect(Object.values(films?.copies ?? {}).some((copy) => isProven(copy))).toBe(false);
    expect(Object.values(accounts?.copies ?? {}).map((copy) => [copy.where, isProven(copy)])).toEqual([['bank', true]]);
  });

  it('a second one that goes by the same name again takes nothing else’s place', () => {
    const films = { kind: 'data-set-described', dataSet: 'd', name: 'Films', pool: NEW_POOL } as const;
    const world = happened(start(), NEWER, films);
    const once = happened(workedOn(begun(world, body(world)), 'client'), OLD, {
      kind: 'data-set-described',
      dataSet: 'd',
      name: 'Plans',
      pool: POOL,
    });
    const plans = oldIn(once).dataSets['d'] as DataSet;
    const again = must(
      apply(newerIn(once), { kind: 'data-arrived', from: OLD, dataSets: { d: { ...plans, pool: NEW_POOL } } }, NOW),
    );
    expect(Object.values(again.dataSets).map(({ name }) => name)).toEqual(['Films', 'Accounts', 'Plans']);
  });

  it('is what the dry run said, without a stop', () => {
    const world = start();
    const run = dryRunOver({ [OLD]: oldIn(world), [NEWER]: newerIn(world) }, actingOn(body(world), OLD), NOW);
    expect(run.filter(({ kind }) => kind === 'dry-stop')).toEqual([]);
    expect(run.flatMap((step) => (step.kind === 'dry-step' ? step.interlocks : []))).toEqual([]);
  });

  it('switches nothing off, takes no address, and removes nothing before another copy is proven', () => {
    const world = start();
    const ids = body(world).steps.map(({ id }) => id);
    for (const never of ['old-off', 'address', 'given-up', 'retire']) expect(ids).not.toContain(never);
    const order = [
      'stock',
      'door-tried',
      'shares',
      'copy-start',
      'compared-again',
      'pointed',
      'held',
      'another-copy',
      'removed',
    ];
    expect(order.map((id) => ids.indexOf(id))).toEqual(order.map((id) => ids.indexOf(id)).sort((a, b) => a - b));
    const compared = workedOn(begun(world, body(world)), 'compared');
    expect(stop(tryStep(compared, 'compared', { kind: 'choice', choice: COMPARED[1] }))?.code).toBe('copies-differ');
    const last = workedOn(compared, 'another-copy');
    expect(stop(tryStep(last, 'another-copy', { kind: 'choice', choice: PROVEN[1] }))?.code).toBe('last-copy');
    expect(isRefusal(tryStep(last, 'removed', { kind: 'tick' }))).toBe(true);
  });

  it('is reckoned by what is written down of it; by all that is in use of its pool where nothing is', () => {
    const unit = oldIn(start());
    const bytes = (...ids: string[]): number =>
      bytesOfParts(
        unit,
        partsOf(unit).filter(({ id }) => ids.includes(id)),
        { [POOL]: 1 * TB },
      ) / TB;
    expect([bytes('d'), bytes('m'), bytes('d', 'm')]).toEqual([0.4, 1, 1]);
    // A pool nobody has written down what it holds may go as well; one set without a pool speaks for all of it.
    const bare = oldIn(happened(oneBayMoved(reedbank, 3), OLD, { kind: 'data-set-removed', dataSet: 'd' }));
    expect(partsOf(bare).map(({ id, name }) => [id, name])).toEqual([[POOL, 'Papers']]);
  });

  it.each<[string, Partial<MoveWish>, RegExp]>([
    ['a data set that is not there', { dataSets: ['nobody'] }, /no data set nobody/],
    ['one that is named twice', { dataSets: ['d', 'd'] }, /no data set d, or it is named twice/],
    ['an old drive that would be wiped while it holds the rest', { addOld: true }, /the old drives stay/],
    ['an address that would be taken from the rest', { joins: false }, /both units keep their names/],
    ['drives that would be carried for a part', { way: 'carry-by-slot' }, /A part of what a unit holds is copied/],
    [
      'a pool without room',
      { around: { from: OLD, target: newerIn(start()), used: { [POOL]: 1 * TB, [NEW_POOL]: 2.8 * TB } } },
      /0.4 TB|400 GB/,
    ],
  ])('says what is wrong with %s', (_what, wish, words) => {
    const made = plan(start(), wish);
    expect(isRefusal(made) && made.sentence).toMatch(words);
  });
});
