import { YEAR_HOURS } from '../quantity/year';
import { figuresOf } from '../drive/media';
import type { Band } from '../layout/band';
import { factsOf, type Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import type { RebuildDrive, RebuildEstimate } from '../rebuild/estimateRebuild';
import { independentGroups, type IndependentGroup } from '../survival/independentGroups';
import { chanceOfUnreadableSector } from './chanceOfUnreadableSector';
import { FIELD_FACTOR } from './fieldFactor';
import { alikeMembers, livesOfGroup, LOST, UNREADABLE } from './memberChain';
import type { MemberGroup } from './memberGroup';

export interface RiskAssumptions {
  /** Years the layout is planned to live; five is usual (common practice). */
  readonly years: number;
  /** Mean hours from a failure to a new drive in hand, where no spare waits. */
  readonly hoursToReplace: number;
  /** Mean time to failure of a drive in hours; left out means the data-sheet figure of its medium. */
  readonly mttfHours?: number;
  /** The share of drives that fail in a year, from and to; with `mttfHours` it says nothing. */
  readonly failuresPerYear?: readonly [number, number];
  /** Share of the space in use when a drive is rebuilt, 0..1; left out means all. */
  readonly usedShare?: number;
}

/** One number, or from and to where what is assumed spans a range. */
export type Figure = number | readonly [number, number];

/** What a layout risks over its life: three outcomes apart, never one number. */
export interface LayoutRisk {
  readonly kind: 'layout-risk';
  /** Chance that more members fail than may: the pool is lost, or the files of single drives where each has its own. */
  readonly chanceOfLoss: Figure;
  /** Chance that a rebuild that can lose none more meets an unreadable sector and stops, in families that abort. */
  readonly rebuildStops: Figure;
  /** Chance that it meets one and loses what stood there, in families that go on. */
  readonly filesLost: Figure;
  /** Expected bytes lost a year for each TB kept (normalised magnitude of data loss; Greenan, Plank, Wylie 2010). */
  readonly lostBytesPerTBYear: Figure;
  /** Mean time to data loss by failures, hours. */
  readonly meanTimeToLoss: Figure;
  /** Chance of an unreadable sector in the longest rebuild that can lose none more: as usual in the field, and the data sheet's bound. */
  readonly chanceOfUnreadable: readonly [number, number];
}

interface Planned {
  readonly scheme: Scheme;
  readonly bands: readonly Band[];
  readonly drives: ReadonlyMap<string, RebuildDrive>;
  readonly rebuild: Profile['rebuild'];
  /** How long each member takes to be written anew, with what of it is in use. */
  readonly rebuilds: ReadonlyMap<string, RebuildEstimate>;
  readonly spares: number;
}

/** A file is at least one sector. */
const SECTOR_BYTES = 4096;

/**
 * What a layout risks over its life, exactly, under the usual assumptions: drives fail independently at a constant rate,
 * each its own; a failure orders a drive, spares step in and are ordered again; each member is rebuilt in its own time.
 * Ages, lots and shared causes come on top.
 */
export function riskOfLayout(planned: Planned, assumptions: RiskAssumptions): LayoutRisk {
  const { mttfHours, failuresPerYear } = assumptions;
  const unreadable = unreadableInLongest(planned);
  const [from, upTo] = failuresPerYear ?? [0, 0];
  const isRange = mttfHours === undefined && failuresPerYear !== undefined;
  const span: readonly Rates[] = isRange
    ? [
        // One rate that is said twice is one number.
        ...(from === upTo ? [] : [{ perHour: () => perHourOf(from), unreadable: 1 / FIELD_FACTOR }]),
        { perHour: () => perHourOf(upTo), unreadable: 1 },
      ]
    : [{ perHour: (media) => 1 / (mttfHours ?? figuresOf(media).mttfHours), unreadable: 1 }];
  const ends = span.map((rates) => risksAt(planned, assumptions, rates));
  const [low, high = low] = ends as [Risks, Risks?];
  const figure = (of: keyof Risks): Figure => (ends.length === 1 ? low[of] : [low[of], high[of]]);
  const risk: LayoutRisk = {
    kind: 'layout-risk',
    chanceOfLoss: figure('chanceOfLoss'),
    rebuildStops: figure('rebuildStops'),
    filesLost: figure('filesLost'),
    lostBytesPerTBYear: figure('lostBytesPerTBYear'),
    meanTimeToLoss: figure('meanTimeToLoss'),
    chanceOfUnreadable: [unreadable(1 / FIELD_FACTOR), unreadable(1)],
  };
  return Object.freeze(risk);
}

/** From and to; the same twice where it is one number. */
export function ends(figure: Figure): readonly [number, number] {
  return typeof figure === 'number' ? [figure, figure] : figure;
}

/** The worse end of a figure of which less is better. */
export function worst(figure: Figure): number {
  return Math.max(...ends(figure));
}

/** Failures an hour of drives of which this share fails in a year: 1 − e^(−λ·8,760 h) (common practice). */
function perHourOf(shareAYear: number): number {
  return -Math.log1p(-Math.min(shareAYear, 1 - 1e-12)) / YEAR_HOURS;
}

interface Rates {
  /** Failures an hour of a drive of this medium. */
  readonly perHour: (media: RebuildDrive['media']) => number;
  /** Unreadable sectors against the data sheet's bound. */
  readonly unreadable: number;
}

interface Risks {
  readonly chanceOfLoss: number;
  readonly rebuildStops: number;
  readonly filesLost: number;
  readonly lostBytesPerTBYear: number;
  readonly meanTimeToLoss: number;
}

function risksAt(
  { scheme, bands, drives, rebuild, rebuilds, spares }: Planned,
  assumptions: RiskAssumptions,
  rates: Rates,
): Risks {
  const hours = assumptions.years * YEAR_HOURS;
  const groups = independentGroups(bands);
  const rateOf = (member: string): number => rates.perHour((drives.get(member) as RebuildDrive).media);
  const all = groups.reduce((sum, { members }) => sum + members.reduce((of, member) => of + rateOf(member), 0), 0);
  const usable = bands.reduce((sum, { usableBytes }) => sum + usableBytes, 0);
  let [staysWhole, readsAll, lossRate, lostBytes] = [0, 0, 0, 0];
  // Groups of one shape have one chain.
  const shapes = new Map<string, ReturnType<typeof endsOf>>();
  for (const group of groups) {
    const own = group.members.reduce((sum, member) => sum + rateOf(member), 0);
    const chain = groupOf(group, drives, rebuilds, {
      rates,
      rebuild,
      spares,
      assumptions,
      others: spares > 0 ? all - own : 0,
    });
    const key = groups.length === 1 ? '' : JSON.stringify(chain);
    const ends = shapes.get(key) ?? endsOf(chain, hours);
    shapes.set(key, ends);
    const { lost, unreadable, meanTime } = ends;
    staysWhole += Math.log1p(-lost);
    readsAll += Math.log1p(-unreadable);
    lossRate += 1 / meanTime;
    const ofPool = group.bands.reduce((sum, { usableBytes }) => sum + usableBytes, 0) / usable;
    // All of the pool goes with one group; where each drive has files of its own, those of the drives beyond what is survived.
    const share =
      factsOf(scheme).loses === 'pool' ? 1 : ofPool * Math.min(1, (group.redundancy + 1) / group.members.length);
    lostBytes += Math.min(1, YEAR_HOURS / meanTime) * share * 1e12;
    if (rebuild.unreadableSector !== 'aborts')
      lostBytes += ((-Math.log1p(-unreadable) / assumptions.years) * SECTOR_BYTES) / (usable / 1e12);
  }
  const met = -Math.expm1(readsAll);
  return {
    // Too rare for a number is not never: what has members can be lost.
    chanceOfLoss: groups.length === 0 ? 0 : Math.max(-Math.expm1(staysWhole), LEAST_CHANCE),
    rebuildStops: rebuild.unreadableSector === 'aborts' ? met : 0,
    filesLost: rebuild.unreadableSector === 'aborts' ? 0 : met,
    lostBytesPerTBYear: lostBytes,
    meanTimeToLoss: lossRate === 0 ? Infinity : 1 / lossRate,
  };
}

/** The least that is told from nothing. */
const LEAST_CHANCE = Number.MIN_VALUE;

/** How a group ends by a time, in hours. */
function endsOf(group: MemberGroup, hours: number) {
  const { failing, reading } = livesOfGroup(group);
  return {
    lost: failing.by(hours)[LOST] as number,
    unreadable: reading?.by(hours)[UNREADABLE] ?? 0,
    meanTime: failing.meanTime,
  };
}

interface Around {
  readonly rates: Rates;
  readonly rebuild: Profile['rebuild'];
  readonly spares: number;
  readonly assumptions: RiskAssumptions;
  readonly others: number;
}

function groupOf(
  { members, bands }: IndependentGroup,
  drives: ReadonlyMap<string, RebuildDrive>,
  each: ReadonlyMap<string, RebuildEstimate>,
  { rates, rebuild, spares, assumptions, others }: Around,
): MemberGroup {
  const share = rebuild.covers === 'used-space' ? (assumptions.usedShare ?? 1) : 1;
  const kinds = alikeMembers(members, bands, (member) => {
    const { media } = drives.get(member) as RebuildDrive;
    return {
      failureRate: rates.perHour(media),
      rebuildHours: (each.get(member)?.likely ?? 0) / 3600,
      // To the first order of a rate that is tiny: -8·ln(1 − p) for each byte.
      unreadablePerByte: -8 * Math.log1p(-figuresOf(media).unreadablePerBit * rates.unreadable),
    };
  });
  return {
    kinds,
    bands: bands.map(({ redundancy, fromBytes, toBytes }) => ({
      redundancy,
      readBytes: (toBytes - fromBytes) * share,
    })),
    repairs: rebuild.repairs,
    spares,
    orderHours: assumptions.hoursToReplace,
    othersFailureRate: others,
  };
}

/** The chance of an unreadable sector in the rebuild that reads most, were it one that can lose none more, by the rate against the bound. */
function unreadableInLongest({ bands, drives, rebuilds }: Planned): (against: number) => number {
  const reads = [...rebuilds.values()].map(({ readBytes }) => readBytes);
  const guarded = bands.filter(({ redundancy }) => redundancy > 0).flatMap(({ members }) => members);
  const perBit = guarded.map((member) => figuresOf((drives.get(member) as RebuildDrive).media).unreadablePerBit);
  const [most, likeliest] = [Math.max(0, ...reads), Math.max(0, ...perBit)];
  return (against) => (reads.length === 0 ? 0 : chanceOfUnreadableSector(most, likeliest * against));
}
