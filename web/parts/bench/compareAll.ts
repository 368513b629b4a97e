import { appraise, USUAL_FAILURES_PER_YEAR, type Appraisal, type Assumptions } from '~/core/appraisal/appraise';
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
}

const AT_WORST = [USUAL_FAILURES_PER_YEAR[1], USUAL_FAILURES_PER_YEAR[1]] as const;

/** Everything these drives could become. The table shows the worse end; both are reckoned of the one that is looked at. */
export function compareAll({ profile, drives, wish, assumptions }: BenchAsked): readonly Appraisal[] {
  return drives.length > MOST_DRIVES
    ? []
    : compareLayouts(profile, SCHEMES, drives, wish).map((layout) =>
        appraise(profile, layout, drives, { ...assumptions, failuresPerYear: AT_WORST }),
      );
}
