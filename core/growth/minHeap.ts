/** A queue that gives the least first; of equals, the one that came first. */
export interface MinHeap<T> {
  readonly push: (value: T, rank: number) => void;
  /** `undefined` when nothing is left. */
  readonly pop: () => T | undefined;
}

interface Entry<T> {
  readonly value: T;
  readonly rank: number;
  readonly nth: number;
}

/** An empty one. A binary heap: pushing and popping take the logarithm of how many are in it. */
export function minHeap<T>(): MinHeap<T> {
  const entries: Entry<T>[] = [];
  let pushed = 0;
  const isBefore = (a: Entry<T>, b: Entry<T>): boolean => a.rank < b.rank || (a.rank === b.rank && a.nth < b.nth);
  return {
    push: (value, rank) => {
      const entry = { value, rank, nth: pushed++ };
      let at = entries.length;
      while (at > 0) {
        const parent = (at - 1) >> 1;
        if (!isBefore(entry, entries[parent] as Entry<T>)) break;
        entries[at] = entries[parent] as Entry<T>;
        at = parent;
      }
      entries[at] = entry;
    },
    pop: () => {
      const first = entries[0];
      const last = entries.pop();
      if (first === undefined || last === undefined || entries.length === 0) return first?.value;
      let at = 0;
      for (;;) {
        let child = 2 * at + 1;
        if (child >= entries.length) break;
        if (child + 1 < entries.length && isBefore(entries[child + 1] as Entry<T>, entries[child] as Entry<T>)) child++;
        if (!isBefore(entries[child] as Entry<T>, last)) break;
        entries[at] = entries[child] as Entry<T>;
        at = child;
      }
      entries[at] = last;
      return first.value;
    },
  };
}
