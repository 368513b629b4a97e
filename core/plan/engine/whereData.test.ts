import { describe, expect, it } from '@jest/globals';
import reedbank from '../../platform/profiles/reedbank.json';
import type { World } from '../../world/world';
import { actingOn } from '../makers/makePlan';
import { movePlan, type MoveWish } from '../makers/move/move';
import { NEWER, newerIn, OLD, oldIn, oneBayMoved, POOL, twoUnits } from '../makers/move/testMoves';
import { must, NOW, TB } from '../makers/testPlans';
import { dryRunOver } from './dryRun';
import { whereDataIs, type DataWhere, type Holding } from './whereData';

function seen(world: World, wish: Omit<MoveWish, 'to' | 'around'>): readonly DataWhere[] {
  const around = { from: OLD, target: newerIn(world), used: { [POOL]: TB } };
  const plan = actingOn(must(movePlan(oldIn(world), { ...wish, to: NEWER, around })), OLD);
  const units = { [OLD]: oldIn(world), [NEWER]: newerIn(world) };
  return whereDataIs(units, dryRunOver(units, plan, NOW), NOW);
}
/** Each place with what it has, once for every change. */
const changes = ([where]: readonly DataWhere[]): unknown =>
  Object.fromEntries(
    (where?.places ?? []).map(({ place, holdings }) => [
      place,
      holdings.filter((one, i): one is Holding => one !== holdings[i - 1]),
    ]),
  );

describe('where the data is, step by step', () => {
  it('of a unit that is carried: at home, on its way, at home in the other; never nowhere', () => {
    const world = twoUnits(reedbank, [4, 4], 'mirror', [2, 4]);
    const where = seen(world, { way: 'carry-by-slot' });
    expect(changes(where)).toEqual({
      bank: ['hoped'],
      Heron: ['home', 'way', 'none'],
      Egret: ['none', 'home'],
    });
    for (let i = 0; i < (where[0]?.places[0]?.holdings.length ?? 0); i++)
      expect(where[0]?.places.some(({ holdings }) => holdings[i] === 'home' || holdings[i] === 'way')).toBe(true);
  });

  it('of one that is copied: written, proven, at home there; and the step that takes the old one away', () => {
    const world = oneBayMoved(reedbank, 3);
    const where = seen(world, { way: 'copy', addOld: true });
    expect(changes(where)).toEqual({
      Heron: ['home', 'proven', 'none'],
      bank: ['hoped', 'proven'],
      Egret: ['none', 'written', 'hoped', 'proven', 'home'],
    });
    expect(where[0]?.noReturn).toBe('given-up');
  });
});
