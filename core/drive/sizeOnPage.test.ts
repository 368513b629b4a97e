import { isRefusal } from '../value/refusal';
import { shownAmount, shownAmounts } from '../quantity/shownAmount';
import { labelBytes } from './labelBytes';
import { sizeOnPage } from './sizeOnPage';

const PRINTS_TB = { counts: 'TiB', prints: 'TB' } as const;
const DECIMAL = { counts: 'TB', prints: 'TB' } as const;
const read = (text: string, page?: typeof PRINTS_TB | typeof DECIMAL) => {
  const size = sizeOnPage(text, page);
  return isRefusal(size) ? size.code : [size.bytes, size.basis];
};

describe('sizeOnPage', () => {
  // 8 TB by IDEMA LBA1-03 are 15,628,053,168 sectors, 7.2776 TiB; taken at its word 7.28 TiB would be 2.9 GB more.
  it('takes the one size sold that a page would show so', () => {
    const eight = [15_628_053_168 * 512, 'label'];
    for (const text of ['7.28 TiB', '7,3 TiB', '7.3 TB', '7452 GiB', '8 TB'])
      expect([text, read(text, PRINTS_TB)]).toEqual([text, eight]);
    expect(read('16.37 TiB')).toEqual([labelBytes(18_000), 'label']);
    expect(read('223.6 GiB')).toEqual([labelBytes(240), 'label']);
    // Three digits behind a point are no group where that would be larger than any drive.
    expect(read('931.513 GiB')).toEqual([labelBytes(1000), 'label']);
  });

  it('leaves what fits none, or more than one, and what is exact', () => {
    expect(read('5.1 TiB')).toEqual([Math.floor(5.1 * 2 ** 40), 'binary']);
    // 960 GB and 1 TB both show 0.9 TiB.
    expect(read('0.9 TiB')).toEqual([Math.floor(0.9 * 2 ** 40), 'binary']);
    expect(read('7.3 TB', DECIMAL)).toEqual([labelBytes(7300), 'label']);
    expect(read('8001563222016')).toEqual([8_001_563_222_016, 'exact']);
    expect(read('much')).toBe('size-unreadable');
  });
});

it('never takes a drive for more than it is, at two decimals, whichever is sold', () => {
  // Decimal sizes of drives, independent of the list the code has.
  for (const terabytes of [
    1, 2, 3, 4, 5, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30, 32, 36, 40, 61.44, 122.88,
  ]) {
    const bytes = labelBytes(terabytes * 1000);
    for (const text of [
      `${(bytes / 2 ** 40).toFixed(2)} TiB`,
      `${(bytes / 2 ** 40).toFixed(2)} TB`,
      `${(bytes / 2 ** 30).toFixed(0)} GiB`,
    ])
      expect([text, read(text, PRINTS_TB)]).toEqual([text, [bytes, 'label']]);
  }
});

it('reads an amount of space by what the page counts in, not as a drive', () => {
  expect(shownAmount('12 TB', DECIMAL)).toBe(12e12);
  expect(shownAmount('12 TB', PRINTS_TB)).toBe(12 * 2 ** 40);
  expect(shownAmount(' 21,5 TiB', DECIMAL)).toBe(21.5 * 2 ** 40);
  expect(shownAmount('0 GB', DECIMAL)).toBe(0);
  for (const text of ['12', 'TB', '-1 TB', '1.2.3 TB', '10000 PB'])
    expect([text, isRefusal(shownAmount(text, DECIMAL))]).toEqual([text, true]);
});

it('asks where three digits behind the only separator can be a group or a fraction, and takes the one that can be', () => {
  const GIB = 2 ** 30;
  const code = (text: string, most?: number) => {
    const read = shownAmount(text, PRINTS_TB, most);
    return isRefusal(read) ? read.code : read;
  };
  expect(shownAmount('21,480 GiB', DECIMAL)).toMatchObject({
    code: 'size-either',
    sentence:
      '"21,480 GiB" can be 21480 GiB or 21.48 GiB. Write it without the groups of three: "21480 GiB", or with one or two digits behind the point.',
  });
  // A pool of 30 TB may use either; one of 8 TB only the smaller. Both written unmistakably are what they say.
  expect([code('21,480 GiB', 30e12), code('21,480 GiB', 8e12)]).toEqual(['size-either', Math.floor(21.48 * GIB)]);
  expect([code('21480 GiB'), code('21 480 GiB'), code('21,480.5 GiB'), code('1,021,480 GiB')]).toEqual([
    21_480 * GIB,
    21_480 * GIB,
    21_480.5 * GIB,
    1_021_480 * GIB,
  ]);
  // More than is counted to the byte is no reading of it; and nothing is the same either way.
  expect([code('21.480 TiB'), code('0.000 TiB')]).toEqual([Math.floor(21.48 * 2 ** 40), 0]);
  expect(shownAmounts('1.920 TB', DECIMAL)).toEqual([1.92e12, 1920e12]);
});
