import type { FromSchema } from 'json-schema-to-ts';
import { uuid } from './words';

/** In every ledger an act touched: that it does not count any more. */
export const takenBackSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['kind', 'act', 'reason'],
  properties: {
    kind: { const: 'taken-back' },
    act: uuid,
    reason: { type: 'string', minLength: 1, maxLength: 400, pattern: '\\S' },
  },
} as const;

export type TakenBack = FromSchema<typeof takenBackSchema>;
