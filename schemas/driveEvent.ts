import type { FromSchema } from 'json-schema-to-ts';
import { carriesSchema, driveSchema, placeSchema, withdrawalSchema } from './unitEvent';
import { takenBackSchema } from './takenBack';
import { WIPES } from './wipes';
import { bay, name, note, serial, uuid } from './words';

const object = { type: 'object', additionalProperties: false } as const;
const paper = { ...uuid, description: 'A paper kept with it: a delivery note, a wipe record.' } as const;
const toWhom = { type: 'string', minLength: 1, maxLength: 120, pattern: '\\S' } as const;
const { serial: _serial, ...description } = driveSchema.properties;

export const driveDescriptionSchema = { ...object, required: ['bytes', 'basis'], properties: description } as const;

/** Where a drive lies when it is in no unit. */
export const drawerSchema = {
  ...object,
  required: ['site', 'room', 'drawer'],
  properties: { site: placeSchema.properties.site, room: placeSchema.properties.room, drawer: name },
} as const;

/** What may be said of a drive while it is in no unit. */
const STATED = [
  {
    ...object,
    required: ['kind', 'drive'],
    properties: { kind: { const: 'described' }, drive: driveDescriptionSchema },
  },
  {
    ...object,
    required: ['kind', 'drive'],
    properties: { kind: { const: 'received' }, drive: driveDescriptionSchema, order: uuid, paper, note },
  },
  { ...object, required: ['kind', 'drawer'], properties: { kind: { const: 'put-in-drawer' }, drawer: drawerSchema } },
  {
    ...object,
    required: ['kind', 'result'],
    properties: { kind: { const: 'tested' }, result: { enum: ['well', 'sick'] }, note, paper },
  },
  {
    ...object,
    required: ['kind', 'to'],
    properties: {
      kind: { const: 'sent-under-warranty' },
      to: toWhom,
      claim: { type: 'string', maxLength: 60 },
      paper,
      note,
    },
  },
  {
    ...object,
    required: ['kind'],
    properties: { kind: { const: 'warranty-settled' }, replacement: serial, note, paper },
  },
  {
    ...object,
    required: ['kind', 'method', 'how', 'by'],
    properties: {
      kind: { const: 'wiped' },
      method: { enum: WIPES },
      how: { type: 'string', minLength: 1, maxLength: 200 },
      by: toWhom,
      checked: { type: 'boolean' },
      paper,
    },
  },
  { ...object, required: ['kind', 'to'], properties: { kind: { const: 'sent-away' }, to: toWhom, paper, note } },
  {
    ...object,
    required: ['kind', 'note'],
    properties: { kind: { const: 'noted' }, note: { ...note, minLength: 1, pattern: '\\S' } },
  },
] as const;

/** What only the model makes: its unit says it, and that something was taken back. */
const MADE = [
  {
    ...object,
    required: ['kind', 'unit', 'unitName', 'bay', 'drive'],
    properties: {
      kind: { const: 'fitted' },
      unit: uuid,
      unitName: name,
      bay,
      place: {
        type: 'string',
        minLength: 1,
        maxLength: 120,
        description: 'The bay as the unit counts it, where it has more than one enclosure.',
      },
      drive: driveDescriptionSchema,
      carries: { ...carriesSchema, description: 'The pool of another unit that it is carried over with.' },
    },
  },
  {
    ...object,
    required: ['kind', 'unit'],
    properties: {
      kind: { const: 'taken-out' },
      unit: uuid,
      sick: { enum: ['signs', 'failed'], description: 'It had shown signs, or had failed, when it came out.' },
      note,
      holds: {
        ...object,
        required: ['pool', 'name', 'unitName'],
        properties: { pool: uuid, name, unitName: name },
        description: 'The pool it was a member of: what it held is on it still.',
      },
    },
  },
  takenBackSchema,
] as const;

/** Everything that stands in a drive's ledger. */
export const driveEventSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'patient-shelf:drive-event',
  title: 'Drive event',
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [...STATED, ...MADE],
} as const;

/** What may be sent of a drive. */
export const statedDriveEventSchema = {
  title: 'What happened to a drive',
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: STATED,
} as const;

/** The same, or that an entry of its ledger was not so. */
export const sentDriveEventSchema = { ...statedDriveEventSchema, oneOf: [...STATED, withdrawalSchema] } as const;

export type DriveEventBody = FromSchema<typeof driveEventSchema>;
/** What a person may state of a drive; the rest only the model makes. */
export type StatedDriveEvent = FromSchema<typeof statedDriveEventSchema>;
export type DriveDescription = FromSchema<typeof driveDescriptionSchema>;
