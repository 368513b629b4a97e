import type { FromSchema } from 'json-schema-to-ts';
import { SCHEMES } from './scheme';
import { form, sizeUnit } from './words';

const bytes = { type: 'integer', minimum: 0, maximum: 9_000_000_000_000_000 } as const;
const share = { type: 'number', minimum: 0, maximum: 0.5 } as const;
const text = { type: 'string', minLength: 1, maxLength: 400 } as const;
const names = { type: 'array', maxItems: 40, items: { type: 'string', minLength: 1, maxLength: 80 } } as const;
const hours = { type: 'number', minimum: 0, maximum: 8760 } as const;

const schemeLimits = {
  type: 'object',
  additionalProperties: false,
  properties: {
    fewest: {
      type: 'integer',
      minimum: 1,
      maximum: 1000,
      description: 'Fewest drives, where the family wants more than the arithmetic does.',
    },
    most: { type: 'integer', minimum: 1, maximum: 1000, description: 'Most drives in one pool of this scheme.' },
    even: { type: 'boolean', description: 'Only even numbers of drives.' },
    widths: {
      type: 'array',
      minItems: 1,
      maxItems: 100,
      items: { type: 'integer', minimum: 2, maximum: 1000 },
      description: 'Group widths offered; left out means any.',
    },
    leftovers: { type: 'boolean', description: 'Drives that fill no whole group may stay in the unit, unused.' },
    alone: {
      type: 'boolean',
      description:
        'Only of a mixed pool that survives one: it may begin with one drive, unguarded, and becomes a mirror with a second.',
    },
  },
} as const;

const schemesOffered = Object.fromEntries(SCHEMES.map((scheme) => [scheme, schemeLimits])) as Record<
  (typeof SCHEMES)[number],
  typeof schemeLimits
>;

/**
 * What a family of units can do. Data, not code: a profile added as JSON works everywhere, and no code asks its name.
 */
export const profileSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'patient-shelf:profile',
  title: 'Platform profile',
  type: 'object',
  additionalProperties: false,
  required: [
    'id',
    'name',
    'summary',
    'bays',
    'schemes',
    'space',
    'unitPage',
    'volumes',
    'growth',
    'rebuild',
    'service',
    'lamps',
    'roaming',
    'software',
  ],
  properties: {
    id: { type: 'string', pattern: '^[a-z][a-z0-9-]{0,39}$' },
    name: { type: 'string', minLength: 1, maxLength: 60 },
    summary: text,
    bays: {
      type: 'object',
      additionalProperties: false,
      required: ['choices', 'kinds', 'trays'],
      properties: {
        choices: {
          type: 'array',
          minItems: 1,
          maxItems: 60,
          items: { type: 'integer', minimum: 1, maximum: 1000 },
          description: 'Numbers of bays the family is sold with, extensions included.',
        },
        perEnclosure: {
          type: 'integer',
          minimum: 1,
          maximum: 120,
          description: 'Bays in the head and in each extension; left out means all bays are in the head.',
        },
        kinds: { type: 'array', minItems: 1, items: form },
        trays: { enum: ['upright', 'flat'], description: 'How the trays stand, seen from the front.' },
        rear: { type: 'integer', minimum: 0, maximum: 8 },
        cacheSlots: { type: 'integer', minimum: 0, maximum: 8 },
        largestDriveBytes: bytes,
      },
    },
    schemes: {
      type: 'object',
      additionalProperties: false,
      minProperties: 1,
      properties: schemesOffered,
      description: 'Schemes offered, each with its limits.',
    },
    space: {
      type: 'object',
      additionalProperties: false,
      required: [
        'systemAreaBytes',
        'poolMetadataBytes',
        'poolMetadataShare',
        'fileSystemReserveShare',
        'cutGranularityBytes',
        'mirrorPairing',
      ],
      properties: {
        systemAreaBytes: { ...bytes, description: "Taken off every drive in the pool for the unit's own system." },
        poolMetadataBytes: { ...bytes, description: 'Taken off a pool once.' },
        poolMetadataShare: { ...share, description: 'Taken off a pool by its usable size.' },
        fileSystemReserveShare: {
          ...share,
          description: "Held back by the file system, of what the unit's page shows.",
        },
        cutGranularityBytes: {
          type: 'integer',
          minimum: 1,
          maximum: 1_000_000_000_000,
          description: 'Mixed pools are cut at multiples of this.',
        },
        mirrorPairing: {
          enum: ['neighbours', 'all-as-smallest'],
          description: 'Striped mirrors: each pair by its own smaller drive, or all by the smallest.',
        },
      },
    },
    unitPage: {
      type: 'object',
      additionalProperties: false,
      required: ['counts', 'prints'],
      properties: {
        counts: { ...sizeUnit, description: "What the unit's page really counts in." },
        prints: { ...sizeUnit, description: 'What it prints behind the figure.' },
      },
    },
    volumes: {
      type: 'object',
      additionalProperties: false,
      required: ['count', 'thin'],
      properties: {
        count: { enum: ['one', 'many'] },
        thin: { type: 'boolean' },
        largestBytes: bytes,
        nominalBytes: { ...bytes, description: 'Shown for every volume, whatever is behind it.' },
      },
    },
    growth: {
      type: 'object',
      additionalProperties: false,
      required: ['addDrives', 'expand', 'firstPowerOnDecides', 'usableDuringFirstBuild', 'conversions'],
      properties: {
        addDrives: { enum: ['single', 'group', 'none'] },
        expand: { enum: ['by-itself', 'by-command'], description: "How larger drives' space appears." },
        firstPowerOnDecides: {
          type: 'boolean',
          description: 'The drives present at the first power-on decide the layout.',
        },
        firstPowerOn: {
          type: 'array',
          maxItems: 40,
          description: 'What that many drives at the first power-on become; the last entry holds for any more.',
          items: {
            type: 'object',
            additionalProperties: false,
            required: ['drives', 'scheme'],
            properties: { drives: { type: 'integer', minimum: 1, maximum: 1000 }, scheme: { enum: SCHEMES } },
          },
        },
        usableDuringFirstBuild: { type: 'boolean' },
        protectedDuringFirstBuild: {
          type: 'boolean',
          description:
            'Whether a pool survives what its layout gives before its first build is done. Left out means not.',
        },
        conversions: {
          type: 'array',
          maxItems: 100,
          items: {
            type: 'object',
            additionalProperties: false,
            required: ['from', 'to', 'keepsData'],
            properties: { from: { enum: SCHEMES }, to: { enum: SCHEMES }, keepsData: { type: 'boolean' } },
          },
        },
      },
    },
    rebuild: {
      type: 'object',
      additionalProperties: false,
      required: ['starts', 'covers', 'repairs', 'throughFreeBay', 'unreadableSector', 'ceilingBytesPerSecond'],
      properties: {
        starts: { enum: ['by-itself', 'when-chosen'] },
        covers: { enum: ['whole-member', 'used-space'] },
        repairs: { enum: ['serial', 'parallel'] },
        throughFreeBay: { type: 'boolean' },
        acceptsSmaller: {
          type: 'boolean',
          description:
            'Whether a drive smaller than the one it replaces is taken, where it holds what the pool uses of that. Left out or false: it is said before.',
        },
        unreadableSector: { enum: ['aborts', 'loses-one-file'], description: 'Met while the pool can lose none.' },
        ceilingBytesPerSecond: { type: 'number', exclusiveMinimum: 0 },
        powerOff: {
          enum: ['goes-on', 'starts-again', 'forbidden'],
          description:
            'What becomes of a rebuild when the unit is switched off. Left out means forbidden: nobody knows.',
        },
        counts: {
          enum: ['whole', 'each-band'],
          description: 'Whether its percent runs once, or from 0 to 100 for each band. Left out means once.',
        },
      },
    },
    headBytesPerSecond: {
      type: 'number',
      exclusiveMinimum: 0,
      description:
        'What all drives together can move through the head, bytes a second. Left out means 7 GB/s: eight lanes of PCIe 3.0.',
    },
    service: {
      type: 'object',
      additionalProperties: false,
      required: ['hotSwap', 'locateLight', 'opensCase'],
      properties: {
        hotSwap: { type: 'array', items: { enum: ['drives', 'supplies', 'fans'] } },
        locateLight: { type: 'boolean' },
        opensCase: { type: 'boolean', description: 'Bays are inside the case: power down and unplug first.' },
        waits: {
          type: 'object',
          additionalProperties: false,
          properties: { bootHours: hours, firstSystemWriteHours: hours },
        },
      },
    },
    lamps: {
      type: 'array',
      maxItems: 60,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['see', 'means', 'silence'],
        properties: {
          see: text,
          means: text,
          now: { ...text, description: 'What it means while the record explains it.' },
          silence: text,
          isOfBay: { type: 'boolean', description: 'One bay shows it: which one decides what it means now.' },
          explainedBy: {
            enum: ['thinned', 'work', 'part', 'start', 'nothing'],
            description:
              'What in the record explains it: a thinned pool, work under way, a part that is out, a first start. Left out means nothing does.',
          },
        },
      },
    },
    roaming: {
      type: 'object',
      additionalProperties: false,
      required: ['by', 'families', 'flashStick'],
      properties: {
        by: { enum: ['slot', 'serial', 'not-possible'] },
        families: names,
        fewestBays: { type: 'integer', minimum: 1, maximum: 1000 },
        fromOneBay: { type: 'boolean', description: 'Drives of a one-bay unit may move to a larger one.' },
        flashStick: {
          type: 'boolean',
          description: 'The system and its licence live on a small flash stick that moves too.',
        },
        assistant: { type: 'boolean', description: "The maker's own assistant copies to a newer unit." },
      },
    },
    software: {
      type: 'object',
      additionalProperties: false,
      required: ['fileSystems', 'configurationExport', 'factoryAccount'],
      properties: {
        fileSystems: {
          type: 'array',
          minItems: 1,
          items: {
            type: 'object',
            additionalProperties: false,
            required: ['name', 'checksums'],
            properties: { name: { type: 'string', maxLength: 60 }, checksums: { type: 'boolean' } },
          },
        },
        configurationExport: { type: 'boolean' },
        restoresAlone: names,
        factoryAccount: { enum: ['known-password', 'blank', 'none'] },
      },
    },
  },
} as const;

export type Profile = FromSchema<typeof profileSchema>;

/** A profile as it is asked for: by its id, or whole. */
export const profileAskedSchema = {
  anyOf: [{ type: 'string', maxLength: 40 }, profileSchema],
  description: 'The id of a profile, or a whole one.',
} as const;
