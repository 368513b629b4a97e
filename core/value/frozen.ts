/**
 * Freezes a value and everything inside it.
 *
 * Every value the core hands out is frozen, so that a state can be kept, compared and replayed without anybody
 * changing it behind the ledger's back.
 */
export function frozen<T>(value: T): Readonly<T> {
  if (typeof value === 'object' && value !== null && !Object.isFrozen(value)) {
    Object.freeze(value);
    for (const inner of Object.values(value)) frozen(inner);
  }
  return value;
}
