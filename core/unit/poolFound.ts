import { planLayout, type PlannedDrive } from '../layout/planLayout';
import type { Scheme } from '../layout/scheme';
import { apart } from '../quantity/apart';
import { refusal, type Refusal } from '../value/refusal';
import { bayName, BayName } from './bayName';
import type { Of } from './event';
import type { UnitState } from './state';

/** A pool as the page of a unit that runs already shows it. */
export interface FoundPool {
  readonly name: string;
  readonly scheme: Scheme;
  readonly groupWidth?: number;
  /** Bays of its members and its spares. */
  readonly members: readonly string[];
  readonly spares?: readonly string[];
  /** What the page shows; left out, it is reckoned from the drives. */
  readonly shownBytes?: number;
  readonly builtAt?: string | null;
}

/**
 * The event of a pool that is there already: nothing is made, and nothing erased. Its bands are those its drives would
 * make; what the page shows of it is believed where that is no more.
 *
 * @param drives the drives of the unit by bay, with their serials
 * @param pool a new id (uuid)
 */
export function poolFound(
  { enclosures, profile }: Pick<UnitState, 'enclosures' | 'profile'>,
  found: FoundPool,
  drives: ReadonlyMap<string, PlannedDrive & { readonly serial: string }>,
  pool: string,
): Of<'pool-arrived'> | Refusal {
  const { name, scheme, groupWidth, members, spares = [], shownBytes, builtAt = null } = found;
  const empty = [...members, ...spares].find((bay) => !drives.has(bay));
  if (empty !== undefined)
    return refusal(
      'bay-empty',
      `There is no drive in ${bayName({ enclosures }, empty)}: say first what is in it.`,
      '/members',
    );
  const both = spares.find((bay) => members.includes(bay));
  if (both !== undefined)
    return refusal('drive-in-pool', `${BayName({ enclosures }, both)} is named as member and as spare.`, '/spares');
  const of = (bays: readonly string[]): (PlannedDrive & { readonly serial: string })[] =>
    bays.flatMap((bay) => drives.get(bay) ?? []);
  const layout = planLayout(profile, scheme, of(members), 0, groupWidth);
  if (!layout.legal) return refusal('layout-illegal', layout.reasons.join(' '), '/scheme');
  const shown = shownBytes ?? layout.shownBytes;
  const [most, wrote] = apart(layout.usableBytes, shown, profile.unitPage.counts === 'TiB' ? 'binary' : 'decimal');
  if (shown > layout.usableBytes)
    return refusal(
      'shown-too-large',
      `They hold at most ${most} in this layout, you wrote ${wrote}: one of the two is another.`,
      '/shownBytes',
    );
  const serial = (bay: string): string => drives.get(bay)?.serial ?? '';
  return {
    kind: 'pool-arrived',
    pool,
    from: null,
    builtAt,
    name,
    scheme,
    ...(groupWidth === undefined ? {} : { groupWidth }),
    bands: layout.bands.map((band) => ({ ...band, members: band.members.map(serial) })),
    spares: spares.map(serial),
    usableBytes: layout.usableBytes,
    shownBytes: shown,
    fileSystemReserveBytes: Math.min(shown, layout.fileSystemReserveBytes),
  };
}
