import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { alikeAmong, editsBetween, likenessOf, misreadAmong } from './alike';

/** Every text one edit away, by making them: shares nothing with the table that counts edits. */
function oneEditAway(text: string, letters: string): Set<string> {
  const all = new Set<string>();
  for (let i = 0; i <= text.length; i++) {
    for (const letter of letters) {
      all.add(text.slice(0, i) + letter + text.slice(i));
      if (i < text.length) all.add(text.slice(0, i) + letter + text.slice(i + 1));
    }
    if (i < text.length) all.add(text.slice(0, i) + text.slice(i + 1));
    if (i + 1 < text.length) all.add(text.slice(0, i) + text.charAt(i + 1) + text.charAt(i) + text.slice(i + 2));
  }
  all.delete(text);
  return all;
}

describe('how near two serials are', () => {
  it('counts edits as Levenshtein (1966) and Damerau (1964) do', () => {
    expect(editsBetween('KITTEN', 'SITTING')).toBe(3);
    // The examples by which optimal alignment is told from the unrestricted distance, where this is 2.
    expect(editsBetween('CA', 'ABC')).toBe(3);
    expect(editsBetween('AB', 'BA')).toBe(1);
    expect(editsBetween('', 'AB')).toBe(2);
  });

  it('agrees with all texts that can be made by one edit', () => {
    const text = fc.string({ unit: fc.constantFrom('A', 'B', '1'), minLength: 0, maxLength: 5 });
    fc.assert(
      fc.property(text, text, (a, b) => {
        const distance = a === b ? 0 : oneEditAway(a, 'AB1').has(b) ? 1 : 2;
        expect(Math.min(2, editsBetween(a, b))).toBe(distance);
        expect(editsBetween(a, b)).toBe(editsBetween(b, a));
      }),
      { seed: 32, numRuns: 400 },
    );
  });

  it.each([
    ['VDT-4B0071', 'VDT-480071', 'misread'],
    ['VDT-4B0O71', 'VDT-4B0071', 'misread'],
    ['VDT-4B0071', 'VDT-4B0017', 'near'],
    ['VDT-4B0071', 'VDT-4B071', 'near'],
    ['VDT-4B0071', 'VDT-4B0K7X', 'near'],
    ['VDT-4B0071', 'QQX-990071', 'ending'],
    ['VDT-4B0071', 'vdt-4b 0071', null],
    ['VDT-4B0071', 'QQX-99123X', null],
    // Of five characters one may differ, of four none: they are half of what there is.
    ['A1234', 'A1235', 'near'],
    ['A124', 'A125', null],
  ] as const)('takes %s and %s for: %s', (a, b, likeness) => {
    expect(likenessOf(a, b)).toBe(likeness);
  });

  it('asks about a single one that is near, and not about a lot whose serials follow one another', () => {
    expect(alikeAmong('HV90012', ['HV90013', 'ZZ11111'])).toEqual(['HV90013']);
    expect(alikeAmong('HV90012', ['HV90013', 'HV90014'])).toEqual([]);
    // What looks the same is asked about in any lot.
    expect(alikeAmong('HV9O012', ['HV90012', 'HV90013', 'HV90014'])).toEqual(['HV90012']);
    expect(misreadAmong('HV9O012', ['HV90012', 'HV90013'])).toEqual(['HV90012']);
  });
});
