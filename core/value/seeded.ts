const { imul } = Math;

/** Chance that can be begun again, as often as wanted, without making anything new. */
export interface Chance {
  readonly begin: (seed: number) => void;
  /** From 0 to below 1. */
  readonly next: () => number;
}

/**
 * Chance that is the same every time: numbers from 0 to below 1 (mulberry32, public domain). For simulations whose answers
 * must not change from one asking to the next; never for keys.
 */
export function chance(): Chance {
  let a = 0;
  return {
    begin: (seed) => {
      a = seed >>> 0;
    },
    next: () => {
      a = (a + 0x6d2b79f5) >>> 0;
      let t = a;
      t = imul(t ^ (t >>> 15), t | 1);
      t ^= t + imul(t ^ (t >>> 7), t | 61);
      return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
    },
  };
}

/** The same from one seed on. */
export function seeded(seed: number): () => number {
  const { begin, next } = chance();
  begin(seed);
  return next;
}
