import type { Band } from '../layout/band';
import { bySize, dedicatedOver } from '../layout/bands';
import { factsOf } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { bandOver, heightOf, membersOfBands, type BuiltPool, type PoolDrive } from './builtPool';
import { parityOf } from './dedicatedParity';

/**
 * What the bands of a built pool become once its members are as large as they now are: each band rises to its own smallest
 * member; where bands are cut, members that now reach a band's top join it, and new bands come above. Asking again
 * changes nothing, and a larger member never gives less.
 *
 * @param drives every member by its name; one that is not known stays as it was
 */
export function grownBands(profile: Profile, pool: BuiltPool, drives: ReadonlyMap<string, PoolDrive>): Band[] {
  const height = (name: string): number => {
    const drive = drives.get(name);
    return drive ? heightOf(drive, pool, profile) : 0;
  };
  const rising = (band: Band, atMost = Infinity): Band =>
    bandOver({ ...band, toBytes: Math.max(band.toBytes, Math.min(atMost, ...band.members.map(height))) }, band.members);
  switch (factsOf(pool.scheme).built) {
    case 'one':
    case 'groups':
    case 'own':
      return pool.bands.map((band) => rising(band));
    case 'pairs': {
      const all =
        profile.space.mirrorPairing === 'all-as-smallest'
          ? Math.min(...membersOfBands(pool.bands).map(height))
          : Infinity;
      return pool.bands.map((band) => rising(band, all));
    }
    case 'cut':
      return stacked(pool.bands, height, factsOf(pool.scheme).redundancy ?? 0);
    case 'dedicated': {
      const parity = parityOf(pool);
      return dedicatedAgain(
        profile,
        parity,
        membersOfBands(pool.bands).filter((name) => !parity.includes(name)),
        height,
      );
    }
  }
}

/**
 * Roles stay with the drives that have them. Nothing is cut in fact, each data drive has files of its own; but above the
 * smallest parity drive nothing is guarded, and no data drive is used higher than that.
 */
export function dedicatedAgain(
  { space }: Profile,
  parity: readonly string[],
  data: readonly string[],
  height: (name: string) => number,
): Band[] {
  const guarded = Math.min(...parity.map(height));
  const member = (name: string) => ({
    bay: name,
    bytes: Math.min(guarded, height(name)),
    systemBytes: Math.min(height(name), space.systemAreaBytes),
  });
  return dedicatedOver(parity.map(member), data.map(member).sort(bySize));
}

/**
 * Bands one above the other: each takes in the members that reach its top; above the highest, new ones are cut at the
 * heights of those that reach higher, as long as they are more than may be lost.
 */
function stacked(built: readonly Band[], height: (name: string) => number, redundancy: number): Band[] {
  const members = membersOfBands(built);
  const [only] = built;
  // One drive alone has no other to be cut against: all of it is used, however large it has become.
  if (only && members.length === 1)
    return [bandOver({ ...only, toBytes: Math.max(only.toBytes, ...members.map(height)) }, members, true)];
  const bands = built.map((band) =>
    bandOver(
      band,
      [...band.members, ...members.filter((name) => !band.members.includes(name) && height(name) >= band.toBytes)],
      true,
    ),
  );
  let top = Math.max(...bands.map(({ toBytes }) => toBytes));
  for (;;) {
    const taller = members.filter((name) => height(name) > top);
    if (taller.length <= redundancy) return bands;
    const to = Math.min(...taller.map(height));
    bands.push(bandOver({ kind: 'parity', fromBytes: top, toBytes: to, redundancy }, taller, true));
    top = to;
  }
}
