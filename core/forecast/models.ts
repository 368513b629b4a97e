import { YEAR_DAYS } from '../quantity/year';
import { part, type Days } from './byDay';
import { heardReverting, type Reverting } from './revertingLine';
import { yearlyWave, type Season } from './season';
import { evidenceOf, heardOf, likeliest, thinned, type Heard } from './strayingLine';
import { theilSen } from './theilSen';

/**
 * What use may do: grow by so much a day; by so much since some day; by a share of itself; at a rate that itself strays; with the
 * year; or come back to its line whatever is put beside it.
 */
export type Model =
  | { readonly kind: 'reverts'; readonly heard: readonly Reverting[] }
  | ({ readonly heard: readonly Heard[] } & (
      | { readonly kind: 'line' | 'drift' }
      | { readonly kind: 'broken'; readonly since: number }
      /** Of logarithms. */
      | { readonly kind: 'curve' }
      | { readonly kind: 'wave'; readonly wave: Season }
    ));

export interface Weighed {
  readonly model: Model;
  /** How likely it is by how it foretold what was read, 0..1. */
  readonly weight: number;
}

/** Of fewer readings nothing but a line is told. */
const FEWEST_READ = 6;
/** Of fewer readings nobody can tell whether the slope strays: that is held for so many times as likely, for it is the wider. */
const [TELLING, SAFER] = [24, 4];
/** What would be narrower has to be so many times as likely to weigh as much. */
const BETTER = 30;
/** A model that is less likely is left out. */
const LEAST_WEIGHT = 0.05;
/** So many days lie on either side of a day on which the slope changed (where a season was taken out, half a year: what is left of it bends, too), and so many readings. */
const [SIDE_DAYS, SIDE_SMOOTHED, SIDE_READ] = [42, 183, 3];
/** The days on which it may have changed: as many are looked at. */
const MOST_BREAKS = 24;
/** Growth by less than such a share a year is a straight line for as long as anybody plans. */
const LEAST_RATE = 0.08;
/** A wave of a year is looked for from so many years on. */
const FEWEST_YEARS = 1.6;
/** A wave has five more numbers to fit by than a line: a half of the logarithm of the readings each (Schwarz 1978). */
const WAVE_NUMBERS = 5;

/**
 * Models side by side, each weighed by how likely it makes every reading from those before it (a prequential average; Dawid 1984);
 * what an assumption with more numbers fits better by chance is paid for by averaging over them.
 *
 * @param isLine nothing but a straight line is looked for
 * @param isSmoothed a season was taken out already: what is left of it is no wave, and no slope that strays
 */
export function modelsOf(
  days: Days,
  { isLine, isSmoothed }: { readonly isLine: boolean; readonly isSmoothed: boolean },
): readonly Weighed[] {
  const few = thinned(days);
  const stays = heardOf(few, 'stays');
  const line: Model = { kind: 'line', heard: stays };
  if (isLine || days.day.length < FEWEST_READ) return [{ model: line, weight: 1 }];
  const found: { readonly model: Model; readonly evidence: number }[] = [
    { model: line, evidence: evidenceOf(stays) },
    ...brokenOf(few, isSmoothed ? SIDE_SMOOTHED : SIDE_DAYS),
    ...curveOf(few),
    ...revertingOf(few),
    ...(isSmoothed ? [] : [...driftOf(few), ...waveOf(days, few)]),
  ];
  const most = Math.max(...found.map(({ evidence }) => evidence));
  const weights = found.map(({ evidence }) => Math.exp(evidence - most));
  const whole = weights.reduce((a, b) => a + b, 0);
  const kept = found
    .map(({ model }, i) => ({ model, weight: (weights[i] as number) / whole }))
    .filter(({ weight }) => weight >= LEAST_WEIGHT)
    .sort((a, b) => b.weight - a.weight);
  const left = kept.reduce((sum, { weight }) => sum + weight, 0);
  return kept.map((one) => ({ ...one, weight: one.weight / left }));
}

function driftOf(few: Days): { model: Model; evidence: number }[] {
  const heard = heardOf(few, 'strays');
  const safer = few.day.length < TELLING ? Math.log(SAFER) : 0;
  return [{ model: { kind: 'drift', heard }, evidence: evidenceOf(heard) + safer }];
}

/** The narrowest of all: it is to foretell what was read so many times better than another that is held for as likely. */
function revertingOf(few: Days): { model: Model; evidence: number }[] {
  const heard = heardReverting(few);
  return [{ model: { kind: 'reverts', heard }, evidence: evidenceOf(heard) - Math.log(BETTER) }];
}

/** What a part of a history brought a day, from its first reading to its last: how far a slope may have changed is asked no closer. */
function chord({ day, bytes }: Days): number {
  return ((bytes.at(-1) as number) - (bytes[0] as number)) / ((day.at(-1) as number) - (day[0] as number));
}

interface BrokenAt {
  readonly i: number;
  readonly heard: readonly Heard[];
  readonly evidence: number;
}

/** The day it changed, among as many as it may have been. */
function brokenOf(few: Days, side: number): { model: Model; evidence: number }[] {
  const [first, last] = [few.day[0] as number, few.day.at(-1) as number];
  const may = few.day.flatMap((one, i) =>
    i >= SIDE_READ && few.day.length - i > SIDE_READ && one - first >= side && last - one >= side ? [i] : [],
  );
  const every = Math.ceil(may.length / MOST_BREAKS);
  const looked = may.filter((_, i) => i % every === 0);
  if (looked.length === 0) return [];
  const at = (i: number): BrokenAt => {
    const [before, after] = [part(few, 0, i + 1), part(few, i, few.day.length)];
    const squared = (chord(after) - chord(before)) ** 2;
    const heard = heardOf(few, 'stays', { day: few.day[i] as number, squared });
    return { i, heard, evidence: evidenceOf(heard) };
  };
  const all = looked.map(at);
  let best = likeliest(all);
  // A day beside it may fit far better, where little strays.
  for (let step = every; step > 1;) {
    step = Math.ceil(step / 2);
    best = likeliest([best, ...[best.i - step, best.i + step].filter((one) => may.includes(one)).map(at)]);
  }
  const since = few.day[best.i] as number;
  return [{ model: { kind: 'broken', since, heard: best.heard }, evidence: evidenceOf([...all, best]) }];
}

/** Growth by a share of itself: a straight line of logarithms, as likely as its bytes are. */
function curveOf(few: Days): { model: Model; evidence: number }[] {
  if (few.bytes.some((one) => one <= 0)) return [];
  const logs = few.bytes.map(Math.log);
  if (theilSen(few.day, logs) * YEAR_DAYS < LEAST_RATE) return [];
  // Of a density in logarithms to one in bytes.
  const turned = logs.slice(2).reduce((a, b) => a + b, 0);
  const heard = heardOf({ day: few.day, bytes: logs }, 'stays');
  return [{ model: { kind: 'curve', heard }, evidence: evidenceOf(heard) - turned }];
}

function waveOf(days: Days, few: Days): { model: Model; evidence: number }[] {
  const years = ((few.day.at(-1) as number) - (few.day[0] as number)) / YEAR_DAYS;
  const wave = years < FEWEST_YEARS ? null : yearlyWave(days);
  if (!wave) return [];
  const level = { day: few.day, bytes: few.bytes.map((one, i) => one - wave.at(few.day[i] as number)) };
  // What was fitted to it is no proof of how little it strays.
  const heard = heardOf(level, 'stays').map((one) => fewer(one, WAVE_NUMBERS));
  const evidence = evidenceOf(heard) - (WAVE_NUMBERS / 2) * Math.log(few.day.length);
  return [{ model: { kind: 'wave', wave, heard }, evidence }];
}

/** The same with so many numbers more found on the same readings. */
function fewer(heard: Heard, numbers: number): Heard {
  const degrees = Math.max(1, heard.degrees - numbers);
  return { ...heard, degrees, scale: (heard.scale * heard.degrees) / degrees };
}
