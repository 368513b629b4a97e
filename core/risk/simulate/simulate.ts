import { gammaQuantile } from '../gammaLaw';
import { livesOf } from './life';
import type { SimulatedPool } from './simulatedPool';

/** A chance, 0..1, with the span that holds it 95 times in 100, and what it rests on. */
export interface Simulated {
  readonly likely: number;
  readonly low: number;
  readonly high: number;
  /** Lives that ended so. */
  readonly lives: number;
  /** `none-seen`: no life ended so, and the true chance may be above 0; `few-carry-it`: a handful of lives are most of the figure. */
  readonly trouble?: 'none-seen' | 'few-carry-it';
}

/** What the lives of a pool say. */
export interface PoolSimulated {
  readonly kind: 'pool-simulated';
  readonly hours: number;
  readonly lives: number;
  /** More members are missing than may be. */
  readonly lost: Simulated;
  /** A rebuild that can lose none more meets an unreadable sector: it stops, or a file is lost, as the family does. */
  readonly met: Simulated;
  /** How often that happens, in the mean. */
  readonly metTimes: Simulated;
  /** It ended before it was as close as was asked for. */
  readonly isCutShort: boolean;
}

export interface SimulationAsked {
  /** How far ahead, hours, above 0. */
  readonly hours: number;
  readonly seed: number;
  /** Never more lives than these. */
  readonly mostLives: number;
  /** Ends when 95 of 100 spans reach no further than this share of the chance of loss, to both sides; 0 lives them all. */
  readonly closeTo?: number;
  /** Asked after every fifty lives: one may be long where much fails. */
  readonly isOver?: () => boolean;
  readonly onProgress?: (share: number) => void;
  /** False: nothing is made likelier than it is. */
  readonly isBiased?: boolean;
}

/** So often it is asked whether the time is over, and how close it is. */
const ASKED_EVERY = 50;
const BATCH = 1000;
/** No judgement about closeness before so many lives. */
const LEAST_LIVES = 10_000;
/** 95 of 100 of a normal variable lie within so many standard errors. */
const SPAN = 1.959964;
/** Of as many lives in effect the span is that of a normal variable, whatever they weigh. */
const MANY = 10_000;
/** Fewer lives than these, in effect, carry no figure. */
const FEW = 50;
/** One in forty lies below a span of 95 in 100, one above. */
const [BELOW, ABOVE] = [0.025, 0.975];

/**
 * Lives a pool's time to come again and again, and says how often it ends how. Every figure is unbiased; its span is the gamma
 * interval of a sum of weighted counts (`spanOf` below). The same seed gives the same answer.
 */
export function simulate(pool: SimulatedPool, asked: SimulationAsked): PoolSimulated {
  const { hours, seed, mostLives, closeTo = 0, isOver, onProgress, isBiased = true } = asked;
  const live = livesOf(pool, hours, seed, isBiased);
  const [lost, met, metTimes] = [new Tally(), new Tally(), new Tally()];
  let lives = 0;
  let isCutShort = false;
  while (lives < mostLives && !isCutShort) {
    const until = Math.min(mostLives, lives + BATCH);
    for (; lives < until && !isCutShort; lives++) {
      const one = live(lives);
      if (one.lostAtHours !== null) lost.add(one.weight);
      if (one.met > 0) {
        met.add(one.met);
        metTimes.add(one.metTimes);
      }
      isCutShort = (lives + 1) % ASKED_EVERY === 0 && lives + 1 < mostLives && isOver?.() === true;
    }
    const isClose = closeTo > 0 && lives >= LEAST_LIVES && lost.isClose(lives, closeTo);
    onProgress?.(isClose ? 1 : lives / mostLives);
    if (isClose) break;
  }
  return Object.freeze({
    kind: 'pool-simulated',
    hours,
    lives,
    lost: lost.figure(lives, 1),
    met: met.figure(lives, 1),
    metTimes: metTimes.figure(lives, Infinity),
    isCutShort: isCutShort || (closeTo > 0 && lives >= mostLives && !lost.isClose(lives, closeTo)),
  });
}

/** What lives that ended in one way count for. */
class Tally {
  private sum = 0;
  private squares = 0;
  private count = 0;
  private heaviest = 0;

  add(weight: number): void {
    this.heaviest = Math.max(this.heaviest, weight);
    this.sum += weight;
    this.squares += weight * weight;
    this.count++;
  }

  private errorOf(lives: number): number {
    const mean = this.sum / lives;
    return lives < 2 ? Infinity : Math.sqrt(Math.max(0, this.squares / lives - mean * mean) / (lives - 1));
  }

  /** Lives of one weight that would scatter as much. */
  private inEffect(): number {
    return this.squares === 0 ? 0 : (this.sum * this.sum) / this.squares;
  }

  isClose(lives: number, share: number): boolean {
    return this.inEffect() >= FEW && SPAN * this.errorOf(lives) <= (share * this.sum) / lives;
  }

  figure(lives: number, most: number): Simulated {
    const likely = lives === 0 ? 0 : this.sum / lives;
    const [low, high] = this.spanOf(lives);
    const trouble = this.count === 0 ? 'none-seen' : this.inEffect() < FEW ? 'few-carry-it' : undefined;
    return Object.freeze({
      likely: Math.min(most, likely),
      low: Math.min(most, low),
      high: Math.min(most, high),
      lives: this.count,
      ...(trouble ? { trouble } : {}),
    });
  }

  /**
   * The span of a rare sum is not even: what is rare was more often seen too seldom than too often. A gamma law of the same mean
   * and scatter below, and above of that with one more of the heaviest (Fay and Feuer, Statistics in Medicine 16, 1997, 791–801; of
   * lives that weigh alike the exact span of a Poisson count).
   */
  private spanOf(lives: number): readonly [number, number] {
    // Nothing seen in N even lives is less than 3/N, 95 times in 100 (the rule of three).
    if (this.count === 0) return [0, 3 / Math.max(1, lives)];
    const mean = this.sum / lives;
    const error = this.errorOf(lives);
    if (!Number.isFinite(error)) return [0, Infinity];
    if (error === 0 || this.inEffect() > MANY) return [Math.max(0, mean - SPAN * error), mean + SPAN * error];
    const [one, squared] = [this.heaviest / lives, error * error];
    const [upper, scatter] = [mean + one, squared + one * one];
    return [
      (gammaQuantile((mean * mean) / squared, BELOW) * squared) / mean,
      (gammaQuantile((upper * upper) / scatter, ABOVE) * scatter) / upper,
    ];
  }
}
