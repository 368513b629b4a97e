import { chanceOfUnreadableSector } from './chanceOfUnreadableSector';

// Arithmetic of independent errors at data-sheet rates over one full read of 12 TB (common practice).
it.each([
  [12e12, 1e-14, 0.617],
  [12e12, 1e-15, 0.092],
  [0, 1e-14, 0],
])('%d bytes at %d per bit: %d', (bytes, perBit, chance) => expect(chanceOfUnreadableSector(bytes, perBit)).toBeCloseTo(chance, 3));
