import { describe, expect, it } from '@jest/globals';
import causeway from '../../core/platform/profiles/causeway.json';
import plain from '../../core/platform/profiles/plain.json';
import reedbank from '../../core/platform/profiles/reedbank.json';
import saltern from '../../core/platform/profiles/saltern.json';
import tidemill from '../../core/platform/profiles/tidemill.json';
import { eventsOfUnit } from '../../core/unit/testUnit';
import type { Scheme } from '../../core/layout/scheme';
import { ERRORS, lifeOf, type Life } from './person';

/** Lives of each kind; LIVES=n lives more. */
const LIVES = Number(process.env['LIVES'] ?? 4);
const START = '2026-01-01T08:00:00.000Z';
const TB4 = 4000787030016;

const UNITS: readonly (readonly [name: string, profile: object, scheme: Scheme, drives: number])[] = [
  ['fixed classic levels, single parity', reedbank, 'parity-1', 4],
  ['fixed classic levels, double parity', reedbank, 'parity-2', 5],
  ['fixed classic levels, a mirror', reedbank, 'mirror', 2],
  ['banded pools', saltern, 'mixed-1', 4],
  ['banded pools that survive two', saltern, 'mixed-2', 5],
  ['dedicated parity by serial, changed while it is off', tidemill, 'dedicated-1', 4],
  ['groups of equal width', causeway, 'parity-2-groups', 12],
  ['plain, striped mirrors', plain, 'striped-mirrors', 4],
];

describe.each(UNITS)('a literal hand at %s', (_name, profile, scheme, drives) => {
  it.each(ERRORS)('who errs by: %s', (err) => {
    const events = eventsOfUnit({
      profile,
      scheme,
      sizes: Array.from({ length: drives }, () => TB4),
      ...(scheme === 'parity-2-groups' ? { width: 6 } : {}),
      serialIn: (bay) => `D-${bay}`,
    });
    const lives = Array.from({ length: LIVES }, (_, seed) => lifeOf(events, err, seed + 1, START));
    expect(lives.filter(({ fault }) => fault !== null).map(said)).toEqual([]);
    // With nothing wrong nothing stops on the way, and all is well at the end.
    if (err === 'none') for (const life of lives) expect([life.wasDown, life.beyond]).toEqual([false, false]);
  });
});

function said({ seed, err, fault, plans }: Life): string {
  return `${err} ${String(seed)}, after ${plans.join(', ')}: ${fault ?? ''}`;
}
