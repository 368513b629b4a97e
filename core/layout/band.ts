import type { Media } from '../drive/media';

/**
 * A band: a range of heights over a set of members, protected as one. `single` holds one drive's own bytes; `span`
 * is one drive's part of a span. Heights are positions on the drive, the unit's system area included, so that a
 * drawn map is to scale.
 */
export interface Band {
  readonly kind: 'single' | 'span' | 'stripe' | 'mirror' | 'parity' | 'dedicated';
  readonly fromBytes: number;
  readonly toBytes: number;
  /** Names of the members: bays while planning, serials in a unit's state. */
  readonly members: readonly string[];
  /** How many of the members may be missing, whichever they are, before the band is lost. */
  readonly redundancy: number;
  readonly usableBytes: number;
}

/** A drive as the planner sees it: its bay, its bytes, and the height from which the pool may use it. */
export interface Member {
  readonly bay: string;
  readonly bytes: number;
  readonly systemBytes: number;
  readonly media?: Media;
}

/**
 * Makes a band. Its usable bytes follow from the rest: the height times the members that hold data.
 *
 * @param copies how many members' worth of the height is protection
 */
export function band(
  kind: Band['kind'],
  members: readonly Member[],
  fromBytes: number,
  toBytes: number,
  redundancy: number,
  copies = redundancy,
): Band {
  return {
    kind,
    fromBytes,
    toBytes,
    members: members.map((member) => member.bay),
    redundancy,
    usableBytes: (toBytes - fromBytes) * (members.length - copies),
  };
}

/** A band of a pool cut at sizes: a mirror over one more than it may lose, parity over more; one drive alone is only itself. */
export function kindOfCut(members: number, redundancy: number): 'single' | 'mirror' | 'parity' {
  return members === 1 ? 'single' : members === redundancy + 1 ? 'mirror' : 'parity';
}

/** The bytes of a band that hold protection rather than data. */
export function protectionOf(of: Band): number {
  return (of.toBytes - of.fromBytes) * of.members.length - of.usableBytes;
}
