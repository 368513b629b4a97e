import { organisationSchema } from './access';
import { comparisonSchema } from './comparison';
import { driveEventSchema, driveDescriptionSchema } from './driveEvent';
import { METRICS } from './metrics';
import { priceListSchema } from './priceList';
import { profileSchema } from './profile';
import { tellRuleSchema } from './tell';
import { planEventSchema } from './planEvent';
import { unitEventSchema } from './unitEvent';
import { base64, day, note, serial, verdict } from './words';

const object = { type: 'object', additionalProperties: false } as const;
/** As the database writes it: an id has one spelling. */
const uuid = { type: 'string', format: 'uuid', pattern: '^[0-9a-f-]*$' } as const;
const time = { type: 'string', format: 'date-time' } as const;
const by = { type: 'string', minLength: 1, maxLength: 120 } as const;
const seq = { type: 'integer', minimum: 1, maximum: 2_000_000_000 } as const;
const inLedger = (name: 'unit' | 'drive' | 'plan', event: object) => ({
  if: { required: [name] },
  then: { properties: { event } },
});

/** An act as it was recorded: by whom and when, with its entries in every ledger it touched. */
export const takenActSchema = {
  ...object,
  required: ['id', 'happenedAt', 'recordedAt', 'by', 'entries'],
  properties: {
    id: uuid,
    happenedAt: time,
    recordedAt: time,
    by: {
      ...object,
      required: ['kind', 'id', 'name'],
      properties: {
        kind: { enum: ['person', 'token', 'watch', 'import', 'demo'] },
        id: { anyOf: [{ type: 'string', maxLength: 120 }, { type: 'null' }] },
        name: by,
      },
    },
    takesBack: { ...uuid, description: 'The act it takes back, in every ledger that one touched.' },
    entries: {
      type: 'array',
      minItems: 1,
      maxItems: 4000,
      items: {
        ...object,
        required: ['seq', 'event'],
        minProperties: 3,
        maxProperties: 3,
        properties: { unit: uuid, drive: serial, plan: uuid, seq, event: { type: 'object' } },
        allOf: [
          inLedger('unit', unitEventSchema),
          inLedger('drive', driveEventSchema),
          inLedger('plan', planEventSchema),
        ],
      },
    },
  },
} as const;

/** Everything of a shelf but people and keys, to take away and to bring back. */
export const takeAwaySchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'patient-shelf:export',
  title: 'Patient Shelf export',
  ...object,
  required: ['format', 'version', 'acts'],
  properties: {
    format: { const: 'patient-shelf-export' },
    version: { const: 2 },
    exportedAt: time,
    organisation: organisationSchema,
    acts: { type: 'array', items: takenActSchema, description: 'In the order in which they were recorded.' },
    orders: {
      type: 'array',
      items: {
        ...object,
        required: ['id', 'orderedAt', 'supplier', 'count', 'drive', 'recordedBy'],
        properties: {
          id: uuid,
          orderedAt: time,
          supplier: { type: 'string', minLength: 1, maxLength: 120 },
          count: { type: 'integer', minimum: 1, maximum: 1000 },
          drive: driveDescriptionSchema,
          expectedOn: { anyOf: [day, { type: 'null' }] },
          note: { anyOf: [note, { type: 'null' }] },
          recordedBy: by,
          closed: { anyOf: [note, { type: 'null' }] },
        },
      },
    },
    profiles: { type: 'array', items: profileSchema },
    testedModels: {
      type: 'array',
      items: {
        ...object,
        required: ['model', 'verdict'],
        properties: {
          model: { type: 'string', minLength: 1, maxLength: 64 },
          verdict,
          note: { anyOf: [note, { type: 'null' }] },
        },
      },
    },
    papers: {
      type: 'array',
      items: {
        ...object,
        required: ['id', 'name', 'base64', 'addedBy'],
        properties: {
          id: uuid,
          unit: { anyOf: [uuid, { type: 'null' }] },
          serial: { anyOf: [serial, { type: 'null' }] },
          name: { type: 'string', minLength: 1, maxLength: 120 },
          base64,
          addedBy: by,
          addedAt: time,
        },
      },
    },
    prices: {
      ...object,
      required: ['list', 'setBy', 'setAt'],
      properties: { list: priceListSchema, setBy: by, setAt: time },
    },
    comparisons: {
      type: 'array',
      items: {
        ...object,
        required: ['id', 'comparison', 'keptBy', 'keptAt'],
        properties: { id: uuid, comparison: comparisonSchema, keptBy: by, keptAt: time },
      },
    },
    calendars: {
      type: 'array',
      description: 'Calendar addresses people have, by what they are known by; an address itself is in none of it.',
      items: {
        ...object,
        required: ['person', 'hash', 'madeAt'],
        properties: {
          person: { type: 'string', minLength: 1, maxLength: 320 },
          hash: { type: 'string', pattern: '^[0-9a-f]{64}$' },
          madeAt: time,
        },
      },
    },
    rules: {
      type: 'array',
      description:
        'Which people are told of what by mail. Whom programs are told at is in none of it: such an address may hold a key.',
      items: {
        ...object,
        required: ['id', 'person', ...tellRuleSchema.required],
        properties: {
          id: uuid,
          person: { type: 'string', minLength: 1, maxLength: 320 },
          ...tellRuleSchema.properties,
        },
      },
    },
    readings: {
      type: 'array',
      description: 'A row a reading: unit, subject, metric, at, value.',
      items: {
        type: 'array',
        minItems: 5,
        maxItems: 5,
        prefixItems: [
          uuid,
          { type: 'string', minLength: 1, maxLength: 64 },
          { enum: METRICS },
          time,
          { type: 'number', minimum: -1e6, maximum: 9e15 },
        ],
      },
    },
  },
} as const;

export const importSchema = {
  ...object,
  required: ['document'],
  properties: {
    document: takeAwaySchema,
    try: { type: 'boolean', description: 'Say what would be added, changed and refused, and do nothing.' },
  },
} as const;
