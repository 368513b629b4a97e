import { isBytes, MOST_BYTES, TB, TIB } from './bytes';
import { compareBays } from './bayOrder';
import { formatBytes, formatExactBytes, inTiB } from './formatBytes';
import { formatCount } from './formatCount';
import { formatPercent, wholePercent } from './formatPercent';
import { onUnitPage } from './onUnitPage';
import { parseNumber } from './parseNumber';

describe('bytes', () => {
  it('counts TB in thousands and TiB in 1024s (IEC 80000-13)', () => {
    expect(TIB).toBe(1_099_511_627_776);
    // Published ratio: 1 TB = 0.909 TiB.
    expect(TB / TIB).toBeCloseTo(0.9095, 4);
  });

  it('takes whole bytes up to 9 PB and nothing else', () => {
    expect(MOST_BYTES).toBeLessThan(Number.MAX_SAFE_INTEGER);
    expect([0, 1, MOST_BYTES].every(isBytes)).toBe(true);
    expect([-1, 0.5, MOST_BYTES + 1, NaN, Infinity, '1', null].some(isBytes)).toBe(false);
  });
});

describe('formatBytes', () => {
  it.each([
    [12_000_138_625_024, 'decimal', '12 TB'],
    [12_000_138_625_024, 'binary', '10.9 TiB'],
    [250_059_350_016, 'decimal', '250.1 GB'],
    [0, 'decimal', '0 B'],
    [999, 'binary', '999 B'],
    [9e15, 'decimal', '9 PB'],
    // What rounds up to a whole one of the next unit is one.
    [999_999_999_999, 'decimal', '1 TB'],
    [2 ** 40 - 1, 'binary', '1 TiB'],
    [999_000_000_000, 'decimal', '999 GB'],
    [164_107, 'decimal', '164.1 kB'],
    [512, 'decimal', '512 B'],
    [999_999, 'decimal', '1 MB'],
    [2048, 'binary', '2 KiB'],
  ] as const)('%d %s reads %s', (bytes, system, text) => expect(formatBytes(bytes, system)).toBe(text));

  it('groups exact bytes by three', () => {
    expect(formatExactBytes(12_000_138_625_024).replaceAll('\u202f', ' ')).toBe('12 000 138 625 024');
    expect(inTiB(28e12)).toBe('25.47');
  });
});

describe('formatCount and formatPercent', () => {
  it('group by three and keep two figures', () => {
    expect([0, 999, 1000, 14000, 1234567].map(formatCount)).toEqual(['0', '999', '1,000', '14,000', '1,234,567']);
    expect([0, 0.00013, 0.092, 0.617, 0.9999, 1].map(formatPercent)).toEqual([
      '0 %',
      '0.013 %',
      '9.2 %',
      '62 %',
      'over 99 %',
      '100 %',
    ]);
    expect([1e-10, 2.5e-9, 1e-7].map(formatPercent)).toEqual(['1 in 10,000,000,000', '1 in 400,000,000', '0.00001 %']);
    expect([0.799, 0.8, 1].map(wholePercent)).toEqual([79, 80, 100]);
  });
});

describe('parseNumber', () => {
  it.each([
    ['12', 12],
    ['11.2', 11.2],
    ['11,2', 11.2],
    ['1.234,5', 1234.5],
    ['1,234.5', 1234.5],
    ['1 234,5', 1234.5],
    ["12'000'138'625'024", 12_000_138_625_024],
    ['12,000,138,625,024', 12_000_138_625_024],
    ['-3', -3],
  ])('%s is %d', (text, number) => expect(parseNumber(text, 'decimal')).toBe(number));

  it('reads the one ambiguous form as it is told', () => {
    expect(parseNumber('1.920', 'grouped')).toBe(1920);
    expect(parseNumber('1,920', 'decimal')).toBe(1.92);
  });

  it.each(['', 'x', '1.2.3', '1,23,456', '1..2', '12.', '1e5', '--1', '=1+1', '1,2.3,4'])('%p is no number', (text) =>
    expect(parseNumber(text, 'grouped')).toBeNull(),
  );
});

describe('compareBays', () => {
  it('counts as a person does', () => {
    expect(['10', '9', 'ext2-1', 'ext1-12', 'ext1-2', '1'].sort(compareBays)).toEqual([
      '1',
      '9',
      '10',
      'ext1-2',
      'ext1-12',
      'ext2-1',
    ]);
    expect(compareBays('3', '3')).toBe(0);
  });
});

describe('onUnitPage', () => {
  // Worked by hand: 995 242 225 664 bytes are 926.89 GiB, and a page that counts so and prints thousands writes "926.89 GB".
  it.each([
    [{ counts: 'TiB', prints: 'TB' }, '926.89 GB, and means GiB'],
    [{ counts: 'TiB', prints: 'TiB' }, '926.89 GiB'],
    [{ counts: 'TB', prints: 'TB' }, '995.24 GB'],
  ] as const)('writes a size as a page does that counts and prints %j', (page, words) => {
    expect(onUnitPage(995_242_225_664, page)).toBe(words);
  });
});
