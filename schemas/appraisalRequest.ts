import { layoutRequestSchema } from './layoutRequest';
import { bytes, media, priceCents, spareScope } from './words';

const drives = layoutRequestSchema.properties.drives;

/** What a client asks of POST /api/v1/appraisals: layouts, and what is assumed and needed. */
export const appraisalRequestSchema = {
  ...layoutRequestSchema,
  properties: {
    ...layoutRequestSchema.properties,
    drives: {
      ...drives,
      items: {
        ...drives.items,
        properties: {
          ...drives.items.properties,
          media,
          priceCents,
        },
      },
    },
    spareScope,
    assumptions: {
      type: 'object',
      additionalProperties: false,
      properties: {
        years: { type: 'number', exclusiveMinimum: 0, maximum: 50 },
        hoursToReplace: { type: 'number', minimum: 0, maximum: 8760 },
        mttfHours: { type: 'number', minimum: 100, maximum: 1e9 },
        failuresPerYear: {
          type: 'array',
          minItems: 2,
          maxItems: 2,
          items: { type: 'number', minimum: 0, maximum: 0.99 },
          description: 'The share of drives that fail in a year, from and to; with mttfHours it says nothing.',
        },
        portGigabits: { type: 'number', exclusiveMinimum: 0, maximum: 1000 },
        usedShare: { type: 'number', minimum: 0, maximum: 1 },
      },
    },
    volume: {
      type: 'object',
      additionalProperties: false,
      required: ['bytes', 'thin'],
      properties: { bytes, thin: { type: 'boolean' } },
      description: 'A volume planned on the pool; each appraisal then says how it stands to what is behind it.',
    },
    needs: {
      type: 'object',
      additionalProperties: false,
      required: ['survive', 'terabytesNow'],
      properties: {
        survive: { type: 'integer', minimum: 0, maximum: 20 },
        terabytesNow: { type: 'number', minimum: 0, maximum: 9000 },
        growthPerYear: { type: 'number', minimum: -0.9, maximum: 10 },
        years: { type: 'number', minimum: 0, maximum: 50 },
        mostCentsPerTB: { type: ['number', 'null'], minimum: 0 },
        work: { enum: ['large-files', 'many-small'] },
        mayStandStill: { type: 'boolean' },
      },
    },
  },
} as const;
