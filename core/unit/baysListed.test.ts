import fc from 'fast-check';
import { isRefusal } from '../value/refusal';
import { bayName } from './bayName';
import { baysListed } from './baysListed';
import { enclosuresNamed } from './enclosures';

const boxes = {
  enclosures: enclosuresNamed([
    { name: 'Head', bays: 12 },
    { name: 'Extension 1', bays: 12, dial: 7 },
    { name: 'Extension 2', bays: 4 },
  ]),
};
const one = { enclosures: [{ name: 'Head', bays: ['1', '2', '3', 'A1'] }] };

it('reads ranges box by box, a box holding until the next is named', () => {
  expect(baysListed(boxes, 'Head 1-3, 5; Extension 1 2–3, 12; extension 2')).toEqual([
    '1',
    '2',
    '3',
    '5',
    '14',
    '15',
    '24',
    '25',
    '26',
    '27',
    '28',
  ]);
  // By the dial, with "bay" or "tray" before the number, and each bay once.
  expect(baysListed(boxes, 'extension 7 trays 1 to 2; Extension 1 bay 2')).toEqual(['13', '14']);
  expect(baysListed(one, '1-2, a1')).toEqual(['1', '2', 'A1']);
  expect(baysListed(one, ' ')).toEqual([]);
});

it.each([
  [boxes, '1-3', 'Say which box'],
  [boxes, 'Extension 2 1-5', 'Extension 2 has no bay 5: it has 4.'],
  [boxes, 'Extension 9 1', 'names no box'],
  [boxes, 'Head 4-2', 'Head has no bay 4-2'],
  [boxes, 'Head 1-999999999', 'Head has no bay'],
  [one, '4', 'Head has no bay 4'],
  [one, 'somewhere', 'Head has no bay somewhere'],
])('refuses what names no bay of %#', (of, words, why) => {
  const answer = baysListed(of, words);
  expect(isRefusal(answer) && answer.sentence).toContain(why);
});

it('reads back every list of bays as they are called', () => {
  const sizes = fc.array(fc.integer({ min: 1, max: 24 }), { minLength: 1, maxLength: 5 });
  fc.assert(
    fc.property(sizes, fc.infiniteStream(fc.nat()), fc.integer({ min: 1, max: 30 }), (counts, chance, most) => {
      const unit = {
        enclosures: enclosuresNamed(
          counts.map((bays, i) => ({ name: i === 0 ? 'Head' : `Extension ${String(i)}`, bays })),
        ),
      };
      const all = unit.enclosures.flatMap(({ bays }) => bays);
      const chosen = [
        ...new Set(Array.from({ length: most }, () => all[(chance.next().value as number) % all.length] as string)),
      ];
      expect(baysListed(unit, chosen.map((bay) => bayName(unit, bay).replace(', ', ' ')).join('; '))).toEqual(chosen);
      // A box by its name is all of it, and a range of all of it the same.
      for (const { name, bays } of unit.enclosures) {
        expect(baysListed(unit, name)).toEqual(bays);
        expect(baysListed(unit, `${name} 1-${String(bays.length)}`)).toEqual(bays);
      }
    }),
  );
});
