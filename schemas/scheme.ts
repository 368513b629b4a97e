/** The layouts drives can be made into, in the order they are listed everywhere. */
export const SCHEMES = [
  'separate',
  'span',
  'stripe',
  'mirror',
  'striped-mirrors',
  'parity-1',
  'parity-2',
  'parity-1-groups',
  'parity-2-groups',
  'mixed-1',
  'mixed-2',
  'dedicated-1',
  'dedicated-2',
] as const;
