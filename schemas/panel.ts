import type { FromSchema } from 'json-schema-to-ts';
import { bay, bytes, model, name, serial } from './words';

const object = { type: 'object', additionalProperties: false } as const;
const bayOnly = (what: 'fail' | 'sign' | 'pull' | 'rebuild') =>
  ({ ...object, required: ['do', 'bay'], properties: { do: { const: what }, bay } }) as const;
const partOnly = (what: 'enclosure' | 'supply' | 'fan') =>
  ({
    ...object,
    required: ['do', 'name', 'lost'],
    properties: { do: { const: what }, name, lost: { type: 'boolean' } },
  }) as const;

/** What can be done to a simulated unit, or befall it. */
export const FAULTS = [
  'none',
  'slow',
  'hang',
  'half',
  'error',
  'huge',
  'deep',
  'loop',
  'nonsense',
  'wrong-time',
  'restart',
  'certificate',
] as const;

/** One thing at the panel of the simulated units. */
export const panelSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'What is done to a simulated unit',
  type: 'object',
  required: ['do'],
  discriminator: { propertyName: 'do' },
  oneOf: [
    bayOnly('fail'),
    bayOnly('sign'),
    bayOnly('pull'),
    bayOnly('rebuild'),
    {
      ...object,
      required: ['do', 'bay', 'serial', 'bytes'],
      properties: { do: { const: 'insert' }, bay, serial, bytes, model },
    },
    {
      ...object,
      required: ['do', 'bay', 'on'],
      properties: { do: { const: 'light' }, bay, on: { type: 'boolean' } },
    },
    {
      ...object,
      required: ['do', 'pool', 'share'],
      properties: { do: { const: 'fill' }, pool: name, share: { type: 'number', minimum: 0, maximum: 1 } },
    },
    partOnly('enclosure'),
    partOnly('supply'),
    partOnly('fan'),
    { ...object, required: ['do', 'fault'], properties: { do: { const: 'fault' }, fault: { enum: FAULTS } } },
    {
      ...object,
      required: ['do', 'pace'],
      properties: {
        do: { const: 'pace' },
        pace: {
          type: 'number',
          minimum: 0,
          maximum: 604_800,
          description: 'Times as fast as real time, of all units.',
        },
      },
    },
  ],
} as const;

export type PanelDoing = FromSchema<typeof panelSchema>;
export type Fault = (typeof FAULTS)[number];
