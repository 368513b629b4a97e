import { describe, expect, it } from '@jest/globals';
import { compareObservation } from '../observe/compareObservation';
import { readPage } from '../observe/readPage';
import { AT, serialOf, unitAfter } from '../observe/testHeron';
import { readStatement } from '../record/readStatement';
import { isRefusal } from '../value/refusal';
import { apply } from './apply';
import type { UnitEvent } from './event';
import { marginOfUnit, standingOfUnit } from './margin';
import { eventsOfPoolSaid, POOL_SAYS } from './poolSaid';
import { standingWords } from './standingWords';
import type { Pool, UnitState } from './state';

const serial = (bay: string): string => serialOf.get(bay) ?? '';
const removed = (bay: string): UnitEvent => ({ kind: 'drive-removed', serial: serial(bay) });
const inserted = (bay: string): UnitEvent => ({
  kind: 'drive-inserted',
  bay,
  drive: { serial: serial(bay), bytes: 8001563222016, basis: 'exact' },
});
const failed = (bay: string): UnitEvent => ({ kind: 'drive-failed', serial: serial(bay) });
const pool = (unit: UnitState): Pool => unit.pools['p'] as Pool;
const after = (unit: UnitState, event: UnitEvent): UnitState => {
  const next = apply(unit, event, AT);
  if (isRefusal(next)) throw new Error(next.sentence);
  return next;
};
const says = (unit: UnitState, one: (typeof POOL_SAYS)[number], note?: string): UnitState =>
  eventsOfPoolSaid(unit, pool(unit), one, note).reduce(after, unit);
const stands = (unit: UnitState): unknown => [marginOfUnit(unit), standingOfUnit(unit)];

/** One failed, and the wrong one pulled and put back: the bad evening. */
const evening = unitAfter(failed('2'), removed('3'), inserted('3'));

describe('a pool that has stopped', () => {
  it('is not lost: neither by the arithmetic nor by the words of its unit', () => {
    expect(stands(evening)).toEqual([-1, 'stopped']);
    expect(standingWords(evening, standingOfUnit(evening))).toBe('stopped; nothing proven lost');
    const said = says(unitAfter(), 'stopped', 'Pool offline');
    expect(stands(said)).toEqual([-1, 'stopped']);
    expect(pool(said).stopped).toEqual({ at: AT, note: 'Pool offline' });
  });

  it('is what its unit says once it is back: with the member that stands in its bay, without the one that failed', () => {
    const back = says(evening, 'healthy');
    expect(stands(back)).toEqual([0, 'thinned']);
    expect(pool(back)).toMatchObject({ missing: [serial('2')], lost: [] });
    expect(stands(says(says(unitAfter(), 'stopped'), 'healthy'))).toEqual([1, 'well']);
    const damaged = says(evening, 'damaged', 'two folders');
    expect([stands(damaged), damaged.signs.map(({ note }) => note)]).toEqual([
      [0, 'thinned'],
      ['Pool came back with files damaged: two folders'],
    ]);
    // Degraded by its page, whole by the record: somebody looks which drive it means.
    expect(says(says(unitAfter(), 'stopped'), 'degraded').signs[0]?.note).toContain(
      'degraded, and the record has every',
    );
  });

  it('is not back while more is out than it survives, and whole only with every member', () => {
    const out = unitAfter(failed('2'), removed('3'));
    const event = eventsOfPoolSaid(out, pool(out), 'healthy')[0] as UnitEvent;
    expect(apply(out, event, AT)).toMatchObject({
      code: 'still-missing',
      sentence: expect.stringMatching(/QH8-04423 is out of the unit.*Record first where it is now/),
    });
    expect(apply(evening, { kind: 'pool-back', pool: 'p', how: 'whole', serials: [serial('3')] }, AT)).toMatchObject({
      code: 'still-missing',
    });
    expect(
      apply(evening, { kind: 'pool-back', pool: 'p', how: 'degraded', serials: [serial('3'), 'X'] }, AT),
    ).toMatchObject({
      code: 'not-missing',
    });
    for (const kind of ['pool-stopped', 'pool-lost'] as const)
      expect(apply(evening, { kind, pool: 'none' }, AT)).toMatchObject({ code: 'pool-unknown' });
  });

  it('is lost once somebody states it, or where a dead drive held files of its own; and even then its unit has the last word', () => {
    const given = after(evening, { kind: 'pool-lost', pool: 'p', note: 'the firm read nothing' });
    expect([...(stands(given) as unknown[]), standingWords(given, 'lost')]).toEqual([-1, 'lost', 'data lost']);
    expect(stands(says(given, 'degraded'))).toEqual([0, 'thinned']);
  });
});

describe('the words of a unit, wherever they are read', () => {
  const first = (unit: UnitState, text: string): unknown => {
    const [one] = readStatement(unit, text);
    return one?.kind === 'statement' ? one.event : one;
  };

  it.each([
    ['Pool has stopped', { kind: 'pool-stopped', pool: 'p' }],
    ['the pool is offline', { kind: 'pool-stopped' }],
    ['array crashed', { kind: 'pool-stopped' }],
    ['Pool is degraded', { kind: 'pool-back', how: 'degraded', serials: [] }],
    ['pool came back with files damaged', { kind: 'pool-back', how: 'damaged' }],
  ])('are understood of a pool that is served: %s', (text, event) => {
    expect(first(unitAfter(), text)).toMatchObject(event);
  });

  it.each([
    ['Pool is back and healthy', { kind: 'pool-back', how: 'degraded', serials: ['QH8-04423'] }],
    ['came back whole', { kind: 'pool-back', how: 'degraded' }],
    ['back, degraded', { kind: 'pool-back', how: 'degraded' }],
    ['the pool is online again', { kind: 'pool-back' }],
    ['it came back, files damaged', { kind: 'pool-back', how: 'damaged' }],
    ['the data is lost', { kind: 'pool-lost' }],
  ])('are understood of one that has stopped: %s', (text, event) => {
    expect(first(evening, text)).toMatchObject(event);
  });

  it('of a bay stay words of a bay, and what is no news is a note', () => {
    expect(first(unitAfter(), 'bay 3 is offline')).toMatchObject({ kind: 'drive-taken-out-of-service' });
    expect(first(unitAfter(), 'pool is healthy')).toMatchObject({ kind: 'noted' });
  });

  it('are compared where they stand on a page, and what accepting them records makes the record right', () => {
    const lines = ['1', '4'].map((bay) => `Bay ${bay}  ${serial(bay)}  7.3 TiB  Normal`);
    const found = (unit: UnitState, line: string) =>
      compareObservation(unit, readPage([...lines, line].join('\n'), unit));
    const stopped = found(unitAfter(), 'Pool  Crashed').find(({ code }) => code === 'pool-stopped');
    expect(stopped?.events).toEqual([{ kind: 'pool-stopped', pool: 'p' }]);
    const back = found(evening, 'Storage pool: Degraded').find(({ code }) => code === 'pool-back');
    expect(back?.sentence).toContain('The page has Pool degraded; the record has it stopped.');
    expect(stands((back?.events ?? []).reduce(after, evening))).toEqual([0, 'thinned']);
    expect(found(unitAfter(), 'Pool  Healthy').map(({ code }) => code)).not.toContain('pool-back');
    // What cannot be is said, and nothing is offered.
    const out = unitAfter(failed('2'), removed('3'));
    expect(found(out, 'Pool  Healthy').find(({ code }) => code === 'pool-back')).toMatchObject({ events: [] });
  });
});
