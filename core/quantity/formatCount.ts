/** A whole number in groups of three: "14,000". The same on every machine: no locale is asked. */
export function formatCount(count: number): string {
  return String(Math.round(count)).replace(/\B(?=(\d{3})+$)/g, ',');
}
