import { METRICS } from './metrics';
import { WAYS_TO_MOVE } from './moveRequest';
import { driveDescriptionSchema, drawerSchema, sentDriveEventSchema, statedDriveEventSchema } from './driveEvent';
import { JOBS, overrideSchema, plannedDriveSchema, stepEvidenceSchema, type PlanJob } from './plan';
import { SCHEMES } from './scheme';
import { statedUnitEventSchema } from './unitEvent';
import {
  MOST_VERSION,
  base64,
  bay,
  cacheHolds,
  bytes,
  day,
  expectedVersion,
  groupWidth,
  id,
  moment,
  name,
  note,
  onlySets,
  planEnd,
  serial,
  spares,
  uuid,
  verdict,
} from './words';

const object = { type: 'object', additionalProperties: false } as const;
/** Made by the sender: what is sent twice is written once. Left out, one is made here. */
const act = {
  ...uuid,
  description: 'The id of the act, made by its sender: what is sent twice under one id is written once.',
} as const;
const reason = { ...note, minLength: 1, pattern: '\\S' } as const;

export const previewSchema = {
  ...object,
  required: ['event'],
  properties: { event: statedUnitEventSchema, happenedAt: moment },
} as const;

/** Several entries that belong together: all of them or none. */
export const entriesSchema = {
  ...object,
  required: ['expectedVersion', 'events'],
  properties: {
    expectedVersion,
    act,
    happenedAt: moment,
    events: { type: 'array', minItems: 1, maxItems: 1000, items: statedUnitEventSchema },
  },
} as const;

const version = {
  type: 'integer',
  minimum: 0,
  maximum: MOST_VERSION,
  description: 'As its author looked at it; 0 before its first entry.',
} as const;
const ledger = { unit: uuid, drive: serial, plan: uuid } as const;
const eventOf = (name: 'unit' | 'drive', event: object) => ({
  if: { required: [name] },
  then: { properties: { event } },
});

/** What happened to any number of units and drives, recorded at once: whole or not at all. */
export const actSchema = {
  ...object,
  required: ['id', 'entries'],
  properties: {
    id: { ...uuid, description: 'Made by its sender: the same act sent twice is written once.' },
    happenedAt: moment,
    expects: {
      type: 'array',
      maxItems: 1000,
      description: 'The version of each ledger its author looked at.',
      items: {
        ...object,
        required: ['version'],
        minProperties: 2,
        maxProperties: 2,
        properties: { ...ledger, version },
      },
    },
    entries: {
      type: 'array',
      minItems: 1,
      maxItems: 1000,
      items: {
        ...object,
        required: ['event'],
        minProperties: 2,
        maxProperties: 2,
        // A plan's ledger is written by what is asked of the plan, never by what is said of it.
        properties: { unit: uuid, drive: serial, event: { type: 'object' } },
        allOf: [eventOf('unit', statedUnitEventSchema), eventOf('drive', statedDriveEventSchema)],
      },
    },
  },
} as const;

/** Takes a whole act back, in every ledger it touched. */
export const actBackSchema = { ...object, required: ['reason'], properties: { reason, act } } as const;

export const statementSchema = {
  ...object,
  required: ['text'],
  properties: { text: { type: 'string', minLength: 1, maxLength: 400 } },
} as const;
const heading = { type: 'string', minLength: 1, maxLength: 60 } as const;

/** Which heading of a list stands over what. */
export const reportColumnsSchema = {
  ...object,
  title: 'Columns of a list',
  required: ['bay'],
  properties: { bay: heading, enclosure: heading, serial: heading, size: heading, status: heading },
} as const;

export const reportSchema = {
  ...object,
  required: ['text'],
  properties: {
    text: { type: 'string', minLength: 1, maxLength: 100_000 },
    columns: {
      ...reportColumnsSchema,
      description: 'For a list with headings; left out, those that are kept for the unit, where all of them are there.',
    },
  },
} as const;

export const roundSchema = {
  ...object,
  required: ['expectedVersion', 'signs'],
  properties: {
    expectedVersion,
    act,
    seen: { type: 'integer', minimum: 0, maximum: 1000 },
    signs: { type: 'array', maxItems: 20, items: { type: 'string', minLength: 1, maxLength: 400 } },
    note,
    used: {
      type: 'array',
      maxItems: 100,
      items: {
        ...object,
        required: ['pool', 'share'],
        properties: { pool: id, share: { type: 'number', minimum: 0, maximum: 1.5 } },
      },
    },
    progress: {
      type: 'array',
      maxItems: 100,
      description: 'How far the unit shows the work of a pool to be.',
      items: {
        ...object,
        required: ['pool', 'percent'],
        properties: { pool: id, percent: { type: 'number', minimum: 0, maximum: 100 } },
      },
    },
  },
} as const;

export const readingsSchema = {
  ...object,
  required: ['readings'],
  properties: {
    readings: {
      type: 'array',
      minItems: 1,
      maxItems: 20_000,
      items: {
        ...object,
        required: ['unit', 'subject', 'metric', 'value'],
        properties: {
          unit: uuid,
          subject: {
            type: 'string',
            minLength: 1,
            maxLength: 64,
            description: 'A pool of the unit, or the serial of a drive in it.',
          },
          metric: { enum: METRICS },
          at: moment,
          value: { type: 'number', minimum: -1e6, maximum: 9e15 },
        },
      },
    },
  },
} as const;

/** What data comes in over: Ethernet of so many gigabits, or a drive on a cable. */
export const COPY_LINKS = ['1', '2.5', '10', 'cable'] as const;
export type CopyLink = (typeof COPY_LINKS)[number];

export const commissionWishSchema = {
  ...object,
  required: ['drives'],
  properties: {
    drives: { type: 'array', maxItems: 1000, items: plannedDriveSchema },
    pool: {
      ...object,
      required: ['name', 'scheme'],
      properties: {
        name,
        scheme: { enum: SCHEMES },
        groupWidth,
        spares,
      },
    },
    fileSystem: { type: 'string', maxLength: 60 },
    copyBytes: { type: 'integer', minimum: 0, maximum: 9_000_000_000_000_000 },
    copyOver: { enum: COPY_LINKS, description: 'What it comes over: Ethernet by its gigabits, or a drive on a cable.' },
  },
} as const;

const { bay: _bay, ...newDriveShape } = plannedDriveSchema.properties;
/** The drive that goes in; its bay follows from the plan. */
const newDriveSchema = { ...object, required: ['bytes', 'basis'], properties: newDriveShape } as const;
const usedShare = {
  type: 'number',
  minimum: 0,
  maximum: 1,
  description: 'Share of the pool in use; left out means as last read.',
} as const;

const way = { enum: ['in-place', 'free-bay'] } as const;
const copyProven = {
  type: 'boolean',
  description:
    'What is on it is copied elsewhere, and the copy was proven: then a pool that would rest on a sick drive may be thinned.',
} as const;

/** Bays of idle drives a plan takes. */
const idle = {
  type: 'array',
  maxItems: 100,
  uniqueItems: true,
  items: bay,
  description: 'Bays of drives that stand in the unit idle, and are taken first.',
} as const;

/** What each kind of plan is made from. */
export const WISHES = {
  commission: commissionWishSchema,
  replace: {
    ...object,
    required: ['serial', 'way', 'drive'],
    properties: {
      serial,
      way,
      bay,
      drive: newDriveSchema,
      copyProven,
      usedShare,
      moveOffBytes: {
        ...bytes,
        description:
          'What is taken off the pool first, where only used space is rebuilt: less is thin for fewer hours.',
      },
    },
  },
  'replace-all': {
    ...object,
    required: ['pool', 'drive'],
    properties: { pool: id, drive: newDriveSchema, way, copyProven, usedShare },
  },
  grow: {
    ...object,
    required: ['pool'],
    properties: {
      pool: id,
      drive: { ...newDriveSchema, description: 'Left out where only idle drives are taken.' },
      idle,
      bays: {
        type: 'array',
        minItems: 1,
        maxItems: 100,
        uniqueItems: true,
        items: bay,
        description: 'The free bays; left out means the first, as many as the family adds at a time.',
      },
    },
  },
  convert: {
    ...object,
    required: ['pool', 'to'],
    properties: {
      pool: id,
      to: { enum: SCHEMES },
      drive: { ...newDriveSchema, description: 'The kind of drive added for it, where the new level needs more.' },
      idle,
      copyProven,
      usedShare,
    },
  },
  cache: {
    ...object,
    required: ['change'],
    properties: {
      change: { enum: ['add', 'remove', 'renew'] },
      holds: cacheHolds,
      drive: newDriveSchema,
      places: {
        type: 'array',
        minItems: 1,
        maxItems: 8,
        uniqueItems: true,
        items: bay,
        description: 'Slots (M1, M2) or free bays; left out means the first free slots.',
      },
    },
  },
  'new-pool': {
    ...commissionWishSchema,
    required: ['drives', 'pool'],
    properties: {
      ...commissionWishSchema.properties,
      idle: {
        type: 'array',
        maxItems: 1000,
        uniqueItems: true,
        items: bay,
        description: 'Bays of drives that stand in the unit idle and go into the pool too.',
      },
    },
  },
  'hot-spare': {
    ...object,
    required: ['pool', 'drive'],
    properties: {
      pool: id,
      drive: newDriveSchema,
      bay: { ...bay, description: 'The free bay; left out means the first.' },
    },
  },
  extend: {
    ...object,
    required: ['name', 'bays'],
    properties: {
      name,
      bays: { type: 'integer', minimum: 1, maximum: 120 },
      dial: { type: 'integer', minimum: 0, maximum: 255, description: 'The number set on its dial.' },
    },
  },
  retire: { ...object, required: [], properties: {} },
  'spare-in': {
    ...object,
    required: ['serial', 'spare', 'drive'],
    properties: { serial, spare: serial, drive: newDriveSchema, usedShare },
  },
  'came-back': {
    ...object,
    required: ['serial', 'how'],
    properties: { serial, how: { enum: ['whole', 'rebuild'] }, usedShare },
  },
  move: {
    ...object,
    required: ['to', 'way'],
    properties: {
      to: { ...uuid, description: 'The unit it is moved to.' },
      way: { enum: WAYS_TO_MOVE },
      pool: { ...id, description: 'Of a copy: the pool it goes to; left out means the one with most room.' },
      addOld: {
        type: 'boolean',
        description: 'Of a copy: at the very end the one old drive is wiped and becomes the second of that pool.',
      },
      joins: {
        type: 'boolean',
        description:
          'Of a copy: the newer one keeps its own name and address, and whoever used the old one is pointed there; left out means so where somebody counts on it already.',
      },
      dataSets: onlySets,
    },
  },
  'carry-back': { ...object, properties: {} },
  rescue: { ...object, required: ['because'], properties: { because: { enum: ['lost', 'offers-to-erase'] } } },
} as const satisfies Record<PlanJob, object>;

/** What is asked to see a plan of one kind. */
export function planAskedSchema(job: PlanJob): object {
  return { ...object, required: ['unit', 'wish'], properties: { unit: uuid, wish: WISHES[job] } };
}

export const planStartSchema = {
  type: 'object',
  required: ['job'],
  discriminator: { propertyName: 'job' },
  oneOf: JOBS.map((job) => ({
    ...object,
    required: ['expectedVersion', 'job', 'wish'],
    properties: { expectedVersion, act, job: { const: job }, wish: WISHES[job] },
  })),
} as const;

export const pauseSchema = {
  ...object,
  required: ['expectedVersion', 'note'],
  properties: { expectedVersion, act, note: { ...note, minLength: 1, pattern: '\\S' } },
} as const;
/** A sheet that was filled in by hand: its steps in order, each with its time. */
export const sheetSchema = {
  ...object,
  required: ['expectedVersion', 'steps'],
  properties: {
    expectedVersion,
    steps: {
      type: 'array',
      minItems: 1,
      maxItems: 1100,
      items: {
        ...object,
        required: ['step', 'evidence', 'happenedAt'],
        properties: { step: id, evidence: stepEvidenceSchema, happenedAt: moment },
      },
    },
  },
} as const;
export const stepSchema = {
  ...object,
  required: ['expectedVersion', 'step', 'evidence'],
  properties: {
    expectedVersion,
    act,
    step: id,
    evidence: stepEvidenceSchema,
    happenedAt: moment,
    override: overrideSchema,
    wasStopped: {
      type: 'boolean',
      description:
        'It was stopped where it was tried, without a network: it is told as what was tried, and never done by it.',
    },
  },
} as const;
export const skipSchema = {
  ...object,
  required: ['expectedVersion', 'step', 'reason'],
  properties: { expectedVersion, act, step: id, reason },
} as const;
export const backSchema = {
  ...object,
  required: ['expectedVersion', 'step'],
  properties: { expectedVersion, act, step: id },
} as const;
export const endSchema = {
  ...object,
  required: ['expectedVersion', 'how'],
  properties: { expectedVersion, act, how: planEnd, note },
} as const;

export const newDrivesSchema = {
  ...object,
  required: ['drives'],
  properties: {
    drives: {
      type: 'array',
      minItems: 1,
      maxItems: 1000,
      items: { ...object, required: ['serial', 'drive'], properties: { serial, drive: driveDescriptionSchema } },
    },
    order: uuid,
    drawer: drawerSchema,
    happenedAt: moment,
    act,
  },
} as const;

export const newDriveEventSchema = {
  ...object,
  required: ['expectedVersion', 'event'],
  properties: {
    expectedVersion: { ...expectedVersion, minimum: 0 },
    act,
    happenedAt: moment,
    event: sentDriveEventSchema,
  },
} as const;

export const newOrderSchema = {
  ...object,
  required: ['supplier', 'count', 'drive'],
  properties: {
    supplier: { type: 'string', minLength: 1, maxLength: 120, pattern: '\\S' },
    count: { type: 'integer', minimum: 1, maximum: 1000 },
    drive: driveDescriptionSchema,
    orderedAt: moment,
    expectedOn: day,
    note,
    act,
  },
} as const;

export const closeOrderSchema = { ...object, required: ['reason'], properties: { reason } } as const;

export const newPaperSchema = {
  ...object,
  required: ['name', 'base64'],
  properties: {
    name: { type: 'string', minLength: 1, maxLength: 120, pattern: '\\S' },
    base64: { ...base64, minLength: 4, description: 'A picture (PNG, JPEG, WebP), a PDF or a text, up to 3 MB.' },
  },
} as const;

export const testedModelSchema = {
  ...object,
  required: ['model', 'verdict'],
  properties: {
    model: { type: 'string', minLength: 1, maxLength: 64, pattern: '\\S' },
    verdict,
    note,
  },
} as const;
