import { seeded } from '../../value/seeded';
import { Clocks } from './clocks';
import type { SimulatedPool } from './simulatedPool';
import { memberWith, poolWith } from './testPool';

const HOURS = 5 * 8760;

/** What fails when, in lives with stretches of any length and repairs, as clocks say it. */
function told(pool: SimulatedPool, seed: number): unknown[] {
  const random = seeded(seed);
  const clocks = new Clocks(pool, HOURS, random, false);
  const steps = seeded(seed + 1);
  const out: unknown[] = [];
  for (let life = 0; life < 40; life++) {
    clocks.begin(random());
    let missing = -1;
    while (clocks.now < HOURS && out.length < 5000) {
      const until = steps() < 0.3 ? HOURS : Math.min(HOURS, clocks.now + 10 ** (4 * steps()));
      const failed = clocks.pass(until);
      out.push([failed, clocks.now]);
      if (missing >= 0) clocks.renew(missing);
      missing = failed;
      if (failed >= 0) clocks.isMissing[failed] = 1;
    }
  }
  return out;
}

it('says the same whether stretches are passed unread or every clock is looked at', () => {
  const random = seeded(3);
  let failures = 0;
  for (let run = 0; run < 40; run++) {
    const members = Array.from({ length: 2 + (run % 7) }, () =>
      memberWith({
        life: { shape: 1 + random(), scaleHours: 10 ** (4 + 2 * random()) },
        ageHours: 60_000 * random(),
        sickness: run % 3 === 0 ? 1 + 3 * random() : 1,
      }),
    );
    const quick = told(poolWith(members, 1), run);
    // A lot, though nobody is of it: then nothing is known beforehand of how often members fail.
    expect(quick).toEqual(told({ ...poolWith(members, 1), lots: [{ shape: 1, rate: 1 }] }, run));
    failures += quick.filter((one) => (one as [number])[0] >= 0).length;
  }
  expect(failures).toBeGreaterThan(500);
});
