import fc from 'fast-check';
import { causesOf } from './causes';
import type { NeedCode, NeedForHands } from './need';

const need = (unit: string, code: NeedCode, urgency: number): NeedForHands => ({
  kind: 'need-for-hands',
  unit,
  code,
  urgency,
  title: `${unit} ${code}`,
  reason: 'r',
  from: '',
});

describe('causesOf', () => {
  it('makes one row of what one pair of hands settles at one unit, by the most urgent of it', () => {
    const lost = [
      need('A', 'member-failed', 10),
      need('A', 'data-lost', 0),
      need('A', 'member-failed', 11),
      need('A', 'no-copy', 20),
      need('B', 'member-failed', 5),
    ];
    expect(causesOf(lost).map(({ unit, first, others }) => [unit, first.code, others.length])).toEqual([
      ['A', 'data-lost', 2],
      ['B', 'member-failed', 0],
      ['A', 'no-copy', 0],
    ]);
  });

  it('leaves nothing out and says nothing twice, in the order of urgency', () => {
    const codes = fc.constantFrom<NeedCode>(
      'data-lost',
      'member-failed',
      'no-copy',
      'near-full',
      'drive-old',
      'alarm-mail',
      'sign-open',
    );
    const any = fc.array(fc.tuple(fc.constantFrom('A', 'B', 'C'), codes, fc.integer({ min: 0, max: 50 })), {
      maxLength: 30,
    });
    fc.assert(
      fc.property(any, (of) => {
        const needs = of.map(([unit, code, urgency]) => need(unit, code, urgency));
        const causes = causesOf(needs);
        const all = causes.flatMap(({ first, others }) => [first, ...others]);
        expect([...all].sort((a, b) => needs.indexOf(a) - needs.indexOf(b))).toEqual(needs);
        const urgencies = causes.map(({ first }) => first.urgency);
        expect(urgencies).toEqual([...urgencies].sort((a, b) => a - b));
      }),
    );
  });
});
