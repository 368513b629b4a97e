import { expose } from 'comlink';
import { outlookOf, type Outlook, type OutlookAsked } from '~/core/outlook/outlook';
import { whatWouldChangeIt, type ChangeSeen } from '~/core/outlook/whatWouldChangeIt';
import type { UnitState } from '~/core/unit/state';
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
};
export type Foreseer = typeof foreseer;

expose(foreseer);
