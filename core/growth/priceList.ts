/** What a drive of a size costs today, in hundredths of the currency. */
export interface Price {
  readonly bytes: number;
  readonly cents: number;
}

/** What money and work cost over the years. */
export interface Costs {
  readonly prices: readonly Price[];
  /** By how much prices fall in a year, 0 to below 1; they never rise here. */
  readonly declinePerYear: number;
  /** For each step, whatever it buys. */
  readonly labourCents: number;
  /** What money is worth less in a year, 0 and up. */
  readonly discountPerYear: number;
  /** What may be spent within each twelve months from now, in the money of then; left out means whatever it takes. */
  readonly budgetCentsPerYear?: number;
}

/** The list in order of size, each size once and at its least: the order in which it was written never matters. */
export function pricesBySize(prices: readonly Price[]): Price[] {
  const least = new Map<number, number>();
  for (const { bytes, cents } of prices) least.set(bytes, Math.min(cents, least.get(bytes) ?? Infinity));
  return [...least].map(([bytes, cents]) => ({ bytes, cents })).sort((a, b) => a.bytes - b.bytes);
}

/** What it costs in a month to come, in whole hundredths: cents × (1 − decline)^(month / 12), rounded. */
export function centsIn(cents: number, month: number, declinePerYear: number): number {
  return Math.round(cents * (1 - declinePerYear) ** (month / 12));
}

/** What is paid in a month, in today's money: a sum over (1 + discount)^(month / 12), in whole hundredths. */
export function inTodaysCents(cents: number, month: number, discountPerYear: number): number {
  return discountPerYear === 0 ? cents : Math.round(cents / (1 + discountPerYear) ** (month / 12));
}
