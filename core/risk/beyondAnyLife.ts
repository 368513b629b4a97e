import type { MemberGroup } from './memberGroup';

/** What no life of anything would show: of such chances the order of magnitude is enough. */
const RARE = 1e-40;
/** Longer than anything here is kept, hours. */
const AGES = 1e7;

/** How often an hour a group is lost, and how often a rebuild that can lose none more meets an unreadable sector. */
export interface RareRates {
  readonly lost: number;
  readonly unreadable: number;
}

/**
 * The rates at which a group of alike members comes to its ends, where they are so small (below 10⁻⁴⁰ in a thousand
 * years) that only their order of magnitude matters: a mirror of very many. `null` where they are not, or where drives in
 * hand come into it.
 *
 * Members go round between being well, waiting for their order and being written anew: a closed network of queues, each
 * state of which has a product for its share of time (Gordon and Newell 1967). From the states with r missing it goes on to
 * r + 1 by a failure, or back by a rebuild. That an end stops the count is left out: it changes the rate by about its own
 * share of the time.
 */
export function beyondAnyLife(group: MemberGroup): RareRates | null {
  const { kinds, bands, repairs, spares, orderHours } = group;
  const [kind, band] = [kinds[0], bands[0]];
  const isOneKind = kinds.length === 1 && bands.length === 1;
  if (!kind || !band || !isOneKind || spares > 0 || orderHours === Infinity) return null;
  const { count: n, failureRate, rebuildHours, unreadablePerByte } = kind;
  const r = band.redundancy;
  if (r === 0) return null;
  /** Of k missing, by how many of them have their drive: the product, and the rebuilds an hour. */
  const missing = (k: number): { readonly share: number; readonly rebuilds: number } => {
    let [share, rebuilds] = [0, 0];
    for (let here = orderHours === 0 ? k : 0; here <= k; here++) {
      let product = 1;
      for (let i = 1; i <= k; i++) product *= (n - i + 1) * failureRate;
      for (let i = 1; i <= k - here; i++) product *= orderHours / i;
      for (let i = 1; i <= here; i++) product *= rebuildHours / (repairs === 'serial' ? 1 : i);
      share += product;
      rebuilds += (product * (repairs === 'serial' ? Math.min(1, here) : here)) / rebuildHours;
    }
    return { share, rebuilds };
  };
  let all = 0;
  for (let k = 0; k <= r; k++) all += missing(k).share;
  const thin = missing(r);
  const chance = -Math.expm1(-(n - r) * unreadablePerByte * band.readBytes);
  const lost = (thin.share / all) * (n - r) * failureRate;
  const unreadable = (thin.rebuilds / all) * chance;
  return lost > 0 && (lost + unreadable) * AGES < RARE ? { lost, unreadable } : null;
}
