import type { Band } from '../layout/band';
import { factsOf, type Scheme } from '../layout/scheme';
import { planLayout } from '../layout/planLayout';
import type { Profile } from '../platform/profile';
import { formatBytes } from '../quantity/formatBytes';
import { refusal, type Refusal } from '../value/refusal';
import {
  heightOf,
  membersOfBands,
  mostMembers,
  redundancyOf,
  usableOf,
  type BuiltPool,
  type PoolDrive,
} from './builtPool';
import { dedicatedAgain } from './grown';
import { spaceOf, type PoolSpace } from '../layout/spaceOf';

/** What a built pool becomes when its level is changed. */
export interface PoolConversion extends PoolSpace {
  readonly kind: 'pool-conversion';
  readonly to: Scheme;
  readonly bands: readonly Band[];
  readonly keepsData: boolean;
  /** The most there may be in the pool for it to fit afterwards; 0 where it erases everything. */
  readonly mostDataBytes: number;
  /** Drives that must be added for it. */
  readonly addedDrives: number;
}

/**
 * What a change of level makes of a built pool, with drives added for it where it needs them: the whole pool is written
 * anew, so its bands are those of the new level.
 *
 * @param members every member by its name
 * @param fresh drives added for it
 * @param usedBytes what is in the pool, where that is known
 * @returns the pool then; or why not: not offered, too few drives, not enough room, with the number
 */
export function convertPool(
  profile: Profile,
  pool: BuiltPool,
  to: Scheme,
  members: ReadonlyMap<string, PoolDrive>,
  fresh: readonly PoolDrive[] = [],
  usedBytes = 0,
): PoolConversion | Refusal {
  const offered = profile.growth.conversions.find((one) => one.from === pool.scheme && one.to === to);
  if (!offered)
    return refusal(
      'not-offered',
      `This family does not make ${factsOf(to).name} of ${factsOf(pool.scheme).name}.`,
      '/to',
    );
  const names = membersOfBands(pool.bands);
  const [was, will] = [factsOf(pool.scheme), factsOf(to)];
  if (was.built === 'own' && will.built !== 'own' && names.length > 1)
    return refusal(
      'own-files',
      `Each of its ${String(names.length)} drives has files of its own: only a single drive becomes ${will.name}.`,
      '/to',
    );
  if (was.built === 'dedicated' && will.built === 'dedicated')
    return withMoreParity(profile, pool, to, members, fresh, offered.keepsData);
  const drives = [...names.flatMap((name) => members.get(name) ?? []), ...fresh].map(({ name, bytes, media }) => ({
    bay: name,
    bytes,
    ...(media === undefined ? {} : { media }),
  }));
  const layout = planLayout(profile, to, drives);
  if (!layout.legal) return refusal('layout-illegal', layout.reasons.join(' '), '/drives');
  const space = spaceOf(layout.usableBytes, profile);
  const mostDataBytes = offered.keepsData ? space.shownBytes - space.fileSystemReserveBytes : 0;
  if (offered.keepsData && usedBytes > mostDataBytes)
    return refusal(
      'no-room',
      `${formatBytes(usedBytes)} are in it, and ${factsOf(to).name} would hold ${formatBytes(mostDataBytes)}: it does not fit.`,
      '/to',
    );
  return Object.freeze({
    kind: 'pool-conversion',
    to,
    bands: layout.bands,
    keepsData: offered.keepsData,
    mostDataBytes,
    addedDrives: fresh.length,
    ...space,
  });
}

/** Parity more beside data drives that keep their files and their roles: what is added for it is parity, and guards the largest of them. */
function withMoreParity(
  profile: Profile,
  pool: BuiltPool,
  to: Scheme,
  members: ReadonlyMap<string, PoolDrive>,
  fresh: readonly PoolDrive[],
  keepsData: boolean,
): PoolConversion | Refusal {
  const before = redundancyOf(pool);
  const more = (factsOf(to).redundancy ?? before) - before;
  if (fresh.length !== more)
    return refusal(
      'parity-added',
      `It takes ${more === 1 ? 'one drive' : `${String(more)} drives`} more, for parity: data drives keep their files and their roles.`,
      '/drives',
    );
  const most = mostMembers(profile, to);
  if (members.size + fresh.length > most)
    return refusal(
      'most-members',
      `This family takes at most ${String(most)} drives in one pool of this kind.`,
      '/drives',
    );
  const parity = (pool.bands[0]?.members ?? []).slice(0, before);
  const data = membersOfBands(pool.bands).filter((name) => !parity.includes(name));
  const all = new Map([...members, ...fresh.map((drive) => [drive.name, drive] as const)]);
  const height = (name: string): number => heightOf(all.get(name) ?? { bytes: 0 }, { scheme: to }, profile);
  const largest = Math.max(...data.map(height));
  const small = fresh.find(({ name }) => height(name) < largest);
  if (small)
    return refusal(
      'parity-too-small',
      `Too small for parity: it has to hold as much as the largest data drive, ${formatBytes(largest)}.`,
      '/drives',
    );
  const bands = dedicatedAgain(profile, [...parity, ...fresh.map(({ name }) => name)], data, height);
  const space = spaceOf(usableOf(bands), profile);
  return Object.freeze({
    kind: 'pool-conversion',
    to,
    bands,
    keepsData,
    mostDataBytes: keepsData ? space.shownBytes - space.fileSystemReserveBytes : 0,
    addedDrives: fresh.length,
    ...space,
  });
}

/**
 * A change of level with as few drives added as it needs.
 *
 * @param fresh the drives there may be for it, as many as bays are free
 * @returns the pool then; or why not
 */
export function leastConversion(
  profile: Profile,
  pool: BuiltPool,
  to: Scheme,
  members: ReadonlyMap<string, PoolDrive>,
  fresh: readonly PoolDrive[],
  usedBytes = 0,
): PoolConversion | Refusal {
  const without = convertPool(profile, pool, to, members, [], usedBytes);
  if (without.kind === 'pool-conversion') return without;
  let why = without;
  for (let added = 1; added <= Math.min(fresh.length, MOST_ADDED); added++) {
    const made = convertPool(profile, pool, to, members, fresh.slice(0, added), usedBytes);
    if (made.kind === 'pool-conversion') return made;
    // What speaks against the drives says more than that some are needed.
    if (why === without && without.code !== 'no-room') why = made.code === without.code ? why : made;
  }
  return fresh.length === 0 && without.pointer === '/drives'
    ? { ...without, sentence: `${without.sentence} No bay is free for more.` }
    : why;
}

/** Every change of level that is possible with the drives there are, and with as few added as it needs where bays are free. */
export function conversionsOf(
  profile: Profile,
  pool: BuiltPool,
  members: ReadonlyMap<string, PoolDrive>,
  freeBays: number,
  usedBytes = 0,
): {
  readonly possible: readonly PoolConversion[];
  readonly not: readonly { readonly to: Scheme; readonly why: string }[];
} {
  const possible: PoolConversion[] = [];
  const not: { to: Scheme; why: string }[] = [];
  const sizes = [...members.values()].map(({ bytes }) => bytes);
  // Parity of its own has to be as large as the largest; elsewhere everything counts as the smallest.
  const size = factsOf(pool.scheme).built === 'dedicated' ? Math.max(...sizes) : Math.min(...sizes);
  for (const { to } of profile.growth.conversions.filter(({ from }) => from === pool.scheme)) {
    const fresh = Array.from({ length: freeBays }, (_, i): PoolDrive => ({
      name: `new ${String(i + 1)}`,
      bytes: size,
    }));
    const made = leastConversion(profile, pool, to, members, fresh, usedBytes);
    if (made.kind === 'pool-conversion') possible.push(made);
    else not.push({ to, why: made.sentence });
  }
  return { possible, not };
}

/** No change of level asks for more drives at once. */
const MOST_ADDED = 4;
