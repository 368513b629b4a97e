/** Data-sheet rates of unreadable sectors are bounds; in the field they are met tens of times more rarely (common practice). */
export const FIELD_FACTOR = 40;
