import type { FromSchema } from 'json-schema-to-ts';
import { profileSchema } from './profile';
import { SCHEMES } from './scheme';

const object = { type: 'object', additionalProperties: false } as const;
const bay = { type: 'string', pattern: '^[\\w.:/ -]{1,16}$' } as const;
const serial = { type: 'string', pattern: '^\\S(.{0,62}\\S)?$', description: 'The serial as printed on the drive.' } as const;
const id = { type: 'string', pattern: '^[a-z0-9-]{1,40}$' } as const;
const name = { type: 'string', minLength: 1, maxLength: 60, pattern: '\\S' } as const;
const bytes = { type: 'integer', minimum: 1, maximum: 9_000_000_000_000_000 } as const;
const bytesOrNone = { type: 'integer', minimum: 0, maximum: 9_000_000_000_000_000 } as const;
const note = { type: 'string', maxLength: 400 } as const;

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
    basis: { enum: ['exact', 'label', 'binary'] },
    label: { type: 'string', maxLength: 20 },
    model: { type: 'string', maxLength: 64 },
    media: { enum: ['hard-disk', 'shingled', 'ssd', 'nvme'] },
    priceCents: { type: 'integer', minimum: 0, maximum: 100_000_000_000 },
  },
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

/** Everything that can be recorded of a unit. */
export const unitEventSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'patient-shelf:unit-event',
  title: 'Unit event',
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
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
          items: {
            type: 'object',
            additionalProperties: false,
            required: ['name', 'bays'],
            properties: { name, bays: { type: 'array', minItems: 1, maxItems: 1000, items: bay } },
          },
        },
      },
    },
    { ...object, required: ['kind', 'bay', 'drive'], properties: { kind: { const: 'drive-inserted' }, bay, drive: driveSchema } },
    { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'drive-removed' }, serial } },
    { ...object, required: ['kind', 'serial', 'note'], properties: { kind: { const: 'drive-suspected' }, serial, note } },
    { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'drive-failed' }, serial, note } },
    { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'drive-taken-out-of-service' }, serial } },
    {
      ...object,
      required: ['kind', 'pool', 'name', 'scheme', 'bands', 'spares', 'usableBytes', 'shownBytes', 'fileSystemReserveBytes'],
      properties: {
        kind: { const: 'pool-created' },
        pool: id,
        name,
        scheme: { enum: SCHEMES },
        groupWidth: { type: 'integer', minimum: 2, maximum: 1000 },
        bands: { type: 'array', minItems: 1, maxItems: 1000, items: bandSchema },
        spares: { type: 'array', maxItems: 1000, items: serial },
        usableBytes: bytes,
        shownBytes: bytesOrNone,
        fileSystemReserveBytes: bytesOrNone,
      },
    },
    {
      ...object,
      required: ['kind', 'job', 'task', 'pool'],
      properties: { kind: { const: 'job-started' }, job: id, task: { enum: ['first-build', 'rebuild', 'scrub'] }, pool: id, replaces: serial, onto: serial },
    },
    {
      ...object,
      required: ['kind', 'job', 'percent'],
      properties: { kind: { const: 'job-progressed' }, job: id, percent: { type: 'number', minimum: 0, maximum: 100 } },
    },
    { ...object, required: ['kind', 'job'], properties: { kind: { const: 'job-finished' }, job: id } },
    { ...object, required: ['kind', 'job'], properties: { kind: { const: 'job-aborted' }, job: id } },
  ],
} as const;

export type UnitEventBody = FromSchema<typeof unitEventSchema>;
