import { marginAhead } from './marginAhead';

const swap = (month: number, thinHours: number) => ({ month, marginAfter: 1, risk: { thinHours } });

describe('marginAhead', () => {
  it('dips by one for the hours in which drives are written, and stands as before after', () => {
    expect(marginAhead(1, [swap(0, 9), swap(0, 11), swap(24, 12)])).toEqual([
      { month: 0, least: 0, thinHours: 20, after: 1 },
      { month: 24, least: 0, thinHours: 12, after: 1 },
    ]);
  });

  it('does not dip where the old drive stays in, or where drives are only added', () => {
    expect(
      marginAhead(1, [swap(0, 0), { month: 12, marginAfter: 1 }]).map(({ least, after }) => [least, after]),
    ).toEqual([
      [1, 1],
      [1, 1],
    ]);
  });

  it('rises for good with another level, and a swap after it leaves what it left before', () => {
    const steps = [
      { month: 0, marginAfter: 2 },
      { month: 0, marginAfter: 2, risk: { thinHours: 8 } },
      { month: 12, marginAfter: 2, risk: { thinHours: 9 } },
    ];
    expect(marginAhead(1, steps)).toEqual([
      { month: 0, least: 1, thinHours: 8, after: 2 },
      { month: 12, least: 1, thinHours: 9, after: 2 },
    ]);
  });
});
