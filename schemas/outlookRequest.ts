import { appraisalRequestSchema } from './appraisalRequest';
import { SCHEMES } from './scheme';
import { driveSchema } from './unitEvent';
import { groupWidth, id, spares } from './words';

/** How soon somebody does something about a failure. */
export const NOTICES = ['within-the-hour', 'same-day', 'after-a-weekend', 'after-weeks'] as const;

const ahead = {
  years: { type: 'number', minimum: 0.1, maximum: 10 },
  notice: {
    enum: NOTICES,
    description: 'How soon somebody does something about a failure; left out means the same day.',
  },
  orderDays: {
    type: 'number',
    minimum: 0,
    maximum: 365,
    description: 'Days from then to a new drive in hand where none lies ready; left out means 3.',
  },
  scrubDays: {
    type: ['number', 'null'],
    minimum: 1,
    maximum: 3650,
    description: 'Days between two scrubs, null where there is none; left out means as the unit’s upkeep has it.',
  },
  inDrawer: {
    type: 'integer',
    minimum: 0,
    maximum: 100,
    description: 'Spares in a drawer that fit; left out means those on record.',
  },
  boxLossesPerYear: {
    type: 'number',
    minimum: 0,
    maximum: 0.5,
    description:
      'The share of boxes lost in a year with every drive in them, an assumption of your own; left out means none.',
  },
  usedShare: { type: 'number', minimum: 0, maximum: 1, description: 'Left out means as last read, or all of it.' },
  failuresPerYear: {
    type: 'array',
    minItems: 2,
    maxItems: 2,
    items: { type: 'number', minimum: 0, maximum: 0.99 },
    description: 'The share of drives that fail in a year, from and to; left out means what the own record says.',
  },
  isLookedThrough: { type: 'boolean', description: 'True: also what would change it.' },
} as const;

/** What a client asks of POST /api/v1/units/{id}/outlook: how far ahead, and how the unit is looked after. */
export const outlookRequestSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['pool', 'years'],
  properties: { pool: id, ...ahead },
} as const;

const { profile, drives } = appraisalRequestSchema.properties;
const { model, lot, boughtOn } = driveSchema.properties;

/** What a client asks of POST /api/v1/outlooks: the same of a layout that is not built yet. */
export const layoutOutlookSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['profile', 'scheme', 'drives', 'years'],
  properties: {
    profile,
    scheme: { enum: SCHEMES },
    groupWidth,
    spares,
    drives: {
      ...drives,
      items: { ...drives.items, properties: { ...drives.items.properties, model, lot, boughtOn } },
    },
    ...ahead,
    scrubDays: {
      ...ahead.scrubDays,
      description: 'Days between two scrubs, null where there is none; left out means 30.',
    },
    inDrawer: { ...ahead.inDrawer, description: 'Spares in a drawer that fit; left out means none.' },
  },
} as const;
