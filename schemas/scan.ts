import { driveReadSchema } from './plan';
import { bay, id, serial, uuid } from './words';

const object = { type: 'object', additionalProperties: false } as const;

/** A serial that was read, and what it was read for. */
export const judgeScanSchema = {
  ...object,
  required: ['unit', 'serial'],
  properties: {
    unit: { ...uuid, description: 'The unit the hand is at.' },
    plan: { ...uuid, description: 'The plan it is read for; left out where drives are only put in.' },
    step: { ...id, description: 'The step of the plan; the next one where left out.' },
    bay: { ...bay, description: 'The bay the hand is at; the next open one of the list where left out.' },
    serial,
    drive: driveReadSchema,
    read: {
      type: 'array',
      maxItems: 1000,
      description: 'What was read for other bays of the list so far, and is not recorded yet.',
      items: { ...object, required: ['bay', 'serial'], properties: { bay, serial } },
    },
    not: {
      type: 'array',
      maxItems: 20,
      description: 'Serials a person looked at again and says that this is not.',
      items: serial,
    },
  },
} as const;
