import type { Jump } from './jumps';

/** Jumps that come again and again, as they may go on. */
export interface Habit {
  /** Each with the days before it: much that is thrown away after a long time is not drawn after a short one. */
  readonly pieces: readonly { readonly gap: number; readonly bytes: number }[];
  /** Days since the last. */
  readonly since: number;
}

/** Reads the habit off the jumps of a history from one day to another; the pieces at its two ends are the gap of the first. */
export function habitOf(jumps: readonly Jump[], first: number, now: number): Habit {
  const last = jumps.at(-1)?.day ?? now;
  const ends = Math.max(1, (jumps[0]?.day ?? first) - first + (now - last));
  return {
    pieces: jumps.map(({ day, bytes }, i) => ({ gap: i === 0 ? ends : day - (jumps[i - 1] as Jump).day, bytes })),
    since: now - last,
  };
}

/** What a habit brings on average, bytes a day. */
export function habitPerDay({ pieces }: Habit): number {
  const sum = (of: (piece: Habit['pieces'][number]) => number): number => pieces.reduce((all, one) => all + of(one), 0);
  return sum(({ bytes }) => bytes) / sum(({ gap }) => gap);
}

/** Of a draw of all there were the spread is a little narrow: it is drawn from fewer (calibrated: see the test). */
const LEFT_OUT = 0.3;

/** The habit as it may be in truth: its pieces drawn from those there were, so that few leave more open than many. */
export function drawnHabit({ pieces, since }: Habit, random: () => number): Habit {
  return { pieces: pieces.slice(Math.floor(pieces.length * LEFT_OUT)).map(() => draw(pieces, random)), since };
}

/**
 * One way the habit may go on: what has come by each of the days ahead.
 *
 * @param ahead days from now, rising
 */
export function habitAhead({ pieces, since }: Habit, ahead: readonly number[], random: () => number): number[] {
  // Of gaps as long as the one that is open already; where none was, as if it began today.
  const longer = pieces.filter(({ gap }) => gap > since);
  let piece = draw(longer.length > 0 ? longer : pieces, random);
  let next = longer.length > 0 ? piece.gap - since : piece.gap;
  let come = 0;
  return ahead.map((day) => {
    while (next <= day) {
      come += piece.bytes;
      piece = draw(pieces, random);
      next += piece.gap;
    }
    return come;
  });
}

function draw<T>(from: readonly T[], random: () => number): T {
  return from[(random() * from.length) | 0] as T;
}
