/** A clock that can run a week in a second. Milliseconds since 1970, as everywhere. */
export interface PlayedClock {
  readonly now: () => number;
  /** Runs so many times as fast from now on; 1 is real time, 0 stands still. */
  readonly setPace: (pace: number) => void;
  readonly pace: () => number;
}

/**
 * @param real the clock of the machine
 * @param start where it begins; left out, with the machine's
 */
export function playedClock(real: () => number, start = real()): PlayedClock {
  let [base, since, pace] = [start, real(), 1];
  const now = (): number => base + (real() - since) * pace;
  return {
    now: () => Math.floor(now()),
    pace: () => pace,
    setPace: (next) => {
      [base, since, pace] = [now(), real(), next];
    },
  };
}
