import { describe, expect, it } from '@jest/globals';
import plain from '../platform/profiles/plain.json';
import saltern from '../platform/profiles/saltern.json';
import { apart } from '../quantity/apart';
import type { Profile } from '../platform/profile';
import { isRefusal } from '../value/refusal';
import { poolFound } from './poolFound';
import type { UnitState } from './state';
import { afterEvents, eventsOfUnit } from './testUnit';

const NOW = '2026-01-01T00:00:00.000Z';
const TB = 1e12;

it('refuses more than its drives hold with both figures, apart by as many digits as it takes', () => {
  expect(apart(500_000_000_000, 500_100_000_000, 'binary')).toEqual(['465.7 GiB', '465.8 GiB']);
  expect(apart(14 * 2 ** 40, 14 * 2 ** 40 + 2 ** 30, 'binary')).toEqual(['14 TiB', '14.001 TiB']);
});

it('takes over a mixed pool of one drive where its family lets one begin so, and nowhere else', () => {
  const one = (profile: object) =>
    poolFound(
      { enclosures: [{ name: 'Head', bays: ['1', '2'] }], profile: profile as unknown as Profile },
      { name: 'Papers', scheme: 'mixed-1', members: ['1'] },
      new Map([['1', { bay: '1', serial: 'D-1', bytes: 4 * TB }]]),
      'p',
    );
  const found = one(saltern);
  if (isRefusal(found)) throw new Error(found.sentence);
  expect(found.bands).toMatchObject([{ kind: 'single', members: ['D-1'], redundancy: 0 }]);
  const unit = afterEvents(
    null,
    eventsOfUnit({ profile: saltern, scheme: 'mixed-1', sizes: [4 * TB], bays: 2 }).slice(0, -1),
    NOW,
  );
  expect(afterEvents(unit, [found], NOW).pools['p']).toMatchObject({ scheme: 'mixed-1', missing: [] });
  expect(one(plain)).toMatchObject({ code: 'layout-illegal' });
});

describe('a pool that is there already', () => {
  const begun = eventsOfUnit({
    profile: plain,
    scheme: 'parity-1',
    sizes: [8, 8, 8, 8].map((size) => size * TB),
    bays: 6,
  });
  const bare: UnitState = afterEvents(null, begun.slice(0, -1), NOW);
  const drives = new Map(
    Object.values(bare.drives).map(({ bay, serial, bytes }) => [bay ?? '', { bay: bay ?? '', serial, bytes }]),
  );
  const found = poolFound(
    { enclosures: bare.enclosures, profile: plain as unknown as Profile },
    { name: 'Papers', scheme: 'parity-1', members: ['1', '2', '3'], spares: ['4'] },
    drives,
    'p',
  );
  if (isRefusal(found)) throw new Error(found.sentence);
  const after = afterEvents(bare, [found], NOW);

  it('knows of none of its drives since when it has been in', () => {
    expect(Object.values(after.drives).map(({ foundThere }) => foundThere)).toEqual([true, true, true, true]);
    expect(after.pools['p']).toMatchObject({ builtAt: null, spares: ['D-4'] });
  });

  it('knows it of one that comes later, and of one that was taken out and put in again', () => {
    const again = afterEvents(
      after,
      [
        { kind: 'drive-inserted', bay: '5', drive: { serial: 'N-5', bytes: 8 * TB, basis: 'exact' } },
        { kind: 'drive-removed', serial: 'D-4' },
        { kind: 'drive-inserted', bay: '4', drive: { serial: 'D-4', bytes: 8 * TB, basis: 'exact' } },
      ],
      '2026-03-01T00:00:00.000Z',
    );
    expect([again.drives['N-5']?.foundThere, again.drives['D-4']?.foundThere]).toEqual([undefined, undefined]);
  });
});
