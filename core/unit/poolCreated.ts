import type { Layout } from '../layout/layout';
import { refusal, type Refusal } from '../value/refusal';
import type { UnitEvent } from './event';

/**
 * The event of building a planned layout: its bands, with bays replaced by the serials that stand in them. From here
 * on the bands are history and are never planned again.
 *
 * @param serialOf the serial in each bay
 */
export function poolCreated(
  layout: Layout,
  pool: string,
  name: string,
  serialOf: ReadonlyMap<string, string>,
): Extract<UnitEvent, { kind: 'pool-created' }> | Refusal {
  if (!layout.legal) return refusal('layout-illegal', layout.reasons.join(' '), '/scheme');
  if (layout.usableBytes < 1) return refusal('layout-empty', 'This layout would hold nothing.', '/scheme');
  const bays = [...new Set(layout.bands.flatMap(({ members }) => members)), ...layout.spareBays];
  const unread = bays.find((bay) => !serialOf.get(bay));
  if (unread !== undefined)
    return refusal(
      'serial-missing',
      `Bay ${unread} has no serial. Read it off the drive: everything later goes by it.`,
      '/drives',
    );
  const serial = (bay: string): string => serialOf.get(bay) as string;
  return {
    kind: 'pool-created',
    pool,
    name,
    scheme: layout.scheme,
    ...(layout.groupWidth === undefined ? {} : { groupWidth: layout.groupWidth }),
    bands: layout.bands.map((band) => ({ ...band, members: band.members.map(serial) })),
    spares: layout.spareBays.map(serial),
    usableBytes: layout.usableBytes,
    shownBytes: layout.shownBytes,
    fileSystemReserveBytes: layout.fileSystemReserveBytes,
  };
}
