import { bayName } from '../unit/bayName';
import type { UnitState } from '../unit/state';
import type { Change } from './whatWouldChangeIt';

/** More are not named one by one. */
const MOST_NAMED = 4;

const REPLACED = {
  oldest: 'The oldest drive is replaced',
  'of-its-age': 'All drives of its age are replaced',
  'of-its-lot': 'All drives of its lot are replaced',
} as const;

/** A change as a sentence: "The oldest drive is replaced: bay 3." */
export function changeWords(change: Change, unit: UnitState): string {
  switch (change.kind) {
    case 'spare-in-drawer':
      return 'A spare lies in the drawer.';
    case 'scrub-weekly':
      return 'Everything is read once a week (scrub).';
    case 'notice-same-day':
      return 'Somebody acts on the same day.';
    case 'one-more-may-fail':
      return 'One more may fail: a level with one more drive of protection, where the family can change to it.';
    case 'replace': {
      const words =
        change.which !== 'sick'
          ? REPLACED[change.which]
          : change.serials.length === 1
            ? 'The drive that shows signs is replaced'
            : 'The drives that show signs are replaced';
      return change.serials.length > MOST_NAMED
        ? `${words}.`
        : `${words}: ${change.serials.map((serial) => bayName(unit, unit.drives[serial]?.bay)).join(', ')}.`;
    }
  }
}
