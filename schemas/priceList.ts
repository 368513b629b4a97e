import type { FromSchema } from 'json-schema-to-ts';
import { bytes, priceCents } from './words';

export const declinePerYear = {
  type: 'number',
  minimum: 0,
  maximum: 0.95,
  description: 'By how much prices fall in a year.',
} as const;
export const budgetCentsPerYear = {
  ...priceCents,
  description: 'The most that may be spent within each twelve months from now, in the money of then.',
} as const;
export const labourCents = { ...priceCents, description: 'For each step: one swap, one drive, one group.' } as const;

/** As many sizes as are sold, and some to spare. */
export const manyPrices = { type: 'array', minItems: 1, maxItems: 40 } as const;
export const driveCents = { ...priceCents, description: 'Of one drive, today.' } as const;

/** What a client sends to PUT /api/v1/prices: what drives cost, kept for everybody who plans with it. */
export const priceListSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['prices', 'declinePerYear', 'labourCents', 'deliveryDays'],
  properties: {
    prices: {
      ...manyPrices,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['bytes', 'cents'],
        properties: { bytes, cents: driveCents },
      },
    },
    declinePerYear,
    labourCents,
    deliveryDays: { type: 'integer', minimum: 0, maximum: 365 },
    budgetCentsPerYear,
  },
} as const;
export type PriceList = FromSchema<typeof priceListSchema>;
