'use client';
import { appraise, USUAL_ASSUMPTIONS, type Appraisal } from '~/core/appraisal/appraise';
import { planLayout } from '~/core/layout/planLayout';
import { SCHEMES, type Scheme } from '~/core/layout/scheme';
import { rateGroupOf, type ThoughtRates } from '~/core/risk/thoughtRate';
import type { Profile } from '~/core/platform/profile';
import { readSheet } from './draft';

/** A state of the bench that was set aside: all that is needed to make it again. */
export interface Variant {
  readonly name: string;
  readonly sheet: string;
  readonly address: string;
}

export const MOST_VARIANTS = 4;
const KEY = 'shelf-bench-variants';

export function loadVariants(): Variant[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? (kept as Variant[]).slice(0, MOST_VARIANTS) : [];
  } catch {
    return [];
  }
}

export function saveVariants(variants: readonly Variant[]): void {
  localStorage.setItem(KEY, JSON.stringify(variants));
}

/** What a variant comes to; `null` when its layout cannot be made any more. */
export function appraiseVariant(
  { sheet, address }: Variant,
  profiles: readonly Profile[],
  rates: ThoughtRates,
): {
  readonly appraisal: Appraisal;
  readonly profile: Profile;
  readonly priceCents: number;
  readonly count: number;
} | null {
  const query = new URLSearchParams(address);
  const profile = profiles.find(({ id }) => id === (query.get('profile') ?? 'plain'));
  const [scheme, width] = (query.get('layout') ?? '').split(':');
  if (!profile || !(SCHEMES as readonly string[]).includes(scheme ?? '')) return null;
  const { drives } = readSheet(sheet);
  const spares = Number(query.get('spares') ?? 0);
  const layout = planLayout(
    profile,
    scheme as Scheme,
    drives,
    query.get('each') === 'true' ? { perGroup: spares } : spares,
    width === undefined ? undefined : Number(width),
  );
  if (!layout.legal) return null;
  const years = Number(query.get('years') ?? USUAL_ASSUMPTIONS.years) || USUAL_ASSUMPTIONS.years;
  return {
    appraisal: appraise(profile, layout, drives, {
      ...USUAL_ASSUMPTIONS,
      failuresPerYear: rates[rateGroupOf(drives[0]?.media)].failuresPerYear,
      years,
      portGigabits: Number(query.get('port')) || USUAL_ASSUMPTIONS.portGigabits,
    }),
    profile,
    priceCents: drives.reduce((sum, { priceCents = 0 }) => sum + priceCents, 0),
    count: drives.length,
  };
}
