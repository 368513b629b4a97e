const { imul } = Math;

/**
 * Chance that is the same every time: numbers from 0 to below 1 (mulberry32, public domain). For simulations whose answers
 * must not change from one asking to the next; never for keys.
 */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = imul(t ^ (t >>> 15), t | 1);
    t ^= t + imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
