import { profileAskedSchema } from './profile';
import { SCHEMES } from './scheme';
import { placeSchema, driveSchema, unitDetailsSchema, sentUnitEventSchema } from './unitEvent';
import { bay, bytes, bytesOrNone, expectedVersion, groupWidth, moment, name, spares, spareScope, uuid } from './words';

/** Putting a unit on the shelf: where it stands, what is in its bays, and what pool was made of it. */
export const newUnitSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'place', 'profile'],
  properties: {
    name,
    place: placeSchema,
    profile: profileAskedSchema,
    bays: {
      type: 'integer',
      minimum: 1,
      maximum: 1000,
      description: 'In all; left out where the enclosures are listed.',
    },
    enclosures: {
      type: 'array',
      maxItems: 20,
      description: 'The head and its extensions, in the order they are cabled.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['name', 'bays'],
        properties: {
          name,
          bays: { type: 'integer', minimum: 1, maximum: 1000 },
          dial: { type: 'integer', minimum: 0, maximum: 255 },
        },
      },
    },
    details: unitDetailsSchema,
    drives: {
      type: 'array',
      maxItems: 1000,
      items: {
        ...driveSchema,
        required: ['bay', ...driveSchema.required],
        properties: {
          bay,
          ...driveSchema.properties,
          shows: {
            enum: ['failed', 'signs'],
            description: 'What the page of a unit that runs says of it, where that is not well.',
          },
        },
      },
    },
    pool: {
      type: 'object',
      additionalProperties: false,
      required: ['scheme'],
      properties: {
        scheme: { enum: SCHEMES },
        groupWidth,
        spares,
        spareScope,
        name,
      },
    },
    pools: {
      type: 'array',
      maxItems: 100,
      description:
        'Pools that are there already, as the page of the unit shows them: nothing is made and nothing erased.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['name', 'scheme', 'members'],
        properties: {
          name,
          scheme: { enum: SCHEMES },
          groupWidth,
          members: {
            type: 'array',
            minItems: 1,
            maxItems: 1000,
            uniqueItems: true,
            items: bay,
            description: 'Bays of its members.',
          },
          spares: { type: 'array', maxItems: 1000, uniqueItems: true, items: bay },
          shownBytes: { ...bytes, description: 'What the page shows of it; left out, it is reckoned from the drives.' },
          builtAt: {
            anyOf: [moment, { type: 'null' }],
            description: 'When it was built; null or left out where nobody knows.',
          },
          usedBytes: { ...bytesOrNone, description: 'What is in it, as the page shows.' },
          volumes: {
            type: 'array',
            maxItems: 100,
            items: {
              type: 'object',
              additionalProperties: false,
              required: ['name', 'bytes', 'thin'],
              properties: {
                name,
                bytes,
                thin: { type: 'boolean' },
                fileSystem: { type: 'string', maxLength: 60 },
                checksums: { type: 'boolean' },
              },
            },
          },
        },
      },
    },
    cache: {
      type: 'array',
      maxItems: 64,
      uniqueItems: true,
      items: bay,
      description: 'Bays of the drives that are cache of the unit.',
    },
    happenedAt: { type: 'string', format: 'date-time', description: 'Left out means now.' },
    act: {
      ...uuid,
      description: 'The id of the act, made by its sender: what is sent twice under one id is written once.',
    },
  },
} as const;

export const newEventSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['expectedVersion', 'event'],
  properties: {
    expectedVersion,
    happenedAt: {
      type: 'string',
      format: 'date-time',
      description: 'Left out means now; an earlier time is placed where it belongs.',
    },
    event: sentUnitEventSchema,
    act: {
      ...uuid,
      description: 'The id of the act, made by its sender: what is sent twice under one id is written once.',
    },
  },
} as const;

export const additionSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['bytes'],
  properties: { bytes },
} as const;
