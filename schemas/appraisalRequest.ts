import { layoutRequestSchema, layoutAnswerSchema } from './layoutRequest';

const drives = layoutRequestSchema.properties.drives;
const seconds = { type: 'number', minimum: 0 } as const;
const perSecond = { type: 'number', minimum: 0 } as const;
const speed = {
  type: 'object',
  required: ['read', 'write', 'smallReads', 'smallWrites'],
  properties: { read: perSecond, write: perSecond, smallReads: perSecond, smallWrites: perSecond },
  description: 'Large files in bytes/s, small random operations a second.',
} as const;

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
          media: { enum: ['hard-disk', 'shingled', 'ssd', 'nvme'] },
          priceCents: { type: 'integer', minimum: 0, maximum: 100_000_000_000 },
        },
      },
    },
    spareScope: { enum: ['pool', 'group'], description: 'Whether the spares are for the pool, or so many for each group.' },
    assumptions: {
      type: 'object',
      additionalProperties: false,
      properties: {
        years: { type: 'number', exclusiveMinimum: 0, maximum: 50 },
        hoursToReplace: { type: 'number', minimum: 0, maximum: 8760 },
        mttfHours: { type: 'number', minimum: 100, maximum: 1e9 },
        portGigabits: { type: 'number', exclusiveMinimum: 0, maximum: 1000 },
        usedShare: { type: 'number', minimum: 0, maximum: 1 },
      },
    },
    volume: {
      type: 'object',
      additionalProperties: false,
      required: ['bytes', 'thin'],
      properties: { bytes: { type: 'integer', minimum: 1, maximum: 9_000_000_000_000_000 }, thin: { type: 'boolean' } },
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

export const appraisalAnswerSchema = {
  type: 'object',
  required: ['appraisals', 'ranking'],
  properties: {
    appraisals: {
      type: 'array',
      items: {
        type: 'object',
        required: [
          'layout',
          'rebuild',
          'risk',
          'speed',
          'speedRebuilding',
          'clientRead',
          'clientWrite',
          'centsPerUsableTB',
          'becomes',
          'growth',
          'sharedCauses',
        ],
        properties: {
          layout: layoutAnswerSchema.properties.layouts.items,
          rebuild: {
            type: ['object', 'null'],
            properties: {
              member: { type: 'string' },
              writtenBytes: { type: 'integer' },
              readBytes: { type: 'integer' },
              low: seconds,
              likely: seconds,
              high: seconds,
            },
          },
          risk: {
            type: ['object', 'null'],
            properties: {
              chanceOfLoss: { type: 'number', minimum: 0, maximum: 1 },
              meanTimeToLoss: { type: 'number', description: 'Hours.' },
              chanceOfUnreadable: { type: 'number', minimum: 0, maximum: 1 },
            },
          },
          speed,
          speedRebuilding: speed,
          clientRead: perSecond,
          clientWrite: perSecond,
          centsPerUsableTB: { type: ['number', 'null'] },
          becomes: {
            type: 'array',
            description: 'What it can become: with the drives there are and those that must be added.',
            items: {
              type: 'object',
              required: ['to', 'keepsData', 'usableBytes', 'mostDataBytes', 'addedDrives'],
              properties: {
                to: { type: 'string' },
                keepsData: { type: 'boolean' },
                usableBytes: { type: 'integer' },
                mostDataBytes: { type: 'integer', description: 'The most that may be in it for it to fit afterwards.' },
                addedDrives: { type: 'integer' },
              },
            },
          },
          becomesNot: { type: 'array', items: { type: 'object' }, description: 'What the family offers in words, and why it cannot be here.' },
          growth: { type: 'array', items: { type: 'object' } },
          sharedCauses: { type: 'array', items: { type: 'object' } },
          volume: { type: ['object', 'null'] },
        },
      },
    },
    ranking: { type: ['array', 'null'], description: 'Best first, when needs were given.' },
  },
} as const;
