const object = { type: 'object', additionalProperties: false } as const;

/** What a unit does for people: shares, users, services, and so on, a line each. */
export const stockLinesSchema = {
  type: 'array',
  maxItems: 500,
  items: {
    ...object,
    required: ['what', 'name'],
    properties: {
      what: {
        enum: [
          'share',
          'user',
          'group',
          'block volume',
          'schedule',
          'service',
          'machine',
          'device',
          'address',
          'client',
          'licence',
          'other',
        ],
      },
      name: { type: 'string', minLength: 1, maxLength: 120, pattern: '\\S' },
      detail: { type: 'string', maxLength: 200 },
    },
  },
} as const;
