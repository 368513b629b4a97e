import { sql } from 'kysely';
import type { Playing } from '~/standin/server';
import { NAMES, PASSWORD, playedDemo, type PlayedDemo } from '../testing/playedDemo';
import type { Json, TestShelf } from '../testing/testShelf';
import { letGo, takeDue, takeOne, watchOf } from '../../store/watches';
import { entriesOf, recordedSoFar } from '../../store/acts';
import { unitLedger } from '../../core/world/ledger';
import { openCauses } from '../../store/causes';
import { followNeeds } from '../tell/followNeeds';
import { seeded } from '../../core/value/seeded';
import { RESTART_MS } from '~/standin/played';
import { tellingAddress, told } from './beTold';
import { openDoor } from './unitDoor';
import { look } from './look';
import { isNearby, reachOf, whyNotAddress } from './nearby';
import { sealOf } from './seal';

let shelf: TestShelf;
let played: PlayedDemo;
let playing: Playing;
let owner: string;
let ids: ReadonlyMap<string, string>;

beforeAll(async () => {
  played = await playedDemo();
  ({ shelf, playing, owner, ids } = played);
});
afterAll(() => played.close());

const addressOf = (name: string): string => played.addressOf(name);
const panel = (name: string, body: object): Promise<void> => played.panel(name, body);
const watched = (name: string, more: object = {}) => played.watched(name, more);
const path = (name: string, rest = ''): string => `/units/${ids.get(name) ?? ''}/watch${rest}`;
const lookAt = async (name: string): Promise<Json> => {
  const { status, body } = await shelf.ask('POST', path(name, '/looks'), owner);
  expect([name, status]).toEqual([name, 200]);
  return body['watch'] as Json;
};
const ledger = async (name: string) =>
  (await entriesOf(shelf.app.db, unitLedger(ids.get(name) ?? ''))).map(({ event, recordedBy }) => ({
    ...(event as { kind: string; serial?: string }),
    recordedBy,
  }));

it('finds every unit of the demo as it is on record, and has nothing to ask', async () => {
  for (const name of NAMES) {
    const { status, body } = await watched(name);
    expect([name, status, body['watch']['trouble']]).toEqual([name, 200, null]);
    expect([name, body['watch']['doubtful'], body['watch']['impossible']]).toEqual([name, [], []]);
    expect(body['watch']['fingerprint']).toMatch(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/);
    expect(JSON.stringify(body)).not.toContain(PASSWORD);
  }
  // What it measures is kept: of a drive, and of a pool.
  const drives = await shelf.ask('GET', '/drives/QH8-04422-4KH2', owner);
  expect(JSON.stringify(drives.body)).toContain('power-on-hours');
});

it('keeps of what is measured what has changed, and something of every day', async () => {
  const kept = async (): Promise<number> => {
    const { rows } = await sql<{
      n: string;
    }>`select count(*) as n from reading where unit = ${ids.get('Heron') ?? ''}`.execute(shelf.app.db);
    return Number(rows[0]?.n);
  };
  const due = () => sql`update watch set read_at = now() - interval '1 hour'`.execute(shelf.app.db);
  const before = await kept();
  await due();
  await lookAt('Heron');
  expect(await kept()).toBe(before);
  // On another day it is kept again, changed or not.
  await sql`update reading_now set at = at - interval '1 day' where unit = ${ids.get('Heron') ?? ''}`.execute(
    shelf.app.db,
  );
  await due();
  await lookAt('Heron');
  expect(await kept()).toBeGreaterThan(before + 5);
});

it('leaves the demo as nobody has touched it, whatever it recorded by itself', async () => {
  expect((await recordedSoFar(shelf.app.db, 'demo')).others).toBe(0);
});

it('says of a conflict that nothing but the percent of some work was heard, where that is so', async () => {
  const id = ids.get('Wren') ?? '';
  const { version } = (await shelf.ask('GET', `/units/${id}`, owner)).body as { version: number };
  const record = (expectedVersion: number, event: object) =>
    shelf.ask('POST', `/units/${id}/entries`, owner, { expectedVersion, events: [event] });
  await record(version, { kind: 'job-progressed', job: 'rebuild-1', percent: 62 });
  const behind = await record(version, { kind: 'noted', note: 'by somebody who looked before' });
  expect([behind.status, behind.body['onlyHeard']]).toEqual([409, true]);
  await record(version + 1, { kind: 'noted', note: 'something else' });
  expect((await record(version, { kind: 'noted', note: 'again' })).body['onlyHeard']).toBe(false);
});

it('records a failure on the unit’s own word, tells of it once, and does not say it twice', async () => {
  await watched('Snipe');
  await watched('Bittern');
  await panel('Bittern', { do: 'fail', bay: '3' });
  expect((await lookAt('Bittern'))['bays']).toContainEqual({ bay: '3', serial: 'QH6-01871-R9KD', state: 'failed' });
  await lookAt('Bittern');
  const failed = (await ledger('Bittern')).filter(({ kind }) => kind === 'drive-failed');
  expect(failed).toEqual([expect.objectContaining({ serial: 'QH6-01871-R9KD', recordedBy: 'Watch' })]);
  const told = async () => {
    await followNeeds(shelf.app);
    return (await openCauses(shelf.app.db)).filter(
      ({ title, severity }) => /Bittern/.test(title) && severity === 'margin',
    );
  };
  expect(await told()).toEqual([expect.objectContaining({ code: 'member-failed' })]);
  expect(await told()).toHaveLength(1);
  const needs = await shelf.ask('GET', '/needs', owner);
  expect(JSON.stringify(needs.body)).toContain('QH6-01871-R9KD');
});

it('leaves to a person what may be otherwise: a bay that is empty, another serial', async () => {
  await panel('Bittern', { do: 'pull', bay: '3' });
  const gone = await lookAt('Bittern');
  expect(gone['doubtful'].map(({ code, bay }: Json) => [code, bay])).toEqual([['gone', '3']]);
  await panel('Bittern', {
    do: 'insert',
    bay: '3',
    serial: 'QH6-05555-NEW3',
    bytes: 6001175126016,
    model: 'Quernholt Q6C',
  });
  const { version, watch } = (await shelf.ask('POST', path('Bittern', '/looks'), owner)).body;
  expect(watch['doubtful'].map(({ code }: Json) => code)).toEqual(['other-serial']);
  expect((await ledger('Bittern')).some(({ kind }) => kind === 'drive-removed')).toBe(false);
  const needs = await shelf.ask('GET', '/needs', owner);
  expect(JSON.stringify(needs.body)).toContain('unit-says-otherwise');
  // The person says the unit is right: then it is recorded, by that person.
  const { events } = watch['doubtful'][0] as { events: object[] };
  const settled = await shelf.ask('POST', `/units/${ids.get('Bittern') ?? ''}/entries`, owner, {
    expectedVersion: version,
    events,
  });
  expect(settled.status).toBe(201);
  expect((await lookAt('Bittern'))['doubtful']).toEqual([]);
});

it('follows a rebuild the unit has begun by itself, to its end', async () => {
  await watched('Heron');
  await panel('Heron', { do: 'pull', bay: '2' });
  await panel('Heron', { do: 'insert', bay: '2', serial: 'QH8-05102-V3KE', bytes: 8001563222016 });
  const { version, watch } = (await shelf.ask('POST', path('Heron', '/looks'), owner)).body;
  const swap = watch['doubtful'].find(({ code }: Json) => code === 'other-serial') as { events: object[] };
  await shelf.ask('POST', `/units/${ids.get('Heron') ?? ''}/entries`, owner, {
    expectedVersion: version,
    events: swap.events,
  });
  await lookAt('Heron');
  expect((await ledger('Heron')).filter(({ kind }) => kind === 'job-started')).toHaveLength(1);
  await panel('Heron', { do: 'pace', pace: 200_000 });
  await new Promise((resolve) => setTimeout(resolve, 1200));
  await panel('Heron', { do: 'pace', pace: 1 });
  await lookAt('Heron');
  const unit = (await shelf.ask('GET', `/units/${ids.get('Heron') ?? ''}`, owner)).body;
  expect([Object.keys(unit['state']['jobs'] as object), unit['margin']]).toEqual([[], 1]);
});

it('remembers what was believed: what a person has cleared since waits for a person', async () => {
  await watched('Coot');
  await panel('Coot', { do: 'sign', bay: '1' });
  await lookAt('Coot');
  expect(
    (await ledger('Coot')).filter(({ kind, recordedBy }) => kind === 'drive-suspected' && recordedBy === 'Watch'),
  ).toHaveLength(1);
  const unit = (await shelf.ask('GET', `/units/${ids.get('Coot') ?? ''}`, owner)).body;
  const cleared = await shelf.ask('POST', `/units/${ids.get('Coot') ?? ''}/entries`, owner, {
    expectedVersion: unit['version'],
    events: [{ kind: 'drive-cleared', serial: 'QH12-06110-A7C3', note: 'looked at, well' }],
  });
  expect(cleared.status).toBe(201);
  expect((await lookAt('Coot'))['doubtful'].map(({ code }: Json) => code)).toEqual(['sick']);
  expect(
    (await ledger('Coot')).filter(({ kind, recordedBy }) => kind === 'drive-suspected' && recordedBy === 'Watch'),
  ).toHaveLength(1);
});

it('says of a box that does not answer one thing, not one for each of its drives', async () => {
  await watched('Plover');
  const before = (await ledger('Plover')).length;
  await panel('Plover', { do: 'enclosure', name: 'Extension 1', lost: true });
  await lookAt('Plover');
  const since = (await ledger('Plover')).slice(before);
  expect(since.map(({ kind }) => kind)).toEqual(['enclosure-lost']);
  await panel('Plover', { do: 'enclosure', name: 'Extension 1', lost: false });
  await lookAt('Plover');
  expect((await ledger('Plover')).slice(before).map(({ kind }) => kind)).toEqual(['enclosure-lost', 'enclosure-back']);
});

it('switches a locate light on, and off again by itself', async () => {
  const lit = (body: Json) =>
    (body['watch']['lights'] as Json[]).filter(({ isOn }) => isOn === true).map(({ bay }) => bay as string);
  const on = await shelf.ask('POST', path('Coot', '/lights'), owner, { bay: '3', on: true });
  expect([on.status, lit(on.body)]).toEqual([200, ['3']]);
  // The quarter of an hour is over.
  const { sql } = await import('kysely');
  await sql`update watch set lit = '{"3":"2020-01-01T00:00:00.000Z"}' where unit = ${ids.get('Coot') ?? ''}`.execute(
    shelf.app.db,
  );
  expect(lit({ watch: await lookAt('Coot') })).toEqual([]);
  expect((await shelf.ask('POST', path('Coot', '/lights'), owner, { bay: '99', on: true })).status).toBe(422);
});

it.each([
  ['half', 'broke-off'],
  ['error', 'answers-wrong'],
  ['huge', 'too-long'],
  ['deep', 'makes-no-sense'],
])('is not harmed by a unit that gives %s of an answer', async (fault, code) => {
  const before = (await ledger('Snipe')).length;
  await panel('Snipe', { do: 'fault', fault });
  expect((await lookAt('Snipe'))['trouble']['code']).toBe(code);
  await panel('Snipe', { do: 'fault', fault: 'none' });
  expect((await lookAt('Snipe'))['trouble']).toBeNull();
  expect((await ledger('Snipe')).length).toBe(before);
});

it('waits for a unit that hangs no longer than it may, and asks one that has started anew again', async () => {
  const at = {
    address: addressOf('Snipe'),
    userName: 'keeper',
    password: PASSWORD,
    fingerprint: null,
    reach: { isDemo: true, besides: [] },
  };
  await panel('Snipe', { do: 'fault', fault: 'hang' });
  const door = await openDoor(at, { answerMs: 300, wholeMs: 5000 });
  await expect(door.ask('GET', '/unit-7/redfish/v1/')).rejects.toMatchObject({ trouble: { code: 'no-answer' } });
  door.close();
  await panel('Snipe', { do: 'fault', fault: 'slow' });
  const hurried = await openDoor(at, { answerMs: 5000, wholeMs: 300 });
  await expect(hurried.ask('GET', '/unit-7/redfish/v1/')).rejects.toMatchObject({ trouble: { code: 'no-answer' } });
  hurried.close();
  // Another unit of the same maker is asked meanwhile as ever.
  expect((await lookAt('Coot'))['trouble']).toBeNull();
  await panel('Snipe', { do: 'fault', fault: 'restart' });
  expect((await lookAt('Snipe'))['trouble']['code']).toBe('broke-off');
  await new Promise((resolve) => setTimeout(resolve, RESTART_MS));
  expect((await lookAt('Snipe'))['trouble']).toBeNull();
});

it('ends a day of thirty mishaps with the record as the units are, drive by drive', async () => {
  for (const name of NAMES) await watched(name);
  const chance = seeded(20261129);
  const one = <T>(of: readonly T[]): T => of[Math.floor(chance() * of.length)] as T;
  /** A person looks at what waits, says that the unit is right, and asks it again, until nothing waits. */
  const settle = async (name: string): Promise<void> => {
    for (let i = 0; i < 6; i++) {
      const { version, watch } = (await shelf.ask('POST', path(name, '/looks'), owner)).body as Json;
      const open = (watch['doubtful'] as { events: object[] }[]).filter(({ events }) => events.length > 0);
      if (open.length === 0) return;
      for (const { events } of open) {
        const { body } = await shelf.ask('GET', `/units/${ids.get(name) ?? ''}`, owner);
        await shelf.ask('POST', `/units/${ids.get(name) ?? ''}/entries`, owner, {
          expectedVersion: body['version'] ?? version,
          events,
        });
      }
    }
  };
  const truthOf = (name: string) => (playing.units[NAMES.indexOf(name)] as Playing['units'][number]).truth();
  for (let i = 0; i < 30; i++) {
    const name = one(['Heron', 'Coot', 'Plover', 'Bittern']);
    const { unit } = truthOf(name);
    const bays = unit.enclosures.filter((box) => !unit.away.includes(box.name)).flatMap((box) => box.bays);
    const bay = one(bays);
    const isTaken = Object.values(unit.drives).some((drive) => drive.bay === bay);
    const what = isTaken ? one(['fail', 'sign', 'pull', 'sign'] as const) : 'insert';
    if (what === 'insert')
      await panel(name, {
        do: 'insert',
        bay,
        serial: `QH16-0${String(1000 + i)}-DAY${String(i)}`,
        bytes: 16000900661248,
      });
    else await panel(name, { do: what, bay });
    await panel(name, { do: 'pace', pace: 48 * 3600 });
    await new Promise((resolve) => setTimeout(resolve, 30));
    await panel(name, { do: 'pace', pace: 1 });
    await settle(name);
  }
  for (const name of ['Heron', 'Coot', 'Plover', 'Bittern']) {
    await settle(name);
    const { body } = await shelf.ask('GET', `/units/${ids.get(name) ?? ''}`, owner);
    const drivesIn = (state: { drives: Json }, at: (drive: Json) => string) =>
      Object.values(state.drives as Record<string, Json>)
        .flatMap((drive) => (drive['bay'] === null ? [] : [at(drive)]))
        .sort();
    const standing = ({ bay, serial, condition }: Json) =>
      `${String(bay)} ${String(serial)} ${condition === 'failed' ? 'failed' : 'works'}`;
    const truth = truthOf(name).unit as unknown as { drives: Json };
    expect([name, drivesIn(body['state'] as { drives: Json }, standing)]).toEqual([name, drivesIn(truth, standing)]);
  }
});

it('is told by a unit when something happens, and asks it then; a storm is one question and a count', async () => {
  await watched('Coot');
  const row = async () => watchOf(shelf.app.db, ids.get('Coot') ?? '');
  const at = tellingAddress(shelf.app, ids.get('Coot') ?? '');
  const made = playing.units[NAMES.indexOf('Coot')]?.desk().subscriptions ?? new Map<string, { destination: string }>();
  expect([...made.values()].map(({ destination }) => destination)).toEqual([at]);
  const secret = at.split('/').at(-1) ?? '';
  const { sql } = await import('kysely');
  await sql`update watch set next_at = now() + interval '1 day', asked_at = now() - interval '1 minute'`.execute(
    shelf.app.db,
  );
  const before = (await row())?.events ?? 0;
  const start = Date.now();
  for (let i = 0; i < 10_000; i++) expect(await told(shelf.app, secret, start + i / 10)).toBe(true);
  await told(shelf.app, secret, start + 2000);
  expect((await row())?.events).toBe(before + 10_001);
  expect((await takeDue(shelf.app.db, 9, 60)).map(({ unit }) => unit)).toEqual([ids.get('Coot')]);
  await letGo(shelf.app.db, ids.get('Coot') ?? '');
  // Nobody else finds the address, and no other unit's mark opens it.
  for (const wrong of ['', 'x', `${ids.get('Coot') ?? ''}.`, `${ids.get('Heron') ?? ''}.${secret.split('.')[1] ?? ''}`])
    expect([wrong, await told(shelf.app, wrong, start + 9000)]).toEqual([wrong, false]);
  // Forgotten by a unit that started anew, it is asked to again.
  await panel('Coot', { do: 'fault', fault: 'restart' });
  await new Promise((resolve) => setTimeout(resolve, RESTART_MS));
  expect((await lookAt('Coot'))['tells']).toBe(true);
  expect(playing.units[NAMES.indexOf('Coot')]?.desk().subscriptions.size).toBe(1);
  await shelf.ask('DELETE', path('Coot'), owner);
  expect(playing.units[NAMES.indexOf('Coot')]?.desk().subscriptions.size).toBe(0);
});

it('keeps nothing of an answer for a unit that was set to be asked elsewhere meanwhile', async () => {
  const id = ids.get('Teal') ?? '';
  await watched('Teal');
  const held = await takeOne(shelf.app.db, id, 60);
  if (!held) throw new Error('It is being asked.');
  // While it is asked, an owner says that it stands elsewhere.
  const { sql } = await import('kysely');
  const elsewhere = 'https://127.0.0.1:9/unit-6';
  await sql`update watch set address = ${elsewhere}, fingerprint = null, seen = null, heard_at = null where unit = ${id}`.execute(
    shelf.app.db,
  );
  expect((await look(shelf.app, held)).kind).toBe('heard');
  expect(await watchOf(shelf.app.db, id)).toMatchObject({
    address: elsewhere,
    fingerprint: null,
    seen: null,
    heardAt: null,
  });
  await shelf.ask('DELETE', path('Teal'), owner);
  await watched('Teal');
});

it('frees a unit whose asker died, once its time is over', async () => {
  const { sql } = await import('kysely');
  await watched('Teal');
  await sql`update watch set next_at = now() + interval '1 day' where unit <> ${ids.get('Teal') ?? ''}`.execute(
    shelf.app.db,
  );
  const due = () => sql`update watch set next_at = now() where unit = ${ids.get('Teal') ?? ''}`.execute(shelf.app.db);
  await due();
  expect(await takeDue(shelf.app.db, 9, 1)).toHaveLength(1);
  await due();
  expect(await takeDue(shelf.app.db, 9, 1)).toHaveLength(0);
  await new Promise((resolve) => setTimeout(resolve, 1100));
  expect(await takeDue(shelf.app.db, 9, 1)).toHaveLength(1);
  await letGo(shelf.app.db, ids.get('Teal') ?? '');
});

it('believes nothing that cannot be, and says what it was', async () => {
  const before = (await ledger('Snipe')).length;
  await panel('Snipe', { do: 'fault', fault: 'nonsense' });
  const seen = await lookAt('Snipe');
  expect(seen['impossible'].length).toBeGreaterThan(0);
  await panel('Snipe', { do: 'fault', fault: 'loop' });
  expect((await lookAt('Snipe'))['trouble']).toBeNull();
  await panel('Snipe', { do: 'fault', fault: 'none' });
  await lookAt('Snipe');
  expect((await ledger('Snipe')).length).toBe(before);
});

it('tells when a unit has been silent three times, and takes it back when it answers', async () => {
  await shelf.ask('PUT', path('Teal'), owner, { address: addressOf('Teal'), user: 'keeper', password: 'wrong' });
  await lookAt('Teal');
  const third = await lookAt('Teal');
  expect(third['trouble']['code']).toBe('not-let-in');
  const codes = async () => JSON.stringify((await shelf.ask('GET', '/needs', owner)).body);
  expect(await codes()).toContain('watch-silent');
  await watched('Teal');
  expect(await codes()).not.toContain('watch-silent');
});

it('asks nobody who shows another certificate until an owner has said that it is right', async () => {
  await panel('Wren', { do: 'fault', fault: 'certificate' });
  const stranger = await lookAt('Wren');
  expect(stranger['trouble']['code']).toBe('other-certificate');
  const { fingerprint } = stranger['trouble'] as { fingerprint: string };
  const keeper = await shelf.tokenOf('keeper');
  expect((await shelf.ask('POST', path('Wren', '/certificates'), keeper, { fingerprint })).status).toBe(403);
  const other = fingerprint.replace(/^../, fingerprint.startsWith('00') ? '11' : '00');
  expect((await shelf.ask('POST', path('Wren', '/certificates'), owner, { fingerprint: other })).status).toBe(422);
  const taken = await shelf.ask('POST', path('Wren', '/certificates'), owner, { fingerprint });
  expect([taken.body['watch']['trouble'], taken.body['watch']['fingerprint']]).toEqual([null, fingerprint]);
});

it('keeps the password where nobody reads it, and gives it to no other address', async () => {
  const row = await watchOf(shelf.app.db, ids.get('Snipe') ?? '');
  expect(row?.secret.toString('latin1')).not.toContain(PASSWORD);
  expect((await shelf.ask('PUT', path('Snipe'), owner, { address: addressOf('Snipe'), user: 'keeper' })).status).toBe(
    200,
  );
  const elsewhere = await shelf.ask('PUT', path('Snipe'), owner, { address: addressOf('Teal'), user: 'keeper' });
  expect([elsewhere.status, elsewhere.body['errors'][0].pointer]).toEqual([422, '#/password']);
  const seal = sealOf('a secret of an installation');
  const sealed = seal.close('word', 'unit a');
  expect([seal.open(sealed, 'unit a'), seal.open(sealed, 'unit b'), sealOf('another').open(sealed, 'unit a')]).toEqual([
    'word',
    null,
    null,
  ]);
  const exported = await shelf.ask('GET', '/export', owner);
  expect(JSON.stringify(exported.body)).not.toContain(addressOf('Snipe'));
});

it('goes nowhere but into networks of one’s own', () => {
  for (const [address, isDemo, may] of [
    ['10.4.2.20', false, true],
    ['172.31.0.1', false, true],
    ['192.168.1.9', false, true],
    ['fd00::7', false, true],
    ['127.0.0.1', false, false],
    ['127.0.0.1', true, true],
    ['::ffff:127.0.0.1', false, false],
    ['::1', false, false],
    ['169.254.169.254', false, false],
    ['172.32.0.1', false, false],
    ['8.8.8.8', false, false],
    ['2001:db8::1', false, false],
    ['0.0.0.0', false, false],
  ] as const)
    expect([address, isDemo, isNearby(address, { isDemo, besides: [] })]).toEqual([address, isDemo, may]);
  const privateOnly = { isDemo: false, besides: [] };
  expect(whyNotAddress('http://10.0.0.7', privateOnly)?.code).toBe('not-encrypted');
  expect(whyNotAddress('https://8.8.8.8', privateOnly)?.code).toBe('not-nearby');
  expect(whyNotAddress('https://heron.lan', privateOnly)).toBeUndefined();
});

it('goes into further networks once an owner has allowed them, and never onto this machine or its link', async () => {
  const put = (networks: string[], as = owner) => shelf.ask('PUT', '/watch-networks', as, { networks });
  const addressed = async () =>
    (
      await shelf.ask('PUT', path('Wren'), owner, {
        address: 'https://203.0.113.9',
        user: 'keeper',
        password: 'x',
        isOn: false,
      })
    ).body;
  expect((await addressed())['code']).toBe('not-nearby');
  expect((await put(['203.0.113.0/24'], await shelf.tokenOf('keeper'))).status).toBe(403);
  for (const [text, says] of [
    ['203.0.113.0', /is no network/],
    ['203.0.113.0/33', /is no network/],
    ['heron.lan/24', /is no network/],
    ['fe80::1%eth0/64', /is no network/],
    ['0.0.0.0/0', /too wide/],
    ['2000::/3', /too wide/],
    ['127.0.0.1/32', /No unit stands in/],
    ['169.254.169.254/32', /No unit stands in/],
    ['169.0.0.0/8', /No unit stands in/],
    ['::1/128', /No unit stands in/],
    ['::ffff:127.0.0.1/128', /No unit stands in/],
    ['ff02::/16', /No unit stands in/],
  ] as const) {
    const { status, body } = await put(['198.51.100.0/24', text]);
    expect([text, status, body['errors'][0]]).toEqual([
      text,
      422,
      { pointer: '#/networks/1', detail: expect.stringMatching(says) as string },
    ]);
  }
  expect((await shelf.ask('GET', '/watch-networks', owner)).body).toEqual({ networks: [], byMachine: [] });
  const { body } = await put(['203.0.113.0/24', ' 2001:DB8::/48 ', '203.0.113.0/24']);
  expect(body['networks'].map(({ network }: { network: string }) => network)).toEqual([
    '2001:db8::/48',
    '203.0.113.0/24',
  ]);
  expect(isNearby('203.0.113.9', await reachOf(shelf.app))).toBe(true);
  expect(isNearby('203.0.114.9', await reachOf(shelf.app))).toBe(false);
  expect((await addressed())['watch']['address']).toBe('https://203.0.113.9');
  // Many at once: in the end it is what one of them said, and not what several did together.
  const said = Array.from({ length: 12 }, (_, i) => `198.51.${String(i)}.0/24`);
  await Promise.all(said.map((network) => put([network])));
  expect((await shelf.ask('GET', '/watch-networks', owner)).body['networks']).toHaveLength(1);
  // Allowed no more: what is watched there already is not asked either.
  await put([]);
  expect(isNearby('203.0.113.9', await reachOf(shelf.app))).toBe(false);
  await shelf.ask('DELETE', path('Wren'), owner);
});

it('refuses what is no wish, naming the field', async () => {
  const bad: [object, string][] = [
    [{ user: 'keeper', password: 'x' }, '#/address'],
    [{ address: 'ftp://10.0.0.1', user: 'a', password: 'x' }, '#/address'],
    [{ address: 'https://a@10.0.0.1', user: 'a', password: 'x' }, '#/address'],
    [{ address: 'https://10.0.0.1', user: 'a:b', password: 'x' }, '#/user'],
    [{ address: 'https://10.0.0.1', user: 'a', password: 'x', everySeconds: 1 }, '#/everySeconds'],
    [{ address: 'https://10.0.0.1', user: 'a', password: 'x\n' }, '#/password'],
    [{ address: 'https://10.0.0.1', user: 'a', password: 'x', odd: 1 }, '#/odd'],
  ];
  for (const [wish, pointer] of bad) {
    const { status, body } = await shelf.ask('PUT', path('Snipe'), owner, wish);
    expect([wish, status, body['errors']?.[0]?.pointer]).toEqual([wish, 422, pointer]);
  }
  for (const as of [await shelf.tokenOf('reader'), await shelf.tokenOf('keeper')])
    expect((await shelf.ask('DELETE', path('Snipe'), as)).status).toBe(403);
  expect((await shelf.ask('POST', path('Snipe', '/looks'), await shelf.tokenOf('reader'))).status).toBe(403);
});

it('is asked by one at a time, whoever else is due to', async () => {
  // All are played by one server: its certificate is another for each of them since.
  for (const name of NAMES) {
    await shelf.ask('DELETE', path(name), owner);
    await watched(name);
  }
  const { sql } = await import('kysely');
  await sql`update watch set next_at = now() - interval '1 minute', held_until = null`.execute(shelf.app.db);
  const taken = await Promise.all(Array.from({ length: 6 }, () => takeDue(shelf.app.db, 3, 60)));
  const all = taken.flat().map(({ unit }) => unit);
  expect(all.length).toBe(NAMES.length);
  expect(new Set(all).size).toBe(NAMES.length);
  // Who asks now is told what was heard last, and does not ask beside.
  expect((await shelf.ask('POST', path('Coot', '/looks'), owner)).status).toBe(200);
  const looked = await Promise.all(taken.flat().map((watch) => look(shelf.app, watch)));
  expect(looked.map(({ kind }) => kind)).toEqual(NAMES.map(() => 'heard'));
  expect(await takeDue(shelf.app.db, 3, 60)).toEqual([]);
});

it('is watched no more when an owner says so', async () => {
  const gone = await shelf.ask('DELETE', path('Snipe'), owner);
  expect([gone.status, gone.body['watch']]).toEqual([200, null]);
  expect((await shelf.ask('POST', path('Snipe', '/looks'), owner)).status).toBe(422);
});
