import type { Media } from '../drive/media';
import type { Layout } from '../layout/layout';
import type { PlannedDrive } from '../layout/planLayout';
import type { Profile } from '../platform/profile';
import { longestOf, rebuildOfEach, type RebuildDrive, type RebuildEstimate } from '../rebuild/estimateRebuild';
import { riskOfLayout, type LayoutRisk, type RiskAssumptions } from '../risk/riskOfLayout';
import { ethernetPayload } from '../speed/ethernetPayload';
import { speedOfLayout, type PoolSpeed } from '../speed/speedOfLayout';

/** A drive with what it is made of and what it cost. */
export interface AppraisedDrive extends PlannedDrive {
  readonly media?: Media;
  readonly priceCents?: number;
}

/** What is assumed of the world around a layout. */
export interface Assumptions extends RiskAssumptions {
  /** Nominal speed of the port clients come through, Gbit/s. */
  readonly portGigabits: number;
  /** Share of the space in use when a drive is rebuilt, 0..1. */
  readonly usedShare: number;
}

/** Five years, three days to a new drive, gigabit, half full (common practice). */
export const USUAL_ASSUMPTIONS: Assumptions = Object.freeze({
  years: 5,
  hoursToReplace: 72,
  portGigabits: 1,
  usedShare: 0.5,
});

/** The share of drives that fail in a year: from the data sheet to what field studies found (Schroeder and Gibson 2007; Pinheiro, Weber, Barroso 2007). */
export const USUAL_FAILURES_PER_YEAR: readonly [number, number] = Object.freeze([0.009, 0.04] as const);

/** What a layout costs, does and risks, beside what it holds and survives. */
export interface Appraisal {
  readonly kind: 'appraisal';
  readonly layout: Layout;
  /** The rebuild that takes longest; `null` where nothing can be rebuilt. */
  readonly rebuild: RebuildEstimate | null;
  readonly risk: LayoutRisk | null;
  readonly speed: PoolSpeed;
  /** With one member of each band missing and a rebuild running; `null` where nothing can be rebuilt. */
  readonly speedRebuilding: PoolSpeed | null;
  /** Large files as a client on the port sees them, bytes/s. */
  readonly clientRead: number;
  readonly clientWrite: number;
  /** Price of all drives, spares too, for each usable TB, in hundredths; `null` where no price is known. */
  readonly centsPerUsableTB: number | null;
}

const NO_SPEED: PoolSpeed = Object.freeze({ kind: 'pool-speed', read: 0, write: 0, smallReads: 0, smallWrites: 0 });

/** Appraises one layout of these drives. An illegal one holds nothing and has neither risk nor speed. */
export function appraise(
  profile: Profile,
  layout: Layout,
  drives: readonly AppraisedDrive[],
  assumptions: Assumptions = USUAL_ASSUMPTIONS,
): Appraisal {
  const known = new Map(
    drives.map(({ bay, bytes, media = 'hard-disk' }): [string, RebuildDrive] => [bay, { bay, bytes, media }]),
  );
  const { bands, legal } = layout;
  const rebuilds = rebuildOfEach(bands, known, profile.rebuild, assumptions.usedShare);
  const rebuild = longestOf(rebuilds);
  const risk = legal
    ? riskOfLayout(
        {
          scheme: layout.scheme,
          bands,
          drives: known,
          rebuild: profile.rebuild,
          rebuilds,
          spares: layout.spareBays.length,
        },
        assumptions,
      )
    : null;
  const speed = legal ? speedOfLayout(bands, known, profile) : NO_SPEED;
  const port = ethernetPayload(assumptions.portGigabits);
  const prices = drives.flatMap(({ priceCents }) => (priceCents === undefined ? [] : [priceCents]));
  const isPriced = legal && prices.length === drives.length;
  return Object.freeze({
    kind: 'appraisal',
    layout,
    rebuild,
    risk,
    speed,
    speedRebuilding: rebuild === null ? null : speedOfLayout(bands, known, profile, true),
    clientRead: Math.min(port, speed.read),
    clientWrite: Math.min(port, speed.write),
    centsPerUsableTB: isPriced ? prices.reduce((a, b) => a + b, 0) / (layout.usableBytes / 1e12) : null,
  });
}
