import fc from 'fast-check';
import { enclosuresNamed } from './enclosures';
import { enclosuresText, readEnclosures } from './enclosuresText';

describe('enclosures in one line', () => {
  it('writes a chain short, and reads it back', () => {
    const chain = enclosuresNamed([
      { name: 'Head', bays: 16 },
      ...[1, 2, 3, 4].map((n) => ({ name: `Extension ${String(n)}`, bays: 16, dial: n })),
    ]);
    expect(enclosuresText(chain)).toBe(
      'Head=1~16;Extension%201@1=17~32;Extension%202@2=33~48;Extension%203@3=49~64;Extension%204@4=65~80',
    );
    expect(readEnclosures(enclosuresText(chain))).toEqual(chain);
  });

  it('keeps bays of any name, in the order they are cabled', () => {
    const odd = [
      { name: 'A; b=c@1', bays: ['ext2-1', 'ext2-2', '7', '8', '9', '010', '11'] },
      { name: 'Höhe', bays: ['1', '3', '2'], dial: 0 },
    ];
    expect(readEnclosures(enclosuresText(odd))).toEqual(odd);
    const bay = fc.stringMatching(/^[\w.:/-]{1,6}$/);
    const boxes = fc
      .uniqueArray(bay, { minLength: 1, maxLength: 30 })
      .chain((bays) =>
        fc.tuple(
          fc.constant(bays),
          fc.integer({ min: 1, max: bays.length }),
          fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme' }),
        ),
      );
    fc.assert(
      fc.property(boxes, ([bays, cut, name]) => {
        const enclosures = [
          { name, bays: bays.slice(0, cut) },
          ...(cut < bays.length ? [{ name: `${name}2`, bays: bays.slice(cut) }] : []),
        ];
        expect(readEnclosures(enclosuresText(enclosures))).toEqual(enclosures);
      }),
    );
  });

  it.each([
    '',
    'Head',
    'Head=',
    '=1',
    'Head=1~',
    'Head=4~1',
    'Head=1~999999',
    'Head=1,1',
    'Head=1~4;Tail=4',
    'Head=1;Head=2',
    'Head=<b>',
    'Head@x=1',
  ])('takes nothing from %j', (text) => {
    expect(readEnclosures(text)).toBeNull();
  });
});
