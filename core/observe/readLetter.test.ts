import fc from 'fast-check';
import { isOfFailure, letterAgainst, saysNoNews, slugOf, unitMeant, type Letter } from './readLetter';
import { unitAfter } from './testHeron';

const letter = (subject: string, words = '', more: Partial<Letter> = {}): Letter => ({
  sender: 'unit@marrowfen.example',
  recipients: ['shelf@marrowfen.example'],
  subject,
  words,
  ...more,
});
/** After everything that is on record. */
const NOW = '2026-11-30T12:00:00.000Z';
const UNITS = [
  { id: '1', name: 'Heron', serials: ['QH8-04421'] },
  { id: '2', name: 'Great Heron', serials: ['KX2-99871'] },
  { id: '3', name: 'Wren', serials: ['LM4-11223'] },
];
const meant = (of: Letter): string | undefined => unitMeant(of, UNITS)?.id;

describe('unitMeant', () => {
  it('takes the address before the drive, the drive before the name, and none of two', () => {
    expect(meant(letter('Wren: disk 2', '', { recipients: ['shelf+great-heron@x.example'] }))).toBe('2');
    expect(meant(letter('Wren: disk 2', 'the drive qh8-04421 has failed'))).toBe('1');
    expect(meant(letter('[WREN] disk 2 has failed'))).toBe('3');
    expect(meant(letter('Wrench set for sale'))).toBeUndefined();
    expect(meant(letter('Wren and Heron'))).toBeUndefined();
    expect(meant(letter('drives QH8-04421 and LM4-11223'))).toBeUndefined();
    expect(slugOf('Great Heron (2)')).toBe('great-heron-2');
  });
});

describe('letterAgainst', () => {
  const unit = unitAfter();
  const said = (of: Letter, at = unit) =>
    letterAgainst(at, of, NOW).map(({ code, bay, events }) => [code, bay, events.length]);

  it('reads a warning in sentences, wrapped as mail is, and says nothing of what it does not name', () => {
    const words =
      'Dear administrator,\n\nA problem was found on Heron. Disk 3 (serial QH8-04423)\nhas failed. The pool goes on. Disk 2 reports\nreallocated sectors.\n\n> Disk 1 has failed, said an older mail.\n';
    expect(said(letter('Heron: warning', words))).toEqual([
      ['failed', '3', 1],
      ['sick', '2', 1],
    ]);
  });

  it('says the same thing once, as the word of a mail', () => {
    const found = letterAgainst(unit, letter('Disk 3 has failed', 'Disk 3 has failed.'), NOW);
    expect(found.map(({ sentence }) => sentence)).toEqual([expect.stringMatching(/^The mail has bay 3 failed/)]);
    expect(found[0]?.events[0]).toMatchObject({ kind: 'drive-failed', note: "so says the unit's mail" });
  });

  it('is no news where the record has it, and news where nothing of it was understood', () => {
    const failed = unitAfter({ kind: 'drive-failed', serial: 'QH8-04423' } as never);
    expect(saysNoNews(failed, letter('Disk 3 has failed'), NOW)).toBe(true);
    expect(saysNoNews(unit, letter('Disk 3 has failed'), NOW)).toBe(false);
    expect(saysNoNews(unit, letter('Something is odd', 'Call the maker.'), NOW)).toBe(false);
    expect(saysNoNews(unit, letter('Weekly report', 'Disk 1 is healthy.\nDisk 2 is healthy.'), NOW)).toBe(true);
  });

  it('is of a failure where it says so of a drive, or where nothing else of it was understood', () => {
    const of = (subject: string, words = ''): boolean => isOfFailure(unit, letter(subject, words), NOW);
    expect([of('Heron', 'Disk 3 has failed.'), of('Pool is degraded'), of('Heron', 'Disk 2 is failing.')]).toEqual([
      true,
      true,
      false,
    ]);
    expect([of('Test of failure mails'), of('All is well')]).toEqual([false, false]);
    expect(isOfFailure(unit, letter('Heron', 'Disk 3 has failed.'), '2025-06-01T00:00:00.000Z')).toBe(false);
  });

  it('takes nothing from a mail that is older than the drive, nor that anything is well again', () => {
    const old = letterAgainst(unit, letter('Disk 3 has failed'), '2025-06-01T00:00:00.000Z');
    expect(old).toMatchObject([{ code: 'failed', events: [] }]);
    expect(old[0]?.sentence).toContain('before QH8-04423 was put in there');
    const failed = unitAfter({ kind: 'drive-failed', serial: 'QH8-04423' } as never);
    const well = letterAgainst(failed, letter('Weekly report', 'Disk 3 is healthy.'), NOW);
    expect(well.map(({ code, events }) => [code, events.length])).toEqual([['recovered', 0]]);
    expect(saysNoNews(failed, letter('Weekly report', 'Disk 3 is healthy.'), NOW)).toBe(false);
  });

  it('knows its second and not more, and that a unit’s clock may be behind where it speaks of a drive just put in', () => {
    const put = Date.parse(String(unit.drives['QH8-04423']?.insertedAt));
    const failed = letter('Heron', 'Disk 3 has failed.');
    const before = (seconds: number): string => new Date(put - seconds * 1000).toISOString();
    const taken = (at: string): number | undefined => letterAgainst(unit, failed, at)[0]?.events.length;
    expect([0, 0.999, 1, 600].map(before).map(taken)).toEqual([1, 1, 0, 0]);
    expect([600, 3599, 3601].map(before).map((at) => isOfFailure(unit, failed, at))).toEqual([true, true, false]);
  });

  it('takes a test mail for the proof that alarm mail arrives, unless it says more', () => {
    expect(letterAgainst(unit, letter('Test of notification'), NOW)).toMatchObject([
      { code: 'test-arrived', events: [{ kind: 'check-confirmed', check: 'alarm-mail-tested' }] },
    ]);
    expect(said(letter('Test', 'Disk 3 has failed.'))).toEqual([['failed', '3', 1]]);
    expect(letterAgainst(unit, letter('The latest news'), NOW)).toEqual([]);
  });

  it('takes any mail, and no longer than its length asks for', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400, unit: 'grapheme' }), fc.string({ maxLength: 400 }), (subject, words) => {
        expect(letterAgainst(unit, letter(subject, words), NOW)).toBeInstanceOf(Array);
      }),
    );
    for (const piece of ['bay ', 'disk 3, ', '. ', '\n> ', '(', 'Test '])
      expect(letterAgainst(unit, letter('x', piece.repeat(100_000)), NOW)).toBeInstanceOf(Array);
  });
});
