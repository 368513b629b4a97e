import type { FromSchema } from 'json-schema-to-ts';
import { SCHEMES } from './scheme';
import { bay, bytes, id, name, note, serial } from './words';

const object = { type: 'object', additionalProperties: false } as const;
const text = { type: 'string', minLength: 1, maxLength: 600 } as const;

/** The drive a plan means to fit; its serial is read off the drive when it is in hand. */
export const plannedDriveSchema = {
  ...object,
  required: ['bay', 'bytes', 'basis'],
  properties: {
    bay,
    bytes,
    basis: { enum: ['exact', 'label', 'binary'] },
    serial,
    label: { type: 'string', maxLength: 20 },
    model: { type: 'string', maxLength: 64 },
    media: { enum: ['hard-disk', 'shingled', 'ssd', 'nvme'] },
  },
} as const;

/** What a step changes when it is done. Resolved against the state of that moment, with the evidence in hand. */
const intentionSchema = {
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
    { ...object, required: ['kind', 'drive'], properties: { kind: { const: 'fit-drive' }, drive: plannedDriveSchema } },
    {
      ...object,
      required: ['kind', 'pool', 'name', 'scheme', 'spares', 'bays'],
      properties: {
        kind: { const: 'make-pool' },
        pool: id,
        name,
        scheme: { enum: SCHEMES },
        groupWidth: { type: 'integer', minimum: 2, maximum: 1000 },
        spares: { type: 'integer', minimum: 0, maximum: 1000 },
        bays: { type: 'array', minItems: 1, maxItems: 1000, items: bay },
      },
    },
    { ...object, required: ['kind', 'on'], properties: { kind: { const: 'switch-power' }, on: { type: 'boolean' } } },
    {
      ...object,
      required: ['kind', 'field'],
      properties: { kind: { const: 'write-down' }, field: { enum: ['serial', 'address', 'hardwareAddress', 'call', 'ports'] } },
    },
    { ...object, required: ['kind'], properties: { kind: { const: 'update-firmware' } } },
    { ...object, required: ['kind', 'check'], properties: { kind: { const: 'confirm' }, check: { type: 'string', maxLength: 40 } } },
    { ...object, required: ['kind', 'task', 'pool'], properties: { kind: { const: 'start-job' }, task: { enum: ['first-build'] }, pool: id } },
    { ...object, required: ['kind', 'task', 'pool'], properties: { kind: { const: 'finish-job' }, task: { enum: ['first-build'] }, pool: id } },
    {
      ...object,
      required: ['kind', 'pool', 'name', 'thin'],
      properties: {
        kind: { const: 'make-volume' },
        pool: id,
        name,
        thin: { type: 'boolean' },
        fileSystem: { type: 'string', maxLength: 60 },
        checksums: { type: 'boolean' },
      },
    },
    { ...object, required: ['kind'], properties: { kind: { const: 'measure-speed' } } },
    { ...object, required: ['kind'], properties: { kind: { const: 'arrange-copy' } } },
  ],
} as const;

const evidenceAskedSchema = {
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
    { ...object, required: ['kind'], properties: { kind: { const: 'tick' } } },
    { ...object, required: ['kind'], properties: { kind: { const: 'serial' }, expects: serial } },
    { ...object, required: ['kind', 'label'], properties: { kind: { const: 'text' }, label: text } },
    {
      ...object,
      required: ['kind', 'label', 'unit'],
      properties: { kind: { const: 'number' }, label: text, unit: { type: 'string', maxLength: 20 }, least: { type: 'number' }, most: { type: 'number' } },
    },
    { ...object, required: ['kind'], properties: { kind: { const: 'speed' } } },
    { ...object, required: ['kind'], properties: { kind: { const: 'picture' } } },
  ],
} as const;

const stepSchema = {
  ...object,
  required: ['id', 'kind', 'part', 'title', 'why', 'asks', 'after', 'does'],
  properties: {
    id,
    kind: { enum: ['check', 'act', 'wait', 'record'] },
    part: { ...name, description: 'The heading it stands under.' },
    title: { type: 'string', minLength: 1, maxLength: 160 },
    why: text,
    caution: text,
    asks: evidenceAskedSchema,
    after: { type: 'array', maxItems: 1100, items: id, description: 'Steps that must be done before.' },
    does: { type: 'array', maxItems: 20, items: intentionSchema },
    hours: { type: 'number', minimum: 0, maximum: 8760, description: 'How long it usually takes.' },
    maySkip: { type: 'boolean' },
  },
} as const;

export const planSchema = {
  ...object,
  required: ['job', 'title', 'steps'],
  properties: {
    job: { enum: ['commission'] },
    title: { type: 'string', minLength: 1, maxLength: 120 },
    steps: { type: 'array', minItems: 1, maxItems: 1100, items: stepSchema },
  },
} as const;

const megabytes = { type: 'number', minimum: 1, maximum: 100_000, description: 'MB/s' } as const;

/** What the person at the unit gave for a step. */
export const stepEvidenceSchema = {
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
    { ...object, required: ['kind'], properties: { kind: { const: 'tick' } } },
    { ...object, required: ['kind', 'serial'], properties: { kind: { const: 'serial' }, serial } },
    { ...object, required: ['kind', 'text'], properties: { kind: { const: 'text' }, text: { ...note, minLength: 1, pattern: '\\S' } } },
    { ...object, required: ['kind', 'number'], properties: { kind: { const: 'number' }, number: { type: 'number', minimum: -1e15, maximum: 1e15 } } },
    { ...object, required: ['kind', 'read', 'write'], properties: { kind: { const: 'speed' }, read: megabytes, write: megabytes } },
    { ...object, required: ['kind', 'paper'], properties: { kind: { const: 'picture' }, paper: { type: 'string', format: 'uuid' } } },
  ],
} as const;

export type PlanBody = FromSchema<typeof planSchema>;
export type PlanStep = PlanBody['steps'][number];
export type Intention = PlanStep['does'][number];
export type StepEvidence = FromSchema<typeof stepEvidenceSchema>;
