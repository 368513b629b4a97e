import type { Need } from './cheapestGrowth';
import type { Costs } from './priceList';
import { TB } from './testGrowing';

export type Forced = 'parity-1' | 'parity-2' | 'mixed-1' | 'mixed-2' | 'dedicated-1' | 'groups';

/**
 * Everything there is, tried one step after another in every order and every month, by arithmetic of its own: one band at
 * the smallest member, groups at their own smallest, mixed pools stacked as they are built. Shares no code with the search.
 *
 * @param newer a unit that may be bought instead: the pool in it, its bays, and what it costs
 */
export function byBruteForce(
  scheme: Forced,
  start: readonly number[],
  bays: number,
  need: Need,
  { prices, declinePerYear, labourCents, discountPerYear, budgetCentsPerYear = Infinity }: Costs,
  newer?: { readonly scheme: Forced; readonly bays: number; readonly cents: number },
  {
    box,
    levels = [],
    isHereToo = true,
  }: {
    readonly box?: { readonly bays: number; readonly cents: number; readonly most: number };
    readonly levels?: readonly (readonly [from: Forced, to: Forced])[];
    /** The unit there is makes them as well as the newer one. */
    readonly isHereToo?: boolean;
  } = {},
): number {
  const width = 3;
  interface Built {
    readonly scheme: Forced;
    readonly bays: number;
    readonly isNew: boolean;
    readonly sizes: readonly number[];
    /** Of a mixed pool: tops, each with its members. */
    readonly bands: readonly (readonly [top: number, members: readonly number[]])[];
  }
  const lost = (of: Forced): number => (of === 'parity-2' || of === 'mixed-2' ? 2 : 1);
  const isCut = (of: Forced): boolean => of === 'mixed-1' || of === 'mixed-2';
  const fewest = (of: Forced): number => lost(of) + (isCut(of) ? 1 : 2);
  // Of equals the later bay is parity.
  const parity = start.lastIndexOf(Math.max(...start));
  const stack = (built: Built): Built => {
    const { sizes, bands } = built;
    if (!isCut(built.scheme)) return built;
    const made = bands.map(([top, members]): [number, number[]] => [
      top,
      [...new Set([...members, ...sizes.flatMap((size, i) => (size >= top ? [i] : []))])],
    ]);
    for (;;) {
      const top = made.at(-1)?.[0] ?? 0;
      const taller = sizes.flatMap((size, i) => (size > top ? [i] : []));
      if (taller.length <= lost(built.scheme)) return { ...built, bands: made };
      made.push([Math.min(...taller.map((i) => sizes[i] as number)), taller]);
    }
  };
  const usable = ({ scheme: of, sizes, bands }: Built): number => {
    if (isCut(of))
      return bands.reduce(
        (sum, [top, members], i) => sum + (top - (bands[i - 1]?.[0] ?? 0)) * (members.length - lost(of)),
        0,
      );
    if (of === 'dedicated-1')
      return sizes.reduce((sum, size, i) => sum + (i === parity ? 0 : Math.min(size, sizes[parity] as number)), 0);
    if (of === 'groups') {
      let sum = 0;
      for (let at = 0; at < sizes.length; at += width) sum += Math.min(...sizes.slice(at, at + width)) * (width - 1);
      return sum;
    }
    return Math.min(...sizes) * (sizes.length - lost(of));
  };
  const months = Array.from(
    { length: Math.ceil((need.years * 12) / need.everyMonths) },
    (_, i) => i * need.everyMonths,
  );
  const wanted = (k: number): number =>
    (need.usedBytes + (need.perYearBytes * ((months[k] as number) + need.everyMonths)) / 12) / need.line;
  const cost = (bytes: number, k: number, count: number, besides = 0): number =>
    todays(
      count *
        Math.round(
          (prices.find((one) => one.bytes === bytes)?.cents ?? NaN) *
            (1 - declinePerYear) ** ((months[k] as number) / 12),
        ) +
        labourCents +
        besides,
      k,
    );
  const todays = (cents: number, k: number): number =>
    Math.round(cents / (1 + discountPerYear) ** ((months[k] as number) / 12));
  const seen = new Map<string, number>();
  let best = Infinity;
  const walk = (built: Built, k: number, cents: number, before: number, paid: number): void => {
    const spent = before + paid;
    if (cents >= best || spent > budgetCentsPerYear) return;
    const name = `${String(k)} ${budgetCentsPerYear === Infinity ? '' : String(spent)} ${JSON.stringify(built)}`;
    if (cents >= (seen.get(name) ?? Infinity)) return;
    seen.set(name, cents);
    if (usable(built) >= wanted(k)) {
      if (k === months.length - 1) {
        best = Math.min(best, cents);
        return;
      }
      const isSameYear = Math.floor((months[k + 1] as number) / 12) === Math.floor((months[k] as number) / 12);
      walk(built, k + 1, cents, isSameYear ? spent : 0, 0);
    }
    const step = (next: Built, price: number): void => walk(stack(next), k, cents + price, spent, price);
    if (box && built.bays + box.bays <= box.most)
      step({ ...built, bays: built.bays + box.bays }, box.cents + labourCents);
    for (const [, to] of isHereToo || built.isNew ? levels.filter(([of]) => of === built.scheme) : []) {
      const used = need.usedBytes + (need.perYearBytes * (months[k] as number)) / 12;
      const becomes = (count: number, bytes: number): Built | null => {
        const sizes = [...built.sizes, ...Array.from({ length: count }, () => bytes)];
        const made = stack({ ...built, scheme: to, sizes, bands: [] });
        return sizes.length >= fewest(to) && usable(made) >= used ? made : null;
      };
      const without = becomes(0, 0);
      if (without) step(without, labourCents);
      for (const { bytes } of without ? [] : prices)
        for (let count = 1; count <= built.bays - built.sizes.length; count++) {
          const made = becomes(count, bytes);
          if (!made) continue;
          step(made, cost(bytes, k, count));
          break;
        }
    }
    if (newer && !built.isNew)
      for (const { bytes } of prices)
        for (let count = fewest(newer.scheme); count <= newer.bays; count++)
          step(
            {
              scheme: newer.scheme,
              bays: newer.bays,
              isNew: true,
              sizes: Array.from({ length: count }, () => bytes),
              bands: [],
            },
            cost(bytes, k, count, newer.cents),
          );
    for (const { bytes } of prices) {
      for (const [i, size] of built.sizes.entries())
        // No data drive is larger than parity: nothing would guard what is above.
        if (
          bytes > size &&
          (built.scheme !== 'dedicated-1' || i === parity || bytes <= (built.sizes[parity] as number))
        )
          step({ ...built, sizes: built.sizes.with(i, bytes) }, cost(bytes, k, 1));
      const count = built.scheme === 'groups' ? width : 1;
      const lowest =
        built.scheme === 'groups'
          ? 0
          : isCut(built.scheme)
            ? (built.bands[0]?.[0] ?? 0)
            : built.scheme === 'dedicated-1'
              ? 0
              : Math.min(...built.sizes);
      const most = built.scheme === 'dedicated-1' ? (built.sizes[parity] as number) : Infinity;
      if (built.sizes.length + count <= built.bays && bytes >= lowest && bytes <= most)
        step(
          { ...built, sizes: [...built.sizes, ...Array.from({ length: count }, () => bytes)] },
          cost(bytes, k, count),
        );
    }
  };
  const sizes = start.map((size) => size * TB);
  walk(stack({ scheme, bays, isNew: false, sizes, bands: [] }), 0, 0, 0, 0);
  return best;
}
