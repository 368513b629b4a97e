import { bytesOrNone, id, name, uuid } from './words';

const object = { type: 'object', additionalProperties: false } as const;
const at = { type: 'string', format: 'date-time' } as const;

/** What is said of a copy when it enters the register. */
export const copyFields = {
  where: { type: 'string', minLength: 1, maxLength: 120 },
  keeps: { enum: ['versions', 'mirror'] },
  offSite: { type: 'boolean' },
  everyDays: { type: 'integer', minimum: 1, maximum: 3650 },
  freeBytes: bytesOrNone,
  on: {
    ...object,
    required: ['unit', 'pool'],
    properties: { unit: uuid, pool: uuid },
    description: 'The unit and the pool on the shelf it stands on, where it does.',
  },
} as const;

const copySchema = {
  ...object,
  required: ['id', 'where', 'keeps', 'offSite', 'describedAt'],
  properties: {
    id,
    ...copyFields,
    describedAt: at,
    ranAt: at,
    failedAt: at,
    sameAt: at,
    restoreTriedAt: at,
    restoreWorked: { type: 'boolean' },
  },
} as const;

/** Data sets by their ids, as a unit's register has them, with what is known of their copies. */
export const dataSetsSchema = {
  type: 'object',
  maxProperties: 1000,
  additionalProperties: {
    ...object,
    required: ['id', 'name', 'copies'],
    properties: {
      id,
      name,
      pool: id,
      bytes: bytesOrNone,
      copies: { type: 'object', maxProperties: 1000, additionalProperties: copySchema },
    },
  },
} as const;
