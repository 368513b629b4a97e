import type { FromSchema } from 'json-schema-to-ts';
import { bay, CONTROLS } from './words';

const object = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  type: 'object',
  additionalProperties: false,
} as const;

/** Where and how often a unit is asked how it is. */
export const watchSchema = {
  ...object,
  title: 'Watch a unit',
  required: ['address', 'user'],
  properties: {
    address: {
      type: 'string',
      minLength: 8,
      maxLength: 300,
      pattern: '^https?://[^\\s@#?]+$',
      description:
        'https://10.0.0.7, with its port and its folder where it has one; a name or a number of your own network.',
    },
    user: { type: 'string', minLength: 1, maxLength: 100, pattern: `^[^:${CONTROLS}]+$` },
    password: {
      type: 'string',
      minLength: 1,
      maxLength: 200,
      pattern: `^[^${CONTROLS}]+$`,
      description: 'Kept sealed and never shown again; left out, the one that is kept goes on, at the same address.',
    },
    everySeconds: { type: 'integer', minimum: 10, maximum: 86_400 },
    isOn: { type: 'boolean' },
  },
} as const;

export const fingerprintSchema = {
  ...object,
  title: 'Accept a certificate',
  required: ['fingerprint'],
  properties: { fingerprint: { type: 'string', pattern: '^[0-9A-F]{2}(:[0-9A-F]{2}){31}$' } },
} as const;

export const lightSchema = {
  ...object,
  title: 'A locate light',
  required: ['bay', 'on'],
  properties: { bay, on: { type: 'boolean' } },
} as const;

export const networksSchema = {
  ...object,
  title: 'Networks in which units may be asked',
  required: ['networks'],
  properties: {
    networks: {
      type: 'array',
      maxItems: 50,
      items: { type: 'string', minLength: 3, maxLength: 60, description: '203.0.113.0/24 or 2001:db8::/48.' },
    },
  },
} as const;

export type WatchWish = FromSchema<typeof watchSchema>;
