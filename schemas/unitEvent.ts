import type { FromSchema } from 'json-schema-to-ts';
import { copyFields, dataSetsSchema } from './copies';
import { profileSchema } from './profile';
import { JOBS } from './plan';
import { SCHEMES } from './scheme';
import { stockLinesSchema } from './stock';
import { takenBackSchema } from './takenBack';
import {
  basis,
  bay,
  bytes,
  bytesOrNone,
  cacheHolds,
  day,
  driveLabel,
  enclosureSchema,
  form,
  groupWidth,
  id,
  media,
  model,
  name,
  note,
  onlySets,
  planEnd,
  priceCents,
  printed,
  serial,
  serials,
  uuid,
} from './words';

const object = { type: 'object', additionalProperties: false } as const;
const textOrNone = <N extends number>(maxLength: N) =>
  ({ anyOf: [{ type: 'string', maxLength }, { type: 'null' }] }) as const;
const dayOrNone = { anyOf: [day, { type: 'null' }] } as const;
const percent = { type: 'number', minimum: 0, maximum: 100 } as const;
const speed = { type: 'number', minimum: 0, maximum: 1e12 } as const;

export const placeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['site', 'room'],
  properties: { site: name, room: name, shelf: { type: 'string', maxLength: 60 } },
} as const;

export const driveSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['serial', 'bytes', 'basis'],
  properties: {
    serial,
    bytes,
    basis,
    label: driveLabel,
    model,
    media,
    priceCents,
    form,
    lot: {
      type: 'string',
      maxLength: 40,
      description: 'The batch printed on the drive: drives of one lot tend to fail together.',
    },
    boughtOn: day,
    warrantyUntil: day,
    printed,
  },
} as const;

/** A pool whose data a drive holds, and the unit it is of. */
export const carriesSchema = {
  ...object,
  required: ['unit', 'unitName', 'pool', 'name'],
  properties: { unit: uuid, unitName: name, pool: uuid, name },
} as const;

const bandSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['kind', 'fromBytes', 'toBytes', 'members', 'redundancy', 'usableBytes'],
  properties: {
    kind: { enum: ['single', 'span', 'stripe', 'mirror', 'parity', 'dedicated'] },
    fromBytes: bytesOrNone,
    toBytes: bytes,
    members: { type: 'array', minItems: 1, maxItems: 1000, items: serial },
    redundancy: { type: 'integer', minimum: 0, maximum: 1000 },
    usableBytes: bytesOrNone,
  },
} as const;

/** What is known of a unit besides what is in it. Every field may be left out; `null` forgets it. */
export const unitDetailsSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    serial: textOrNone(64),
    address: textOrNone(120),
    hardwareAddress: textOrNone(40),
    firmware: textOrNone(40),
    supplies: textOrNone(200),
    ports: textOrNone(200),
    call: textOrNone(200),
    notes: textOrNone(2000),
    boughtOn: dayOrNone,
    warrantyUntil: dayOrNone,
    driveChange: {
      enum: ['running', 'off', 'case-opened', null],
      description: 'How a drive of this unit is changed, where it differs from its family.',
    },
    locateLight: {
      enum: ['yes', 'no', null],
      description: 'Whether a bay can be made to blink, where the unit differs from its family.',
    },
  },
} as const;

/** What is said of every pool that is there: its name, its level, and how it was built. */
const BUILT = ['name', 'scheme', 'bands', 'spares', 'usableBytes', 'shownBytes', 'fileSystemReserveBytes'] as const;

const poolShape = {
  bands: { type: 'array', minItems: 1, maxItems: 1000, items: bandSchema },
  usableBytes: bytes,
  shownBytes: bytesOrNone,
  fileSystemReserveBytes: bytesOrNone,
} as const;

/** Things a person makes sure of once, or again and again. */
export const CHECKS = [
  'factory-password-changed',
  'alarm-mail-tested',
  'time-set',
  'shares-closed',
  'speed-measured',
  'labels-printed',
] as const;
/** `rebuild`: a missing member is written anew; `replace`: a drive beside a member takes over while that one still works. */
export const TASKS = ['first-build', 'rebuild', 'replace', 'scrub', 'expand', 'convert', 'copy', 'test'] as const;
export const PARTS = ['supply', 'fan', 'cable', 'port', 'battery'] as const;

/** Something to do again and again, every so many days, weeks, months or years from a first day on; or once, on that day. */
const upkeepTaskSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'title', 'every', 'unit', 'from'],
  properties: {
    id,
    title: name,
    every: { type: 'integer', minimum: 1, maximum: 1000, description: 'Of `once` it says nothing.' },
    unit: { enum: ['day', 'week', 'month', 'year', 'once'] },
    from: day,
  },
} as const;

/** What a person, a program or the watch may say happened to a unit. */
const STATED = [
  {
    ...object,
    required: ['kind', 'name', 'place', 'profile', 'enclosures'],
    properties: {
      kind: { const: 'unit-registered' },
      name,
      place: placeSchema,
      profile: profileSchema,
      enclosures: {
        type: 'array',
        minItems: 1,
        maxItems: 20,
        items: enclosureSchema,
      },
    },
  },
  {
    ...object,
    required: ['kind', 'bay', 'drive'],
    properties: {
      kind: { const: 'drive-inserted' },
      bay,
      drive: driveSchema,
      carries: { ...carriesSchema, description: 'The pool of another unit that it is carried over with.' },
    },
  },
  {
    ...object,
    required: ['kind'],
    properties: {
      kind: { const: 'unit-retired' },
      note: { ...note, description: 'What became of it, and of its licence.' },
    },
  },
  {
    ...object,
    required: ['kind', 'lines'],
    properties: { kind: { const: 'stock-taken' }, lines: stockLinesSchema },
  },
  { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'drive-removed' }, serial } },
  { ...object, required: ['kind', 'serial', 'note'], properties: { kind: { const: 'drive-suspected' }, serial, note } },
  { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'drive-failed' }, serial, note } },
  { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'drive-taken-out-of-service' }, serial } },
  {
    ...object,
    required: ['kind', 'pool', ...BUILT],
    properties: {
      kind: { const: 'pool-created' },
      pool: uuid,
      name,
      scheme: { enum: SCHEMES },
      groupWidth,
      spares: { type: 'array', maxItems: 1000, items: serial },
      ...poolShape,
    },
  },
  {
    ...object,
    required: ['kind', 'job', 'task', 'pool'],
    properties: {
      kind: { const: 'job-started' },
      job: id,
      task: { enum: TASKS },
      pool: id,
      replaces: serial,
      onto: serial,
    },
  },
  {
    ...object,
    required: ['kind', 'job', 'percent'],
    properties: {
      kind: { const: 'job-progressed' },
      job: id,
      percent,
      band: {
        type: 'integer',
        minimum: 1,
        maximum: 1000,
        description: 'The band it is about, where a family counts each band from 0 to 100.',
      },
    },
  },
  { ...object, required: ['kind', 'job'], properties: { kind: { const: 'job-finished' }, job: id } },
  { ...object, required: ['kind', 'job'], properties: { kind: { const: 'job-aborted' }, job: id } },
  { ...object, required: ['kind', 'job'], properties: { kind: { const: 'job-restarted' }, job: id, note } },
  { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'drive-returned' }, serial, note } },
  { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'drive-cleared' }, serial, note } },
  {
    ...object,
    required: ['kind', 'pool', 'bands', 'usableBytes', 'shownBytes', 'fileSystemReserveBytes'],
    properties: { kind: { const: 'pool-grown' }, pool: id, ...poolShape },
  },
  {
    ...object,
    required: ['kind', 'pool', 'scheme', 'bands', 'usableBytes', 'shownBytes', 'fileSystemReserveBytes'],
    properties: {
      kind: { const: 'pool-converted' },
      pool: id,
      scheme: { enum: SCHEMES },
      groupWidth,
      ...poolShape,
    },
  },
  {
    ...object,
    required: ['kind', 'pool', 'serials'],
    properties: { kind: { const: 'pool-restored' }, pool: id, serials, note },
  },
  {
    ...object,
    required: ['kind', 'pool', 'to'],
    properties: {
      kind: { const: 'pool-left' },
      pool: id,
      to: { anyOf: [uuid, { type: 'null' }], description: 'The unit it goes to; null where that is none of ours.' },
      note,
    },
  },
  {
    ...object,
    required: ['kind', 'pool', 'from', 'builtAt', ...BUILT],
    properties: {
      kind: { const: 'pool-arrived' },
      pool: uuid,
      from: {
        anyOf: [uuid, { type: 'null' }],
        description: 'The unit it left; null where it was there before anybody wrote it down.',
      },
      builtAt: {
        anyOf: [{ type: 'string', format: 'date-time' }, { type: 'null' }],
        description: 'When it was built; null where nobody knows.',
      },
      name,
      scheme: { enum: SCHEMES },
      groupWidth,
      spares: { type: 'array', maxItems: 1000, items: serial },
      missing: { type: 'array', maxItems: 1000, items: serial, description: 'Members it arrived without.' },
      ...poolShape,
    },
  },
  {
    ...object,
    required: ['kind', 'pool'],
    properties: {
      kind: { const: 'pool-stopped' },
      pool: id,
      note: { ...note, description: 'What the unit says: stopped, offline. Nothing is proven lost by it.' },
    },
  },
  {
    ...object,
    required: ['kind', 'pool', 'how', 'serials'],
    properties: {
      kind: { const: 'pool-back' },
      pool: id,
      how: {
        enum: ['whole', 'degraded', 'damaged'],
        description: '`damaged`: it is served again, and files of it are not as they were.',
      },
      serials: {
        type: 'array',
        maxItems: 1000,
        uniqueItems: true,
        items: serial,
        description: 'Missing members that the unit has taken back with what is on them.',
      },
      note,
    },
  },
  {
    ...object,
    required: ['kind', 'pool'],
    properties: {
      kind: { const: 'pool-lost' },
      pool: id,
      note: { ...note, description: 'How it is known: given up after what could be tried, or erased.' },
    },
  },
  { ...object, required: ['kind', 'pool'], properties: { kind: { const: 'pool-destroyed' }, pool: id } },
  {
    ...object,
    required: ['kind', 'pool', 'serial'],
    properties: { kind: { const: 'spare-assigned' }, pool: id, serial },
  },
  {
    ...object,
    required: ['kind', 'pool', 'serial'],
    properties: { kind: { const: 'spare-released' }, pool: id, serial },
  },
  {
    ...object,
    required: ['kind', 'serials'],
    properties: {
      kind: { const: 'cache-set' },
      serials: {
        type: 'array',
        maxItems: 64,
        uniqueItems: true,
        items: serial,
        description: 'Every drive that is cache of the unit now; none ends it.',
      },
      holds: cacheHolds,
    },
  },
  {
    ...object,
    required: ['kind', 'pool', 'spare', 'replaces', 'job'],
    properties: { kind: { const: 'spare-took-over' }, pool: id, spare: serial, replaces: serial, job: id },
  },
  {
    ...object,
    required: ['kind', 'volume', 'pool', 'name', 'bytes', 'thin'],
    properties: {
      kind: { const: 'volume-set' },
      volume: id,
      pool: id,
      name,
      bytes,
      thin: { type: 'boolean' },
      fileSystem: { type: 'string', maxLength: 60 },
      checksums: { type: 'boolean' },
    },
  },
  { ...object, required: ['kind', 'volume'], properties: { kind: { const: 'volume-removed' }, volume: id } },
  { ...object, required: ['kind', 'on'], properties: { kind: { const: 'power' }, on: { type: 'boolean' } } },
  {
    ...object,
    required: ['kind', 'part', 'name'],
    properties: { kind: { const: 'part-lost' }, part: { enum: PARTS }, name, note },
  },
  {
    ...object,
    required: ['kind', 'part', 'name'],
    properties: { kind: { const: 'part-back' }, part: { enum: PARTS }, name },
  },
  {
    ...object,
    required: ['kind', 'enclosure'],
    properties: { kind: { const: 'enclosure-added' }, enclosure: enclosureSchema },
  },
  { ...object, required: ['kind', 'enclosure'], properties: { kind: { const: 'enclosure-lost' }, enclosure: name } },
  { ...object, required: ['kind', 'enclosure'], properties: { kind: { const: 'enclosure-back' }, enclosure: name } },
  {
    ...object,
    required: ['kind', 'version'],
    properties: { kind: { const: 'firmware-updated' }, version: { type: 'string', minLength: 1, maxLength: 40 } },
  },
  {
    ...object,
    required: ['kind'],
    properties: { kind: { const: 'unit-described' }, name, place: placeSchema, details: unitDetailsSchema },
  },
  {
    ...object,
    required: ['kind', 'note'],
    properties: {
      kind: { const: 'sign-noted' },
      note: { ...note, minLength: 1 },
      lamp: { type: 'string', maxLength: 400 },
      bay,
    },
  },
  { ...object, required: ['kind'], properties: { kind: { const: 'signs-cleared' }, note } },
  {
    ...object,
    required: ['kind', 'note'],
    properties: { kind: { const: 'noted' }, note: { ...note, minLength: 1, pattern: '\\S' } },
  },
  {
    ...object,
    required: ['kind', 'seen'],
    properties: {
      kind: { const: 'drives-counted' },
      seen: { type: 'integer', minimum: 0, maximum: 1000 },
      expected: { type: 'integer', minimum: 0, maximum: 1000 },
      enclosure: { ...name, description: 'The one enclosure that was counted; left out means all of the unit.' },
    },
  },
  {
    ...object,
    required: ['kind', 'signs'],
    properties: {
      kind: { const: 'round-walked' },
      seen: { type: 'integer', minimum: 0, maximum: 1000 },
      signs: { type: 'array', maxItems: 20, items: { type: 'string', minLength: 1, maxLength: 400 } },
      note,
    },
  },
  {
    ...object,
    required: ['kind', 'check'],
    properties: { kind: { const: 'check-confirmed' }, check: { enum: CHECKS }, note },
  },
  {
    ...object,
    required: ['kind', 'readBytesPerSecond', 'writeBytesPerSecond'],
    properties: {
      kind: { const: 'speed-measured' },
      readBytesPerSecond: speed,
      writeBytesPerSecond: speed,
      isBaseline: { type: 'boolean', description: 'Measured when new: what later measurements are held against.' },
    },
  },
  {
    ...object,
    required: ['kind', 'dataSet', 'name'],
    properties: { kind: { const: 'data-set-described' }, dataSet: id, name, pool: id, bytes: bytesOrNone },
  },
  { ...object, required: ['kind', 'dataSet'], properties: { kind: { const: 'data-set-removed' }, dataSet: id } },
  {
    ...object,
    required: ['kind', 'dataSet', 'copy', 'where', 'keeps', 'offSite'],
    properties: {
      kind: { const: 'copy-described' },
      dataSet: id,
      copy: id,
      ...copyFields,
    },
  },
  {
    ...object,
    required: ['kind', 'dataSet', 'copy'],
    properties: { kind: { const: 'copy-removed' }, dataSet: id, copy: id },
  },
  {
    ...object,
    required: ['kind', 'dataSet', 'copy', 'outcome'],
    properties: {
      kind: { const: 'copy-confirmed' },
      dataSet: id,
      copy: id,
      outcome: {
        enum: ['ran', 'failed', 'restore-worked', 'restore-failed', 'same', 'differs'],
        description: '`same` and `differs`: it was compared with what it is a copy of.',
      },
      freeBytes: bytesOrNone,
      on: { ...day, description: 'The day it was, where that lies before the day it is told.' },
      note,
    },
  },
  {
    ...object,
    required: ['kind', 'tasks'],
    properties: {
      kind: { const: 'upkeep-planned' },
      tasks: { type: 'array', minItems: 1, maxItems: 50, items: upkeepTaskSchema },
    },
  },
  { ...object, required: ['kind', 'task'], properties: { kind: { const: 'upkeep-dropped' }, task: id } },
  { ...object, required: ['kind', 'task'], properties: { kind: { const: 'upkeep-done' }, task: id, note } },
] as const;

const words = { ...note, minLength: 1, pattern: '\\S' } as const;
const stepWords = { type: 'string', minLength: 1, maxLength: 200_000 } as const;

/** What only the model makes: how the plans that touch it stand, and that something was taken back. */
const MADE = [
  {
    ...object,
    required: ['kind', 'plan', 'job', 'title', 'of', 'serials'],
    properties: {
      kind: { const: 'plan-began' },
      plan: uuid,
      job: { enum: JOBS },
      title: { type: 'string', minLength: 1, maxLength: 120 },
      of: { type: 'integer', minimum: 1, maximum: 1100, description: 'How many steps it has.' },
      serials: { ...serials, minItems: 0, description: 'The members of this unit it replaces.' },
      ledFrom: { ...uuid, description: 'Of a plan over two units: the one it is led from, where that is the other.' },
    },
  },
  {
    ...object,
    required: ['kind', 'plan', 'step', 'title', 'how'],
    properties: {
      kind: { const: 'plan-step' },
      plan: uuid,
      step: id,
      title: { type: 'string', minLength: 1, maxLength: 400 },
      how: { enum: ['done', 'skipped', 'refused', 'overridden'] },
      note: stepWords,
    },
  },
  {
    ...object,
    required: ['kind', 'plan', 'note'],
    properties: { kind: { const: 'plan-paused' }, plan: uuid, note: words },
  },
  {
    ...object,
    required: ['kind', 'plan', 'how'],
    properties: { kind: { const: 'plan-ended' }, plan: uuid, how: planEnd, note },
  },
  {
    ...object,
    required: ['kind', 'pool', 'volumes', 'dataSets'],
    properties: {
      kind: { const: 'pool-contents' },
      pool: uuid,
      volumes: { type: 'object', description: 'Its volumes, as they were at the unit it left.' },
      dataSets: { type: 'object', description: 'Its data sets with their copies, as they were there.' },
    },
  },
  {
    ...object,
    required: ['kind', 'to'],
    properties: {
      kind: { const: 'unit-packed' },
      to: { ...uuid, description: 'The unit its drives are carried to: it is off, and its pools rest.' },
    },
  },
  { ...object, required: ['kind'], properties: { kind: { const: 'unit-unpacked' } } },
  {
    ...object,
    required: ['kind', 'to'],
    properties: {
      kind: { const: 'data-handed-over' },
      to: { ...uuid, description: 'The unit its data is at home in from now on; what is left here is a copy.' },
      dataSets: onlySets,
    },
  },
  {
    ...object,
    required: ['kind', 'from', 'dataSets'],
    properties: {
      kind: { const: 'data-arrived' },
      from: { ...uuid, description: 'The unit it was copied from.' },
      dataSets: { ...dataSetsSchema, description: 'What is at home here from now on, with its copies.' },
    },
  },
  takenBackSchema,
] as const;

/** Everything that stands in a unit's ledger. */
export const unitEventSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'patient-shelf:unit-event',
  title: 'Unit event',
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [...STATED, ...MADE],
} as const;

/** What may be sent of a unit. */
export const statedUnitEventSchema = {
  title: 'What happened to a unit',
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: STATED,
} as const;

/** That an entry was not so: the whole act it came by is taken back. */
export const withdrawalSchema = {
  ...object,
  required: ['kind', 'seq', 'reason'],
  properties: {
    kind: { const: 'statement-withdrawn' },
    seq: { type: 'integer', minimum: 1, maximum: 2_000_000_000 },
    reason: words,
  },
} as const;

/** The same, or that an entry of its ledger was not so. */
export const sentUnitEventSchema = { ...statedUnitEventSchema, oneOf: [...STATED, withdrawalSchema] } as const;

export type Withdrawal = FromSchema<typeof withdrawalSchema>;
export type UnitEventBody = FromSchema<typeof unitEventSchema>;
/** What a person may state of a unit; the rest only the model makes. */
export type StatedUnitEvent = FromSchema<typeof statedUnitEventSchema>;
export type UnitDetails = FromSchema<typeof unitDetailsSchema>;
export type Check = (typeof CHECKS)[number];
export type Part = (typeof PARTS)[number];
