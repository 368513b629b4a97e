import fc from 'fast-check';
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import causeway from '../platform/profiles/causeway.json' with { type: 'json' };
import { compareLayouts, planLayout } from '../layout/planLayout';
import { SCHEMES, type Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { nextSteps } from '../growth/nextSteps';
import { drivesByName, poolOfLayout } from '../pool/ofLayout';
import { oneMoreDrive } from '../pool/oneMore';
import { enclosuresOf } from '../unit/enclosures';
import { sharedCauses } from '../survival/sharedCauses';
import { worst } from '../risk/riskOfLayout';
import { appraise, USUAL_ASSUMPTIONS, type Appraisal, type AppraisedDrive } from './appraise';
import { recommend, type Needs } from './recommend';

const PLAIN = plain as Profile;
const drives = (...terabytes: number[]): AppraisedDrive[] =>
  terabytes.map((size, i) => ({ bay: String(i + 1), bytes: size * 1e12, priceCents: size * 2000 }));
const FIVE = drives(12, 12, 6, 6, 4);
const of = (scheme: Scheme, list = FIVE, width?: number) =>
  appraise(PLAIN, planLayout(PLAIN, scheme, list, 0, width), list);

const lossOf = ({ risk }: Appraisal): number => (risk ? worst(risk.chanceOfLoss) : 1);

describe('appraise', () => {
  it('gives price for each usable TB, spares and all', () => {
    // 40 TB at 20.00 each TB is 800.00 over 28 usable.
    expect(of('mixed-1').centsPerUsableTB).toBeCloseTo(80000 / 28, 9);
    expect(
      appraise(PLAIN, planLayout(PLAIN, 'mirror', FIVE), [...FIVE.slice(1), { bay: '1', bytes: 12e12 }])
        .centsPerUsableTB,
    ).toBeNull();
  });

  it('caps what a client sees by the port', () => {
    const { clientRead, speed } = of('stripe');
    expect(speed.read).toBeGreaterThan(clientRead);
    expect(clientRead / 1e6).toBeCloseTo(117.7, 1);
  });

  it('orders small writes as the arithmetic does: stripe, mirrors 2, single parity 4, double parity 6', () => {
    const eight = drives(...Array<number>(8).fill(8));
    const [stripe, pairs, single, double] = (['stripe', 'striped-mirrors', 'parity-1', 'parity-2'] as const).map(
      (scheme) => of(scheme, eight).speed.smallWrites,
    );
    expect([stripe, pairs, single, double]).toEqual([960, 480, 240, 160]);
  });

  it('is slower while rebuilding, and never riskier with more redundancy or a spare', () => {
    for (const scheme of ['mirror', 'parity-1', 'parity-2', 'mixed-1', 'dedicated-2'] as const) {
      const { speed, speedRebuilding } = of(scheme);
      expect(speedRebuilding?.read).toBeLessThan(speed.read);
      expect(speedRebuilding?.smallReads).toBeLessThan(speed.smallReads);
    }
    expect(lossOf(of('mixed-2'))).toBeLessThan(lossOf(of('mixed-1')));
    expect(lossOf(of('mixed-1'))).toBeLessThan(lossOf(of('separate')));
    const six = drives(8, 8, 8, 8, 8, 8);
    // Where an unreadable sector costs a file and not the pool, only waiting for a drive makes the difference.
    const patient: Profile = { ...PLAIN, rebuild: { ...PLAIN.rebuild, unreadableSector: 'loses-one-file' } };
    const risk = (spares: number) => {
      const list = six.slice(0, 5 + spares);
      return lossOf(appraise(patient, planLayout(patient, 'parity-1', list, spares), list));
    };
    expect(risk(1)).toBeLessThan(risk(0));
  });

  it('has neither risk nor speed for what cannot be', () => {
    expect(of('striped-mirrors')).toMatchObject({ risk: null, rebuild: null, clientRead: 0, centsPerUsableTB: null });
  });

  it('follows a single byte and stays finite over all kinds of drives (property)', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            bytes: fc.integer({ min: 1e12, max: 24e12 }),
            media: fc.constantFrom('hard-disk' as const, 'shingled' as const, 'ssd' as const, 'nvme' as const),
          }),
          { minLength: 1, maxLength: 9 },
        ),
        (list) => {
          const named = list.map((drive, i) => ({ ...drive, bay: String(i + 1) }));
          for (const layout of compareLayouts(PLAIN, SCHEMES, named)) {
            const { rebuild, risk, speed } = appraise(PLAIN, layout, named);
            if (!layout.legal) continue;
            expect(
              [speed.read, speed.write, speed.smallReads, speed.smallWrites].every(
                (value) => Number.isFinite(value) && value > 0,
              ),
            ).toBe(true);
            expect(risk && worst(risk.chanceOfLoss)).toBeGreaterThan(0);
            expect(risk && worst(risk.chanceOfLoss)).toBeLessThanOrEqual(1);
            if (rebuild) expect(rebuild.low <= rebuild.likely && rebuild.likely <= rebuild.high).toBe(true);
            expect(rebuild === null).toBe(layout.guaranteedFailures === 0);
          }
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('recommend', () => {
  const needs: Needs = {
    survive: 1,
    terabytesNow: 10,
    growthPerYear: 0.1,
    years: 3,
    mostCentsPerTB: null,
    work: 'large-files',
    mayStandStill: true,
  };
  const ranked = (change: Partial<Needs> = {}) =>
    recommend(
      compareLayouts(PLAIN, SCHEMES, FIVE).map((layout) => appraise(PLAIN, layout, FIVE)),
      { ...needs, ...change },
    );
  const first = (change?: Partial<Needs>) => ranked(change)[0]?.appraisal.layout.scheme;

  it('takes the most space among those that meet every need', () => {
    expect(['mixed-1', 'dedicated-1']).toContain(first());
    expect(['mixed-2', 'dedicated-2']).toContain(first({ survive: 2, terabytesNow: 8 }));
  });

  it('takes the most small writes where that is the work', () => {
    const [best, ...others] = ranked({ work: 'many-small' }).filter(({ verdicts }) => verdicts.every(({ met }) => met));
    for (const other of others)
      expect(best?.appraisal.speed.smallWrites).toBeGreaterThanOrEqual(Math.floor(other.appraisal.speed.smallWrites));
  });

  it('says why, and what would have to change for another to win; changed so, it does', () => {
    const list = ranked({ survive: 2, terabytesNow: 8 });
    expect(list[0]?.wouldWinIf).toBeNull();
    const single = list.find(({ appraisal }) => appraisal.layout.scheme === 'mixed-1');
    expect(single?.verdicts[0]).toMatchObject({ met: false, sentence: 'survives any 1 (2 asked for)' });
    expect(single?.wouldWinIf).toBe('if surviving 1 were enough');
    expect(['mixed-1', 'dedicated-1']).toContain(first({ survive: 1, terabytesNow: 8 }));
  });

  it('counts growth to the 80 % line', () => {
    const space = ranked({ terabytesNow: 20, growthPerYear: 0.25, years: 2 }).find(
      ({ appraisal }) => appraisal.layout.scheme === 'mixed-1',
    )?.verdicts[1];
    // 28 × 0.8 = 22.4 TB; 20 × 1.25² = 31.3; ln(22.4/20)/ln 1.25 = 0.5 years.
    expect(space).toMatchObject({
      met: false,
      sentence: '22.4 TB up to the 80 % line, enough for 0.5 years (31.3 TB in 2 years asked for)',
    });
  });

  it('never ranks what dies too early above what survives, nor more unmet needs above fewer (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3 }),
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom('large-files' as const, 'many-small' as const),
        fc.boolean(),
        (survive, terabytesNow, work, mayStandStill) => {
          const keys = ranked({ survive, terabytesNow, work, mayStandStill, mostCentsPerTB: 3500 }).map(
            ({ verdicts }) => (verdicts[0]?.met === true ? 0 : 100) + verdicts.filter(({ met }) => !met).length,
          );
          expect(keys).toEqual([...keys].sort((a, b) => a - b));
        },
      ),
    );
  });
});

describe('nextSteps', () => {
  const steps = (scheme: Scheme, list: AppraisedDrive[], bays: number, profile = PLAIN, width?: number) =>
    nextSteps(profile, planLayout(profile, scheme, list, 0, width), list, bays);

  it('fills free bays first, then swaps', () => {
    expect(steps('mixed-1', FIVE, 6)).toMatchObject([
      { what: 'Add one 12 TB drive in a free bay', gainedBytes: 12e12, drives: 1 },
      { what: 'Swap bay 5 (4 TB) for 12 TB', gainedBytes: 8e12 },
      { what: 'Swap bay 3 (6 TB) for 12 TB', gainedBytes: 6e12 },
    ]);
  });

  it('says where nothing grows before the last', () => {
    const [step] = steps('parity-1', drives(4, 4, 4), 3);
    expect(step).toMatchObject({
      what: 'Swap 3 drives for 6 TB, one at a time; nothing grows before the last',
      drives: 3,
    });
    expect(step?.gainedBytes).toBeGreaterThan(3.9e12);
  });

  it('adds whole groups where the family grows by groups', () => {
    const twelve = drives(...Array<number>(12).fill(16));
    expect(steps('parity-2-groups', twelve, 24, causeway as Profile, 6)[0]).toMatchObject({
      what: 'Add 6 drives of 16 TB, a whole group',
      drives: 6,
    });
  });

  it('names no larger drive than gives the same, pairs for pairs, and parity before data', () => {
    expect(steps('parity-1', drives(8, 8, 20), 4)[0]?.what).toBe('Add one 8 TB drive in a free bay');
    expect(steps('striped-mirrors', drives(4, 4, 4, 4), 6)[0]?.what).toBe('Add 2 drives of 4 TB, a pair');
    const [swap] = steps('dedicated-1', drives(4, 4), 2);
    expect(swap?.what).toMatch(/^Swap 2 drives for .*; nothing grows before the last; parity first/);
  });

  it.each<[Scheme, AppraisedDrive[]]>([
    ['stripe', drives(4, 4)],
    ['span', drives(4, 4)],
    ['separate', drives(4)],
  ])('swaps no member of %s under the data: it is copied off first', (scheme, list) => {
    for (const { what } of steps(scheme, list, list.length))
      expect(what).toMatch(/^Copy everything off first and prove the copy; then make it anew/);
  });

  it('always gains (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 2, maxLength: 7 }),
        fc.constantFrom(...SCHEMES),
        (sizes, scheme) => {
          const list = drives(...sizes);
          const layout = planLayout(PLAIN, scheme, list);
          if (!layout.legal) return;
          for (const { gainedBytes } of nextSteps(PLAIN, layout, list, 8)) expect(gainedBytes).toBeGreaterThan(0);
        },
      ),
    );
  });
});

describe('one more drive', () => {
  const gain = (scheme: Scheme, list: AppraisedDrive[], newBytes: number, profile = PLAIN) =>
    oneMoreDrive(profile, poolOfLayout(planLayout(profile, scheme, list)), drivesByName(list), newBytes);

  it.each<[Scheme, AppraisedDrive[], number, number]>([
    ['mixed-1', FIVE, 12e12, 12e12],
    ['mixed-1', FIVE, 6e12, 6e12],
    ['mixed-1', FIVE, 5e12, 4e12],
    ['mixed-1', drives(12, 6, 6), 12e12, 12e12],
    ['parity-1', drives(4, 4, 4), 12e12, 4e12],
    ['parity-1', drives(8, 8, 8), 4e12, 0],
    ['mirror', drives(8, 8), 8e12, 0],
    ['dedicated-1', drives(8, 4), 6e12, 6e12],
    ['dedicated-1', drives(8, 4), 10e12, 0],
    ['separate', drives(8), 4e12, 4e12],
    ['striped-mirrors', drives(8, 8, 8, 8), 8e12, 0],
  ])('%s of built bands', (scheme, list, added, gained) => expect(gain(scheme, list, added).gainedBytes).toBe(gained));

  it('never gains more than planning from scratch, and as much when the drive is as large as the largest (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 12 }), { minLength: 3, maxLength: 7 }),
        fc.integer({ min: 1, max: 14 }),
        (sizes, more) => {
          const list = drives(...sizes);
          const scratch = (bytes: number): number =>
            planLayout(PLAIN, 'mixed-1', [...list, { bay: 'new', bytes }]).usableBytes -
            planLayout(PLAIN, 'mixed-1', list).usableBytes;
          expect(gain('mixed-1', list, more * 1e12).gainedBytes).toBeLessThanOrEqual(scratch(more * 1e12));
          const largest = Math.max(...sizes) * 1e12;
          expect(gain('mixed-1', list, largest).gainedBytes).toBe(scratch(largest));
        },
      ),
    );
  });
});

describe('sharedCauses', () => {
  it('says what a cable or a supply takes down', () => {
    const list = drives(...Array<number>(24).fill(16));
    const layout = planLayout(causeway as Profile, 'parity-2-groups', list, 0, 12);
    const causes = sharedCauses(
      layout.bands,
      enclosuresOf(
        causeway as Profile,
        24,
        list.map(({ bay }) => bay),
      ),
    );
    expect(causes.map(({ cause, marginLeft }) => [cause, marginLeft])).toEqual([
      ['Head alone', -10],
      ['Extension 1: its supplies', -10],
      ['The cable to Extension 1', -10],
    ]);
    // Two drives of each group in an extension: it may drop out whole.
    const spread = [
      {
        kind: 'parity' as const,
        fromBytes: 0,
        toBytes: 1,
        members: ['a1', 'a2', 'b1', 'b2'],
        redundancy: 2,
        usableBytes: 2,
      },
    ];
    expect(
      sharedCauses(spread, [
        { name: 'Head', bays: ['a1', 'a2'] },
        { name: 'Extension 1', bays: ['b1', 'b2'] },
      ]).map(({ marginLeft }) => marginLeft),
    ).toEqual([0, 0, 0]);
  });
});

it('the usual assumptions are five years, three days, gigabit and half full', () => {
  expect(USUAL_ASSUMPTIONS).toEqual({ years: 5, hoursToReplace: 72, portGigabits: 1, usedShare: 0.5 });
});
