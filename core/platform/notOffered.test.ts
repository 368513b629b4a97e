import { describe, expect, it } from '@jest/globals';
import { notOffered } from './notOffered';
import type { Profile } from './profile';

const family = (bays: Partial<Profile['bays']>): Pick<Profile, 'name' | 'bays'> => ({
  name: 'Reed',
  bays: { choices: [2, 4, 8], kinds: ['3.5-inch'], trays: 'upright', ...bays },
});

describe('what another family does not come with is said, and kept', () => {
  it('says nothing of what fits', () => {
    expect(notOffered(family({ largestDriveBytes: 12e12 }), [4], [12e12])).toEqual([]);
    expect(notOffered(family({ perEnclosure: 16 }), [16, 16, 12], [])).toEqual([]);
  });

  it('names bays, boxes and drives', () => {
    expect(notOffered(family({}), [6], [])).toEqual(['Reed comes with 2, 4 or 8 bays: 6 are kept as they are.']);
    expect(notOffered(family({}), [4, 4], [])).toEqual(['Reed takes no extension: 2 boxes are kept as they are.']);
    expect(notOffered(family({ perEnclosure: 12 }), [16], [])).toEqual([
      'A box of Reed has 12 bays: larger ones are kept as they are.',
    ]);
    expect(notOffered(family({ largestDriveBytes: 6e12 }), [4], [4e12, 8e12, 8e12])).toEqual([
      'Reed takes drives of up to 6 TB: 2 are larger.',
    ]);
  });
});
