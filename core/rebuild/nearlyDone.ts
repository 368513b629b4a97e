/** A wait is ended by its tick from this percent on, as last heard; below, only by what the unit's own page says. */
export const NEARLY_DONE = 95;
/** Where each band is counted from 0 to 100, a percent that falls from here on has come to the next band, and has not begun anew. */
export const NEARLY_NEXT_BAND = 80;
