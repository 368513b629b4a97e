/** Drives planned at a time; more is refused. */
export const MOST_DRIVES = 1000;
