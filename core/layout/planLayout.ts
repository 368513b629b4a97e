import { compareBays } from '../quantity/bayOrder';
import type { Media } from '../drive/media';
import { limitsOf, type Profile } from '../platform/profile';
import { survivalTable } from '../survival/survivalTable';
import { frozen } from '../value/frozen';
import { protectionOf, type Band, type Member } from './band';
import { bandsOf, usedHeightOf } from './bands';
import { groupWidthsThatFit } from './groupWidths';
import type { Layout, UnusedStretch } from './layout';
import { whyIllegal } from './legality';
import { factsOf, type Scheme } from './scheme';
import { spaceOf } from './spaceOf';
import { setSparesAside, setSparesAsidePerGroup, sparesWished, type SpareWish } from './spares';
import { warningsOf } from './warnings';

/** A drive to plan with. Its place and its bytes make the arithmetic; its medium decides whether it fits a bay at all. */
export interface PlannedDrive {
  readonly bay: string;
  readonly bytes: number;
  /** Left out means a conventional hard disk. */
  readonly media?: Media;
}

/**
 * Plans one scheme over a set of drives: the pool map, the space, what is unused and why, and what it survives.
 *
 * Order of deduction: raw, system area on every drive (spares too), bands, pool metadata, what the unit's page shows,
 * file system reserve. An illegal layout comes back with its reasons, no bands, and everything unused.
 *
 * @param drives bay names are distinct; sizes in whole bytes, together at most 9 PB
 * @param wish drives set aside as hot spares, 0 and up, for the pool or for each group
 * @param groupWidth members a group; only the grouped schemes look at it
 */
export function planLayout(
  profile: Profile,
  scheme: Scheme,
  drives: readonly PlannedDrive[],
  wish: SpareWish = 0,
  groupWidth?: number,
): Layout {
  const facts = factsOf(scheme);
  const width = facts.isGrouped ? groupWidth : undefined;
  const all: Member[] = drives.map(({ bay, bytes, media }) => ({
    bay,
    bytes,
    systemBytes: Math.min(bytes, profile.space.systemAreaBytes),
    ...(media === undefined ? {} : { media }),
  }));
  const bandsFor = (members: readonly Member[]): Band[] =>
    members.length === 0 ? [] : bandsOf(scheme, members, profile.space, width ?? members.length);
  const spares = sparesWished(wish);
  const isPerGroup = typeof wish !== 'number' && width !== undefined;
  const aside = isPerGroup
    ? setSparesAsidePerGroup(all, spares, width)
    : setSparesAside(all, spares, (members) => usedHeightOf(scheme, members, profile.space, width ?? members.length));

  const illegal = whyIllegal(scheme, aside.members, spares, profile, width);
  const legal = illegal.length === 0;
  const bands = legal ? bandsFor(aside.members) : [];
  const sum = (numbers: readonly number[]): number => numbers.reduce((a, b) => a + b, 0);

  const rawBytes = sum(all.map(({ bytes }) => bytes));
  const systemBytes = sum(all.map((member) => member.systemBytes));
  const usableBytes = sum(bands.map((band) => band.usableBytes));
  const protectionBytes = sum(bands.map(protectionOf));
  const { shownBytes, fileSystemReserveBytes } = spaceOf(usableBytes, profile);
  const redundancies = bands.map(({ redundancy }) => redundancy);

  return frozen({
    kind: 'layout',
    scheme,
    legal,
    reasons: legal ? warningsOf(scheme, aside.members, bands) : illegal,
    ...(width === undefined ? {} : { groupWidth: width }),
    rawBytes,
    usableBytes,
    protectionBytes,
    unusedBytes: rawBytes - systemBytes - usableBytes - protectionBytes,
    systemBytes,
    poolMetadataBytes: usableBytes - shownBytes,
    shownBytes,
    fileSystemReserveBytes,
    guaranteedFailures: bands.length === 0 ? 0 : Math.min(...redundancies),
    survival: survivalTable(bands, facts.loses),
    bands,
    spareBays: aside.spares.map(({ bay }) => bay).sort(compareBays),
    unused: unusedStretches(all, bands, aside.spares, legal),
  } satisfies Layout);
}

/**
 * Every layout these drives could become, illegal ones with their reasons. Grouped schemes come once for every width
 * that fits, or once and illegal when none does.
 *
 * @param schemes which to plan; left out means all
 * @param groupWidth plan only this width of the grouped schemes
 */
export function compareLayouts(
  profile: Profile,
  schemes: readonly Scheme[],
  drives: readonly PlannedDrive[],
  wish: SpareWish = 0,
  groupWidth?: number,
): Layout[] {
  return schemes.flatMap((scheme) => {
    const { isGrouped, redundancy } = factsOf(scheme);
    const limits = limitsOf(profile, scheme);
    const widths =
      isGrouped && limits && groupWidth === undefined
        ? groupWidthsThatFit(drives.length, redundancy as number, limits, wish)
        : [];
    return (widths.length > 0 ? widths : [groupWidth]).map((width) => planLayout(profile, scheme, drives, wish, width));
  });
}

function unusedStretches(
  drives: readonly Member[],
  bands: readonly Band[],
  spares: readonly Member[],
  legal: boolean,
): UnusedStretch[] {
  const top = new Map<string, number>();
  for (const band of bands) for (const bay of band.members) top.set(bay, Math.max(top.get(bay) ?? 0, band.toBytes));
  const spareBays = new Set(spares.map(({ bay }) => bay));
  return drives.flatMap(({ bay, bytes, systemBytes }): UnusedStretch[] => {
    const fromBytes = top.get(bay) ?? systemBytes;
    if (fromBytes >= bytes) return [];
    const why = spareBays.has(bay)
      ? 'Spare: waits until a member fails.'
      : !legal
        ? 'No pool: this layout cannot be made of these drives.'
        : !top.has(bay)
          ? 'Left over: it fills no whole group.'
          : 'Above what the other members can match.';
    return [{ kind: 'unused-stretch', bay, fromBytes, toBytes: bytes, why }];
  });
}
