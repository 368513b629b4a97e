import { planLayout } from '../layout/planLayout';
import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import plainProfile from '../platform/profiles/plain.json';
import { drivesByName, membersOnly, poolOfLayout } from '../pool/ofLayout';
import type { cheapestGrowth } from './cheapestGrowth';
import { growingOf, type Allowed, type Growing } from './growing';
import type { Costs } from './priceList';

/** For tests of growing: pools, what is allowed, what drives cost. */
export const plain = plainProfile as Profile;
export const TB = 1e12;

export function pool(scheme: Scheme, sizes: readonly number[], bays: number, width?: number, profile = plain): Growing {
  const drives = sizes.map((size, i) => ({ bay: String(i + 1), bytes: size * TB }));
  const layout = planLayout(profile, scheme, drives, 0, width);
  if (!layout.legal) throw new Error(layout.reasons.join());
  const free = Array.from({ length: bays - sizes.length }, (_, i) => String(sizes.length + i + 1));
  return growingOf(profile, poolOfLayout(layout), drivesByName(membersOnly(layout, drives)), free);
}
export const allow = (sizes: readonly number[], more: Partial<Allowed> = {}): Allowed => ({
  kinds: ['swap', 'add', 'group'],
  sizes: sizes.map((size) => size * TB),
  leastMargin: 0,
  ...more,
});
export const costs = (prices: Readonly<Record<number, number>>, more: Partial<Costs> = {}): Costs => ({
  prices: Object.entries(prices).map(([size, cents]) => ({ bytes: Number(size) * TB, cents })),
  declinePerYear: 0.15,
  labourCents: 0,
  discountPerYear: 0,
  ...more,
});

export const total = (found: ReturnType<typeof cheapestGrowth>): number =>
  found?.kind === 'growth-path' ? found.totalCents : Infinity;
