import type { Layout } from './layout';
import { factsOf } from './scheme';

/** One name for one layout of a comparison: the scheme, and the width where there are several. */
export function layoutKey({ scheme, groupWidth }: Pick<Layout, 'scheme' | 'groupWidth'>): string {
  return groupWidth === undefined ? scheme : `${scheme}:${String(groupWidth)}`;
}

/** The plain name first; a group's width with it. */
export function layoutName({ scheme, groupWidth }: Pick<Layout, 'scheme' | 'groupWidth'>): string {
  const { name } = factsOf(scheme);
  return groupWidth === undefined ? name : `${name}, ${String(groupWidth)} wide`;
}
