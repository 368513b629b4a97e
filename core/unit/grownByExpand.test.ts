import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import plain from '../platform/profiles/plain.json';
import saltern from '../platform/profiles/saltern.json';
import { labelBytes } from '../drive/labelBytes';
import { planLayout } from '../layout/planLayout';
import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { isRefusal } from '../value/refusal';
import { apply } from './apply';
import type { UnitEvent } from './event';
import { grownByExpand } from './grownByExpand';
import { largestGuarded } from '../pool/dedicatedParity';
import { poolCreated } from './poolCreated';
import type { Pool, UnitState } from './state';

const NOW = '2026-01-01T00:00:00.000Z';
const SIZES = [2000, 4000, 6000, 8000, 12000].map(labelBytes);
const SCHEMES = [
  'mirror',
  'parity-1',
  'parity-2',
  'mixed-1',
  'mixed-2',
  'dedicated-1',
] as const satisfies readonly Scheme[];

function must(unit: UnitState | null, event: UnitEvent): UnitState {
  const after = apply(unit, event, NOW);
  if (isRefusal(after)) throw new Error(`${event.kind}: ${after.sentence}`);
  return after;
}

/** A unit with one pool over drives of these sizes; `null` where the layout is not legal. */
function built(profile: object, scheme: Scheme, sizes: readonly number[]): UnitState | null {
  const drives = sizes.map((bytes, i) => ({ bay: String(i + 1), bytes }));
  const pool = poolCreated(
    planLayout(profile as Profile, scheme, drives),
    'p',
    'P',
    new Map(drives.map(({ bay }) => [bay, `D-${bay}-0`])),
  );
  if (isRefusal(pool)) return null;
  let unit = must(null, {
    kind: 'unit-registered',
    name: 'U',
    place: { site: 'S', room: 'R' },
    profile: profile as Profile,
    enclosures: [{ name: 'Head', bays: drives.map(({ bay }) => bay) }],
  });
  for (const { bay, bytes } of drives)
    unit = must(unit, { kind: 'drive-inserted', bay, drive: { serial: `D-${bay}-0`, bytes, basis: 'exact' } });
  return must(unit, pool);
}

/** One member swapped for a drive of another size and rebuilt, then expanded where that gives space. */
function swapped(unit: UnitState, bay: string, bytes: number, nth: number): UnitState {
  const old = Object.values(unit.drives).find((drive) => drive.bay === bay);
  if (
    !old ||
    bytes < old.bytes ||
    bytes > largestGuarded(unit.pools['p'] as Pool, (serial) => unit.drives[serial]?.bytes, old.serial)
  )
    return unit;
  const serial = `D-${bay}-${String(nth)}`;
  const after = [
    { kind: 'drive-removed', serial: old.serial },
    { kind: 'drive-inserted', bay, drive: { serial, bytes, basis: 'exact' } },
    { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'p', replaces: old.serial, onto: serial },
    { kind: 'job-finished', job: 'r' },
  ].reduce((state, event) => must(state, event as UnitEvent), unit);
  const grown = grownByExpand(after, after.pools['p'] as Pool);
  return grown ? must(after, grown) : after;
}

const runs = fc.record({
  profile: fc.constantFrom(plain, saltern),
  scheme: fc.constantFrom(...SCHEMES),
  sizes: fc.array(fc.constantFrom(...SIZES), { minLength: 3, maxLength: 6 }),
  swaps: fc.array(fc.tuple(fc.nat(5), fc.constantFrom(...SIZES)), { maxLength: 8 }),
});

describe('expanded', () => {
  it('never shrinks a pool, and always gives bands that a unit can have', () => {
    fc.assert(
      fc.property(runs, ({ profile, scheme, sizes, swaps }) => {
        let unit = built(profile, scheme, sizes);
        fc.pre(unit !== null);
        let usable = unit?.pools['p']?.usableBytes ?? 0;
        for (const [i, [at, bytes]] of swaps.entries()) {
          // `apply` refuses bands that do not add up or reach above their drives.
          unit = swapped(unit as UnitState, String((at % sizes.length) + 1), bytes, i + 1);
          const now = unit.pools['p']?.usableBytes ?? 0;
          expect(now).toBeGreaterThanOrEqual(usable);
          usable = now;
        }
      }),
      { numRuns: 300 },
    );
  });

  it('ends, when all members are of one larger size, with what that size would make from scratch', () => {
    for (const profile of [plain, saltern])
      for (const scheme of SCHEMES) {
        const [small, large] = [labelBytes(4000), labelBytes(12000)];
        let unit = built(profile, scheme, [small, small, small, small]);
        if (!unit) continue;
        // Parity first, where it is dedicated: of equal drives the later bay has it.
        for (const bay of ['4', '3', '2', '1']) unit = swapped(unit, bay, large, 1);
        const scratch = planLayout(
          profile as Profile,
          scheme,
          ['1', '2', '3', '4'].map((bay) => ({ bay, bytes: large })),
        );
        expect([scheme, unit.pools['p']?.usableBytes]).toEqual([scheme, scratch.usableBytes]);
      }
  });

  it('gives nothing before enough members are larger: two where one may fail, three where two may', () => {
    const [small, large] = [labelBytes(4000), labelBytes(8000)];
    for (const [scheme, needed] of [
      ['mixed-1', 2],
      ['mixed-2', 3],
    ] as const) {
      let unit = built(plain, scheme, [small, small, small, small]) as UnitState;
      const before = unit.pools['p']?.usableBytes;
      for (let n = 1; n <= needed; n++) {
        unit = swapped(unit, String(n), large, 1);
        expect(unit.pools['p']?.usableBytes === before).toBe(n < needed);
      }
    }
  });
});
