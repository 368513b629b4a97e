import { factsOf } from '../layout/scheme';
import { independentGroups } from '../survival/independentGroups';
import { idleBays } from './poolChanged';
import type { GroupsShown } from './boxWords';
import { baysOf, poolsOf, type Pool, type UnitState } from './state';

/**
 * The groups of a unit as its pools were built, in the order in which they were made, so that a number once written on a
 * door stays right when more are added.
 */
export function groupsOf(unit: UnitState): GroupsShown {
  const pools = poolsOf(unit);
  const order = baysOf(unit);
  const baysWith = (serials: readonly string[]): string[] => {
    const held = new Set(serials.map((serial) => unit.drives[serial]?.bay));
    return order.filter((bay) => held.has(bay));
  };
  return {
    groups: pools.flatMap((pool) =>
      partsOf(pool).map(({ name, members }) => ({
        name: pools.length > 1 && name !== pool.name ? `${pool.name}, ${name}` : name,
        bays: baysWith(members),
      })),
    ),
    spareBays: baysWith(pools.flatMap(({ spares }) => spares)),
    idleBays: idleBays(unit),
  };
}

function partsOf(pool: Pool): readonly { readonly name: string; readonly members: readonly string[] }[] {
  const { built } = factsOf(pool.scheme);
  const word = built === 'groups' ? 'group' : built === 'pairs' ? 'pair' : null;
  const parts = independentGroups(pool.bands);
  // Members that stand and fall alone are told by their pool.
  return word === null
    ? [{ name: pool.name, members: parts.flatMap(({ members }) => members) }]
    : parts.map(({ members }, i) => ({ name: `${word} ${String(i + 1)}`, members }));
}
