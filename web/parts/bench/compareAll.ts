import { appraise, type Appraisal, type Assumptions } from '~/core/appraisal/appraise';
import type { ListedDrive } from '~/core/drive/driveList';
import { MOST_DRIVES } from '~/core/layout/limits';
import { compareLayouts } from '~/core/layout/planLayout';
import { SCHEMES } from '~/core/layout/scheme';
import type { Profile } from '~/core/platform/profile';

/** What a comparison is of. */
export interface BenchAsked {
  readonly profile: Profile;
  readonly drives: readonly ListedDrive[];
  /** Spares, in all or for each group. */
  readonly wish: number | { readonly perGroup: number };
  readonly assumptions: Assumptions;
  /** The share of drives that fail in a year, from and to. */
  readonly failuresPerYear: readonly [number, number];
}

/** Everything these drives could become. The table shows the worse end; both are reckoned of the one that is looked at. */
export function compareAll({
  profile,
  drives,
  wish,
  assumptions,
  failuresPerYear: [, worst],
}: BenchAsked): readonly Appraisal[] {
  return drives.length > MOST_DRIVES
    ? []
    : compareLayouts(profile, SCHEMES, drives, wish).map((layout) =>
        appraise(profile, layout, drives, { ...assumptions, failuresPerYear: [worst, worst] }),
      );
}
