import { appraisalRequestSchema } from './appraisalRequest';
import { SCHEMES } from './scheme';
import { bay, bytes, bytesOrNone, groupWidth, media } from './words';

const { profile, drives } = appraisalRequestSchema.properties;
const instant = { type: 'string', format: 'date-time' } as const;
/** As many as a running job keeps. */
const MOST_HEARD = 400;

/** What a client asks of POST /api/v1/rebuilds/estimate: a layout, the member that is written anew, and what was heard of it. */
export const rebuildEstimateSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['profile', 'scheme', 'drives', 'member'],
  properties: {
    profile,
    scheme: { enum: SCHEMES },
    groupWidth,
    drives,
    member: bay,
    usedShare: { type: 'number', minimum: 0, maximum: 1, description: 'Share of the pool in use; left out means all.' },
    onto: {
      type: 'object',
      additionalProperties: false,
      required: ['bytes'],
      properties: { bytes },
      description: 'The drive it is written onto; left out means one as large.',
    },
    startedAt: instant,
    reports: {
      type: 'array',
      maxItems: MOST_HEARD,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['at', 'percent'],
        properties: {
          at: instant,
          percent: { type: 'number', minimum: 0, maximum: 100 },
          band: { type: 'integer', minimum: 1, maximum: 1000 },
        },
      },
    },
    restarts: { type: 'array', maxItems: MOST_HEARD, items: instant, description: 'When it began anew.' },
  },
} as const;

/** What files pass through, as far as it is said. */
const way = {
  linkGigabits: { type: 'number', exclusiveMinimum: 0, maximum: 1000 },
  source: media,
  target: media,
} as const;

/** What a client asks of POST /api/v1/transfers/shares: several shares over one way. */
export const transferSharesSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['shares', 'linkGigabits'],
  properties: {
    shares: {
      type: 'array',
      minItems: 1,
      maxItems: 200,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['name', 'bytes', 'files'],
        properties: {
          name: { type: 'string', minLength: 1, maxLength: 120, pattern: '\\S' },
          bytes: bytesOrNone,
          files: { type: 'integer', minimum: 1, maximum: 10_000_000_000 },
        },
      },
    },
    ...way,
    streams: {
      type: 'integer',
      minimum: 1,
      maximum: 32,
      description: 'How many at a time, side by side; left out means two.',
    },
  },
} as const;

/** What a client asks of POST /api/v1/transfers/estimate. */
export const transferEstimateSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['bytes', 'files', 'linkGigabits'],
  properties: {
    bytes: bytesOrNone,
    files: { type: 'integer', minimum: 1, maximum: 10_000_000_000 },
    ...way,
    changedBytesPerDay: {
      ...bytesOrNone,
      description: 'What goes on being used: then it is copied in passes, the last of them with everybody off.',
    },
    hoursPerDay: {
      type: 'number',
      minimum: 0.5,
      maximum: 24,
      description: 'Of a copy in passes: the hours a day in which it may copy; left out means all.',
    },
  },
} as const;
