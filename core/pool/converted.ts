import type { Band } from '../layout/band';
import { factsOf, type Scheme } from '../layout/scheme';
import { planLayout } from '../layout/planLayout';
import type { Profile } from '../platform/profile';
import { formatBytes } from '../quantity/formatBytes';
import { refusal, type Refusal } from '../value/refusal';
import { membersOfBands, type BuiltPool, type PoolDrive } from './builtPool';
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
  const size = Math.min(...[...members.values()].map(({ bytes }) => bytes));
  for (const { to } of profile.growth.conversions.filter(({ from }) => from === pool.scheme)) {
    let why = '';
    for (let added = 0; added <= Math.min(freeBays, MOST_ADDED); added++) {
      const fresh = Array.from({ length: added }, (_, i): PoolDrive => ({ name: `new ${String(i + 1)}`, bytes: size }));
      const made = convertPool(profile, pool, to, members, fresh, usedBytes);
      if (made.kind === 'pool-conversion') {
        possible.push(made);
        why = '';
        break;
      }
      why = why === '' ? made.sentence : why;
    }
    if (why !== '') not.push({ to, why });
  }
  return { possible, not };
}

/** No change of level asks for more drives at once. */
const MOST_ADDED = 4;
