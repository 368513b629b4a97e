import { Ajv2020 } from 'ajv/dist/2020.js';
import { tidySchema, type Schema } from './tidySchema';

/** As types are read: a part by reference, a brand on a text, two types at once, an object of which nothing is said. */
const long = Object.fromEntries(Array.from({ length: 8 }, (_, i) => [`field${String(i)}`, { type: 'number' }]));
const made: Schema = {
  type: 'object',
  properties: {
    one: { $ref: '#/definitions/Wide' },
    two: {
      type: 'object',
      properties: { wide: { $ref: '#/definitions/%7Bthe%20whole%20text%7D' } },
      required: ['wide'],
    },
    key: { allOf: [{ type: 'object', properties: {} }, { type: 'string' }] },
    both: {
      allOf: [
        { type: 'object', properties: { a: { type: 'number' } }, required: ['a'] },
        { type: 'object', properties: { b: { type: 'number' } } },
      ],
    },
    anything: { type: 'object', properties: {}, additionalProperties: true },
    byName: { type: 'object', additionalProperties: { type: 'number' } },
    flag: { type: 'boolean', default: true },
  },
  definitions: { Wide: { type: 'object', properties: long }, '{the whole text}': { type: 'object', properties: long } },
};

describe('a schema read off types, tidied', () => {
  const { answers, definitions } = tidySchema(made);
  const holds = (name: string, value: unknown): boolean =>
    new Ajv2020({ strict: false }).compile({ ...(answers[name] as object), components: { schemas: definitions } })(
      value,
    );

  it('writes a part that occurs twice once, under the name of its type', () => {
    expect(answers['one']).toEqual({ $ref: '#/components/schemas/Wide' });
    expect(answers['two']).toMatchObject({ properties: { wide: { $ref: '#/components/schemas/Wide' } } });
    expect(Object.keys(definitions)).toEqual(['Wide']);
  });

  it('lets nothing stand in an answer that is not said, and anything where nothing is said', () => {
    expect([holds('one', { field0: 1 }), holds('one', { field0: 1, more: 1 }), holds('two', {})]).toEqual([
      true,
      false,
      false,
    ]);
    expect([holds('anything', { more: 1 }), holds('byName', { more: 1 }), holds('byName', { more: 'x' })]).toEqual([
      true,
      true,
      false,
    ]);
  });

  it('takes a text with a brand for a text, and two types at once for the fields of both', () => {
    expect([holds('key', 'ABC-1'), holds('key', {})]).toEqual([true, false]);
    expect([holds('both', { a: 1, b: 2 }), holds('both', { b: 2 }), holds('both', { a: 1, c: 2 })]).toEqual([
      true,
      false,
      false,
    ]);
  });

  it('keeps no initial values', () => {
    expect(answers['flag']).toEqual({ type: 'boolean' });
  });
});
