import { figuresOf } from '../../../drive/media';
import { baysOf } from '../../../unit/state';
import { countBox, lift, suppliesOf } from '../boxSteps';
import type { Commission } from './commission';

/** Screws for a 3.5-inch drive (common practice). */
const SCREWS = 4;

/** What is in the box, the unit’s serial, and how it is lifted. */
export function outOfTheBox({ unit, wish, draft: { add, under } }: Commission): void {
  const bays = baysOf(unit);
  under('Out of the box');
  add({
    id: 'attention',
    title: 'Read the sheets in the box, the latest “attention” sheet first',
    why: 'It is printed after the manual and corrects it.',
  });
  const screws =
    wish.drives.filter(({ media }) => figuresOf(media ?? 'hard-disk').fits.includes('3.5-inch')).length * SCREWS;
  add(
    countBox(
      [
        { what: 'trays', count: bays.length },
        ...suppliesOf(unit),
        ...(unit.enclosures.length > 1 ? [{ what: 'extension cables', count: unit.enclosures.length - 1 }] : []),
        ...(screws > 0 ? [{ what: 'screws', count: screws }] : []),
      ],
      screws > 0
        ? `${String(SCREWS)} screws a drive (common practice); use the ones supplied, hand-tight: some of them damp vibration.`
        : '',
    ),
  );
  add({
    id: 'unit-serial',
    kind: 'record',
    title: 'Write down the serial of the unit',
    why: 'Warranty and firmware go by it, and behind a rack it cannot be read any more.',
    asks: { kind: 'text', label: 'Serial on the back or the underside' },
    does: [{ kind: 'write-down', field: 'serial' }],
    maySkip: true,
  });
  for (const step of lift(bays.length)) add(step);
}
