import { appraisalRequestSchema } from './appraisalRequest';
import { name, onlySets, uuid } from './words';

export const WAYS_TO_MOVE = ['carry-by-slot', 'carry-by-serial', 'assistant', 'copy'] as const;

/** What a client asks of POST /api/v1/plans/merge: the unit that stays, and those that join it. */
export const mergeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['to', 'from'],
  properties: {
    to: { ...uuid, description: 'The unit that stays, with its name and address.' },
    from: { type: 'array', minItems: 1, maxItems: 50, items: uuid, description: 'The units that join it.' },
  },
} as const;

/** What a client asks of POST /api/v1/plans/move: the old unit, and the one it is to be moved to. */
export const moveSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['from', 'to'],
  properties: {
    from: uuid,
    to: {
      anyOf: [
        uuid,
        {
          type: 'object',
          additionalProperties: false,
          required: ['profile', 'bays'],
          properties: {
            profile: appraisalRequestSchema.properties.profile,
            bays: { type: 'integer', minimum: 1, maximum: 1000 },
            name,
          },
        },
      ],
      description:
        'A unit on the shelf by its id; or one that is not, described: of it there are the ways, and no plan.',
    },
    way: { enum: WAYS_TO_MOVE, description: 'Only this way, with its plan; left out means all, without.' },
    hoursPerDay: {
      type: 'number',
      minimum: 0.5,
      maximum: 24,
      description: 'The hours a day in which a copy may run; left out means all.',
    },
    addOld: { type: 'boolean', description: 'Of a copy: the one old drive becomes the second of the new pool.' },
    joins: {
      type: 'boolean',
      description:
        'Of a copy: the newer one keeps its own name and address; left out means so where somebody counts on it already.',
    },
    dataSets: onlySets,
  },
} as const;
