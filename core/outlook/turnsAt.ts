import type { ChangeSeen } from './whatWouldChangeIt';

/**
 * From which weight of a stopped rebuild, beside a lost pool as 1, another change comes first than the one that does by losses
 * alone; `null` where none does up to 1.
 *
 * @param changes in the order of `whatWouldChangeIt`, of a family whose rebuilds stop
 */
export function turnsAt(
  changes: readonly ChangeSeen[],
): { readonly weight: number; readonly first: ChangeSeen } | null {
  const [top, ...others] = changes;
  if (!top) return null;
  const turns = others.flatMap((one) => {
    const [behind, ahead] = [top.lost.wins - one.lost.wins, one.met.wins - top.met.wins];
    const weight = ahead > 0 ? behind / ahead : Infinity;
    return weight <= 1 ? [{ weight: Math.max(0, weight), first: one }] : [];
  });
  return turns.length === 0 ? null : turns.reduce((a, b) => (b.weight < a.weight ? b : a));
}
