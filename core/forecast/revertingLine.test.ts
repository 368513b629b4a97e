import { det, inv, matrix, multiply, subtract, transpose, type Matrix } from 'mathjs';
import { seeded } from '../value/seeded';
import { heardReverting, drawnReverting } from './revertingLine';
import { normal } from './random';
import { evidenceOf, heardOf } from './strayingLine';

const random = seeded(21);
const day = [0, 3, 4, 11, 30, 31, 45, 80, 82, 120];
const bytes = day.map((one) => 5e12 + 3e9 * one + 4e10 * normal(random));
const number = (of: unknown): number => (of as Matrix).get([0, 0]) as number;

it('is generalised least squares, by the matrices of a general library: level, slope, what is not known, and how likely', () => {
  for (const one of heardReverting({ day, bytes })) {
    const last = day.at(-1) as number;
    const covariance = matrix(day.map((s) => day.map((t) => Math.exp(-Math.abs(s - t) / one.lasts))));
    const x = matrix(day.map((s) => [1, s - last]));
    // In units in which a double keeps its digits.
    const y = matrix(bytes.map((of) => [(of - 5e12) / 1e9]));
    const byInverse = multiply(transpose(x), inv(covariance));
    const normalMatrix = multiply(byInverse, x);
    const found = multiply(inv(normalMatrix), multiply(byInverse, y));
    const off = subtract(y, multiply(x, found));
    const left = number(multiply(multiply(transpose(off), inv(covariance)), off)) * 1e18;
    expect(one.level / 1e9).toBeCloseTo(5000 + (found.get([0, 0]) as number), 6);
    expect(one.rate / 1e9).toBeCloseTo(found.get([1, 0]) as number, 8);
    expect(one.scale / (left / (day.length - 2))).toBeCloseTo(1, 8);
    const unknown = inv(normalMatrix);
    expect(one.unknown[0]).toBeCloseTo(unknown.get([0, 0]) as number, 9);
    expect(one.unknown[1]).toBeCloseTo(unknown.get([0, 1]) as number, 9);
    expect(one.unknown[2]).toBeCloseTo(unknown.get([1, 1]) as number, 9);
    const degrees = day.length - 2;
    const evidence =
      (-degrees / 2) * Math.log(left) -
      Math.log(det(covariance)) / 2 -
      Math.log(det(normalMatrix)) / 2 +
      Math.log((day[1] as number) - (day[0] as number));
    expect(one.evidence).toBeCloseTo(evidence, 6);
  }
});

it('is counted as the straying line is: where nothing is left of a reading in the next, both say the same of the same', () => {
  // Far apart, all that is off is gone; and of readings that stray and come back a line that itself strays hardly at all is the same.
  const far = bytes.map((_, i) => 400 * i);
  const two = heardReverting({ day: far, bytes })[0];
  const whole = heardOf({ day: far, bytes }, 'stays').at(-1);
  expect(two?.evidence).toBeDefined();
  expect(Math.abs((two?.evidence ?? 0) - (whole?.evidence ?? 0))).toBeLessThan(3);
  expect(two?.rate).toBeCloseTo(whole?.rate ?? NaN, -8);
  expect(evidenceOf(heardReverting({ day: far, bytes }))).toBeCloseTo(two?.evidence ?? NaN, 3);
});

it('draws ways to go on that begin where it is and spread no further than what is off by, and what is not known of the line', () => {
  const heard = heardReverting({ day, bytes }).slice(0, 1);
  const one = heard[0] as (typeof heard)[number];
  const ahead = Array.from({ length: 100 }, (_, i) => (i + 1) * 2);
  const paths = Array.from({ length: 4000 }, () => drawnReverting(heard, ahead, random).used);
  const at = (i: number): readonly [number, number] => {
    const values = paths.map((path) => path[i] as number);
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    return [mean, Math.sqrt(values.reduce((sum, of) => sum + (of - mean) ** 2, 0) / values.length)];
  };
  const [a, b, c] = one.unknown;
  const t = 200;
  // Student's variance by the degrees there are.
  const student = one.degrees / (one.degrees - 2);
  const [mean, deviation] = at(99);
  expect(mean / (one.level + one.rate * t)).toBeCloseTo(1, 2);
  expect(deviation / Math.sqrt(one.scale * student * (1 + a + 2 * b * t + c * t * t))).toBeGreaterThan(0.93);
  expect(deviation / Math.sqrt(one.scale * student * (1 + a + 2 * b * t + c * t * t))).toBeLessThan(1.07);
});
