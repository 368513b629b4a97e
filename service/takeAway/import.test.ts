import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { answer } from '../door/door';
import { shelfOfFile, testShelf, type Json, type TestShelf } from '../testing/testShelf';
import { drivesFor, emptyUnitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const owner = await shelf.tokenOf('owner');
let document: Json;
beforeAll(async () => {
  const about = { profile: 'reedbank', drives: drivesFor('QH8', 2) };
  const { body: unit } = await ask('POST', '/units', emptyUnitSent('Teal', about));
  await ask('POST', `/units/${String(unit['id'])}/events`, {
    expectedVersion: unit['version'],
    event: { kind: 'drive-removed', serial: 'QH8-2' },
  });
  await ask('POST', `/units/${String(unit['id'])}/papers`, {
    name: 'note',
    base64: Buffer.from('kept').toString('base64'),
  });
  const { exportedAt: _at, ...taken } = (await ask('GET', '/export')).body;
  document = taken as Json;
});

const ask = (method: string, path: string, body?: unknown) => shelf.ask(method, path, owner, body);

/** A copy of the export with something else in it. */
function changed(change: (copy: Json) => void): Json {
  const copy = structuredClone(document);
  change(copy);
  return copy;
}
/** Brings it into an empty shelf; what was refused there, and whether anything is in it afterwards. */
async function into(
  other: TestShelf,
  copy: Json,
): Promise<{ readonly status: number; readonly refused: string[]; readonly after: Json }> {
  const as = await other.tokenOf('owner');
  const { status, body } = await other.ask('POST', '/import', as, { document: copy });
  const rows = ((body['rows'] ?? []) as Json[]).filter((row) => row['verdict'] === 'refused');
  const refused =
    status === 200 ? rows.map((row) => `${String(row['what'])}: ${String(row['detail'])}`) : [String(body['detail'])];
  return { status, refused, after: (await other.ask('GET', '/export', as)).body };
}

describe('bringing back refuses what recording refuses', () => {
  const later = new Date(Date.now() + 400 * 86_400_000).toISOString();
  const CASES: readonly (readonly [string, (copy: Json) => void, RegExp])[] = [
    [
      'a time zone that is none',
      (copy) => (copy['organisation'] = { name: 'M', currency: 'EUR', timeZone: 'Nowhere/At_All' }),
      /No time zone is called/,
    ],
    ['an act that happens after now', (copy) => (copy['acts'][1].happenedAt = later), /has not come yet/],
    ['an act recorded after now', (copy) => (copy['acts'][1].recordedAt = later), /has not come yet/],
    [
      'an act recorded before it happened',
      (copy) => (copy['acts'][1].recordedAt = '2026-01-01T00:00:00Z'),
      /has not come yet/,
    ],
    [
      'a time before there were such units',
      (copy) => (copy['acts'][0].happenedAt = '1979-12-31T23:59:59Z'),
      /no moment/,
    ],
    [
      'a drive that came out of no unit',
      (copy) => (copy['acts'][1].entries = copy['acts'][1].entries.filter((one: Json) => one['drive'])),
      /nothing to record|something else/,
    ],
    [
      'a unit whose drive does not know of it',
      (copy) => (copy['acts'][1].entries = copy['acts'][1].entries.filter((one: Json) => one['unit'])),
      /something else/,
    ],
    ['entries that are not numbered on', (copy) => (copy['acts'][1].entries[0].seq = 9), /not numbered on/],
    ['what rests on an act that is not there', (copy) => copy['acts'].shift(), /Act 1 of the file/],
    [
      'the withdrawal of an act not yet written',
      (copy) =>
        copy['acts'].unshift({
          ...copy['acts'][1],
          id: randomUUID(),
          takesBack: copy['acts'][1].id,
          entries: [
            { ...copy['acts'][1].entries[0], event: { kind: 'taken-back', act: copy['acts'][1].id, reason: 'x' } },
          ],
        }),
      /no such entry/,
    ],
    [
      'an id in capitals',
      (copy) => (copy['acts'][1].entries[0].unit = String(copy['acts'][1].entries[0].unit).toUpperCase()),
      /match pattern/,
    ],
    [
      'a drive by another spelling of its serial',
      (copy) =>
        copy['acts'].forEach((act: Json) =>
          act['entries'].forEach((one: Json) => one['drive'] && (one['drive'] = String(one['drive']).toLowerCase())),
        ),
      /goes by QH8-/,
    ],
    ['a paper of tomorrow', (copy) => (copy['papers'][0].addedAt = later), /has not come yet/],
    [
      'a reading of tomorrow',
      (copy) => (copy['readings'] = [[copy['papers'][0].unit, 'QH8-1', 'temperature', later, 30]]),
      /readings: .* has not come yet/,
    ],
    [
      'a reading beyond all bounds',
      (copy) => (copy['readings'] = [[copy['papers'][0].unit, 'QH8-1', 'temperature', '2026-01-01T00:00:00Z', 1e300]]),
      /must be <=/,
    ],
    [
      'a paper of nothing that is here',
      (copy) => (copy['papers'][0].unit = randomUUID()),
      /no unit .* it could belong to/,
    ],
    ['a paper of a unit and a drive at once', (copy) => (copy['papers'][0].serial = 'QH8-1'), /one thing/],
    [
      'a ceiling of a profile that is none',
      (copy) => (copy['acts'][0].entries[0].event.profile.limits = 'none'),
      /not a known field|must be/,
    ],
  ];
  it.each(CASES)('%s', async (_what, change, sentence) => {
    const other = await testShelf();
    try {
      const { refused, after } = await into(other, changed(change));
      expect(refused.join(' ')).toMatch(sentence);
      expect([after['acts'], after['papers'], after['orders']]).toEqual([[], [], []]);
    } finally {
      await other.close();
    }
  });

  it('takes nothing back by half: the ledgers an act here touched count, whether the file names them or not', async () => {
    const moved = document['acts'][1] as Json;
    const unit = (moved['entries'] as Json[]).find((one) => one['unit']) as Json;
    const back = {
      ...moved,
      id: randomUUID(),
      takesBack: moved['id'],
      entries: [
        { ...unit, seq: Number(unit['seq']) + 1, event: { kind: 'taken-back', act: moved['id'], reason: 'half' } },
      ],
    };
    const { body } = await ask('POST', '/import', { document: { ...document, acts: [back], papers: [] } });
    expect(body['done']).toBe(false);
    expect(JSON.stringify(body['rows'])).toContain('something else in the file');
    expect((await ask('GET', '/export')).body['acts']).toHaveLength(2);
  });
});

it('brings back who is told of what by mail, where they are here; no address of a program, no key', async () => {
  const quiet = { from: '22:00', to: '06:00', zone: 'Europe/Lisbon' };
  const rule = { channel: 'mail', least: 'sign', sites: ['S'], quiet, repeatHours: 12 };
  const person = await shelf.cookieOf('owner');
  expect((await shelf.ask('POST', '/tell-rules', person, rule)).status).toBe(201);
  const program = { channel: 'webhook', least: 'care', address: 'https://hook.example/secret' };
  expect((await shelf.ask('POST', '/tell-rules', person, program)).status).toBe(201);
  const taken = (await ask('GET', '/export')).body;
  expect(taken['rules']).toMatchObject([{ least: 'sign', sites: ['S'], quiet, repeatHours: 12, isOn: true }]);
  expect(JSON.stringify(taken)).not.toContain('hook.example');
  const other = await testShelf();
  try {
    const as = await other.tokenOf('owner');
    const { exportedAt: _at, ...copy } = taken;
    const bring = async (of: Json): Promise<Json[]> =>
      (await other.ask('POST', '/import', as, { document: of })).body['rows'].filter(
        ({ what }: Json) => what === 'rule',
      );
    const rules = copy['rules'] as Json[];
    const hours = { ...quiet, zone: 'Nowhere/Atall' };
    expect(await bring({ ...copy, rules: [{ ...rules[0], quiet: hours }] })).toMatchObject([{ verdict: 'refused' }]);
    expect(await bring({ ...copy, rules: [{ ...rules[0], person: 'nobody@marrowfen.example' }] })).toMatchObject([
      { verdict: 'unchanged', detail: expect.stringContaining('left out') },
    ]);
    // Whoever it is for has the same e-mail on the other shelf.
    const there = await other.cookieOf('owner');
    const [{ email } = { email: '' }] = (
      await sql<{ email: string }>`select email from auth."user" where id = ${there.id}`.execute(other.app.db)
    ).rows;
    const same = { ...copy, rules: [{ ...rules[0], person: email.toUpperCase() }] };
    expect(await bring(same)).toMatchObject([{ verdict: 'added' }]);
    expect(await bring(same)).toMatchObject([{ verdict: 'unchanged' }]);
    expect((await other.ask('GET', '/export', as)).body['rules']).toEqual([{ ...rules[0], person: email }]);
  } finally {
    await other.close();
  }
});

describe('a body that was cut on its way', () => {
  it('is refused as cut, and not for what it begins with', async () => {
    const whole = JSON.stringify({ document });
    const cut = whole.slice(0, -10);
    const headers = {
      authorization: `Bearer ${owner}`,
      'content-type': 'application/json',
      'content-length': String(Buffer.byteLength(whole)),
    };
    const response = await answer(
      shelf.app,
      new Request('http://127.0.0.1:4999/api/v1/import', { method: 'POST', headers, body: cut }),
      '/import',
    );
    expect([response.status, ((await response.json()) as Json)['code']]).toEqual([400, 'cut-short']);
  });
});
