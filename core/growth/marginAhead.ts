/** What a step asks of the margin, as an answer has it. */
interface ThinningStep {
  readonly month: number;
  readonly marginAfter: number;
  /** Hours with one member less, one step after the other. */
  readonly risk?: { readonly thinHours: number };
}

/** A month in which the margin is touched. */
export interface MarginDip {
  readonly month: number;
  /** How many more may fail while it is thinnest; as before where nothing thins it. */
  readonly least: number;
  /** Hours in all at that. */
  readonly thinHours: number;
  readonly after: number;
}

/**
 * How many more members may fail as the steps are taken, month by month: a swap takes one for the hours its drive is written,
 * another level or a new unit changes it for good.
 *
 * @param full how many may fail before the first step
 */
export function marginAhead(full: number, steps: readonly ThinningStep[]): readonly MarginDip[] {
  const dips: MarginDip[] = [];
  let now = full;
  for (const month of [...new Set(steps.map((step) => step.month))].sort((a, b) => a - b)) {
    let [least, thinHours] = [now, 0];
    for (const { marginAfter, risk } of steps.filter((step) => step.month === month)) {
      const hours = risk?.thinHours ?? 0;
      const meanwhile = hours > 0 ? Math.min(now, marginAfter) - 1 : Math.min(now, marginAfter);
      thinHours = meanwhile < least ? hours : meanwhile === least ? thinHours + hours : thinHours;
      least = Math.min(least, meanwhile);
      now = marginAfter;
    }
    dips.push({ month, least, thinHours, after: now });
  }
  return dips;
}
