import { expect, it } from '@jest/globals';
import { byField } from './faultsOf';

it('puts a fault at the field whose value stands there or nearest above, the first of each, and the rest on the form', () => {
  const fields = { name: '/name', drives: '/drives', first: '/drives/0/size' };
  expect(
    byField(
      [
        { pointer: '#/name', detail: 'is too long' },
        { pointer: '#/name', detail: 'is taken' },
        { pointer: '#/drives/0/size/bytes', detail: 'is below 0' },
        { pointer: '#/drives/1/size', detail: 'is missing' },
        { pointer: '#/drivesMore', detail: 'is not known' },
        { pointer: '#/place/site', detail: 'is missing' },
      ],
      fields,
    ),
  ).toEqual({
    name: 'is too long',
    first: 'is below 0',
    drives: 'is missing',
    root: 'drivesMore is not known',
  });
});
