import type { UniqueIdentifier } from '@dnd-kit/core';

/** What is in the hand, or where it is put: a bay by its name, the drawer, or a drive in it by its place there. */
export type Spot =
  | { readonly kind: 'bay'; readonly bay: string }
  | { readonly kind: 'drawer' }
  | { readonly kind: 'in-drawer'; readonly index: number };

export const bayId = (bay: string): string => `bay:${bay}`;
export const DRAWER_ID = 'drawer';
export const inDrawerId = (index: number): string => `${DRAWER_ID}:${String(index)}`;

/** The spot an identifier stands for. */
export function spotOf(id: UniqueIdentifier): Spot {
  const text = String(id);
  if (text === DRAWER_ID) return { kind: 'drawer' };
  if (text.startsWith(`${DRAWER_ID}:`)) return { kind: 'in-drawer', index: Number(text.slice(DRAWER_ID.length + 1)) };
  return { kind: 'bay', bay: text.slice('bay:'.length) };
}
