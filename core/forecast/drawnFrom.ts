import { MOST_BYTES } from '../quantity/bytes';
import { drawnHabit, habitAhead, habitPerDay } from './habit';
import type { LookedAt } from './lookedAt';
import type { Model } from './models';
import type { Random } from './random';
import { drawnReverting } from './revertingLine';
import { drawnAhead, likeliest } from './strayingLine';

/** One way use may go on: bytes a day now, and what is used on each day ahead. */
export interface Drawn {
  readonly slope: number;
  readonly used: readonly number[];
}

/**
 * Ways a history may go on, as many by each model as it weighs.
 *
 * @param ahead days from the last reading, as far apart as the first is from it
 * @returns never below nothing, nor beyond what can be counted
 */
export function drawnFrom(
  { habit, season, weighed, now }: LookedAt,
  ahead: readonly number[],
  paths: number,
  random: Random,
): readonly Drawn[] {
  const seasonal = ahead.map((day) => (season ? season.at(now + day) : 0));
  return shared(
    weighed.map(({ weight }) => weight),
    paths,
  ).map((nth) => {
    const its = habit && drawnHabit(habit, random);
    const { slope, used } = drawnBy((weighed[nth] as LookedAt['weighed'][number]).model, now, ahead, random);
    const come = its ? habitAhead(its, ahead, random) : null;
    return {
      slope: slope + (its ? habitPerDay(its) : 0),
      used: used.map((one, i) => Math.min(MOST_BYTES, Math.max(0, one + (come?.[i] ?? 0) + (seasonal[i] as number)))),
    };
  });
}

function drawnBy(model: Model, now: number, ahead: readonly number[], random: Random): Drawn {
  if (model.kind === 'reverts') return drawnReverting(model.heard, ahead, random);
  const { slope, used } = drawnAhead(model.heard, ahead, random);
  switch (model.kind) {
    case 'curve': {
      const level = Math.exp(likeliest(model.heard).level);
      return { slope: slope * level, used: used.map(Math.exp) };
    }
    case 'wave':
      return { slope, used: used.map((one, i) => one + model.wave.at(now + (ahead[i] as number))) };
    default:
      return { slope, used };
  }
}

/** Which of some each path is drawn by: as many by each as it weighs. */
function shared(weights: readonly number[], paths: number): readonly number[] {
  let sum = 0;
  const ends = weights.map((weight) => (sum += weight));
  return Array.from({ length: paths }, (_, i) => {
    const at = ((i + 0.5) / paths) * sum;
    return Math.max(
      0,
      ends.findIndex((end) => at < end),
    );
  });
}
