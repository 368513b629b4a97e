import type { FromSchema } from 'json-schema-to-ts';
import { layoutRequestSchema } from './layoutRequest';
import { budgetCentsPerYear, declinePerYear, driveCents, labourCents, manyPrices } from './priceList';
import { SCHEMES } from './scheme';
import { bytes, bytesOrNone, groupWidth, id, MOST_DRIVES_NAMED, priceCents } from './words';

const { drives, profile } = layoutRequestSchema.properties;
const share = { type: 'number', minimum: 0.01, maximum: 1 } as const;

/** What is wished of growing, and what it costs. */
const wish = {
  needPerYearBytes: { ...bytesOrNone, description: 'By how much what is used grows in a year.' },
  line: { ...share, description: 'The share of the usable space that may be used.' },
  years: { type: 'number', minimum: 1, maximum: 10 },
  everyMonths: {
    type: 'integer',
    minimum: 1,
    maximum: 60,
    description: 'Months from one decision to the next; left out means 12.',
  },
  prices: {
    ...manyPrices,
    items: {
      type: 'object',
      additionalProperties: false,
      required: ['cents'],
      properties: {
        bytes,
        label: { type: 'string', minLength: 1, maxLength: 40 },
        cents: driveCents,
      },
      anyOf: [{ required: ['bytes'] }, { required: ['label'] }],
    },
  },
  declinePerYear,
  labourCents,
  discountPerYear: { type: 'number', minimum: 0, maximum: 1, description: 'What money is worth less in a year.' },
  allow: {
    type: 'array',
    minItems: 1,
    maxItems: 5,
    uniqueItems: true,
    items: { enum: ['swap', 'add', 'group', 'extend', 'convert'] },
    description:
      'Swap members, add drives or whole groups, hang on an extension, change the level where the data stays.',
  },
  extension: {
    type: 'object',
    additionalProperties: false,
    required: ['bays', 'cents'],
    description: 'The box that may be hung on, where that is allowed.',
    properties: {
      bays: { type: 'integer', minimum: 1, maximum: 200 },
      cents: { ...priceCents, description: 'Of the box with its card and cables, without drives, now and later.' },
    },
  },
  budgetCentsPerYear,
  newUnit: {
    type: 'object',
    additionalProperties: false,
    required: ['profile', 'bays', 'scheme', 'cents'],
    description: 'A unit that may be bought instead: what is kept is moved to a pool of drives of its own.',
    properties: {
      profile,
      bays: { type: 'integer', minimum: 1, maximum: 200 },
      scheme: { enum: SCHEMES },
      groupWidth,
      cents: { ...priceCents, description: 'Of the unit without drives, now and later.' },
    },
  },
  leastMargin: {
    type: 'integer',
    minimum: 0,
    maximum: 20,
    description: 'The pool can lose so many at any time, also while a member is swapped.',
  },
  briefHours: {
    type: 'number',
    minimum: 0,
    maximum: 720,
    description: 'But for so many hours, while the drive of a swap is written.',
  },
} as const;
const WISHED = ['needPerYearBytes', 'line', 'years', 'prices', 'allow'] as const;

/** What a client asks of POST /api/v1/growth: a pool, what has to fit in it, and what drives cost. */
export const growthRequestSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['profile', 'scheme', 'bays', 'drives', 'usedBytes', ...WISHED],
  properties: {
    profile,
    scheme: { enum: SCHEMES },
    groupWidth,
    bays: { type: 'integer', minimum: 1, maximum: MOST_DRIVES_NAMED },
    drives,
    usedBytes: bytesOrNone,
    ...wish,
  },
} as const;

/** The same of a pool that stands in a unit, as it is built; sizes are as its page counts them. */
export const unitGrowthSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['pool', ...WISHED],
  properties: {
    pool: id,
    usedBytes: { ...bytesOrNone, description: 'Left out means as last read.' },
    ...wish,
  },
} as const;

export type UnitGrowthRequest = FromSchema<typeof unitGrowthSchema>;

/** What a client asks of POST /api/v1/forecasts: what was used when, and how much there is. */
export const forecastRequestSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['readings', 'usableBytes', 'line'],
  properties: {
    readings: {
      type: 'array',
      maxItems: 20_000,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['at', 'usedBytes'],
        properties: { at: { type: 'string', format: 'date-time' }, usedBytes: bytesOrNone },
      },
    },
    usableBytes: bytes,
    line: share,
  },
} as const;
