import type { FromSchema } from 'json-schema-to-ts';
import { PAGE_SAYS, PAGE_SAYS_AFTER_WRONG, overrideSchema, planSchema, stepEvidenceSchema } from './plan';
import { takenBackSchema } from './takenBack';
import { id, note, planEnd, serial, uuid } from './words';

const object = { type: 'object', additionalProperties: false } as const;
const words = { ...note, minLength: 1, pattern: '\\S' } as const;

/** Everything that stands in a plan's ledger. Only the model makes it, from what a person asks for. */
export const planEventSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'patient-shelf:plan-event',
  title: 'Plan event',
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
    {
      ...object,
      required: ['kind', 'units', 'body'],
      properties: {
        kind: { const: 'plan-started' },
        units: {
          type: 'array',
          minItems: 1,
          maxItems: 2,
          uniqueItems: true,
          items: uuid,
          description: 'The units it acts on.',
        },
        body: planSchema,
      },
    },
    {
      ...object,
      required: ['kind', 'step', 'evidence'],
      properties: { kind: { const: 'step-done' }, step: id, evidence: stepEvidenceSchema, override: overrideSchema },
    },
    {
      ...object,
      required: ['kind', 'step', 'codes', 'sentence'],
      properties: {
        kind: { const: 'step-refused' },
        step: id,
        codes: { type: 'array', minItems: 1, maxItems: 100, items: { type: 'string', maxLength: 40 } },
        sentence: { type: 'string', minLength: 1, maxLength: 200_000 },
        serial,
      },
    },
    {
      ...object,
      required: ['kind', 'step', 'says'],
      properties: { kind: { const: 'page-said' }, step: id, says: { enum: PAGE_SAYS }, note: words },
    },
    {
      ...object,
      required: ['kind', 'step', 'serial', 'says'],
      properties: {
        kind: { const: 'wrong-drive-out' },
        step: id,
        serial,
        says: { enum: PAGE_SAYS_AFTER_WRONG },
        note: words,
      },
    },
    {
      ...object,
      required: ['kind', 'step', 'reason'],
      properties: { kind: { const: 'step-skipped' }, step: id, reason: words },
    },
    { ...object, required: ['kind', 'note'], properties: { kind: { const: 'plan-paused' }, note: words } },
    {
      ...object,
      required: ['kind', 'how'],
      properties: { kind: { const: 'plan-ended' }, how: planEnd, note },
    },
    takenBackSchema,
  ],
} as const;

export type PlanEventBody = FromSchema<typeof planEventSchema>;
