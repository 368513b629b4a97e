import type { Band } from '../layout/band';
import { factsOf } from '../layout/scheme';
import { planLayout } from '../layout/planLayout';
import type { Of } from './event';
import { membersOf, type Pool, type UnitState } from './state';

/**
 * What an expand makes of a pool whose members have become larger: the event, or `null` when no space comes of it.
 *
 * Built bands stay as they are cut; a mixed pool gets new bands on top of them where enough members have room. All
 * other schemes have one band a group, which rises to its smallest member.
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
    const bytes = (unit.drives[serial]?.bytes ?? 0) - systemAreaBytes;
    return bytes - (bytes % cutGranularityBytes);
  };
  const bands = [...pool.bands];
  let top = Math.max(...bands.map(({ toBytes }) => toBytes));
  for (;;) {
    const over = membersOf(pool).filter((serial) => room(serial) > top);
    if (over.length <= redundancy) return bands;
    const to = Math.min(...over.map(room));
    const kind = over.length === redundancy + 1 ? 'mirror' : 'parity';
    const last = bands.at(-1) as Band;
    const isSame = last.toBytes === top && last.members.length === over.length && last.members.every((serial) => over.includes(serial));
    const from = isSame ? last.fromBytes : top;
    const band: Band = {
      kind,
      fromBytes: from,
      toBytes: to,
      members: isSame ? last.members : over,
      redundancy,
      usableBytes: (over.length - redundancy) * (to - from),
    };
    if (isSame) bands.pop();
    bands.push(band);
    top = to;
  }
}
