import type { FromSchema } from 'json-schema-to-ts';
import { moment, name } from './words';

/**
 * How soon somebody has to know. `margin`: less may fail than before, or data is in danger: at once, at night too. `sign`:
 * something to look at within the day. `care`: what can wait for its turn.
 */
export const SEVERITIES = ['margin', 'sign', 'care'] as const;
/** By which way somebody is told. */
export const CHANNELS = ['mail', 'webhook'] as const;
/** How a mail server is spoken to. */
export const SECURITIES = ['tls', 'starttls', 'none'] as const;

const object = { type: 'object', additionalProperties: false } as const;
const clock = {
  type: 'string',
  pattern: '^([01]\\d|2[0-3]):[0-5]\\d$',
  description: 'A time of day, as 22:30.',
} as const;
const address = { type: 'string', minLength: 1, maxLength: 500, pattern: '^https?://[^\\s]+$' } as const;

const when = {
  sites: {
    type: 'array',
    maxItems: 100,
    uniqueItems: true,
    items: name,
    description: 'Only what is at these sites; none means all.',
  },
  least: { enum: SEVERITIES, description: 'The least that is told.' },
  quiet: {
    oneOf: [
      { type: 'null' },
      {
        ...object,
        required: ['from', 'to', 'zone'],
        properties: { from: clock, to: clock, zone: { type: 'string', minLength: 1, maxLength: 60 } },
      },
    ],
    description: 'Hours in which only what lowers a margin is told; the rest is told after them.',
  },
  repeatHours: {
    type: ['integer', 'null'],
    minimum: 1,
    maximum: 720,
    description: 'What nobody has seen is told again after so many hours.',
  },
  isOn: { type: 'boolean' },
} as const;

/** Somebody to be told. */
export const newTellRuleSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Who is told of what',
  ...object,
  required: ['channel', 'least'],
  properties: {
    channel: { enum: CHANNELS },
    person: { type: 'string', minLength: 1, maxLength: 60, description: 'Whose mail; left out, one’s own.' },
    address: { ...address, description: 'Where a webhook is posted to.' },
    ...when,
  },
} as const;
export type NewTellRule = FromSchema<typeof newTellRuleSchema>;

export const tellRuleSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'What somebody is told of',
  ...object,
  required: ['sites', 'least', 'quiet', 'repeatHours', 'isOn'],
  properties: when,
} as const;

export const mailServerSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'The mail server messages go out by',
  ...object,
  required: ['host', 'port', 'security', 'sender'],
  properties: {
    host: { type: 'string', maxLength: 253, pattern: '^[A-Za-z0-9.:_-]+$' },
    port: { type: 'integer', minimum: 1, maximum: 65535 },
    security: { enum: SECURITIES },
    user: { type: 'string', maxLength: 254 },
    password: {
      type: 'string',
      maxLength: 500,
      description: 'Left out, the one that is kept stays, at the same server.',
    },
    sender: { type: 'string', format: 'email', maxLength: 254 },
  },
} as const;
export type NewMailServer = FromSchema<typeof mailServerSchema>;

export const heartbeatSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Whom the watch tells every minute that it is alive',
  ...object,
  required: ['address'],
  properties: { address: { oneOf: [{ type: 'null' }, address] } },
} as const;

export const seenSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Seen, as it was',
  ...object,
  required: ['changedAt'],
  properties: {
    changedAt: { ...moment, description: 'The changedAt it was shown with: one that got worse since is not seen.' },
  },
} as const;
