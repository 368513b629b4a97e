import { byField } from './faultsOf';

const POINTERS = {
  name: '/name',
  site: '/place/site',
  pool: '/pool',
  members: '/pools/0',
  'pools.0.scheme': '/pools/0/scheme',
};

it.each([
  ['a fault of the value itself', '#/name', 'must not be empty.', { name: 'must not be empty.' }],
  ['one further in', '#/place/site', 'is required.', { site: 'is required.' }],
  ['one below what a field is', '#/pool/groupWidth', 'must be >= 2.', { pool: 'must be >= 2.' }],
  ['the field that is nearest above', '#/pools/0/scheme', 'is required.', { 'pools.0.scheme': 'is required.' }],
  [
    'the field of the whole, where there is none for the part',
    '#/pools/0/groupWidth',
    'is required.',
    { members: 'is required.' },
  ],
  ['no field at all', '#/enclosures/0/bays', 'must be <= 1000.', { root: 'enclosures › 0 › bays must be <= 1000.' }],
  ['not a field that only begins alike', '#/pools', 'is required.', { root: 'pools is required.' }],
])('puts %s where it belongs', (_what, pointer, detail, found) => {
  expect(byField([{ pointer, detail }], POINTERS)).toEqual(found);
});

it('says of a field what was found first, and of the rest the first', () => {
  expect(
    byField(
      [
        { pointer: '#/name', detail: 'one' },
        { pointer: '#/name', detail: 'two' },
        { pointer: '#/x', detail: 'three' },
        { pointer: '#/y', detail: 'four' },
      ],
      POINTERS,
    ),
  ).toEqual({ name: 'one', root: 'x three' });
});
