import { uuid } from './words';

export const WAYS_TO_MOVE = ['carry-by-slot', 'carry-by-serial', 'assistant', 'copy'] as const;

/** What a client asks of POST /api/v1/plans/move: the old unit, and the one it is to be moved to. */
export const moveSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['from', 'to'],
  properties: {
    from: uuid,
    to: uuid,
    way: { enum: WAYS_TO_MOVE, description: 'Only this way, with its plan; left out means all, without.' },
    addOld: { type: 'boolean', description: 'Of a copy: the one old drive becomes the second of the new pool.' },
  },
} as const;
