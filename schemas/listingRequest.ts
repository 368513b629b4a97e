const object = { type: 'object', additionalProperties: false } as const;
const list = { type: 'string', minLength: 1, maxLength: 5_000_000 } as const;

/** What a client asks of POST /api/v1/listings/compare: two lists of files, as commands or sheets have them. */
export const listingsSchema = {
  ...object,
  required: ['left', 'right'],
  properties: {
    left: { ...list, description: 'The list of what was copied.' },
    right: { ...list, description: 'The list of what came of it.' },
    leaveOut: {
      type: 'array',
      maxItems: 100,
      items: { type: 'string', minLength: 1, maxLength: 255 },
      description: 'Names of folders and files that count for nothing; left out means recycle areas and thumbnails.',
    },
  },
} as const;
