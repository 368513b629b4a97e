/** A bench comparison that is kept: the sheet as it was written, and the choices of the address. */
export const comparisonSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['kind', 'name', 'sheet', 'address'],
  properties: {
    kind: { const: 'patient-shelf-comparison' },
    name: { type: 'string', minLength: 1, maxLength: 80, pattern: '\\S' },
    sheet: { type: 'string', minLength: 1, maxLength: 1_000_000, description: 'The drives in hand as CSV (RFC 4180).' },
    address: { type: 'string', maxLength: 2000, description: 'The query string of the bench.' },
  },
} as const;
