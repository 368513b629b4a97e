import { figuresOf } from '../drive/media';
import type { Band } from '../layout/band';
import type { Profile } from '../platform/profile';
import type { RebuildDrive, RebuildEstimate } from '../rebuild/estimateRebuild';
import { independentGroups } from '../survival/independentGroups';
import { chanceOfLossBy, meanTimeToLoss, type GroupChain } from './groupChain';
import { chanceOfUnreadableSector } from './chanceOfUnreadableSector';

/** A reliability year (common practice). */
export const YEAR_HOURS = 8760;

export interface RiskAssumptions {
  /** Years the layout is planned to live; five is usual (common practice). */
  readonly years: number;
  /** Hours from a failure to a new drive in the bay, where no spare waits. */
  readonly hoursToReplace: number;
  /** Mean time to failure of a drive in hours; left out means the data-sheet figure of its medium. */
  readonly mttfHours?: number;
}

export interface LayoutRisk {
  readonly kind: 'layout-risk';
  /** Chance of losing data by failures over the planned life, 0..1. */
  readonly chanceOfLoss: number;
  /** Mean time to data loss, hours. */
  readonly meanTimeToLoss: number;
  /** Chance of meeting an unreadable sector in one rebuild that can lose none more, 0..1. */
  readonly chanceOfUnreadable: number;
}

/**
 * What a layout risks over its life, exactly, under the usual assumptions: drives fail independently at a constant
 * rate, a repair takes the likely rebuild after the wait for a replacement. Field rates differ from data sheets; ages
 * and shared causes come on top.
 */
export function riskOfLayout(
  bands: readonly Band[],
  drives: ReadonlyMap<string, RebuildDrive>,
  longest: RebuildEstimate | null,
  rebuild: Profile['rebuild'],
  spares: number,
  assumptions: RiskAssumptions,
): LayoutRisk {
  const hours = assumptions.years * YEAR_HOURS;
  const repairHours = (longest?.likely ?? 0) / 3600 + (spares > 0 ? 0 : assumptions.hoursToReplace);
  let survives = 0;
  let lossRate = 0;
  let chanceOfUnreadable = 0;
  // Groups of one shape have one chain.
  const shapes = new Map<string, { chain: GroupChain; count: number }>();
  for (const { members, redundancy } of independentGroups(bands)) {
    const media = members.map((member) => figuresOf((drives.get(member) as RebuildDrive).media));
    const failureRate =
      media.reduce((sum, figures) => sum + 1 / (assumptions.mttfHours ?? figures.mttfHours), 0) / members.length;
    const perBit = Math.max(...media.map(({ unreadablePerBit }) => unreadablePerBit));
    const unreadable = redundancy === 0 ? 0 : chanceOfUnreadableSector(longest?.readBytes ?? 0, perBit);
    chanceOfUnreadable = Math.max(chanceOfUnreadable, unreadable);
    const chain: GroupChain = {
      members: members.length,
      redundancy,
      failureRate,
      repairRate: repairHours > 0 ? 1 / repairHours : 1e6,
      repairs: rebuild.repairs,
      abort: rebuild.unreadableSector === 'aborts' ? unreadable : 0,
    };
    const key = `${String(members.length)} ${String(redundancy)} ${String(failureRate)} ${String(unreadable)}`;
    const shape = shapes.get(key);
    if (shape) shape.count++;
    else shapes.set(key, { chain, count: 1 });
  }
  for (const { chain, count } of shapes.values()) {
    survives += count * Math.log1p(-chanceOfLossBy(chain, hours));
    lossRate += count / meanTimeToLoss(chain);
  }
  return Object.freeze({
    kind: 'layout-risk',
    chanceOfLoss: -Math.expm1(survives),
    meanTimeToLoss: lossRate === 0 ? Infinity : 1 / lossRate,
    chanceOfUnreadable,
  });
}
