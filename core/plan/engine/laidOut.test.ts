import { describe, expect, it } from '@jest/globals';
import plain from '../../platform/profiles/plain.json';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import tidemill from '../../platform/profiles/tidemill.json';
import type { UnitState } from '../../unit/state';
import { isRefusal } from '../../value/refusal';
import { changeLevelPlan } from '../makers/changeLevel';
import { growPlan } from '../makers/grow';
import { hotSparePlan } from '../makers/hotSpare';
import { replaceAllPlan } from '../makers/replaceAll';
import { must, NOW, TB, unitOf } from '../makers/testPlans';
import type { PlanBody, PlanStep, StepEvidence } from '../plan';
import { attempt } from './attempt';
import { dryRunOver } from './dryRun';
import type { Knows } from './knownDrive';
import { drivesRead } from './drivesRead';
import { knowsWith } from './laidOut';

type Read = Extract<StepEvidence, { kind: 'drives' }>['drives'][number];
const drive = (serial: string, size: number, more: Partial<Read> = {}): Read => ({
  serial,
  bytes: size * TB,
  basis: 'label',
  label: `${String(size)} TB`,
  looks: 'new',
  ...more,
});
const laid = ({ steps }: PlanBody): PlanStep => steps.find(({ id }) => id === 'new-drives') as PlanStep;
const of = (size: number): { bytes: number; basis: 'exact' } => ({ bytes: size * TB, basis: 'exact' });
const tried = (unit: UnitState, plan: PlanBody, drives: readonly Read[], knows?: Knows) =>
  attempt(unit, laid(plan), { kind: 'drives', drives: [...drives] }, NOW, { knows });
/** What stops it: the codes, and whether an owner may go on. */
const stops = (...of: Parameters<typeof tried>): (readonly [string, boolean])[] | string => {
  const seen = tried(...of);
  return isRefusal(seen) ? seen.code : seen.interlocks.map(({ code, mayOverride }) => [code, mayOverride] as const);
};
const words = (...of: Parameters<typeof tried>): string => {
  const seen = tried(...of);
  return isRefusal(seen) ? seen.sentence : seen.interlocks.map(({ sentence }) => sentence).join(' ');
};

describe('drives that are laid out are read there, where a wrong size costs nothing', () => {
  // Mixed: 4, 8, 8 and free bays. By hand: of 28 the largest, 8, protects: 20 usable with one more of 8; with one of 4, 16.
  const mixed = unitOf(saltern, [4, 8, 8], 'mixed-1', 6);
  const more = must(growPlan(mixed, { pool: 'p', drive: of(8) }));

  it('asks for as many as go in, each by its whole serial, each once', () => {
    expect(laid(more)).toMatchObject({ asks: { kind: 'drives', count: 1 } });
    expect(stops(mixed, more, [drive('NEW-00001', 8)])).toEqual([]);
    expect(stops(mixed, more, [])).toBe('not-scanned');
    expect(stops(mixed, more, [drive('1234', 8)])).toBe('serial-short');
    const two = must(growPlan(mixed, { pool: 'p', drive: of(8), bays: ['4', '5'] }));
    expect(stops(mixed, two, [drive('NEW-00001', 8), drive('new-00001', 8)])).toBe('scanned-twice');
    expect(stops(mixed, two, [drive('NEW-00001', 8), drive('NEW-00002', 8)])).toEqual([]);
  });

  it('says what a smaller one would mean, and goes on only with an owner', () => {
    const small = [drive('NEW-00001', 4)];
    expect(stops(mixed, more, small)).toEqual([['too-small', true]]);
    expect(words(mixed, more, small)).toBe(
      'With NEW-00001 (4 TB) Papers will hold 16 TB, not the 20 TB that were planned.',
    );
    // A larger one than planned is no reason to stop.
    expect(stops(mixed, more, [drive('NEW-00001', 12)])).toEqual([]);
  });

  it('refuses one that the pool cannot take at all', () => {
    const classic = unitOf(plain, [8, 8, 8], 'parity-1', 6);
    const plan = must(growPlan(classic, { pool: 'p', drive: of(8) }));
    expect(stops(classic, plan, [drive('NEW-00001', 6)])).toEqual([['too-small', false]]);
    // Parity of a second kind guards the largest: it is as large.
    const dedicated = unitOf(tidemill, [8, 8, 8], 'dedicated-1', 4);
    const level = must(changeLevelPlan(dedicated, { pool: 'p', to: 'dedicated-2', drive: of(8) }));
    expect(stops(dedicated, level, [drive('NEW-00001', 6)])).toEqual([['too-small', false]]);
    expect(stops(dedicated, level, [drive('NEW-00001', 8)])).toEqual([]);
  });

  it('holds larger drives for a swap against what each member needs, and against what the pool would gain', () => {
    const old = unitOf(reedbank, [4, 4, 4], 'parity-1', 4);
    const plan = must(replaceAllPlan(old, { pool: 'p', drive: of(6) }));
    const three = (...sizes: number[]): Read[] => sizes.map((size, i) => drive(`NEW-0000${String(i)}`, size));
    expect(stops(old, plan, three(6, 6, 6))).toEqual([]);
    // One of four among the sixes: every member counts as the smallest.
    expect(stops(old, plan, three(6, 4, 6))).toEqual([['too-small', true]]);
    expect(words(old, plan, three(6, 4, 6))).toContain('it gains nothing');
    expect(stops(old, plan, three(6, 6, 3))).toEqual([['too-small', false]]);
  });

  it('refuses a spare that does not stand in for the largest member', () => {
    const unit = unitOf(saltern, [4, 8, 8], 'mixed-1', 6);
    const plan = must(hotSparePlan(unit, { pool: 'p', drive: of(8) }));
    expect(stops(unit, plan, [drive('NEW-00001', 4)])).toEqual([['too-small', false]]);
    expect(stops(unit, plan, [drive('NEW-00001', 8)])).toEqual([]);
  });

  it('stops at a drive that stands in a bay, is damaged, or is on record with another size', () => {
    expect(stops(mixed, more, [drive('D-2', 8)])).toBe('serial-short');
    const long = {
      ...mixed,
      drives: { ...mixed.drives, 'LONG-SERIAL-2': { ...mixed.drives['D-2'], serial: 'LONG-SERIAL-2' } },
    } as UnitState;
    expect(stops(long, more, [drive('LONG-SERIAL-2', 8)])).toEqual([['wrong-serial', false]]);
    expect(stops(mixed, more, [drive('NEW-00001', 8, { looks: 'damaged' })])).toEqual([['sick-drive', true]]);
    const known =
      (bytes: number): Knows =>
      () => ({ serial: 'NEW-00001', facts: { bytes, basis: 'exact' } });
    expect(stops(mixed, more, [drive('NEW-00001', 8)], known(6 * TB))).toEqual([['size-differs', false]]);
    // The label, and the bytes behind it, are one size.
    expect(stops(mixed, more, [drive('NEW-00001', 8)], known(8_001_563_222_016))).toEqual([]);
  });

  it('fits what was read, by its own size; and the rest of the plan is reckoned with it', () => {
    const done = { 'new-drives': { evidence: { kind: 'drives' as const, drives: [drive('new-00001', 4)] } } };
    expect(drivesRead(done)).toMatchObject([{ serial: 'NEW-00001', bytes: 4 * TB }]);
    const fit = more.steps.find(({ does }) => does.some(({ kind }) => kind === 'fit-drive')) as PlanStep;
    const knows = knowsWith(done, undefined);
    // The last four are enough: its whole serial was read before.
    const seen = attempt(mixed, fit, { kind: 'serial', serial: '0001' }, NOW, { knows });
    if (isRefusal(seen)) throw new Error(seen.sentence);
    expect(seen.interlocks).toEqual([]);
    expect(seen.after.drives['NEW-00001']).toMatchObject({ bay: '4', bytes: 4 * TB });
    // One that nobody read is not taken for it.
    expect(knows('OTHER-9')).toBeUndefined();
    const rest = { ...more, steps: more.steps.filter(({ id }) => id !== 'new-drives') };
    const end = (given: typeof done | Record<string, never>): number | undefined => {
      const last = dryRunOver({ u: mixed }, rest, NOW, given as never).at(-1);
      return last?.kind === 'dry-step' ? last.usableBytes : undefined;
    };
    expect(end(done)).toBeLessThan(end({}) as number);
  });
});
