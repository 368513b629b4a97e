import { expect, it } from '@jest/globals';
import reedbank from '../core/platform/profiles/reedbank.json';
import saltern from '../core/platform/profiles/saltern.json';
import { estimateOfJob } from '../core/rebuild/estimateOfJob';
import type { UnitEvent } from '../core/unit/event';
import type { Job } from '../core/unit/state';
import { afterEvents, eventsOfUnit } from '../core/unit/testUnit';
import { lived, truthOf } from './truth';

const START = Date.parse('2026-01-01T00:00:00.000Z');
const HOUR = 3600e3;
const at = (hours: number): string => new Date(START + hours * HOUR).toISOString();

it.each([
  ['a family that rebuilds every byte', reedbank, 'parity-1'],
  ['a banded pool', saltern, 'mixed-1'],
] as const)(
  'goes on with work as it went before, so that whoever waits is not told another day: %s',
  (_name, profile, scheme) => {
    const sizes = [4e12, 4e12, 4e12];
    const told: readonly (readonly [number, UnitEvent])[] = [
      ...eventsOfUnit({ profile, scheme, sizes, bays: 4 }).map((event): [number, UnitEvent] => [0, event]),
      [0, { kind: 'drive-failed', serial: 'D-2' }],
      [0, { kind: 'drive-removed', serial: 'D-2' }],
      [0, { kind: 'drive-inserted', bay: '2', drive: { serial: 'N-2', bytes: 4e12, basis: 'exact' } }],
      [0, { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'p', replaces: 'D-2', onto: 'N-2' }],
      // Much slower than usual, and steadily so.
      ...[10, 20, 30, 40].map((hours): [number, UnitEvent] => [
        hours,
        { kind: 'job-progressed', job: 'r', percent: hours },
      ]),
    ];
    const unit = afterEvents(
      null,
      told.map(([, event]) => event),
      (i) => at(told[i]?.[0] ?? 0),
    );
    const estimate = estimateOfJob(unit, unit.jobs['r'] as Job, { used: {} });
    for (const seed of [1, 2, 3, 4, 5]) {
      let truth = truthOf(unit, {}, seed, START + 40 * HOUR);
      let hours = 40;
      while (truth.unit.jobs['r'] && hours < 400) truth = lived(truth, START + ++hours * HOUR);
      // At that pace a hundred hours, and some more where disks are slower; a pace of its own would end it within a day or two.
      expect(hours).toBeGreaterThan(90);
      expect(hours).toBeLessThan(130);
      expect(at(hours) >= (estimate?.low ?? '')).toBe(true);
    }
  },
);
