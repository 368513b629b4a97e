import type { Band } from '../layout/band';
import { cutOf } from '../layout/bands';
import { factsOf } from '../layout/scheme';
import { planLayout } from '../layout/planLayout';
import type { Of } from './event';
import { membersOf, type Pool, type UnitState } from './state';

/**
 * What an expand makes of a pool whose members have become larger: the event, or `null` when no space comes of it.
 *
 * Built bands of a mixed pool stay as they are cut; each takes in the members that now reach its top, and new bands come
 * on top where enough members have room. All other schemes have one band a group, which rises to its smallest member.
 */
export function expanded(unit: UnitState, pool: Pool): Of<'pool-grown'> | null {
  const members = membersOf(pool);
  const drives = members.flatMap((serial) => {
    const drive = unit.drives[serial];
    return drive ? [{ bay: serial, bytes: drive.bytes, ...(drive.media === undefined ? {} : { media: drive.media }) }] : [];
  });
  const layout = planLayout(unit.profile, pool.scheme, drives, 0, pool.groupWidth);
  const bands = pool.scheme.startsWith('mixed') ? onTop(unit, pool) : layout.bands;
  const usableBytes = bands.reduce((sum, band) => sum + band.usableBytes, 0);
  if (usableBytes <= pool.usableBytes) return null;
  // Metadata and reserve come out of the new space in the same proportion as the family takes them.
  const { poolMetadataShare, fileSystemReserveShare } = unit.profile.space;
  const shownBytes = pool.shownBytes + Math.floor((usableBytes - pool.usableBytes) * (1 - poolMetadataShare));
  return {
    kind: 'pool-grown',
    pool: pool.id,
    bands: bands.map((band) => ({ ...band, members: [...band.members] })),
    usableBytes,
    shownBytes,
    fileSystemReserveBytes: Math.floor(shownBytes * fileSystemReserveShare),
  };
}

function onTop(unit: UnitState, pool: Pool): Band[] {
  const redundancy = factsOf(pool.scheme).redundancy ?? 1;
  const { systemAreaBytes, cutGranularityBytes } = unit.profile.space;
  const room = (serial: string): number => {
    const bytes = unit.drives[serial]?.bytes ?? 0;
    return cutOf({ bay: serial, bytes, systemBytes: Math.min(bytes, systemAreaBytes) }, cutGranularityBytes);
  };
  // A band takes in every member that now reaches its top; what is above the highest band is cut anew.
  const bands = pool.bands.map((band) =>
    over(redundancy, band.fromBytes, band.toBytes, [
      ...band.members,
      ...membersOf(pool).filter((serial) => !band.members.includes(serial) && room(serial) >= band.toBytes),
    ]),
  );
  let top = Math.max(...bands.map(({ toBytes }) => toBytes));
  for (;;) {
    const taller = membersOf(pool).filter((serial) => room(serial) > top);
    if (taller.length <= redundancy) return bands;
    const to = Math.min(...taller.map(room));
    const last = bands.at(-1) as Band;
    const isSame = last.toBytes === top && last.members.length === taller.length && last.members.every((serial) => taller.includes(serial));
    if (isSame) bands.pop();
    bands.push(isSame ? over(redundancy, last.fromBytes, to, last.members) : over(redundancy, top, to, taller));
    top = to;
  }
}

/** A band of a mixed pool: a mirror over as many as may be lost and one more, parity over more. */
function over(redundancy: number, fromBytes: number, toBytes: number, members: readonly string[]): Band {
  return {
    kind: members.length === redundancy + 1 ? 'mirror' : 'parity',
    fromBytes,
    toBytes,
    members: [...members],
    redundancy,
    usableBytes: (members.length - redundancy) * (toBytes - fromBytes),
  };
}
