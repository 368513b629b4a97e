import { describe, expect, it } from '@jest/globals';
import { type CommissionValues, drivesTyped, layoutTyped, wishOf } from './commissionValues';

const row = (bay: string, size: string, serial = '', model = '') => ({ bay, size, serial, model });
const VALUES: CommissionValues = {
  all: '',
  rows: [row('1', '8 TB', ' A-1 '), row('2', '8 TB'), row('3', '')],
  layout: 'mirror',
  spares: '0',
  name: '  ',
  fileSystem: '',
  copy: '',
  copyOver: 'ethernet-1',
  idle: [],
};

describe('commissionValues', () => {
  it('takes the bays that have a size, and says at its field what cannot be read', () => {
    const { drives, faults } = drivesTyped([...VALUES.rows, row('4', 'eight'), row('5', '', 'B-2')]);
    expect(drives.map(({ bay, serial }) => [bay, serial])).toEqual([
      ['1', 'A-1'],
      ['2', undefined],
    ]);
    expect(Object.keys(faults)).toEqual(['rows.3.size', 'rows.4.size']);
  });

  it('reads a layout with the width of its groups', () => {
    expect(layoutTyped('parity-1-groups:3')).toEqual({ scheme: 'parity-1-groups', groupWidth: 3 });
    expect(layoutTyped('mirror')).toEqual({ scheme: 'mirror' });
    expect(layoutTyped('')).toBeNull();
  });

  it('wishes for a pool where there are drives, under a name, and for what is copied in', () => {
    const { wish, faults } = wishOf({ ...VALUES, copy: '2 TB' }, 'mirror', 2);
    expect(faults).toEqual({});
    expect(wish).toMatchObject({
      pool: { name: 'Pool 1', scheme: 'mirror', spares: 0 },
      copyBytes: 2e12,
      copyOver: 'ethernet-1',
    });
    expect(wishOf(VALUES, 'mirror', 0).wish.pool).toBeUndefined();
    expect(Object.keys(wishOf({ ...VALUES, copy: 'much' }, 'mirror', 2).faults)).toEqual(['copy']);
  });
});
