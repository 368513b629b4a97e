/** A reliability year, in hours (common practice): what rates and lifetimes are counted by. */
export const YEAR_HOURS = 8760;
/** A year of the calendar, in days: what dates and seasons are counted by. */
export const YEAR_DAYS = 365.25;
