import { describe, expect, it } from '@jest/globals';
import { aheadOfUtc, isTimeZone } from './timeZone';

const HOUR = 3_600_000;

describe('timeZone', () => {
  // Legal times: central European summer time begins on the last Sunday of March at 01:00 UTC (Directive 2000/84/EC); eastern
  // daylight time on the second Sunday of March at 07:00 UTC (Energy Policy Act of 2005); India has none.
  it.each([
    ['Europe/Berlin', '2026-03-29T00:59:59Z', 1],
    ['Europe/Berlin', '2026-03-29T01:00:00Z', 2],
    ['America/New_York', '2026-03-08T06:59:59Z', -5],
    ['America/New_York', '2026-03-08T07:00:00Z', -4],
    ['Asia/Kolkata', '2026-07-01T12:00:00.789Z', 5.5],
    ['UTC', '2026-07-01T12:00:00Z', 0],
  ])('%s at %s is %d hours ahead', (zone, at, hours) => expect(aheadOfUtc(zone, Date.parse(at))).toBe(hours * HOUR));

  it('knows a zone from what is none', () => {
    expect(['Europe/Berlin', 'utc', 'Atlantis/Capital', '', 'Europe/Berlin; drop'].map(isTimeZone)).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
  });
});
