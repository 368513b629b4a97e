import fc from 'fast-check';
import { isRefusal } from '../value/refusal';
import { keyed } from './keyed';
import { isSameSerial, printedSerial, readKey, serialKey } from './serial';
import { whichSerial } from './whichSerial';

describe('what a drive goes by', () => {
  it.each<[string, string]>([
    ['abc-1234', 'ABC-1234'],
    ['  ABC-1234\t', 'ABC-1234'],
    ['ABC\u200b-12\u00ad34\ufeff', 'ABC-1234'],
    ['\u0001ABC-1234\u007f', 'ABC-1234'],
    ['ＡＢＣ－１２３４', 'ABC-1234'],
    ['e\u0301', 'É'],
    ['\u3164X\u2800', 'X'],
    ['A B', 'A B'],
    ['ABC-\n1234', 'ABC-1234'],
    ['stra\u00dfe', 'STRASSE'],
  ])('%j is %s', (typed, key) => {
    expect(serialKey(typed)).toBe(key);
    expect(isSameSerial(typed, key)).toBe(true);
  });

  it('is the same however often it is asked, and has nothing unseen in it (property)', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 64 }), (text) => {
        const key = serialKey(text);
        expect(serialKey(key)).toBe(key);
        expect(serialKey(printedSerial(text))).toBe(key);
        expect(key).not.toMatch(/[\p{Cc}\p{Cf}]|^\s|\s$/u);
      }),
      { numRuns: 2000 },
    );
  });

  it('is refused where nothing can be seen, or where it is too long', () => {
    for (const blank of ['', '   ', '\u200b\u200d', '\u3164', '\u2800'])
      expect(readKey(blank, '/serial')).toMatchObject({ code: 'serial-blank', pointer: '/serial' });
    expect(readKey('x'.repeat(65))).toMatchObject({ code: 'serial-too-long' });
    // One character that is eighteen when it is normalised.
    expect(readKey('\ufdfa'.repeat(4))).toMatchObject({ code: 'serial-too-long' });
  });
});

describe('which drive is meant', () => {
  const among = ['QH8-04422-4KH2', 'QH8-04422-4KH9', 'QH8-04417-77PX', 'X 12 34'];
  it.each<[string, string | null]>([
    ['qh8-04422-4kh2', 'QH8-04422-4KH2'],
    ['4kh9', 'QH8-04422-4KH9'],
    ['77 px', 'QH8-04417-77PX'],
    ['QH8 -04417- 77PX', 'QH8-04417-77PX'],
    ['x1234', 'X 12 34'],
    ['kh2', null],
    ['', null],
    ['other', null],
  ])('%j is %s', (typed, meant) => expect(whichSerial(typed, among)).toBe(meant));

  it('is nobody where two end alike, unless one is typed whole', () => {
    const twins = ['A-5555', 'B-5555', '5555'];
    expect(whichSerial('5555', twins.slice(0, 2))).toBeNull();
    expect(whichSerial('5555', twins)).toBe('5555');
  });
});

describe('what comes from outside', () => {
  it('names every drive by its key, and keeps what is printed beside', () => {
    const event = {
      kind: 'drive-inserted',
      bay: 'a',
      drive: { serial: ' abc-1 ', bytes: 1, printed: 'made up' },
      details: { serial: 'unit-serial' },
      bands: [{ members: ['m1', 'M2'] }],
      spares: ['s1'],
      count: { spares: 2 },
      replaces: 'old',
    };
    expect(keyed(event)).toEqual({
      ...event,
      drive: { serial: 'ABC-1', bytes: 1, printed: 'abc-1' },
      bands: [{ members: ['M1', 'M2'] }],
      spares: ['S1'],
      replaces: 'OLD',
    });
    expect(keyed({ serial: 'ABC-1', bytes: 1, printed: 'aBc-1' })).toEqual({
      serial: 'ABC-1',
      bytes: 1,
      printed: 'aBc-1',
    });
    expect(keyed(keyed(event))).toEqual(keyed(event));
  });

  it('says where a serial is none', () => {
    const wrong = keyed({ bands: [{ members: ['ok', '\u200b'] }] }, '/event');
    expect(isRefusal(wrong) && wrong.pointer).toBe('/event/bands/0/members/1');
  });
});
