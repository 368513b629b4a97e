/**
 * The version of the model that made a state. A snapshot that another version made is made again from its ledger: count
 * on here whenever `apply`, `applyToDrive` or `applyToPlan` gives another state for the same entries.
 */
export const MODEL = 8;
