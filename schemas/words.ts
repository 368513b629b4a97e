/** The small words every schema is made of. */
export const bay = { type: 'string', pattern: '^[\\w.:/ -]{1,16}$' } as const;
/** Characters that control something, as a set of a pattern: without classes by property, which not every reader of schemas has. */
export const CONTROLS = '\\u0000-\\u001f\\u007f-\\u009f';
/** Others that are not seen. */
const UNSEEN =
  '\\u00ad\\u061c\\u115f\\u1160\\u17b4\\u17b5\\u180b-\\u180f\\u200b-\\u200f\\u202a-\\u202e\\u2060-\\u206f\\u2800\\u3164\\ufe00-\\ufe0f\\ufeff\\uffa0';
/** At least one character that is seen; case, surrounding blanks and what is not seen are folded away (core/drive/serial.ts). */
export const serial = {
  type: 'string',
  minLength: 1,
  maxLength: 64,
  pattern: `[^\\s${CONTROLS}${UNSEEN}]`,
  description: 'The serial as printed on the drive; case does not count.',
} as const;
/** Kept for the eye. */
export const printed = {
  type: 'string',
  minLength: 1,
  maxLength: 64,
  description: 'The serial as it is printed, where that differs from what the drive goes by.',
} as const;
/** No ledger has more entries (a count of the database). */
export const MOST_VERSION = 2_147_483_647;
export const expectedVersion = {
  type: 'integer',
  minimum: 1,
  maximum: MOST_VERSION,
  description: 'The version you looked at. If somebody was first, the answer is 409.',
} as const;
export const uuid = { type: 'string', format: 'uuid' } as const;
export const serials = { type: 'array', minItems: 1, maxItems: 1000, uniqueItems: true, items: serial } as const;
export const id = { type: 'string', pattern: '^[a-z0-9-]{1,40}$' } as const;
export const name = { type: 'string', minLength: 1, maxLength: 60, pattern: '\\S' } as const;
export const bytes = { type: 'integer', minimum: 1, maximum: 9_000_000_000_000_000 } as const;
export const bytesOrNone = { type: 'integer', minimum: 0, maximum: 9_000_000_000_000_000 } as const;
export const note = { type: 'string', maxLength: 400 } as const;
/** Of a time in which there are such units, and of one a calendar reaches. */
export const day = {
  type: 'string',
  format: 'date',
  pattern: '^(19[89]\\d|2\\d{3})-',
  description: 'A day, as 2026-01-31.',
} as const;
export const moment = {
  type: 'string',
  format: 'date-time',
  description: 'Left out means now; an earlier time is placed where it belongs.',
} as const;
/** How a size is known: in exact bytes, by the label, or by a label counted in powers of two. */
export const basis = { enum: ['exact', 'label', 'binary'] } as const;
export const media = { enum: ['hard-disk', 'shingled', 'ssd', 'nvme'] } as const;
/** What a bay takes, and what a drive is made as. */
export const form = { enum: ['3.5-inch', '2.5-inch', 'm2'] } as const;
export const driveLabel = { type: 'string', maxLength: 20 } as const;
export const model = { type: 'string', maxLength: 64 } as const;
/** What a cache holds: only what was read, or what was written and has not reached the pool too. */
export const cacheHolds = { enum: ['reads', 'writes'] } as const;
export const priceCents = { type: 'integer', minimum: 0, maximum: 100_000_000_000 } as const;
/** As many drives as any of our schemas takes. */
export const MOST_DRIVES_NAMED = 1000;
export const groupWidth = { type: 'integer', minimum: 2, maximum: MOST_DRIVES_NAMED } as const;
export const spares = { type: 'integer', minimum: 0, maximum: MOST_DRIVES_NAMED } as const;
export const spareScope = {
  enum: ['pool', 'group'],
  description: 'Whether the spares are for the pool, or so many for each group.',
} as const;
/** How a plan ends. */
export const planEnd = { enum: ['finished', 'stopped'] } as const;
/** Of a model of drive that was tried. */
export const verdict = { enum: ['works', 'avoid'] } as const;
/** A paper: 3 MB and what base64 adds. */
export const base64 = { type: 'string', maxLength: 4_200_000, pattern: '^[A-Za-z0-9+/]*={0,2}$' } as const;
/** What a page counts in, and what it prints behind the figure. */
export const sizeUnit = { enum: ['TiB', 'TB'] } as const;

/** A box of a unit with its bays: the head, or an extension. */
export const enclosureSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'bays'],
  properties: {
    name,
    bays: { type: 'array', minItems: 1, maxItems: 1000, items: bay },
    dial: {
      type: 'integer',
      minimum: 0,
      maximum: 255,
      description: 'The number set on its dial, by which it is told apart from behind the rack.',
    },
  },
} as const;
/** Data sets by their ids, where not all of them are meant. */
export const onlySets = {
  type: 'array',
  minItems: 1,
  maxItems: 200,
  items: id,
  description: 'Only these data sets, and the rest stays where it is; left out means all.',
} as const;
