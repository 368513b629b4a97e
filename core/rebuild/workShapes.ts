import { figuresOf } from '../drive/media';
import type { Band } from '../layout/band';
import type { Profile } from '../platform/profile';
import { rateThrough, type RebuildDrive } from './estimateRebuild';
import { fallingBy, workCurve, type WorkCurve } from './workCurve';

/** One way the speed may change on the way through, and how far it is believed before anything is heard. */
export interface WorkShape {
  readonly kind: 'work-shape';
  readonly curve: WorkCurve;
  /** Share of belief; all of a job's together make 1. */
  readonly weight: number;
  /** How much longer than reckoned it would take at full speed. */
  readonly slower: number;
  /** Relative standard deviation of the speed before anything is heard. */
  readonly spread: number;
}

/** Left alone to heavy use is a factor of three (common practice). */
const USUAL_SPREAD = 0.34;
/** A unit that holds the speed down by itself may do so at any speed. */
const LIMITED = { weight: 0.1, slower: 1.5, spread: 0.6 } as const;
/** Inner over outer speed of disks as they are sold (common practice), beside the one of the figures. */
const RATIOS = [0.42, 0.6] as const;
/** Where a unit cuts the speed off, as a share of the fastest of its drives' speeds. */
const CEILINGS = [0.8, 0.65] as const;
/** How far the curve of the figures is believed, and each of disks that slow down otherwise; a unit that cuts speeds off has the rest. */
const WEIGHTS = { reckoned: 0.5, otherRatio: 0.07, falling: 0.08 } as const;
/** Some slow down on the way by more than their disks do: fragmented, warm, or busier with what was put in last. */
const FALLS = [0.3, 0.55] as const;

/** A curve that is not doubted: where nothing is known of the drives. */
export function onlyShape(curve: WorkCurve): readonly WorkShape[] {
  return [Object.freeze({ kind: 'work-shape', curve, weight: 1, slower: 1, spread: USUAL_SPREAD })];
}

/**
 * The ways one job may go: as {@link workCurve} reckons it; with disks that slow down more or less; cut off by the unit
 * where they are fastest; held by the unit at one speed from end to end. The first is the one reckoned with.
 *
 * @param member as for {@link workCurve}
 * @param spreadShare of the spread where nothing is known of the unit: less where it is
 */
export function workShapes(
  bands: readonly Band[],
  drives: ReadonlyMap<string, RebuildDrive>,
  rebuild: Profile['rebuild'],
  member?: string,
  spreadShare = 1,
): readonly WorkShape[] {
  const reckoned = workCurve(bands, drives, rebuild, member);
  if (reckoned.seconds === 0) return onlyShape(reckoned);
  const others: { readonly curve: WorkCurve; readonly isRatio: boolean }[] = [];
  const hasDisks = [...drives.values()].some(({ media }) => figuresOf(media).innerOverOuter < 1);
  if (hasDisks) {
    const peak = Math.max(...bands.map((band) => rateThrough(band, drives, rebuild)(band.fromBytes)));
    for (const ratio of [undefined, ...RATIOS])
      for (const ceiling of [1, ...CEILINGS]) {
        if (ratio === undefined && ceiling === 1) continue;
        const thought = new Map(
          [...drives].map(([name, drive]): [string, RebuildDrive] => [
            name,
            ratio === undefined || figuresOf(drive.media).innerOverOuter === 1
              ? drive
              : { ...drive, innerOverOuter: ratio },
          ]),
        );
        const cut = { ...rebuild, ceilingBytesPerSecond: Math.min(rebuild.ceilingBytesPerSecond, ceiling * peak) };
        others.push({ curve: workCurve(bands, thought, cut, member), isRatio: ceiling === 1 });
      }
  }
  const { bandEnds } = reckoned;
  const flat: WorkCurve = { kind: 'work-curve', seconds: reckoned.seconds, shares: [0, 1], times: [0, 1], bandEnds };
  const falling = FALLS.map((drop) => fallingBy(reckoned, drop));
  const rest = 1 - LIMITED.weight - falling.length * WEIGHTS.falling;
  const own = others.length === 0 ? rest : WEIGHTS.reckoned;
  const ratios = others.filter(({ isRatio }) => isRatio).length;
  const cutOff = (rest - own - ratios * WEIGHTS.otherRatio) / (others.length - ratios);
  const shape = (curve: WorkCurve, weight: number, slower = 1, spread = USUAL_SPREAD): WorkShape =>
    Object.freeze({ kind: 'work-shape', curve, weight, slower, spread: spread * spreadShare });
  return Object.freeze([
    shape(reckoned, own),
    ...others.map(({ curve, isRatio }) =>
      shape(curve, isRatio ? WEIGHTS.otherRatio : cutOff, curve.seconds / reckoned.seconds),
    ),
    // As much faster at its beginning as slower at its end: what was expected is of all of it.
    ...falling.map((curve) => shape(curve, WEIGHTS.falling, Math.sqrt(curve.seconds / reckoned.seconds))),
    shape(flat, LIMITED.weight, LIMITED.slower, LIMITED.spread),
  ]);
}
