import { expose } from 'comlink';
import { layoutKey } from '~/core/layout/layoutName';
import type { Layout } from '~/core/layout/layout';
import { outlookAt, outlookOf, type Outlook, type OutlookAsked } from '~/core/outlook/outlook';
import { whatWouldChangeIt, type ChangeSeen } from '~/core/outlook/whatWouldChangeIt';
import { unitOfLayout, type DriveInHand } from '~/core/outlook/unitOfLayout';
import type { Profile } from '~/core/platform/profile';
import type { PoolSimulated } from '~/core/risk/simulate/simulate';
import type { Enclosure, UnitState } from '~/core/unit/state';
import { isRefusal, type Refusal } from '~/core/value/refusal';

export interface OutlookSeen {
  readonly outlook: Outlook;
  readonly changes: readonly ChangeSeen[];
}

type Asked = Omit<OutlookAsked, 'isOver' | 'onProgress'>;

/** The two ends first, then the same lives with one thing changed at a time: about so much of the work. */
const ENDS = 0.3;

/** Lives a pool's time ahead, off the page's own thread. */
const foreseer = {
  foresee(unit: UnitState, pool: string, asked: Asked, onProgress: (share: number) => void): OutlookSeen | Refusal {
    const of = unit.pools[pool] as UnitState['pools'][string];
    const outlook = outlookOf(unit, of, { ...asked, onProgress: (share) => onProgress(share * ENDS) });
    if (isRefusal(outlook)) return outlook;
    const changes = whatWouldChangeIt(unit, of, {
      ...asked,
      onProgress: (share) => onProgress(ENDS + share * (1 - ENDS)),
    });
    return isRefusal(changes) ? changes : { outlook, changes };
  },

  /** Every layout of these drives as it will be once it is built, at the bad end: by what it goes by, as a table shows it. */
  foreseeLayouts(
    { profile, enclosures, drives, layouts }: LayoutsToForesee,
    asked: Asked,
    onProgress: (share: number) => void,
  ): readonly LayoutForeseen[] {
    return layouts.flatMap((layout, i) => {
      const planned = unitOfLayout(profile, enclosures, layout, drives, asked.now);
      const seen = isRefusal(planned) ? planned : outlookAt(1, planned.unit, planned.pool, asked);
      onProgress((i + 1) / layouts.length);
      return isRefusal(seen) ? [] : [{ key: layoutKey(layout), ...seen.simulated }];
    });
  },
};

export interface LayoutsToForesee {
  readonly profile: Profile;
  readonly enclosures: readonly Enclosure[];
  readonly drives: readonly DriveInHand[];
  readonly layouts: readonly Layout[];
}

export interface LayoutForeseen extends PoolSimulated {
  readonly key: string;
}

export type Foreseer = typeof foreseer;

expose(foreseer);
