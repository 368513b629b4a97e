import { profileAskedSchema } from './profile';
import { SCHEMES } from './scheme';
import { bay, bytes, spares } from './words';

/** What a client asks of POST /api/v1/layouts. */
export const layoutRequestSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['profile', 'drives'],
  properties: {
    profile: profileAskedSchema,
    bays: {
      type: 'integer',
      minimum: 1,
      maximum: 1000,
      description: 'Bays of the unit; left out means as many as drives.',
    },
    spares,
    drives: {
      type: 'array',
      minItems: 1,
      maxItems: 1000,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['bay'],
        properties: {
          bay,
          bytes: { ...bytes, description: 'Exact bytes; they win over the label.' },
          label: {
            type: 'string',
            minLength: 1,
            maxLength: 40,
            description: 'As printed: "12 TB", "12000 GB", "11.2 TiB".',
          },
        },
        anyOf: [{ required: ['bytes'] }, { required: ['label'] }],
      },
    },
    schemes: { type: 'array', minItems: 1, uniqueItems: true, items: { enum: SCHEMES } },
    groupWidth: {
      type: 'integer',
      minimum: 1,
      description: 'One that does not fit gives an illegal layout, not a refusal.',
    },
  },
} as const;
