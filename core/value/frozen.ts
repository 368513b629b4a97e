/**
 * Freezes a value and everything inside it.
 *
 * Every value the core hands out is frozen, so that a state can be kept, compared and replayed without anybody
 * changing it behind the ledger's back.
 */
export function frozen<T>(value: T): Readonly<T> {
  if (typeof value === 'object' && value !== null && !Object.isFrozen(value)) {
    Object.freeze(value);
    // Most of what is inside are texts and numbers: asking first is a third of the time.
    for (const key in value) {
      const inner = value[key];
      if (typeof inner === 'object' && inner !== null) frozen(inner);
    }
  }
  return value;
}
