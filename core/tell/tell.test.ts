import fc from 'fast-check';
import { causesOf } from '../upkeep/causes';
import type { NeedCode, NeedForHands } from '../upkeep/need';
import { asMail } from './asMail';
import { followCauses, SAME_FOR_MINUTES, type KeptCause } from './followCauses';
import { dueTogether, isDue, SETTLES_SECONDS, type TellRule, type ToTell } from './isDue';
import { clockIn, isQuiet } from './quietHours';
import { severityOf } from './severity';

const need = (code: NeedCode, urgency: number, serial?: string, title: string = code): NeedForHands => ({
  kind: 'need-for-hands',
  unit: 'u',
  code,
  urgency,
  title,
  reason: 'r',
  from: '',
  ...(serial === undefined ? {} : { serial }),
});
const at = (minutes: number): string => new Date(Date.UTC(2026, 10, 30) + minutes * 60_000).toISOString();

/** What is kept after a list of things that stood at minutes, beginning with nothing. */
function keptAfter(...steps: readonly (readonly [minute: number, needs: readonly NeedForHands[]])[]): KeptCause[] {
  let kept: KeptCause[] = [];
  for (const [minute, needs] of steps) {
    const latest = new Map(kept.map((one) => [one.root, one]));
    const { begun, changed } = followCauses([...latest.values()], causesOf(needs), at(minute));
    const changes = new Map(changed.map((one) => [one.id, one]));
    kept = [
      ...kept.map((one) => changes.get(one.id) ?? one),
      ...begun.map((one, i) => ({ ...one, id: `c${String(kept.length + i)}` })),
    ];
  }
  return kept;
}

describe('followCauses', () => {
  it('makes one of a lost enclosure and its sixteen drives, however they come', () => {
    const drives = Array.from({ length: 16 }, (_, n) => need('member-failed', 8, `D${String(n)}`));
    const away = need('enclosure-away', 5);
    const kept = keptAfter([0, [away]], [1, [away, ...drives.slice(0, 3)]], [2, [away, ...drives]]);
    expect(kept).toMatchObject([{ code: 'enclosure-away', changedAt: at(0), others: 16, severity: 'margin' }]);
  });

  it('is told anew when it gets worse, and by another drive, not when it gets better', () => {
    const [first, second] = [need('member-failed', 8, 'D1'), need('member-failed', 8, 'D2')];
    const one = keptAfter([0, [first]], [5, [first, second]]);
    expect(one).toMatchObject([{ beganAt: at(0), changedAt: at(5) }]);
    expect(keptAfter([0, [first, second]], [5, [first]])).toMatchObject([{ changedAt: at(0) }]);
    expect(keptAfter([0, [first]], [5, [need('no-margin', 3), first]])).toMatchObject([{ changedAt: at(5) }]);
  });

  it('keeps who has seen it until it gets worse', () => {
    const seen = {
      ...(keptAfter([0, [need('member-failed', 8, 'D1')]])[0] as KeptCause),
      seenAt: at(1),
      seenBy: 'Ida',
    };
    const same = followCauses([seen], causesOf([need('member-failed', 8, 'D1', 'worded otherwise')]), at(2));
    expect(same.changed).toMatchObject([{ seenBy: 'Ida', title: 'worded otherwise' }]);
    const worse = followCauses([seen], causesOf([need('data-lost', 0), need('member-failed', 8, 'D1')]), at(2));
    expect(worse.changed).toMatchObject([{ seenBy: null, seenAt: null, changedAt: at(2) }]);
  });

  it('takes a drive that goes and comes back within the hour for the same, and another drive for another', () => {
    const there = [need('member-failed', 8, 'D1')];
    const back = keptAfter([0, there], [5, []], [20, there], [25, []], [40, there]);
    expect(back).toMatchObject([{ beganAt: at(0), changedAt: at(0), closedAt: null }]);
    const other = keptAfter([0, there], [5, []], [20, [need('member-failed', 8, 'D2')]]);
    expect(other).toMatchObject([{ changedAt: at(20) }]);
    const later = keptAfter([0, there], [5, []], [6 + SAME_FOR_MINUTES, there]);
    expect(later.map(({ closedAt }) => closedAt)).toEqual([at(5), null]);
  });

  it('has exactly one open cause for each there is, whatever came before', () => {
    const codes = fc.constantFrom<NeedCode>(
      'member-failed',
      'no-margin',
      'near-full',
      'copy-old',
      'upkeep-due',
      'sign-open',
    );
    const needs = fc.array(
      fc.tuple(codes, fc.integer({ min: 0, max: 40 }), fc.constantFrom('A', 'B')).map((of) => need(...of)),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 90 }), needs), { minLength: 1, maxLength: 12 }),
        (steps) => {
          let minute = 0;
          const kept = keptAfter(...steps.map(([later, of]) => [(minute += later), of] as const));
          const open = kept.filter(({ closedAt }) => closedAt === null);
          const there = causesOf(steps.at(-1)?.[1] ?? []);
          expect(open.map(({ root }) => root).sort()).toEqual(there.map(({ root }) => root).sort());
          for (const { root, title, severity, others } of open) {
            const cause = there.find((one) => one.root === root);
            expect([title, others]).toEqual([cause?.first.title, cause?.others.length]);
            const all = cause ? [cause.first, ...cause.others] : [];
            expect(all.some(({ code }) => severityOf(code) === severity)).toBe(true);
            if (severity !== 'margin') expect(all.some(({ code }) => severityOf(code) === 'margin')).toBe(false);
          }
        },
      ),
    );
  });
});

describe('quiet hours', () => {
  it('go over midnight, end with their end, and are on the clock of their zone', () => {
    const night = { from: '22:00', to: '07:00', zone: 'UTC' };
    const quiet = (time: string, hours = night): boolean => isQuiet(hours, `2026-11-30T${time}:00.000Z`);
    expect(['21:59', '22:00', '23:59', '00:00', '06:59', '07:00', '12:00'].map((time) => quiet(time))).toEqual([
      false,
      true,
      true,
      true,
      true,
      false,
      false,
    ]);
    expect(quiet('12:30', { from: '12:00', to: '13:00', zone: 'UTC' })).toBe(true);
    expect(quiet('13:00', { from: '12:00', to: '13:00', zone: 'UTC' })).toBe(false);
    // In winter two hours ahead of UTC, in summer three: the time zone database.
    expect(clockIn('Europe/Helsinki', '2026-11-30T20:30:00Z')).toBe('22:30');
    expect(clockIn('Europe/Helsinki', '2026-07-01T20:30:00Z')).toBe('23:30');
    expect(quiet('20:30', { ...night, zone: 'Europe/Helsinki' })).toBe(true);
  });
});

const cause = (more: Partial<ToTell> = {}): ToTell => ({
  id: 'c',
  kind: 'cause',
  unit: 'u',
  unitName: 'Heron',
  site: 'Marrowfen',
  severity: 'sign',
  title: 'Heron · a fan is out',
  reason: 'Since yesterday.',
  others: 0,
  changedAt: at(0),
  seenAt: null,
  ...more,
});
const rule = (more: Partial<TellRule> = {}): TellRule => ({
  id: 'r',
  sites: [],
  least: 'sign',
  quiet: null,
  repeatHours: null,
  since: at(-1000),
  ...more,
});
const told = (minutes: number, changed = 0) => ({ about: 'c', changedAt: at(changed), at: at(minutes) });

describe('isDue', () => {
  it('is due once, and once more each time it gets worse', () => {
    expect(isDue(cause(), rule(), undefined, at(1))).toBe(true);
    expect(isDue(cause(), rule(), told(1), at(9999))).toBe(false);
    expect(isDue(cause({ changedAt: at(5) }), rule(), told(1), at(6))).toBe(true);
  });

  it('leaves out what is less than the least, elsewhere, or seen', () => {
    expect(isDue(cause({ severity: 'care' }), rule(), undefined, at(1))).toBe(false);
    expect(isDue(cause({ severity: 'care' }), rule({ least: 'care' }), undefined, at(1))).toBe(true);
    expect(isDue(cause(), rule({ least: 'margin' }), undefined, at(1))).toBe(false);
    expect(isDue(cause(), rule({ sites: ['Elsewhere'] }), undefined, at(1))).toBe(false);
    expect(isDue(cause(), rule({ sites: ['Elsewhere', 'Marrowfen'] }), undefined, at(1))).toBe(true);
    expect(isDue(cause({ seenAt: at(1) }), rule(), undefined, at(2))).toBe(false);
  });

  it('waits for the end of quiet hours, unless a margin is lower', () => {
    const quiet = { from: '00:00', to: '06:00', zone: 'UTC' };
    expect(isDue(cause(), rule({ quiet }), undefined, at(1))).toBe(false);
    expect(isDue(cause(), rule({ quiet }), undefined, at(360))).toBe(true);
    expect(isDue(cause({ severity: 'margin' }), rule({ quiet }), undefined, at(1))).toBe(true);
  });

  it('comes again for as long as nobody has seen it, but not care and not news', () => {
    const again = rule({ repeatHours: 2, least: 'care' });
    expect([119, 120].map((minute) => isDue(cause(), again, told(0), at(minute)))).toEqual([false, true]);
    expect(isDue(cause({ severity: 'care' }), again, told(0), at(120))).toBe(false);
    expect(isDue(cause({ kind: 'news' }), again, told(0), at(120))).toBe(false);
    expect(isDue(cause({ seenAt: at(60) }), again, told(0), at(120))).toBe(false);
  });

  it('tells whoever is new of what lasts, and of no news of before', () => {
    const newer = rule({ since: at(10) });
    expect(isDue(cause(), newer, undefined, at(11))).toBe(true);
    expect(isDue(cause({ kind: 'news' }), newer, undefined, at(11))).toBe(false);
    expect(isDue(cause({ kind: 'news', changedAt: at(10) }), newer, undefined, at(11))).toBe(true);
  });
});

describe('dueTogether', () => {
  const at60 = SETTLES_SECONDS / 60;
  const units = [0, 0.2, 0.9].map((minute, n) => cause({ id: `c${String(n)}`, changedAt: at(minute) }));
  const due = (all: readonly ToTell[], minute: number): string[] =>
    dueTogether(all, rule(), () => undefined, at(minute)).map(({ id }) => id);

  it('waits until what comes of one thing has come, and then tells all of it', () => {
    expect(due(units, 0.95)).toEqual([]);
    expect(due(units, at60)).toEqual(['c0', 'c1', 'c2']);
  });

  it('waits for nothing with a margin, and brings the rest along', () => {
    expect(due([...units, cause({ id: 'm', severity: 'margin', changedAt: at(0.9) })], 0.9)).toHaveLength(4);
    expect(due([cause({ id: 'm', severity: 'margin', changedAt: at(1) })], 1)).toEqual(['m']);
  });
});

describe('asMail', () => {
  it('is one mail of all of it, the gravest first, with no line in its head but one', () => {
    const { subject, text } = asMail(
      [cause(), cause({ severity: 'margin', title: 'Wren ·\r\nBcc: x\u2028y failed', others: 2 })],
      'https://shelf.example',
    );
    expect(subject).toBe('Wren · Bcc: x y failed, and 1 more');
    expect(text.indexOf('Wren')).toBeLessThan(text.indexOf('Heron'));
    expect(text).toContain('And 2 more of the same cause.');
    expect(text).toContain('https://shelf.example/units/u');
    expect(asMail([cause({ title: 'long '.repeat(100) })], '').subject.length).toBeLessThanOrEqual(140);
  });
});
