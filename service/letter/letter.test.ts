import { sql } from 'kysely';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import { sendMail } from '../tell/mail';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { drivesFor, unitSent } from '../testing/unitSent';
import { openLetterBox } from './letterBox';
import { openLetterDoor } from './letterDoor';
import { mailsIn } from './readMail';

const shelf = await shelfOfFile();
const [keeper, reader] = await Promise.all([shelf.tokenOf('keeper'), shelf.tokenOf('reader')]);
const door = await openLetterDoor(shelf.app, 0);
const about = { profile: 'reedbank', drives: drivesFor('HERON', 4) };
const heron = String((await shelf.ask('POST', '/units', keeper, unitSent('Heron', about))).body['id']);
afterAll(() => door.stop());
beforeEach(async () => {
  await sql`delete from letter`.execute(shelf.app.db);
});

const written = (subject: string, words: string, more = ''): string =>
  `From: Heron <heron@marrowfen.example>\r\nTo: it@marrowfen.example\r\nDate: Mon, 30 Nov 2026 08:00:00 +0100\r\nSubject: ${subject}\r\n${more}\r\n${words}\r\n`;
const letters = async (unit?: string): Promise<Json[]> =>
  (await shelf.ask('GET', `/letters${unit === undefined ? '' : `?unit=${unit}`}`, reader)).body['letters'] as Json[];
const bring = (text: string, as = keeper) => shelf.ask('POST', '/letters', as, { text });
const needs = async (): Promise<string[]> =>
  ((await shelf.ask('GET', '/needs', reader)).body['needs'] as Json[]).map(({ code }) => code as string);
/** Hands a mail in at the door, as a mail server here does. */
const handIn = (mail: object): Promise<unknown> =>
  createTransport({ host: '127.0.0.1', port: door.port, ignoreTLS: true }).sendMail({
    from: 'heron@marrowfen.example',
    to: 'shelf+heron@marrowfen.example',
    ...mail,
  });

it('keeps what is handed in, once, and waits for a person with what it says', async () => {
  const mail = { subject: 'Warning', text: 'Disk 3 has failed.', messageId: '<1@heron>' };
  await handIn(mail);
  await handIn(mail);
  const [letter, ...others] = await letters(heron);
  expect(others).toEqual([]);
  expect(letter).toMatchObject({ unitName: 'Heron', isOurs: false, settledAt: null, subject: 'Warning' });
  expect((letter?.['found'] as Json[]).map(({ code, bay }) => [code, bay] as [string, string])).toEqual([
    ['failed', '3'],
  ]);
  // Of a failure: it rings at night, though it is nobody's word but a mail's.
  expect(await needs()).toContain('unit-wrote-failure');
  // Nothing of it is on record.
  const before = (await shelf.ask('GET', `/units/${heron}`, reader)).body;
  expect(before['state']['drives']['HERON-3']['condition']).toBe('well');

  const path = `/letters/${String(letter?.['id'])}`;
  expect((await shelf.ask('POST', `${path}/settled`, reader)).status).toBe(403);
  const { version, found } = letter as { version: number; found: { events: object[] }[] };
  const events = found.flatMap((one) => one.events);
  expect(
    (await shelf.ask('POST', `/units/${heron}/entries`, keeper, { expectedVersion: version, events })).status,
  ).toBe(201);
  expect((await shelf.ask('POST', `${path}/settled`, keeper)).status).toBe(200);
  expect((await shelf.ask('POST', `${path}/settled`, keeper)).body).toMatchObject({ code: 'settled' });
  expect(await needs()).not.toContain('unit-wrote-failure');
  // The same again is no news: it is on record.
  await handIn({ ...mail, messageId: '<2@heron>' });
  expect((await letters(heron))[0]).toMatchObject({ settledBy: 'the record agrees' });
  expect(await needs()).not.toContain('unit-wrote-failure');
  expect((await shelf.ask('POST', `/letters/${heron}/settled`, keeper)).status).toBe(404);
});

it('knows its own mail by a mark nobody else can make', async () => {
  const { cookie } = await shelf.cookieOf('owner');
  const set = { host: '127.0.0.1', port: door.port, security: 'none', sender: 'shelf@marrowfen.example' };
  await shelf.ask('PUT', '/mail-server', { cookie }, set);
  expect(
    await sendMail(shelf.app, { to: 'ida@marrowfen.example', subject: 'Heron: disk 3', text: 'x', key: 'k' }),
  ).toBeNull();
  await handIn({ subject: 'Heron: disk 1', text: 'Disk 1 has failed.', headers: { 'shelf-mark': 'forged' } });
  expect((await letters()).map(({ isOurs, unit }) => [isOurs, unit] as [boolean, string | null])).toEqual([
    [false, heron],
    [true, null],
  ]);
  const [forged] = await letters(heron);
  expect(forged?.['found']).toHaveLength(1);
  const ours = (await letters()).find(({ isOurs }) => isOurs === true);
  const moved = await shelf.ask('PUT', `/letters/${String(ours?.['id'])}`, keeper, { unit: heron });
  expect(moved.body).toMatchObject({ code: 'is-ours' });
});

it('brings in a mail that is pasted, and a whole mailbox, and says which is none', async () => {
  expect((await bring(written('Heron', 'Disk 2 is failing.'), reader)).status).toBe(403);
  const box = [1, 2, 3]
    .map(
      (n) =>
        `From heron@x Mon Nov 30 08:00:00 2026\n${written(`Heron ${String(n)}`, '>From here on: disk 2 is failing.')}\n`,
    )
    .join('');
  const brought = await bring(box);
  expect([brought.status, (brought.body['taken'] as string[]).length]).toEqual([201, 3]);
  expect((await bring(box)).body).toMatchObject({ taken: [], there: 3 });
  expect((await letters())[0]).toMatchObject({ words: 'From here on: disk 2 is failing.' });
  for (const text of ['just words', 'From x\nnothing', '{"a":1}', '\n\n'])
    expect((await bring(text)).body).toMatchObject({ errors: [{ pointer: '#/text' }] });
  expect([...mailsIn('From a b\nX: 1\n\nFrom c d\nX: 2\n')]).toEqual(['X: 1\n\n', 'X: 2\n']);
});

it('leaves what nobody is named in to a person, who says whose it is', async () => {
  await bring(written('A warning', 'Disk 4 has failed.', 'Message-ID: <n@x>\r\n'));
  expect((await letters())[0]).toMatchObject({ unit: heron });
  await bring(`From: x@y.example\r\nSubject: odd\r\nMessage-ID: <o@x>\r\n\r\nDisk 4 has failed.\r\n`);
  const [odd] = await letters();
  expect(odd).toMatchObject({ unit: null, unitName: null, found: [] });
  const path = `/letters/${String(odd?.['id'])}`;
  expect((await shelf.ask('PUT', path, keeper, { unit: String(odd?.['id']) })).body).toMatchObject({
    errors: [{ pointer: '#/unit' }],
  });
  expect((await shelf.ask('PUT', path, keeper, { unit: heron })).status).toBe(200);
  expect((await letters(heron)).find(({ subject }) => subject === 'odd')?.['found']).toHaveLength(1);
  expect((await shelf.ask('PUT', path, keeper, { unit: null })).status).toBe(200);
  expect(await letters(heron)).toHaveLength(1);
});

it('takes whatever comes, keeps plain words, and puts off what is too much', async () => {
  const html = '<p>Disk 3 <b>has failed</b><script>alert(1)</script></p>';
  await handIn({ subject: '=?utf-8?q?a=00b=0D=0AX:_y?=', html, messageId: '<h@x>' });
  const [one] = await letters();
  expect(one?.['words']).toContain('Disk 3 has failed');
  expect(JSON.stringify(one)).not.toMatch(/<script|\\u0000/);
  await handIn({ subject: 'long', text: 'x'.repeat(1_200_000) });
  await expect(handIn({ subject: 'longer', text: 'x'.repeat(27_000_000) })).rejects.toThrow(/552|size/i);
  await sql`insert into letter (id, message_id, sender, recipients, subject, words, is_ours)
    select gen_random_uuid(), 'storm ' || n, '', '{}', '', '', false from generate_series(1, 200) n`.execute(
    shelf.app.db,
  );
  await expect(handIn({ subject: 'one more', text: 'x' })).rejects.toThrow('452');
});

/** Parts within parts, a thousand deep. */
const DEEP = `From: heron@marrowfen.example\r\nSubject: Heron\r\n${Array.from(
  { length: 1000 },
  (_, i) => `Content-Type: multipart/mixed; boundary=b${String(i)}\r\n\r\n--b${String(i)}\r\n`,
).join('')}\r\nDisk 3 has failed.\r\n`;

/** Hands in whatever it is, as it is. */
const handInRaw = (raw: string | Buffer): Promise<unknown> =>
  createTransport({ host: '127.0.0.1', port: door.port, ignoreTLS: true }).sendMail({
    envelope: { from: 'heron@marrowfen.example', to: ['shelf@marrowfen.example'] },
    raw,
  });

it.each([
  ['parts within parts', DEEP, /parts within parts/],
  ['a head without end', `From: heron@x.example\r\nX-A: ${'y'.repeat(3_000_000)}\r\n\r\nx`, /head is longer/],
  ['no head', 'Disk 3 of Heron has failed.\r\n', /no head/],
])('keeps what cannot be read as it came, with why, and takes the next: %s', async (_, raw, because) => {
  await handInRaw(raw);
  await handInRaw(raw);
  await handIn({ subject: 'Warning', text: 'Disk 2 is failing.', messageId: '<next@heron>' });
  const all = await letters();
  const [odd, ...others] = all.filter(({ unreadBecause }) => unreadBecause !== null);
  expect(others).toEqual([]);
  expect(odd).toMatchObject({ unreadBecause: expect.stringMatching(because), settledAt: null });
  expect(odd?.['words']).toContain(raw.trim().slice(0, 20));
  expect(all.filter(({ unreadBecause }) => unreadBecause === null)).toHaveLength(1);
  expect((await shelf.ask('POST', `/letters/${String(odd?.['id'])}/settled`, keeper)).status).toBe(200);
  // Pasted among others it is kept, too; alone it is refused where it is no mail at all.
  const pasted = await bring(`From x y\n${raw}\n\nFrom x y\n${written('Heron', 'x', 'Message-ID: <p@x>\r\n')}`);
  expect([pasted.status, pasted.body['unread']]).toEqual([201, 1]);
});

it('reads what is passed on, bytes of no named script, and the words before a large picture', async () => {
  const inner = 'From: heron@x.example\r\nSubject: Warning\r\n\r\nDisk 4 has failed.\r\n';
  for (const disposition of ['', 'Content-Disposition: attachment; filename=m.eml\r\n'])
    await handInRaw(
      `${written('Fwd', '', 'Content-Type: multipart/mixed; boundary=x\r\n').trimEnd()}\r\n\r\n--x\r\n\r\nHeron wrote ${disposition.slice(0, 12)}\r\n--x\r\nContent-Type: message/rfc822\r\n${disposition}\r\n${inner}\r\n--x--\r\n`,
    );
  const passedOn = await letters(heron);
  expect(passedOn).toHaveLength(2);
  for (const one of passedOn) expect((one['found'] as Json[]).map(({ code }) => code)).toEqual(['failed']);
  await handInRaw(Buffer.from(written('Heron: Lüfter', 'Der Lüfter läuft.', 'Message-ID: <l@x>\r\n'), 'latin1'));
  expect((await letters(heron)).map(({ words }) => words)).toContain('Der Lüfter läuft.');
  const picture = `${'A'.repeat(76)}\r\n`.repeat(300_000);
  await handInRaw(
    `${written('Heron: picture', '', 'Content-Type: multipart/mixed; boundary=x\r\n').trimEnd()}\r\n\r\n--x\r\n\r\nDisk 2 has failed.\r\n--x\r\nContent-Type: image/png\r\nContent-Transfer-Encoding: base64\r\n\r\n${picture}--x--\r\n`,
  );
  const [large] = await letters(heron);
  expect(large).toMatchObject({ words: 'Disk 2 has failed.', subject: 'Heron: picture' });
}, 60_000);

it('takes another mail of a unit that gives all of them the same Message-ID', async () => {
  for (const text of ['Disk 2 is failing.', 'Disk 3 has failed.', 'Disk 3 has failed.'])
    await handInRaw(written('Heron', text, 'Message-ID: <always@heron>\r\n'));
  expect((await letters(heron)).map(({ words }) => words as string).sort()).toEqual([
    'Disk 2 is failing.',
    'Disk 3 has failed.',
  ]);
});

it('makes room for whoever comes, where others only keep a line open', async () => {
  const idle = Array.from({ length: 60 }, () => connect(door.port, '127.0.0.1').on('error', () => undefined));
  await Promise.all(idle.map((one) => new Promise((resolve) => one.once('data', resolve).once('close', resolve))));
  await handIn({ subject: 'Heron', text: 'Disk 2 is failing.', messageId: '<room@x>' });
  expect(await letters(heron)).toHaveLength(1);
  for (const one of idle) one.destroy();
});

it('reads files of mail that lie in its folder, and puts them away', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'letters-'));
  const put = (name: string, text: string): void => {
    writeFileSync(join(folder, name), text);
    utimesSync(join(folder, name), new Date(0), new Date(0));
  };
  put('a.eml', written('Heron', 'Disk 2 is failing.'));
  put('b.mbox', `From x y\n${written('Heron again', 'Disk 2 is failing.')}`);
  put('c.eml', 'no mail');
  // One of three cannot be read: the others are taken, and it is kept as it came.
  put(
    'g.mbox',
    ['one', DEEP, 'three']
      .map((of) => `From x y\n${of === DEEP ? DEEP : written(of, 'x', `Message-ID: <${of}@g>\r\n`)}\n`)
      .join(''),
  );
  put('d.txt', 'left alone');
  mkdirSync(join(folder, 'e.eml'));
  utimesSync(join(folder, 'e.eml'), new Date(0), new Date(0));
  const look = openLetterBox(shelf.app, folder);
  expect(await look()).toEqual([
    expect.stringContaining('c.eml'),
    expect.stringContaining('e.eml could not'),
    expect.stringContaining('1 of the mails in g.mbox'),
  ]);
  // What stays in the way is said once, and keeps nothing else waiting.
  put('f.eml', written('Heron at last', 'Disk 2 is failing.'));
  expect(await look()).toEqual([]);
  expect((await letters()).map(({ subject }) => subject as string).sort()).toEqual([
    'A mail that could not be read',
    'A mail that could not be read',
    'Heron',
    'Heron again',
    'Heron at last',
    'one',
    'three',
  ]);
  expect(readdirSync(folder).sort()).toEqual(['d.txt', 'e.eml', 'not-read', 'taken']);
  expect(await openLetterBox(shelf.app, join(folder, 'not there'))()).toEqual([]);
  rmSync(folder, { recursive: true });
});
