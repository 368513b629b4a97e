import { factsOf } from '../layout/scheme';
import { redundancyOf, type BuiltPool } from './builtPool';

/** The members that are dedicated parity; none in pools of other kinds. */
export function parityOf(pool: BuiltPool): readonly string[] {
  return factsOf(pool.scheme).built === 'dedicated' ? (pool.bands[0]?.members ?? []).slice(0, redundancyOf(pool)) : [];
}

/**
 * How large a drive may be in the place of a member, or as one more: where parity is dedicated, a data drive no larger than the
 * smallest parity drive, for nothing guards what is above.
 *
 * @param sizeOf bytes of a member by its name
 * @param member whose place it takes; left out where it is added
 * @returns bytes; Infinity where nothing limits it
 */
export function largestGuarded(pool: BuiltPool, sizeOf: (name: string) => number | undefined, member?: string): number {
  const parity = parityOf(pool);
  return parity.length === 0 || (member !== undefined && parity.includes(member))
    ? Infinity
    : Math.min(...parity.map((name) => sizeOf(name) ?? 0));
}
