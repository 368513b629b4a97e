import { describe, expect, it } from '@jest/globals';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import { readStatement } from '../../record/readStatement';
import { apply } from '../../unit/apply';
import { afterEvents } from '../../unit/testUnit';
import { cacheStands, deadCacheWords } from '../../unit/cacheStands';
import type { UnitEvent } from '../../unit/event';
import { preview } from '../../unit/preview';
import type { UnitState } from '../../unit/state';
import { needsOf } from '../../upkeep/needsHands';
import { isRefusal } from '../../value/refusal';
import { unitIn } from '../../world/world';
import { EMPTIED } from '../engine/cacheEmptied';
import type { StepStopped } from '../run/doStep';
import { cachePlan, type CacheWish } from './cache';
import { replacePlan } from './replace';
import { retirePlan } from './retire';
import { idleAndWell } from './idleDrives';
import { codeOf, must, NOW, stepped, unitOf, worked } from './testPlans';

const drive = { bytes: 1e12, basis: 'exact', media: 'nvme' } as const;
const bare = unitOf(saltern, [4, 4], 'mixed-1', 4);
const withCache = (holds?: 'reads' | 'writes', ...more: readonly UnitEvent[]): UnitState =>
  afterEvents(
    bare,
    [
      ...['M1', 'M2'].map((bay): UnitEvent => ({
        kind: 'drive-inserted',
        bay,
        drive: { serial: `C-${bay}`, ...drive },
      })),
      { kind: 'cache-set', serials: ['C-M1', 'C-M2'], ...(holds === undefined ? {} : { holds }) },
      ...more,
    ],
    NOW,
  );
const ids = (unit: UnitState, wish: CacheWish): string[] => must(cachePlan(unit, wish)).steps.map(({ id }) => id);
const codes = (unit: UnitState): string[] => needsOf({ id: 'u', state: unit, used: {} }).map(({ code }) => code);

describe('slots for cache', () => {
  it('take drives beside the bays, are no bays to grow into, and their drives are none to build a pool of', () => {
    const unit = withCache('reads');
    expect([
      unit.drives['C-M1']?.bay,
      idleAndWell(afterEvents(unit, [{ kind: 'cache-set', serials: [] }], NOW)),
    ]).toEqual(['M1', []]);
    // A family without slots has none.
    const none = apply(
      unitOf(reedbank, [4, 4], 'mirror', 4),
      { kind: 'drive-inserted', bay: 'M1', drive: { serial: 'X', ...drive } },
      NOW,
    );
    expect(none).toMatchObject({ code: 'bay-unknown' });
  });

  it('are emptied when a unit is retired: each drive in them comes out by its serial', () => {
    const steps = must(retirePlan(withCache('reads'))).steps;
    expect(steps.find(({ id }) => id === 'out-1')?.asks).toMatchObject({
      bays: expect.arrayContaining([{ bay: 'M2', expects: 'C-M2' }]) as unknown,
    });
  });
});

describe('cache that is added', () => {
  it('worked to the end it is what was planned: with the unit off, the serials read, and nothing of the pool touched', () => {
    const plan = must(cachePlan(bare, { change: 'add', holds: 'writes', drive }));
    expect(plan.steps.map(({ id }) => id)).toEqual(
      expect.arrayContaining(['power-down', 'unplug', 'fit-1', 'fit-2', 'power-up', 'choose']),
    );
    const end = unitIn(worked(bare, plan), 'u') as UnitState;
    expect([end.cache, end.cacheHolds, end.power]).toEqual([['NEW-M1', 'NEW-M2'], 'writes', 'on']);
    expect(end.pools).toEqual(bare.pools);
  });

  it('is refused for writes on one drive, without a word on what it holds, and where nothing is free', () => {
    expect(codeOf(cachePlan(bare, { change: 'add', holds: 'writes', drive, places: ['M1'] }))).toBe('pair-needed');
    expect(codeOf(cachePlan(bare, { change: 'add', drive }))).toBe('holds-unsaid');
    expect(codeOf(cachePlan(bare, { change: 'add', holds: 'reads' }))).toBe('drive-needed');
    expect(codeOf(cachePlan(withCache('reads'), { change: 'add', drive }))).toBe('no-slot');
    expect(codeOf(cachePlan(bare, { change: 'add', holds: 'reads', drive, places: ['1'] }))).toBe('bay-occupied');
    expect(codeOf(cachePlan(bare, { change: 'add', holds: 'reads', drive, places: ['3'] }))).toBe('unfitting');
    expect(codeOf(cachePlan(bare, { change: 'renew', drive }))).toBe('no-cache');
  });
});

describe('cache that is renewed or taken out', () => {
  it('of reads is switched off and changed in pairs; of writes it is emptied first, and that is asked', () => {
    expect(ids(withCache('reads'), { change: 'renew', drive })).not.toContain('emptied');
    const unit = withCache('writes');
    const plan = must(cachePlan(unit, { change: 'renew', drive }));
    const end = unitIn(worked(unit, plan), 'u') as UnitState;
    expect([end.cache, end.cacheHolds, end.drives['C-M1']?.bay]).toEqual([['NEW-M1', 'NEW-M2'], 'writes', null]);
    const gone = unitIn(worked(unit, must(cachePlan(unit, { change: 'remove' }))), 'u') as UnitState;
    expect([gone.cache, gone.cacheHolds]).toEqual([[], undefined]);
  });

  it('does not go on while it is still emptying, and only over a typed serial where it cannot be emptied', () => {
    const unit = withCache('writes');
    const world = worked(unit, must(cachePlan(unit, { change: 'remove' })), 'emptied');
    const said = (choice: string): unknown => stepped(world, 'emptied', { kind: 'choice', choice });
    const stop = (made: unknown): unknown =>
      (made as StepStopped).interlocks.map(({ code, mayOverride }) => [code, mayOverride]);
    expect(stop(said(EMPTIED[1]))).toEqual([['cache-full', false]]);
    expect(stop(said(EMPTIED[2]))).toEqual([['cache-stuck', true]]);
    expect(isRefusal(said('as it was') as object)).toBe(true);
    expect(said(EMPTIED[0])).toMatchObject({ kind: 'made' });
  });

  it('takes what nobody said of it for the worse', () => {
    expect(ids(withCache(), { change: 'remove' })).toContain('emptied');
    const pulled = (unit: UnitState): string[] => {
      const seen = preview(unit, { kind: 'drive-removed', serial: 'C-M1' }, NOW);
      return isRefusal(seen) ? [] : seen.hazards.map(({ code }) => code);
    };
    expect([pulled(withCache()), pulled(withCache('writes')), pulled(withCache('reads'))]).toEqual([
      ['data-lost'],
      ['data-lost'],
      [],
    ]);
  });
});

describe('a cache drive that is dead', () => {
  const dead = (...serials: readonly string[]): UnitEvent[] =>
    serials.map((serial) => ({ kind: 'drive-failed', serial }));

  it('means nothing for reads, one drive for writes, and maybe loss with both: each is said, and what is not known too', () => {
    const reads = withCache('reads', ...dead('C-M1'));
    expect([codes(reads).filter((code) => code.startsWith('cache')), deadCacheWords(reads)]).toEqual([
      ['cache-worn'],
      expect.stringContaining('nothing is lost'),
    ]);
    const writes = withCache('writes', ...dead('C-M1'));
    expect([
      codes(writes)[0] === 'cache-unsafe' || codes(writes).includes('cache-unsafe'),
      deadCacheWords(writes),
    ]).toEqual([true, expect.stringContaining('is on one drive now')]);
    expect(deadCacheWords(withCache('writes', ...dead('C-M1', 'C-M2')))).toContain('may be lost');
    const unsaid = withCache(undefined, ...dead('C-M1'));
    expect([codes(unsaid).includes('cache-unsafe'), deadCacheWords(unsaid)]).toEqual([
      true,
      expect.stringContaining('nobody has said'),
    ]);
    // The plan looks at the pools before anything is switched.
    expect(ids(writes, { change: 'renew', drive })).toEqual(expect.arrayContaining(['pools-seen', 'emptied']));
  });

  it('pulled, leaves what is written on one drive alone, and that is said until there are two', () => {
    const single = withCache('writes', ...dead('C-M1'), { kind: 'drive-removed', serial: 'C-M1' });
    expect([cacheStands(single).kind, codes(single).includes('cache-unsafe')]).toEqual(['single', true]);
    const two = unitIn(
      worked(single, must(cachePlan(single, { change: 'add', drive, places: ['M1'] }))),
      'u',
    ) as UnitState;
    expect([cacheStands(two).kind, two.cache.length]).toEqual(['well', 2]);
  });

  it('is no member to be replaced: that plan names the other', () => {
    expect(codeOf(replacePlan(withCache('reads'), { serial: 'C-M1', way: 'in-place', drive }))).toBe('is-cache');
  });
});

it('what is said of the cache is understood: off, of reads, of writes; and nothing where there is none', () => {
  const said = (unit: UnitState, text: string): unknown =>
    readStatement(unit, text).map((one) => ('event' in one ? one.event : null))[0];
  const unit = withCache();
  expect(said(unit, 'the cache is switched off')).toEqual({ kind: 'cache-set', serials: [] });
  expect(said(unit, 'it is a read cache')).toMatchObject({ kind: 'cache-set', holds: 'reads' });
  expect(said(unit, 'the cache holds writes too')).toMatchObject({ kind: 'cache-set', holds: 'writes' });
  expect(said(bare, 'the cache is off')).toMatchObject({ kind: 'noted' });
  expect(said(unit, 'cache slot M1 failed')).toMatchObject({ kind: 'drive-failed', serial: 'C-M1' });
});
