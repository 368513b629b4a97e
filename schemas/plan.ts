import type { FromSchema } from 'json-schema-to-ts';
import { copyFields } from './copies';
import { SCHEMES } from './scheme';
import { stockLinesSchema } from './stock';
import { WIPES } from './wipes';
import {
  basis,
  bay,
  bytes,
  cacheHolds,
  day,
  driveLabel,
  enclosureSchema,
  groupWidth,
  id,
  media,
  model,
  name,
  note,
  onlySets,
  printed,
  serial,
  spares,
  uuid,
} from './words';

const object = { type: 'object', additionalProperties: false } as const;
/** What the model says of a step: it names every drive it is about, and there may be a thousand. */
const text = { type: 'string', minLength: 1, maxLength: 200_000 } as const;
/** Names of a unit, a bay and a serial, with the words between. */
const title = { type: 'string', minLength: 1, maxLength: 400 } as const;

/** The drive a plan means to fit; its serial is read off the drive when it is in hand. */
export const plannedDriveSchema = {
  ...object,
  required: ['bay', 'bytes', 'basis'],
  properties: {
    bay,
    bytes,
    basis,
    serial,
    printed,
    label: driveLabel,
    model,
    media,
  },
} as const;

const actsOn = { ...uuid, description: 'The unit it acts on; left out where the plan acts on one.' } as const;

/** What a drive is, as it stands on it. */
const driveReadProperties = { bytes, basis, label: driveLabel } as const;

/** What a drive says of itself besides its serial, as it was read off it. */
export const driveReadSchema = {
  ...object,
  required: ['bytes', 'basis'],
  description: 'What stands on the drive: counts where the record does not know it.',
  properties: driveReadProperties,
} as const;

/** What is done with drives that are laid out: what their sizes mean is told by it. */
export const LAID_OUT_FOR = ['add', 'change-level', 'spare', 'swap'] as const;

/** How a drive looks that is laid out. */
export const DRIVE_LOOKS = ['new', 'used', 'damaged'] as const;

/** What a step changes when it is done. Resolved against the state of that moment, with the evidence in hand. */
const intentionSchema = {
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
    {
      ...object,
      required: ['kind', 'drive'],
      properties: {
        unit: actsOn,
        kind: { const: 'fit-drive' },
        drive: plannedDriveSchema,
        for: { ...serial, description: 'The member it is to take over from: it must hold as much.' },
      },
    },
    {
      ...object,
      required: ['kind', 'drive', 'for'],
      properties: { unit: actsOn, kind: { const: 'take-drive' }, drive: plannedDriveSchema, for: serial },
    },
    {
      ...object,
      required: ['kind', 'pool', 'use', 'drive', 'bays'],
      properties: {
        unit: actsOn,
        kind: { const: 'lay-out' },
        pool: id,
        use: { enum: LAID_OUT_FOR },
        to: { enum: SCHEMES, description: 'The level it becomes.' },
        drive: { ...object, required: ['bytes', 'basis'], properties: driveReadProperties },
        bays: { type: 'array', minItems: 1, maxItems: 1000, items: bay, description: 'Where they are to go.' },
        idle: {
          type: 'array',
          maxItems: 1000,
          items: bay,
          description: 'Bays of idle drives that are taken with them.',
        },
      },
    },
    {
      ...object,
      required: ['kind', 'name', 'scheme', 'spares', 'drives'],
      description: 'The pool that is to be made of the drives that go in: what their sizes mean is told by it.',
      properties: {
        unit: actsOn,
        kind: { const: 'towards-pool' },
        name,
        scheme: { enum: SCHEMES },
        groupWidth,
        spares,
        drives: {
          type: 'array',
          minItems: 1,
          maxItems: 1000,
          items: { ...object, required: ['bay', 'bytes'], properties: { bay, bytes, media } },
        },
      },
    },
    {
      ...object,
      required: ['kind', 'pool', 'name', 'scheme', 'spares', 'bays'],
      properties: {
        unit: actsOn,
        kind: { const: 'make-pool' },
        pool: id,
        name,
        scheme: { enum: SCHEMES },
        groupWidth,
        spares,
        bays: { type: 'array', minItems: 1, maxItems: 1000, items: bay },
      },
    },
    {
      ...object,
      required: ['kind', 'pool', 'bays'],
      properties: {
        unit: actsOn,
        kind: { const: 'add-drives' },
        pool: id,
        bays: { type: 'array', minItems: 1, maxItems: 1000, items: bay },
      },
    },
    {
      ...object,
      required: ['kind', 'pool', 'to', 'bays'],
      properties: {
        unit: actsOn,
        kind: { const: 'change-level' },
        pool: id,
        to: { enum: SCHEMES },
        bays: { type: 'array', maxItems: 1000, items: bay, description: 'Bays of the drives added for it.' },
      },
    },
    {
      ...object,
      required: ['kind', 'enclosure'],
      properties: { unit: actsOn, kind: { const: 'attach-enclosure' }, enclosure: enclosureSchema },
    },
    {
      ...object,
      required: ['kind', 'volume'],
      properties: {
        unit: actsOn,
        kind: { const: 'enlarge-volume' },
        volume: { ...id, description: 'It is as large as its pool allows afterwards.' },
      },
    },
    {
      ...object,
      required: ['kind', 'on'],
      properties: { unit: actsOn, kind: { const: 'switch-power' }, on: { type: 'boolean' } },
    },
    {
      ...object,
      required: ['kind', 'field'],
      properties: {
        unit: actsOn,
        kind: { const: 'write-down' },
        field: { enum: ['serial', 'address', 'hardwareAddress', 'call', 'ports'] },
      },
    },
    { ...object, required: ['kind'], properties: { unit: actsOn, kind: { const: 'update-firmware' } } },
    {
      ...object,
      required: ['kind', 'check'],
      properties: { unit: actsOn, kind: { const: 'confirm' }, check: { type: 'string', maxLength: 40 } },
    },
    {
      ...object,
      required: ['kind', 'task', 'pool'],
      properties: {
        unit: actsOn,
        kind: { const: 'start-job' },
        task: { enum: ['first-build', 'convert', 'copy'] },
        pool: id,
      },
    },
    {
      ...object,
      required: ['kind', 'task', 'pool'],
      properties: {
        unit: actsOn,
        kind: { const: 'finish-job' },
        task: { enum: ['first-build', 'convert', 'copy'] },
        pool: id,
        bytes: { ...bytes, description: 'What a copy brings in: the pool is at least that full when it is done.' },
      },
    },
    {
      ...object,
      required: ['kind', 'enclosure', 'expected'],
      properties: {
        unit: actsOn,
        kind: { const: 'count-drives' },
        enclosure: name,
        expected: { type: 'integer', minimum: 1, maximum: 1000 },
      },
    },
    {
      ...object,
      required: ['kind', 'pool', 'name', 'thin'],
      properties: {
        unit: actsOn,
        kind: { const: 'make-volume' },
        pool: id,
        name,
        thin: { type: 'boolean' },
        fileSystem: { type: 'string', maxLength: 60 },
        checksums: { type: 'boolean' },
      },
    },
    { ...object, required: ['kind'], properties: { unit: actsOn, kind: { const: 'measure-speed' } } },
    {
      ...object,
      required: ['kind', 'serials'],
      description: 'What becomes of drives that left, as it was done with each.',
      properties: {
        unit: actsOn,
        kind: { const: 'decide-fates' },
        serials: { type: 'array', minItems: 1, maxItems: 1000, items: serial },
      },
    },
    {
      ...object,
      required: ['kind'],
      description: 'Not before the day until which the unit is kept as it is.',
      properties: { unit: actsOn, kind: { const: 'keep-until' } },
    },
    { ...object, required: ['kind'], properties: { unit: actsOn, kind: { const: 'retire' } } },
    {
      ...object,
      required: ['kind'],
      properties: {
        unit: actsOn,
        kind: { const: 'arrange-copy' },
        pool: { ...id, description: 'The pool whose copy it is; left out where it is the only one.' },
        isLast: {
          type: 'boolean',
          description:
            'What follows may leave the copy as all there is: without one that is proven only an owner goes on.',
        },
      },
    },
    {
      ...object,
      required: ['kind', 'pool', 'bytes'],
      properties: {
        unit: actsOn,
        kind: { const: 'see-space' },
        pool: id,
        bytes: { ...bytes, description: 'What the unit’s page ought to show.' },
      },
    },
    {
      ...object,
      required: ['kind', 'serial'],
      properties: { unit: actsOn, kind: { const: 'take-out-of-service' }, serial },
    },
    { ...object, required: ['kind', 'serial'], properties: { unit: actsOn, kind: { const: 'pull-drive' }, serial } },
    {
      ...object,
      required: ['kind', 'pool', 'replaces', 'bay', 'task'],
      properties: {
        unit: actsOn,
        kind: { const: 'start-rebuild' },
        pool: id,
        replaces: serial,
        bay,
        task: { enum: ['rebuild', 'replace'] },
      },
    },
    {
      ...object,
      required: ['kind', 'pool', 'replaces'],
      properties: {
        unit: actsOn,
        kind: { const: 'finish-rebuild' },
        pool: id,
        replaces: serial,
        bay: { ...bay, description: 'Where the drive stands that is written: work that stops begins anew on it.' },
        task: { enum: ['rebuild', 'replace'] },
      },
    },
    {
      ...object,
      required: ['kind', 'pool', 'replaces', 'spare'],
      properties: { unit: actsOn, kind: { const: 'take-over' }, pool: id, replaces: serial, spare: serial },
    },
    {
      ...object,
      required: ['kind', 'pool', 'bay'],
      properties: { unit: actsOn, kind: { const: 'assign-spare' }, pool: id, bay },
    },
    {
      ...object,
      required: ['kind', 'pool', 'serial'],
      properties: { unit: actsOn, kind: { const: 'release-spare' }, pool: id, serial },
    },
    { ...object, required: ['kind', 'serial'], properties: { unit: actsOn, kind: { const: 'see-again' }, serial } },
    {
      ...object,
      required: ['kind', 'pool', 'serial'],
      properties: { unit: actsOn, kind: { const: 'take-back' }, pool: id, serial },
    },
    {
      ...object,
      required: ['kind', 'pool'],
      description: 'What the unit’s page says of a pool that had stopped, as it is chosen.',
      properties: { unit: actsOn, kind: { const: 'hear-pool' }, pool: id },
    },
    {
      ...object,
      required: ['kind', 'pool'],
      description: 'How it ended with a pool that had stopped, as it is chosen: back, not known yet, or given up.',
      properties: { unit: actsOn, kind: { const: 'end-rescue' }, pool: id },
    },
    { ...object, required: ['kind', 'pool'], properties: { unit: actsOn, kind: { const: 'expand' }, pool: id } },
    { ...object, required: ['kind'], properties: { unit: actsOn, kind: { const: 'clear-signs' } } },
    {
      ...object,
      required: ['kind', 'serials'],
      properties: {
        unit: actsOn,
        kind: { const: 'set-cache' },
        serials: { type: 'array', maxItems: 64, items: serial, description: 'Drives that are known already.' },
        bays: {
          type: 'array',
          maxItems: 64,
          items: bay,
          description: 'With them, whatever stands there when it is done.',
        },
        holds: cacheHolds,
      },
    },
    {
      ...object,
      required: ['kind', 'to'],
      properties: {
        unit: actsOn,
        kind: { const: 'pack' },
        to: { ...uuid, description: 'Where its drives are carried.' },
      },
    },
    { ...object, required: ['kind'], properties: { unit: actsOn, kind: { const: 'unpack' } } },
    {
      ...object,
      required: ['kind'],
      properties: {
        unit: actsOn,
        kind: { const: 'take-stock' },
        against: { ...uuid, description: 'The unit whose stock it is compared with.' },
        joins: {
          ...uuid,
          description:
            'Another unit joins this one: what the other has under a name of this one is named; with `against` what this one had before is expected, too.',
        },
        goesTo: {
          ...uuid,
          description:
            'Only what goes to this other unit, not all of the stock: what the other has under the same name is named.',
        },
      },
    },
    {
      ...object,
      required: ['kind', 'to', 'pool'],
      properties: {
        unit: actsOn,
        kind: { const: 'begin-copies' },
        to: { ...uuid, description: 'The unit everything is copied to.' },
        pool: id,
        dataSets: onlySets,
      },
    },
    {
      ...object,
      required: ['kind', 'to', 'outcome'],
      properties: {
        unit: actsOn,
        kind: { const: 'confirm-copies' },
        to: { ...uuid, description: 'The copies that stand on this unit.' },
        outcome: { enum: ['ran', 'same'] },
      },
    },
    {
      ...object,
      required: ['kind', 'from', 'pool'],
      properties: {
        unit: actsOn,
        kind: { const: 'take-over-data' },
        from: { ...uuid, description: 'The unit it was copied from: what is left there is a copy from now on.' },
        pool: id,
        dataSets: onlySets,
      },
    },
    {
      ...object,
      required: ['kind', 'to'],
      properties: { unit: actsOn, kind: { const: 'hand-over-data' }, to: uuid, dataSets: onlySets },
    },
    {
      ...object,
      required: ['kind', 'besides'],
      properties: {
        unit: actsOn,
        kind: { const: 'prove-copies' },
        besides: {
          ...uuid,
          description: 'What has a copy on this unit is proven by another one.',
        },
        dataSets: onlySets,
      },
    },
    {
      ...object,
      required: ['kind', 'on'],
      properties: { unit: actsOn, kind: { const: 'forget-copies' }, on: uuid, dataSets: onlySets },
    },
    { ...object, required: ['kind', 'pool'], properties: { unit: actsOn, kind: { const: 'destroy-pool' }, pool: id } },
    {
      ...object,
      required: ['kind', 'bay', 'from', 'serial'],
      properties: {
        unit: actsOn,
        kind: { const: 'carry-in' },
        bay,
        from: { ...uuid, description: 'The unit it was carried out of.' },
        serial: { ...serial, description: 'The drive that is planned for the bay.' },
        anyBay: { type: 'boolean', description: 'Any drive that was carried may go into it: roles follow serials.' },
      },
    },
    {
      ...object,
      required: ['kind', 'to'],
      properties: { unit: actsOn, kind: { const: 'leave' }, to: { ...uuid, description: 'Where its pools arrive.' } },
    },
    {
      ...object,
      required: ['kind', 'from'],
      properties: {
        unit: actsOn,
        kind: { const: 'arrive' },
        from: { ...uuid, description: 'The unit whose pools arrive, whole and as they were.' },
      },
    },
    {
      ...object,
      required: ['kind'],
      description: 'Keeps words, or what is missing of what was counted.',
      properties: { unit: actsOn, kind: { const: 'note' } },
    },
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
      properties: {
        kind: { const: 'number' },
        label: text,
        unit: { type: 'string', maxLength: 20 },
        least: { type: 'number' },
        most: { type: 'number' },
      },
    },
    { ...object, required: ['kind'], properties: { kind: { const: 'speed' } } },
    {
      ...object,
      required: ['kind'],
      description: 'Where the other copy is, by fields: a sentence is no fact.',
      properties: {
        kind: { const: 'copy' },
        isProof: { type: 'boolean', description: 'A file has to have come back from it, and been opened.' },
      },
    },
    { ...object, required: ['kind'], properties: { kind: { const: 'picture' } } },
    {
      ...object,
      required: ['kind', 'count'],
      description: 'Serial, size and look of so many drives, read off each as it lies there.',
      properties: { kind: { const: 'drives' }, count: { type: 'integer', minimum: 1, maximum: 1000 } },
    },
    {
      ...object,
      required: ['kind', 'items'],
      description: 'What there is of each of these, and what is missing.',
      properties: {
        kind: { const: 'items' },
        items: {
          type: 'array',
          minItems: 1,
          maxItems: 40,
          items: {
            ...object,
            required: ['what', 'count'],
            properties: {
              what: { type: 'string', minLength: 1, maxLength: 80 },
              count: { type: 'integer', minimum: 1, maximum: 10_000 },
            },
          },
        },
      },
    },
    {
      ...object,
      required: ['kind', 'serials'],
      properties: {
        kind: { const: 'fates' },
        serials: { type: 'array', minItems: 1, maxItems: 1000, items: serial },
      },
    },
    { ...object, required: ['kind'], properties: { kind: { const: 'page' } } },
    { ...object, required: ['kind'], properties: { kind: { const: 'stock' } } },
    {
      ...object,
      required: ['kind', 'bays'],
      description: 'A serial for each of these bays, read off the drive that goes in.',
      properties: {
        kind: { const: 'scans' },
        bays: {
          type: 'array',
          minItems: 1,
          maxItems: 1000,
          items: { ...object, required: ['bay'], properties: { bay, expects: serial } },
        },
      },
    },
    {
      ...object,
      required: ['kind', 'options'],
      properties: { kind: { const: 'choice' }, options: { type: 'array', minItems: 2, maxItems: 10, items: title } },
    },
  ],
} as const;

const stepSchema = {
  ...object,
  required: ['id', 'kind', 'part', 'title', 'why', 'asks', 'after', 'does'],
  properties: {
    id,
    kind: { enum: ['check', 'act', 'wait', 'record'] },
    part: { ...title, description: 'The heading it stands under.' },
    title,
    why: text,
    caution: text,
    asks: evidenceAskedSchema,
    after: { type: 'array', maxItems: 1100, items: id, description: 'Steps that must be done before.' },
    does: { type: 'array', maxItems: 1000, items: intentionSchema },
    hours: { type: 'number', minimum: 0, maximum: 10_000_000, description: 'How long it usually takes.' },
    between: {
      type: 'array',
      minItems: 2,
      maxItems: 2,
      items: { type: 'number', minimum: 0, maximum: 10_000_000 },
      description: 'The same as reckoned beforehand, from and to.',
    },
    maySkip: { type: 'boolean' },
    bay: { ...bay, description: 'The bay hands go to.' },
    drive: { ...serial, description: 'A drive whose own page belongs to the step.' },
  },
} as const;

/** What a plan is for. Of those that touch members one runs at a time; the rescue may begin at any time. */
export const JOBS = [
  'commission',
  'replace',
  'replace-all',
  'grow',
  'convert',
  'new-pool',
  'hot-spare',
  'cache',
  'extend',
  'retire',
  'spare-in',
  'came-back',
  'move',
  'carry-back',
  'rescue',
] as const;

export const planSchema = {
  ...object,
  required: ['job', 'title', 'steps'],
  properties: {
    job: { enum: JOBS },
    title,
    steps: { type: 'array', minItems: 1, maxItems: 1100, items: stepSchema },
    without: {
      type: 'array',
      maxItems: 1000,
      items: serial,
      description: 'Members that were missing when it was made: it was made for that.',
    },
  },
} as const;

const megabytes = { type: 'number', minimum: 1, maximum: 100_000, description: 'MB/s' } as const;

/** What the page of a unit says of work that is waited for, or of a pool that is looked at. */
export const PAGE_SAYS = ['done', 'working', 'stopped', 'other'] as const;
/** What it says once another drive than the one meant was out, and is back in its bay. */
export const PAGE_SAYS_AFTER_WRONG = ['as-before', 'thinner', 'rebuilds', 'stopped', 'asks-to-erase'] as const;

const toWhom = { type: 'string', minLength: 1, maxLength: 120, pattern: '\\S' } as const;

/** What was done with a drive that left, and where it is now. */
const fateSchema = {
  ...object,
  required: ['serial', 'goes'],
  properties: {
    serial,
    wiped: {
      ...object,
      required: ['method', 'how', 'by', 'checked'],
      properties: {
        method: { enum: WIPES },
        how: { type: 'string', minLength: 1, maxLength: 200, pattern: '\\S' },
        by: toWhom,
        checked: { type: 'boolean', description: 'Somebody looked that nothing can be read any more.' },
      },
    },
    goes: {
      type: 'object',
      required: ['kind'],
      discriminator: { propertyName: 'kind' },
      oneOf: [
        { ...object, required: ['kind'], properties: { kind: { const: 'stays' } } },
        {
          ...object,
          required: ['kind', 'site', 'room', 'drawer'],
          properties: { kind: { const: 'drawer' }, site: name, room: name, drawer: name },
        },
        {
          ...object,
          required: ['kind', 'to'],
          properties: { kind: { const: 'warranty' }, to: toWhom, claim: { type: 'string', maxLength: 60 } },
        },
        { ...object, required: ['kind', 'to'], properties: { kind: { const: 'away' }, to: toWhom } },
      ],
    },
  },
} as const;

/** What the person at the unit gave for a step. */
export const stepEvidenceSchema = {
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
    { ...object, required: ['kind'], properties: { kind: { const: 'tick' } } },
    {
      ...object,
      required: ['kind', 'serial'],
      properties: {
        kind: { const: 'serial' },
        serial,
        drive: driveReadSchema,
      },
    },
    {
      ...object,
      required: ['kind', 'drives'],
      properties: {
        kind: { const: 'drives' },
        drives: {
          type: 'array',
          minItems: 1,
          maxItems: 1000,
          items: {
            ...object,
            required: ['serial', 'bytes', 'basis', 'looks'],
            properties: { serial, ...driveReadProperties, looks: { enum: DRIVE_LOOKS } },
          },
        },
      },
    },
    {
      ...object,
      required: ['kind', 'fates'],
      properties: {
        kind: { const: 'fates' },
        fates: { type: 'array', minItems: 1, maxItems: 1000, items: fateSchema },
      },
    },
    {
      ...object,
      required: ['kind', 'missing'],
      description: 'All of what was to be counted is there, but for these.',
      properties: {
        kind: { const: 'items' },
        missing: {
          type: 'array',
          maxItems: 40,
          items: {
            ...object,
            required: ['what', 'count'],
            properties: {
              what: { type: 'string', minLength: 1, maxLength: 80 },
              count: { type: 'integer', minimum: 1, maximum: 10_000, description: 'How many of them are missing.' },
            },
          },
        },
      },
    },
    {
      ...object,
      required: ['kind', 'scans'],
      properties: {
        kind: { const: 'scans' },
        scans: {
          type: 'array',
          minItems: 1,
          maxItems: 1000,
          items: {
            ...object,
            required: ['bay', 'serial'],
            properties: {
              bay,
              serial,
              drive: driveReadSchema,
              instead: {
                ...serial,
                description: 'The drive that was expected there: a person said that this one comes instead.',
              },
            },
          },
        },
        missing: {
          type: 'array',
          maxItems: 1000,
          items: { ...object, required: ['bay', 'serial'], properties: { bay, serial } },
          description: 'Drives that are carried over and are not there: the bay stays empty.',
        },
      },
    },
    {
      ...object,
      required: ['kind', 'text'],
      properties: { kind: { const: 'text' }, text: { ...note, minLength: 1, pattern: '\\S' } },
    },
    {
      ...object,
      required: ['kind', 'number'],
      properties: { kind: { const: 'number' }, number: { type: 'number', minimum: -1e15, maximum: 1e15 } },
    },
    {
      ...object,
      required: ['kind', 'read', 'write'],
      properties: { kind: { const: 'speed' }, read: megabytes, write: megabytes },
    },
    { ...object, required: ['kind', 'paper'], properties: { kind: { const: 'picture' }, paper: uuid } },
    {
      ...object,
      required: ['kind'],
      description: 'Either `copy`, or `none`.',
      properties: {
        kind: { const: 'copy' },
        copy: {
          ...object,
          required: ['where', 'keeps', 'offSite'],
          properties: {
            where: { ...copyFields.where, pattern: '\\S' },
            keeps: copyFields.keeps,
            offSite: copyFields.offSite,
            everyDays: copyFields.everyDays,
            ranOn: { ...day, description: 'The day it last ran; left out where nobody knows, or it never has.' },
          },
        },
        fetched: {
          ...object,
          required: ['file', 'on', 'opened'],
          description: 'A file that was fetched back from it.',
          properties: {
            file: { type: 'string', minLength: 1, maxLength: 200, pattern: '\\S' },
            on: day,
            opened: { type: 'boolean', description: 'It opened, and was what it should be.' },
          },
        },
        none: {
          ...object,
          description: 'There is no other copy.',
          properties: {
            why: {
              ...note,
              minLength: 1,
              pattern: '\\S',
              description: 'Why it goes on all the same; recorded as that.',
            },
          },
        },
      },
    },
    {
      ...object,
      required: ['kind', 'lines'],
      properties: {
        kind: { const: 'stock' },
        lines: stockLinesSchema,
        seen: { type: 'boolean', description: 'What differs from before was seen, and is meant.' },
      },
    },
    { ...object, required: ['kind', 'choice'], properties: { kind: { const: 'choice' }, choice: title } },
    {
      ...object,
      required: ['kind', 'says'],
      properties: {
        kind: { const: 'page' },
        says: { enum: PAGE_SAYS },
        again: { type: 'boolean', description: '"done" counts where it is said twice.' },
        note: { ...note, minLength: 1, pattern: '\\S' },
      },
    },
    {
      ...object,
      required: ['kind', 'serial', 'says'],
      description:
        'Another drive than the one meant was pulled, and put back: the step is not done, and what was done is recorded.',
      properties: {
        kind: { const: 'wrong-out' },
        serial,
        says: { enum: PAGE_SAYS_AFTER_WRONG },
        note: { ...note, minLength: 1, pattern: '\\S' },
      },
    },
    {
      ...object,
      required: ['kind', 'why'],
      properties: {
        kind: { const: 'unread' },
        why: { ...note, minLength: 1, pattern: '\\S', description: 'Why the serial could not be read.' },
      },
    },
  ],
} as const;

/** An owner goes on where the record says stop: the serial it is about, typed, and the reason. */
export const overrideSchema = {
  ...object,
  required: ['serial', 'reason'],
  properties: { serial, reason: { ...note, minLength: 1, pattern: '\\S' } },
} as const;

export type PlanBody = FromSchema<typeof planSchema>;
export type PlanStep = PlanBody['steps'][number];
export type Intention = PlanStep['does'][number];
export type StepEvidence = FromSchema<typeof stepEvidenceSchema>;
export type Override = FromSchema<typeof overrideSchema>;
export type PlanJob = (typeof JOBS)[number];
