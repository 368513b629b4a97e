import { expect, it } from '@jest/globals';
import { workedSeconds } from './dayPattern';

it('takes off what people take in office hours, as counting minute by minute does', () => {
  const minute = 60_000;
  for (const from of [
    Date.UTC(2026, 0, 1, 5),
    Date.UTC(2026, 1, 28, 17, 59),
    Date.UTC(1969, 11, 30, 9),
    Date.UTC(2026, 4, 8, 12),
  ])
    for (const minutes of [1, 600, 1441, 25_000]) {
      let counted = 0;
      for (let i = 0; i < minutes; i++) {
        const now = new Date(from + i * minute);
        const [day, hour] = [now.getUTCDay(), now.getUTCHours()];
        counted += 60 * (day >= 1 && day <= 5 && hour >= 8 && hour < 18 ? 0.25 : 1);
      }
      expect(workedSeconds(from, from + minutes * minute, 0.75)).toBeCloseTo(counted, 6);
      expect(workedSeconds(from, from + minutes * minute, 0)).toBe(minutes * 60);
    }
});
