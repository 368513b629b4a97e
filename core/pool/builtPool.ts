import type { Media } from '../drive/media';
import { kindOfCut, type Band } from '../layout/band';
import { factsOf, type Scheme } from '../layout/scheme';
import { limitsOf, type Profile } from '../platform/profile';

/** A pool as it was built and changed since. Its bands, pairs, groups and roles are history: nothing is cut or paired anew. */
export interface BuiltPool {
  readonly scheme: Scheme;
  readonly groupWidth?: number;
  readonly bands: readonly Band[];
}

/** A drive as the pool sees it, by the name its bands use (a bay while planning, a key in a unit's state). */
export interface PoolDrive {
  readonly name: string;
  readonly bytes: number;
  readonly media?: Media;
}

/** How many members may be missing of any band; a mirror's follows from how many copies there are, and one drive alone has none. */
export function redundancyOf({ scheme, bands }: BuiltPool): number {
  return Math.min(factsOf(scheme).redundancy ?? Infinity, ...bands.map(({ redundancy }) => redundancy));
}

/** Every serial that is a member of one of these bands, each once, in the order in which they first stand there. */
export function membersOfBands(bands: readonly Band[]): string[] {
  const [band, above] = bands;
  return band && !above ? [...band.members] : [...new Set(bands.flatMap(({ members }) => members))];
}

/** The height up to which a drive can be used: all of it, or down to the family's granularity where bands are cut. */
export function heightOf(
  { bytes }: Pick<PoolDrive, 'bytes'>,
  { scheme }: Pick<BuiltPool, 'scheme'>,
  { space }: Profile,
): number {
  if (factsOf(scheme).built !== 'cut') return bytes;
  const system = Math.min(bytes, space.systemAreaBytes);
  return system + Math.floor((bytes - system) / space.cutGranularityBytes) * space.cutGranularityBytes;
}

/** The most members this family takes in one pool of the scheme. */
export function mostMembers(profile: Profile, scheme: Scheme): number {
  return limitsOf(profile, scheme)?.most ?? Infinity;
}

/** A band over these members, with what it then holds; of a pool cut at sizes, of the kind it then is. */
export function bandOver(
  of: Pick<Band, 'kind' | 'fromBytes' | 'toBytes' | 'redundancy'>,
  members: readonly string[],
  isCut = false,
): Band {
  const { fromBytes, toBytes, redundancy } = of;
  const kind = isCut ? kindOfCut(members.length, redundancy) : of.kind;
  return {
    kind,
    fromBytes,
    toBytes,
    members: [...members],
    redundancy,
    usableBytes: (toBytes - fromBytes) * (members.length - redundancy),
  };
}

/** What these bands hold together, in bytes; before metadata and what the file system keeps back. */
export function usableOf(bands: readonly Band[]): number {
  return bands.reduce((sum, { usableBytes }) => sum + usableBytes, 0);
}
