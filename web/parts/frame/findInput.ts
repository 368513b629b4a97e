/** The field to find with, the same before and after its list is loaded. */
export const FIND_INPUT = {
  'data-find': true,
  placeholder: 'Find or scan a serial, unit, place…',
  className: 'field pr-8',
} as const;
