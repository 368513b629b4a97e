import type { FromSchema } from 'json-schema-to-ts';
import { uuid } from './words';

const object = { type: 'object', additionalProperties: false } as const;

/** As long as mail servers pass on; what is longer than 25 MB is kept as one that could not be read. */
export const MOST_LETTER_CHARACTERS = 30_000_000;

export const newLetterSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'A mail of a unit, or a mailbox file',
  ...object,
  required: ['text'],
  properties: {
    text: {
      type: 'string',
      minLength: 1,
      maxLength: MOST_LETTER_CHARACTERS,
      description: 'With its head, as it came (RFC 5322); or a whole mailbox file (RFC 4155).',
    },
  },
} as const;
export type NewLetterText = FromSchema<typeof newLetterSchema>;

export const letterAboutSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Which unit a mail is about',
  ...object,
  required: ['unit'],
  properties: { unit: { oneOf: [uuid, { type: 'null' }] } },
} as const;
