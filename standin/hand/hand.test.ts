import { describe, expect, it } from '@jest/globals';
import { HAND_START, HAND_UNITS, ROOMY_UNITS } from './handUnits';
import { jobLifeOf, WORKED } from './jobs';
import { MOVE_ERRORS, moveLifeOf, MOVES } from './moves';
import { ERRORS, lifeOf, whyNotSame, type Life } from './person';

/** Lives of each kind, by fixed seeds; bench/hand.ts lives thousands. */
const LIVES = 4;

describe.each(HAND_UNITS)('a literal hand at %s', (_name, events) => {
  it.each(ERRORS)('who errs by: %s', (err) => {
    const lives = Array.from({ length: LIVES }, (_, seed) => lifeOf(events, err, seed + 1, HAND_START));
    expect(lives.filter(({ fault }) => fault !== null).map(said)).toEqual([]);
    // With nothing wrong nothing stops on the way, and all is well at the end.
    if (err === 'none') for (const life of lives) expect([life.wasDown, life.beyond]).toEqual([false, false]);
  });
});

describe.each(WORKED)('a literal hand at the plan: %s', (job) => {
  it.each(ERRORS)('who errs by: %s', (err) => {
    const lives = ROOMY_UNITS.flatMap(([name, events]) =>
      [1, 2].flatMap((seed) => {
        const life = jobLifeOf(job, events, err, seed, HAND_START);
        return life ? [{ name, life }] : [];
      }),
    );
    expect(lives.length).toBeGreaterThan(0);
    expect(lives.filter(({ life }) => life.fault !== null).map(({ name, life }) => `${name}: ${said(life)}`)).toEqual(
      [],
    );
    if (err === 'none') for (const { life } of lives) expect([life.wasDown, life.plans]).toEqual([false, [job]]);
  });
});

describe.each(MOVES)('a literal hand at two units: %s', (_name, way, start) => {
  it.each(MOVE_ERRORS)('who errs by: %s', (err) => {
    const lives = [1, 2, 3].map((seed) => moveLifeOf(way, start(), err, seed));
    expect(lives.flatMap(({ seed, fault }) => (fault === null ? [] : `${String(seed)}: ${fault}`))).toEqual([]);
    // What was read wrongly was stopped, and right is never stopped.
    if (err === 'none') expect(lives.map(({ stops }) => stops)).toEqual([0, 0, 0]);
    if (err === 'misread') expect(lives.every(({ stops }) => stops > 0)).toBe(true);
  });
});

it('meets pools that stop and come back, and losses beyond what a pool survives: it would see the other kind', () => {
  const lives = HAND_UNITS.flatMap(([, events]) => ERRORS.map((err) => lifeOf(events, err, 1, HAND_START)));
  expect(lives.some(({ wasDown, beyond }) => wasDown && !beyond)).toBe(true);
  expect(lives.some(({ beyond }) => beyond)).toBe(true);
  // A record that differs from the truth is a fault.
  const [life] = lives as [Life];
  const pools = Object.fromEntries(
    Object.entries(life.truth.pools).map(([id, pool]) => [id, { ...pool, missing: ['D-1'] }]),
  );
  expect(whyNotSame(life.record, { ...life.truth, pools })).toContain('missing D-1');
});

function said({ seed, err, fault, plans }: Life): string {
  return `${err} ${String(seed)}, after ${plans.join(', ')}: ${fault ?? ''}`;
}
