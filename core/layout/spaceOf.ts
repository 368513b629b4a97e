import type { Profile } from '../platform/profile';

/** What comes of a pool's usable bytes: what the unit's page shows, and what its file system keeps back of that. */
export interface PoolSpace {
  readonly usableBytes: number;
  readonly shownBytes: number;
  readonly fileSystemReserveBytes: number;
}

/** A pool made anew: its metadata come out of usable, the reserve out of what is shown. */
export function spaceOf(usableBytes: number, { space }: Profile): PoolSpace {
  const metadata =
    usableBytes === 0
      ? 0
      : Math.min(usableBytes, space.poolMetadataBytes + Math.floor(usableBytes * space.poolMetadataShare));
  return withReserve(usableBytes, usableBytes - metadata, space);
}

/** A built pool that has become larger or smaller: metadata out of the difference, in the proportion the family takes them. */
export function spaceAfter(before: PoolSpace, usableBytes: number, { space }: Profile): PoolSpace {
  const shown = before.shownBytes + Math.floor((usableBytes - before.usableBytes) * (1 - space.poolMetadataShare));
  return withReserve(usableBytes, shown, space);
}

function withReserve(usableBytes: number, shownBytes: number, { fileSystemReserveShare }: Profile['space']): PoolSpace {
  return { usableBytes, shownBytes, fileSystemReserveBytes: Math.floor(shownBytes * fileSystemReserveShare) };
}
