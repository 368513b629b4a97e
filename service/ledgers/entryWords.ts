import { driveEventWords } from '../../core/driveLife/driveEventWords';
import type { DriveEvent } from '../../core/driveLife/event';
import type { PlanBody } from '../../core/plan/plan';
import type { PlanEvent } from '../../core/planRun/applyToPlan';
import { planEventWords } from '../../core/planRun/planEventWords';
import { eventWords } from '../../core/record/eventWords';
import type { UnitEvent } from '../../core/unit/event';
import type { UnitState } from '../../core/unit/state';
import type { LedgerKind } from '../../core/world/ledger';

/**
 * An entry in words, whichever ledger it is of.
 *
 * @param boxes the enclosures of its unit, which bays are called after; without any of another ledger
 * @param steps the steps of its plan
 */
export function entryWords(
  kind: LedgerKind,
  event: object,
  boxes: Pick<UnitState, 'enclosures'>,
  steps: PlanBody['steps'],
): string {
  switch (kind) {
    case 'unit':
      return eventWords(event as UnitEvent, boxes);
    case 'drive':
      return driveEventWords(event as DriveEvent);
    case 'plan':
      return planEventWords(event as PlanEvent, steps);
  }
}
