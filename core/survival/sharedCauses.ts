import { marginOf } from './marginOf';
import type { Band } from '../layout/band';

/** Something that takes several drives at once, and what becomes of the pool. */
export interface SharedCause {
  readonly kind: 'shared-cause';
  /** What fails, in words: "Extension 1 (its supply or its cable)". */
  readonly cause: string;
  readonly takes: readonly string[];
  /** Margin while they are gone; below 0 the pool stops, and has lost data if they do not come back as they were. */
  readonly marginLeft: number;
}

/**
 * What one cable, supply or enclosure takes down: each enclosure by itself, and, as extensions are cabled one behind
 * the other, each cable with everything behind it.
 *
 * @param enclosures head first, then extensions in the order of their cables; bays by the names the bands use
 */
export function sharedCauses(
  bands: readonly Band[],
  enclosures: readonly { readonly name: string; readonly bays: readonly string[] }[],
): SharedCause[] {
  const inPool = new Set(bands.flatMap(({ members }) => members));
  const causes: SharedCause[] = [];
  const add = (cause: string, bays: readonly string[]): void => {
    const takes = bays.filter((bay) => inPool.has(bay));
    if (takes.length > 0)
      causes.push(
        Object.freeze({
          kind: 'shared-cause',
          cause,
          takes: Object.freeze(takes),
          marginLeft: marginOf(bands, new Set(takes)),
        }),
      );
  };
  enclosures.forEach(({ name, bays }, i) => {
    add(
      enclosures.length === 1 ? `${name}: all its supplies` : i === 0 ? `${name} alone` : `${name}: its supplies`,
      bays,
    );
    if (i > 0)
      add(
        i === enclosures.length - 1 ? `The cable to ${name}` : `The cable to ${name}, and all behind it`,
        enclosures.slice(i).flatMap((behind) => behind.bays),
      );
  });
  return causes;
}
