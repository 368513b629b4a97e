import type { SimulatedMember, SimulatedPool } from './simulatedPool';

/**
 * The chance that at least one drive that is there now fails within so many hours, by itself or with its box: exact. Each drive by
 * its Weibull clock from its age; what takes several at a steady rate; a lot as a gamma mixture, whose mean of e^−zH is (rate / (rate + H))^shape.
 */
export function chanceOfAFailure({ members, lots, sharedLosses }: SimulatedPool, hours: number): number {
  const taken = sharedLosses.reduce(
    (sum, { members: of, perHour }) => sum + (of.some((i) => !members[i]?.missing) ? perHour * hours : 0),
    0,
  );
  const there = members.filter(({ missing }) => !missing);
  const ofLots = lots.reduce(
    (sum, { shape, rate }, lot) =>
      sum +
      shape *
        Math.log1p(
          passed(
            there.filter((member) => member.lot === lot),
            hours,
          ) / rate,
        ),
    0,
  );
  return -Math.expm1(
    -ofLots -
      taken -
      passed(
        there.filter(({ lot }) => lot === undefined),
        hours,
      ),
  );
}

/** What the clocks of drives pass in so many hours. */
function passed(members: readonly SimulatedMember[], hours: number): number {
  return members.reduce((sum, { ageHours, sickness, life: { shape, scaleHours } }) => {
    const until = ((ageHours + hours) / scaleHours) ** shape;
    return sum + sickness * (until - (ageHours / scaleHours) ** shape);
  }, 0);
}
