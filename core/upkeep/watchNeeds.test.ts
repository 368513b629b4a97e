import { unitsPlayed } from '../../standin/units';
import { apply } from '../unit/apply';
import type { UnitState } from '../unit/state';
import { watchNeeds } from './watchNeeds';

const [HERON] = unitsPlayed(1, 1, Date.parse('2026-11-29T12:00:00Z'), process.cwd()).map(({ unit }) => unit) as [
  UnitState,
];
const gone = (bay: string) => ({ code: 'gone' as const, bay, sentence: `The unit has bay ${bay} empty.` });
const codes = (state: UnitState, doubtful: ReturnType<typeof gone>[], more = {}) =>
  watchNeeds({ id: 'heron', state, used: {}, watch: { doubtful, ...more } }).map(
    ({ code, reason }) => `${code}: ${reason}`,
  );

it('says nothing of a unit nobody asks, or with nothing to say', () => {
  expect(watchNeeds({ id: 'heron', state: HERON, used: {} })).toEqual([]);
  expect(codes(HERON, [])).toEqual([]);
});

it('tells what waits for a person, and that a unit is silent', () => {
  expect(codes(HERON, [gone('1'), gone('3')])).toEqual([
    'unit-says-otherwise: The unit has bay 1 empty. And 1 more. Look at it, then settle which of the two is right.',
  ]);
  expect(codes(HERON, [], { silentSince: '2026-11-29T10:00:00Z', why: 'It is off.' })[0]).toMatch(
    /^watch-silent: Since 2026-11-29\. It is off\./,
  );
});

it('expects nothing of a unit that is off or being emptied, by what is on record', () => {
  const off = apply(HERON, { kind: 'power', on: false }, '2026-11-29T12:00:00Z') as UnitState;
  expect(codes(off, [gone('3')], { silentSince: '2026-11-29T10:00:00Z' })).toEqual([]);
});

it('leaves to a plan what the plan moves, and tells of a drive that no plan takes out', () => {
  const planned = apply(
    HERON,
    {
      kind: 'plan-began',
      plan: 'b7b0b0a4-0000-4000-8000-000000000001',
      job: 'replace',
      title: 'Replace bay 2',
      of: 9,
      serials: ['QH8-04417-77PX'],
    },
    '2026-11-29T12:00:00Z',
  ) as UnitState;
  expect(codes(planned, [gone('2')])).toEqual([]);
  expect(codes(planned, [gone('2'), gone('3')])).toEqual([expect.stringContaining('The unit has bay 3 empty.')]);
});
