import type { GroupsShown } from '../../unit/boxWords';
import type { Enclosure, UnitState } from '../../unit/state';
import type { PlanStep } from '../plan';

/** The groups of a unit, and the boxes it has by then: an extension may come with the plan. */
export interface GroupsAhead extends Pick<UnitState, 'enclosures'> {
  readonly shown: GroupsShown;
}

/** The boxes whose groups a step is about: where hands make, fit or count them. */
export function boxesOfStep({ enclosures }: Pick<UnitState, 'enclosures'>, { does }: PlanStep): readonly Enclosure[] {
  const bays = new Set(
    does.flatMap((one): readonly string[] => {
      switch (one.kind) {
        case 'fit-drive':
          return [one.drive.bay];
        case 'make-pool':
        case 'add-drives':
        case 'change-level':
          return one.bays;
        case 'assign-spare':
          return [one.bay];
        case 'count-drives':
          return enclosures.find(({ name }) => name === one.enclosure)?.bays ?? [];
        default:
          return [];
      }
    }),
  );
  return enclosures.filter((box) => box.bays.some((bay) => bays.has(bay)));
}
