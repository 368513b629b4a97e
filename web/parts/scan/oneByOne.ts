/** What becomes of one that was worked: it is done with, or it needs a person, and those after it wait. */
export type Worked = 'done' | 'held';

export interface OneByOne<T> {
  /** How many are not worked yet, the one at work among them. */
  waiting(): number;
  /** Puts more behind those that wait. */
  add(more: readonly T[]): void;
  /** The one that held up the others is settled; `first` is worked before them. */
  release(first?: T): void;
  /** Works what waits, one after another, until none does or one holds up the others. Ends at once while it is at it already. */
  run(work: (one: T) => Promise<Worked>): Promise<void>;
}

/** A line of things that are worked one after another, and that may grow while one is worked. */
export function oneByOne<T>(): OneByOne<T> {
  let line: readonly T[] = [];
  let isBusy = false;
  let isHeld = false;
  return {
    waiting: () => line.length,
    add: (more) => {
      line = [...line, ...more];
    },
    release: (first) => {
      isHeld = false;
      if (first !== undefined) line = [first, ...line];
    },
    run: async (work) => {
      if (isBusy) return;
      isBusy = true;
      try {
        for (let first = line[0]; first !== undefined && !isHeld; first = line[0]) {
          const worked = await work(first);
          // Others may have come meanwhile.
          line = line.slice(1);
          isHeld = worked === 'held';
        }
      } finally {
        isBusy = false;
      }
    },
  };
}
