/** How a drive is changed in a unit, as a person says it. */
export const TRAYS_WORDS = {
  running: 'while it runs',
  off: 'switched off',
  'case-opened': 'switched off, and the case opened',
} as const;
