import type { Band } from '../layout/band';
import { figuresOf, type Media } from '../drive/media';
import { factsOf } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { formatBytes } from '../quantity/formatBytes';
import { refusal, type Refusal } from '../value/refusal';
import {
  bandOver,
  heightOf,
  membersOfBands,
  mostMembers,
  redundancyOf,
  usableOf,
  type BuiltPool,
  type PoolDrive,
} from './builtPool';
import { largestGuarded } from './dedicatedParity';
import { grownBands } from './grown';

/** What becomes of a built pool when drives are added to it. */
export interface PoolAddition {
  readonly kind: 'pool-addition';
  readonly bands: readonly Band[];
  /** Usable bytes won, against the pool as it is; 0 where only safety is won. */
  readonly gainedBytes: number;
  readonly sentence: string;
}

/** How many drives are added at a time: one, a pair of mirrors, a whole group; 0 where the family adds none to such a pool. */
export function addedAtATime(profile: Profile, { scheme, groupWidth = 0 }: BuiltPool): number {
  const { addDrives } = profile.growth;
  const { built } = factsOf(scheme);
  if (addDrives === 'none') return 0;
  if (built === 'groups') return groupWidth;
  if (addDrives === 'group') return 0;
  return built === 'pairs' ? 2 : 1;
}

/**
 * What a built pool becomes with more drives in it: one, a pair, or a group at once. The same answer for the bench, the
 * interface, the plans and the record.
 *
 * @param members every member by its name
 * @param fresh the drives to add, as many as {@link addedAtATime} says
 * @returns the bands then, or why the family does not add them
 */
export function addToPool(
  profile: Profile,
  pool: BuiltPool,
  members: ReadonlyMap<string, PoolDrive>,
  fresh: readonly PoolDrive[],
): PoolAddition | Refusal {
  const wrong = whyNotAdded(profile, pool, members, fresh);
  if (wrong) return wrong;
  const names = fresh.map(({ name }) => name);
  const all = new Map([...members, ...fresh.map((drive) => [drive.name, drive] as const)]);
  const joined = withFresh(profile, pool, fresh, names);
  const bands = grownBands(profile, { ...pool, bands: joined }, all);
  const gainedBytes = usableOf(bands) - usableOf(pool.bands);
  return Object.freeze({
    kind: 'pool-addition',
    bands: Object.freeze(bands),
    gainedBytes,
    sentence: sentenceOf(profile, pool, bands, fresh, gainedBytes),
  });
}

function whyNotAdded(
  profile: Profile,
  pool: BuiltPool,
  members: ReadonlyMap<string, PoolDrive>,
  fresh: readonly PoolDrive[],
): Refusal | undefined {
  const no = (code: string, sentence: string): Refusal => refusal(code, sentence, '/drives');
  const count = addedAtATime(profile, pool);
  const { built } = factsOf(pool.scheme);
  if (profile.growth.addDrives === 'none') return no('adds-none', 'This family adds no drives to a pool.');
  if (count === 0)
    return no('adds-groups', 'One drive adds nothing here: this family grows pools of groups, by whole groups.');
  if (fresh.length !== count)
    return built === 'groups'
      ? no('adds-groups', `One drive adds nothing here: this pool grows by whole groups of ${String(count)}.`)
      : no('adds-pairs', 'One drive adds nothing here: mirrors grow by pairs.');
  const before = membersOfBands(pool.bands).length;
  const most = mostMembers(profile, pool.scheme);
  if (before + fresh.length > most)
    return no(
      'most-members',
      `This family takes at most ${String(most)} drives in one pool of this kind; ${String(before)} are in.`,
    );
  const system = profile.space.systemAreaBytes;
  const tiny = fresh.find(({ bytes }) => bytes <= system);
  if (tiny) return no('too-small', `It holds no more than the unit’s own system area, ${formatBytes(system)}.`);
  const stray = fresh.find(({ media }) => !fitsBays(profile, media));
  if (stray) return no('unfitting', 'Such a drive does not fit the bays of this family.');
  const largest = profile.bays.largestDriveBytes ?? Infinity;
  if (fresh.some(({ bytes }) => bytes > largest))
    return no('drive-too-large', `This family takes drives of up to ${formatBytes(largest)}.`);
  const least = Math.min(...fresh.map((drive) => heightOf(drive, pool, profile)));
  const top = Math.max(...pool.bands.map(({ toBytes }) => toBytes));
  // Where every member counts as the smallest, one that is smaller than that would have to make all of them smaller.
  const allAlike = built === 'one' || (built === 'pairs' && profile.space.mirrorPairing === 'all-as-smallest');
  if (allAlike && least < top) return no('too-small', `Too small: every member must hold ${formatBytes(top)}.`);
  const lowest = Math.min(...pool.bands.map(({ toBytes }) => toBytes));
  if (built === 'cut' && least < lowest)
    return no('too-small', `Too small: it reaches no band’s top; the lowest ends at ${formatBytes(lowest)}.`);
  const parity = largestGuarded(pool, (name) => members.get(name)?.bytes);
  if (fresh.some(({ bytes }) => bytes > parity))
    return no(
      'larger-than-parity',
      `Larger than a parity drive (${formatBytes(parity)}): it has to become parity first.`,
    );
  return undefined;
}

function fitsBays({ bays }: Profile, media: Media = 'hard-disk'): boolean {
  return figuresOf(media).fits.some((kind) => bays.kinds.includes(kind));
}

/** The bands with the new drives in them, before anything rises. */
function withFresh(profile: Profile, pool: BuiltPool, fresh: readonly PoolDrive[], names: readonly string[]): Band[] {
  const system = profile.space.systemAreaBytes;
  const heights = fresh.map((drive) => heightOf(drive, pool, profile));
  const [band] = pool.bands as readonly [Band];
  switch (factsOf(pool.scheme).built) {
    case 'one':
      // A mirror has one copy more; everything else one member more.
      return [
        bandOver(band.kind === 'mirror' ? { ...band, redundancy: band.redundancy + names.length } : band, [
          ...band.members,
          ...names,
        ]),
      ];
    case 'pairs':
    case 'groups': {
      const top = profile.space.mirrorPairing === 'all-as-smallest' && band.kind === 'mirror' ? band.toBytes : Infinity;
      return [...pool.bands, bandOver({ ...band, fromBytes: system, toBytes: Math.min(top, ...heights) }, names)];
    }
    case 'own':
      return [
        ...pool.bands,
        ...fresh.map(({ name, bytes }) => bandOver({ ...band, fromBytes: system, toBytes: bytes }, [name])),
      ];
    case 'cut':
      // It joins what it reaches; a drive that reaches no band's top is in none. One that was alone is guarded from now on.
      return pool.bands.map((one) =>
        (heights[0] as number) >= one.toBytes
          ? bandOver({ ...one, redundancy: factsOf(pool.scheme).redundancy ?? 0 }, [...one.members, ...names], true)
          : one,
      );
    case 'dedicated':
      // A data drive whatever its size: which bands it stands in follows when they are drawn again.
      return pool.bands.map((one, i) => (i === 0 ? bandOver(one, [...one.members, ...names]) : one));
  }
}

function sentenceOf(
  profile: Profile,
  pool: BuiltPool,
  bands: readonly Band[],
  fresh: readonly PoolDrive[],
  gained: number,
): string {
  const [drive] = fresh as readonly [PoolDrive];
  switch (factsOf(pool.scheme).built) {
    case 'own':
      return 'All of it: every drive counts for itself.';
    case 'dedicated':
      return 'All of it, guarded by the parity drives there are.';
    case 'one': {
      if (pool.scheme === 'mirror')
        return gained > 0 ? 'One more copy, and the space of larger members.' : 'No space: it becomes one more copy.';
      const top = Math.max(...bands.map(({ toBytes }) => toBytes));
      return `It counts as the smallest member, ${formatBytes(top)}${drive.bytes > top ? '; the rest of it stays unused' : ''}.`;
    }
    case 'pairs':
    case 'groups':
      return `${String(fresh.length)} drives side by side, each as high as the smallest of them.`;
    case 'cut': {
      if (redundancyOf(pool) === 0)
        return gained > 0
          ? 'The second drive: a mirror, and the space both have above it.'
          : 'No space: it becomes a mirror, and survives one from now on.';
      const joined = pool.bands.filter((band) => heightOf(drive, pool, profile) >= band.toBytes).length;
      const above = bands.length > pool.bands.length;
      const reached = Math.max(
        0,
        ...bands.filter(({ members }) => members.includes(drive.name)).map(({ toBytes }) => toBytes),
      );
      const left = drive.bytes - reached;
      return `It joins ${String(joined)} of ${String(pool.bands.length)} bands${above ? ' and makes one more on top' : ''}${left > profile.space.cutGranularityBytes ? `; ${formatBytes(left)} of it stay unused` : ''}.`;
    }
  }
}
