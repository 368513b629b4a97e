import { describe, expect, it } from '@jest/globals';
import { copyInPasses } from './copyInPasses';

const TB = 1e12;
const HOUR = 3600;

describe('copyInPasses', () => {
  it('copies all of it, then what changed meanwhile: reckoned by hand', () => {
    // 4 TB in ten hours, one file, 1 TB changed a day: (10/24) TB are left, 1.04 h; of that time again 43 GB, 6.5 min.
    const copy = copyInPasses(
      { bytes: 4 * TB, files: 1, changedBytesPerDay: TB, hoursPerDay: 24 },
      { bytes: 10 * HOUR, files: 0 },
    );
    expect(copy?.passes.map(({ bytes }) => Math.round(bytes / 1e9))).toEqual([4000, 417, 43]);
    expect((copy?.offSeconds ?? 0) / 60).toBeCloseTo(6.5, 1);
    expect(copy?.days).toBeCloseTo((10 + 25 / 24) / 24, 3);
  });

  it('takes longer where it may copy at night only, and more is left at its end', () => {
    const all = { bytes: 4 * TB, files: 1e6, changedBytesPerDay: 40e9, hoursPerDay: 24 };
    const whole = { bytes: 10 * HOUR, files: 2 * HOUR };
    const [always, nights] = [copyInPasses(all, whole), copyInPasses({ ...all, hoursPerDay: 8 }, whole)];
    expect((nights?.days ?? 0) / (always?.days ?? 1)).toBeGreaterThan(2.9);
    expect(nights?.passes[1]?.bytes).toBeCloseTo(3 * (always?.passes[1]?.bytes ?? 0), -6);
    // A million files are looked at again: five minutes, however little changed.
    expect(always?.offSeconds).toBeGreaterThan(300);
  });

  it('ends where nothing changes, where there is nothing, and says where it never catches up', () => {
    const still = copyInPasses(
      { bytes: TB, files: 1, changedBytesPerDay: 0, hoursPerDay: 24 },
      { bytes: HOUR, files: 0 },
    );
    expect(still?.passes).toHaveLength(2);
    expect(still?.offSeconds).toBeLessThan(1);
    expect(
      copyInPasses({ bytes: 0, files: 1, changedBytesPerDay: 1, hoursPerDay: 24 }, { bytes: 0, files: 0 }),
    ).toMatchObject({ offSeconds: 0, days: 0 });
    const busy = { bytes: TB, files: 1, changedBytesPerDay: 30 * TB, hoursPerDay: 24 };
    expect(copyInPasses(busy, { bytes: HOUR, files: 0 })).toBeNull();
  });

  /** An independent reference: minute by minute, with real hours of the day, a byte marked as changed whenever it is written. */
  function lived(of: { bytes: number; hours: number; changedPerDay: number; from: number; hoursPerDay: number }) {
    const perMinute = of.bytes / (of.hours * 60);
    let [minute, waiting, marked] = [of.from * 60, of.bytes, 0];
    const may = (at: number): boolean => ((at / 60) % 24) - of.from < of.hoursPerDay && (at / 60) % 24 >= of.from;
    for (let pass = 0; pass < 40; pass++) {
      // Short enough to do it with everybody off.
      if (pass > 0 && waiting / perMinute <= 15)
        return { days: (minute / 60 - of.from) / 24, off: waiting / perMinute };
      const began = waiting;
      while (waiting > 0) {
        if (may(minute)) waiting -= perMinute;
        marked = Math.min(of.bytes, marked + of.changedPerDay / 1440);
        minute++;
      }
      [waiting, marked] = [marked, 0];
      if (pass > 0 && waiting > 0.8 * began) return { days: (minute / 60 - of.from) / 24, off: waiting / perMinute };
    }
    throw new Error('It never catches up.');
  }

  it.each([
    [24, 10, 0.1],
    [24, 60, 0.05],
    [10, 30, 0.02],
    [8, 50, 0.01],
    [6, 20, 0.04],
  ])(
    'agrees with a copy lived minute by minute: %d h a day, %d h of copying, %d of it changed a day',
    (hoursPerDay, hours, share) => {
      const all = { bytes: 4 * TB, hours, changedPerDay: share * 4 * TB, from: 0, hoursPerDay };
      const truth = lived(all);
      const copy = copyInPasses(
        { bytes: all.bytes, files: 1, changedBytesPerDay: all.changedPerDay, hoursPerDay },
        { bytes: hours * HOUR, files: 0 },
      );
      // What it may not copy in is spread over the day: at most the hours of one day's pause are between them.
      expect(Math.abs((copy?.days ?? NaN) - truth.days)).toBeLessThan((24 - hoursPerDay) / 24 + 0.1);
      // Off for a quarter of an hour at most, or for what never gets shorter.
      expect((copy?.offSeconds ?? NaN) / 60).toBeLessThan(truth.off + 16);
      expect(truth.off).toBeLessThan((copy?.offSeconds ?? NaN) / 60 + 16);
    },
  );
});
