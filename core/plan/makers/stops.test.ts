import { expectedSerial } from '../engine/expectedSerial';
import type { KnownDrive } from '../engine/knownDrive';
import { describe, expect, it } from '@jest/globals';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import type { UnitState } from '../../unit/state';
import { type Refusal } from '../../value/refusal';
import { attempt, type Attempt } from '../engine/attempt';
import type { PlanStep } from '../plan';

import { NOW } from './testPlans';
import { TB8, NEW, made, after, replace, step, failed, four } from './testReplace';

describe('what stops a step', () => {
  const { unit } = made(reedbank, four, 'parity-1', [failed]);
  const plan = replace(unit);
  const scan = (of: UnitState, which: PlanStep, serial: string): Attempt =>
    attempt(of, which, { kind: 'serial', serial }, NOW) as Attempt;

  it('speaks of the page where it was read there, and of nothing lost where the unit is off', () => {
    const { unit: sick } = made(
      reedbank,
      four,
      'parity-1',
      [{ kind: 'drive-suspected', serial: 'D-2', note: 'clicks' }],
      { bays: 5 },
    );
    const on = replace(sick);
    expect(scan(sick, step(on, 'out'), 'D-3').interlocks).toMatchObject([
      { code: 'wrong-serial', back: expect.stringMatching(/^Change nothing in the page.*the line that shows D-2/) },
    ]);
    const { unit: cold } = made(
      { ...reedbank, service: { ...reedbank.service, hotSwap: [], opensCase: true } },
      four,
      'parity-1',
      [failed],
      { bays: 5 },
    );
    const off = after(cold, { kind: 'power', on: false });
    expect(scan(off, step(replace(cold), 'pull'), 'D-3').interlocks).toMatchObject([
      {
        code: 'wrong-serial',
        sentence: expect.stringMatching(/is off: nothing is lost/),
        back: expect.stringMatching(/^Put it back into bay 3 before anything is switched on/),
      },
    ]);
  });

  it('names the bay of the wrong drive, what would be lost, and the way back', () => {
    expect(scan(unit, step(plan, 'pull'), ' d-3 ').interlocks).toEqual([
      {
        kind: 'interlock',
        code: 'wrong-serial',
        sentence: 'That is bay 3, a working member of Papers. With it out besides D-2, Papers stops.',
        back: 'Leave it in its bay. If it is out, put it back now, and say so here. Then take bay 2, D-2.',
        serial: 'D-3',
        mayOverride: true,
      },
    ]);
    expect(scan(unit, step(plan, 'pull'), 'd-2').interlocks).toEqual([]);
    expect(scan(unit, step(plan, 'pull'), 'X').interlocks).toMatchObject([
      { sentence: 'This is X; the step is about D-2.' },
    ]);
  });

  const known = (
    serial: string,
    facts: Partial<KnownDrive['facts']> = {},
    more: Partial<KnownDrive> = {},
  ): KnownDrive => ({
    serial,
    facts: { bytes: TB8, basis: 'exact', ...facts },
    ...more,
  });

  describe('with another drive in hand than a new one', () => {
    // Bay 2 clicked, was taken out of service and pulled; the plan takes any new drive of 8 TB.
    const { unit: well } = made(
      reedbank,
      four,
      'parity-1',
      [{ kind: 'drive-suspected', serial: 'D-2', note: 'clicks' }],
      { bays: 5 },
    );
    const LABEL8 = { bytes: TB8, basis: 'label' as const, label: '8 TB' };
    const any = replace(well, { drive: LABEL8 });
    const pulled = after(
      well,
      { kind: 'drive-taken-out-of-service', serial: 'D-2' },
      { kind: 'drive-removed', serial: 'D-2' },
    );
    const held = (serial: string, of?: KnownDrive) =>
      ['new-drive', 'fit'].map(
        (id) =>
          attempt(pulled, step(any, id), { kind: 'serial', serial }, NOW, { knows: () => of }) as Attempt | Refusal,
      );

    it.each<[string, string, KnownDrive | undefined, string, RegExp]>([
      ['the one just pulled', 'D-2', undefined, 'sick-drive', /D-2 is the drive that goes \(clicks\)/],
      [
        'one that showed signs elsewhere',
        'Q-1',
        known('Q-1', {}, { sick: 'showed signs when it came out on 2026-01-02: slow' }),
        'sick-drive',
        /it showed signs .*: slow/,
      ],
      [
        'one that still holds another pool’s data',
        'Q-2',
        known('Q-2', {}, { holds: { pool: 'q', name: 'Archive', unitName: 'Heron' } }),
        'holds-data',
        /member of Archive in Heron/,
      ],
      [
        'one on record in another bay',
        'Q-3',
        known('Q-3', {}, { elsewhere: 'Heron, bay 3' }),
        'wrong-serial',
        /on record as Heron, bay 3/,
      ],
      ['a smaller one than planned', 'Q-4', known('Q-4', { bytes: TB8 - 512 }), 'too-small', /1 sector short/],
      [
        'a working member',
        'D-3',
        known('D-3', {}, { elsewhere: 'here' }),
        'wrong-serial',
        /bay 3, a working member of Papers/,
      ],
    ])('stops %s, when it is taken and when it is fitted', (_what, serial, of, code, sentence) => {
      for (const seen of held(serial, of))
        expect(seen).toMatchObject({ interlocks: [{ code, serial, sentence: expect.stringMatching(sentence) }] });
    });

    it('takes the last four of a drive that is known, and never makes a name of them', () => {
      const [take, fitted] = held('7788', known('QH8-00001-7788')) as Attempt[];
      expect([take?.interlocks, fitted?.interlocks]).toEqual([[], []]);
      expect(fitted?.events).toMatchObject([
        { kind: 'drive-inserted', bay: '2', drive: { serial: 'QH8-00001-7788', bytes: TB8 } },
      ]);
      for (const seen of held('7788'))
        expect(seen).toMatchObject({ code: 'serial-short', pointer: '/evidence/serial' });
      for (const seen of held('QH8-00001-7788'))
        expect(seen).toMatchObject({ code: 'size-unread', pointer: '/evidence/drive' });
      expect(
        attempt(pulled, step(any, 'fit'), { kind: 'serial', serial: 'QH8-00001-7788', drive: LABEL8 }, NOW),
      ).toMatchObject({ interlocks: [] });
    });

    it('names the serial to erase once a drive bought unseen is in, and stops at another', () => {
      // A family where nothing happens until the drive is chosen.
      const chosen = { ...reedbank, rebuild: { ...reedbank.rebuild, starts: 'when-chosen' } };
      const { unit: out } = made(chosen, four, 'parity-1', [{ kind: 'drive-failed', serial: 'D-2' }], { bays: 5 });
      const unseen = replace(out, { drive: { bytes: TB8, basis: 'label', label: '8 TB' } });
      const removed = after(out, { kind: 'drive-removed', serial: 'D-2' });
      const fitted = after(removed, {
        kind: 'drive-inserted',
        bay: '2',
        drive: { serial: 'NEW-77', bytes: TB8, basis: 'exact' },
      });
      const start = unseen.steps.find(({ does }) => does.some(({ kind }) => kind === 'start-rebuild')) as PlanStep;
      expect(expectedSerial(fitted, start)).toBe('NEW-77');
      expect(attempt(fitted, start, { kind: 'serial', serial: 'NEW-78' }, NOW)).toMatchObject({
        interlocks: [{ code: 'wrong-serial', serial: 'NEW-78' }],
      });
      expect(attempt(fitted, start, { kind: 'serial', serial: 'EW-77' }, NOW)).toMatchObject({
        interlocks: [],
        events: [{ kind: 'job-started', onto: 'NEW-77' }],
      });
    });

    it('keeps what it showed when it is put in again', () => {
      const again = after(pulled, {
        kind: 'drive-inserted',
        bay: '2',
        drive: { serial: 'D-2', bytes: TB8, basis: 'exact' },
      });
      expect(again.drives['D-2']).toMatchObject({ condition: 'suspected', sick: 'signs', note: 'clicks' });
      expect(after(again, { kind: 'drive-cleared', serial: 'D-2' }).drives['D-2']).toMatchObject({ condition: 'well' });
    });
  });

  it('stops what nobody could read, and a drive that is some sectors short', () => {
    expect(
      (attempt(unit, step(plan, 'pull'), { kind: 'unread', why: 'worn' }, NOW) as Attempt).interlocks,
    ).toMatchObject([{ code: 'serial-unread', serial: 'D-2' }]);
    const pulled = after(unit, { kind: 'drive-removed', serial: 'D-2' });
    const anyNew = replace(unit, { drive: { bytes: TB8, basis: 'label', label: '8 TB' } });
    const short = attempt(pulled, step(anyNew, 'fit'), { kind: 'serial', serial: 'N-7' }, NOW, {
      knows: () => known('N-7', { bytes: TB8 - 41 * 512 }),
    }) as Attempt;
    expect(short.interlocks).toMatchObject([
      { code: 'too-small', mayOverride: false, sentence: expect.stringContaining('41 sectors short') },
    ]);
    expect(short.events).toEqual([]);
  });

  it('stops a pull that the state has made fatal since the plan was made', () => {
    const { unit: well } = made(saltern, four, 'mixed-1', [], { bays: 5 });
    const early = replace(well);
    const since = after(well, { kind: 'drive-failed', serial: 'D-4' });
    expect(
      (attempt(since, step(early, 'out'), { kind: 'serial', serial: 'D-2' }, NOW) as Attempt).interlocks,
    ).toMatchObject([
      {
        code: 'data-lost',
        back: 'Leave it where it is. D-4 must be rebuilt first; until then D-2 still carries the data.',
      },
    ]);
    // With two to lose it is a second one out: less grave, and stopped as well.
    const { unit: double } = made(saltern, four, 'mixed-2', [{ kind: 'drive-failed', serial: 'D-4' }], { bays: 5 });
    expect(
      (attempt(double, step(early, 'out'), { kind: 'serial', serial: 'D-2' }, NOW) as Attempt).interlocks,
    ).toMatchObject([{ code: 'second-out' }]);
  });

  it('stops a repair onto a member, which nobody overrides', () => {
    const { unit: thin } = made(saltern, four, 'mixed-1', [failed], { bays: 5 });
    const repair = step(replace(thin), 'start');
    const fitted = after(
      thin,
      { kind: 'drive-removed', serial: 'D-2' },
      { kind: 'drive-inserted', bay: '2', drive: { ...NEW, serial: 'N-1' } },
    );
    expect(scan(fitted, repair, 'D-3').interlocks).toMatchObject([
      {
        code: 'erases-member',
        mayOverride: false,
        sentence:
          'D-3 is a member of Papers: a repair onto it erases what it holds. With it out besides D-2, Papers stops.',
      },
    ]);
    expect(scan(fitted, repair, 'N-1').interlocks).toEqual([]);
  });

  it('stops switching off while a rebuild must run, as the family has it', () => {
    const off: PlanStep = {
      ...step(plan, 'verified'),
      asks: { kind: 'tick' },
      does: [{ kind: 'switch-power', on: false }],
    };
    const busy = (profile: object): UnitState =>
      after(
        made(profile, four, 'parity-1', [failed], { bays: 5 }).unit,
        { kind: 'drive-inserted', bay: '5', drive: { ...NEW, serial: 'N-1' } },
        { kind: 'job-started', job: 'j', task: 'rebuild', pool: 'p', replaces: 'D-2', onto: 'N-1' },
        { kind: 'job-progressed', job: 'j', percent: 62 },
      );
    const tried = (profile: object): Attempt => attempt(busy(profile), off, { kind: 'tick' }, NOW) as Attempt;
    expect(tried(reedbank).interlocks).toMatchObject([
      {
        code: 'interrupts-work',
        sentence: 'Switching off stops the rebuild onto N-1 at 62 %: on this family it starts again from nothing.',
      },
    ]);
    expect(tried(saltern).interlocks).toEqual([]);
    // Pulling what is being written ends it, whatever the family.
    const pullIt: PlanStep = {
      ...step(plan, 'pull'),
      asks: { kind: 'serial', expects: 'N-1' },
      does: [{ kind: 'pull-drive', serial: 'N-1' }],
    };
    expect(scan(busy(saltern), pullIt, 'N-1').interlocks).toMatchObject([{ code: 'interrupts-work' }]);
  });
});
