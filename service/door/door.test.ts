import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { labelBytes } from '~/core/drive/labelBytes';
import { takeAwaySchema } from '../../schemas/takeAway';
import { answerSchema } from './openApi';
import { answer } from './door';
import { mayAct } from '../access/viewer';
import { OPERATIONS } from '../operations';
import { shelfOfFile, testShelf, type Json } from '../testing/testShelf';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');

const filled = (path: string): string => path.replaceAll(/\{\w+\}/g, '00000000-0000-4000-8000-000000000000');
const pointers = (body: Json): string[] => (body['errors'] as { pointer: string }[]).map(({ pointer }) => pointer);

describe('the door is closed by default', () => {
  it('has a schema that compiles for everything that takes a body', () => {
    for (const { method, path, bodySchema, check } of OPERATIONS)
      if (bodySchema) expect([method, path, check(42).kind]).toEqual([method, path, 'invalid']);
  });

  it.each(OPERATIONS.map(({ method, path }) => [method, path]))('%s %s needs somebody', async (method, path) => {
    for (const as of [null, 'no-such-token', { cookie: 'patient-shelf.session_token=forged.forged' }]) {
      const { status, headers, body } = await shelf.ask(method, filled(path), as, method === 'GET' ? undefined : {});
      expect(status).toBe(401);
      expect(headers.get('content-type')).toBe('application/problem+json');
      expect(headers.get('www-authenticate')).toBe('Bearer');
      expect(body['code']).toBe('not-signed-in');
    }
  });

  it.each(OPERATIONS.map(({ method, path, needs, scope }) => [method, path, needs, scope] as const))(
    '%s %s as a reader: needs %s',
    async (method, path, needs, scope) => {
      const isRefused = needs !== 'reader';
      const session = await shelf.ask(
        method,
        filled(path),
        await shelf.cookieOf('reader'),
        method === 'GET' ? undefined : {},
      );
      expect(session.status === 403).toBe(isRefused);
      const token = await shelf.ask(
        method,
        filled(path),
        await shelf.tokenOf('reader'),
        method === 'GET' ? undefined : {},
      );
      expect(token.status === 403).toBe(isRefused || scope === null);
    },
  );

  it('takes no token out of its scope, whoever holds it', async () => {
    const readOnly = await shelf.tokenOf('owner', ['read']);
    for (const { method, path, scope } of OPERATIONS.filter((operation) => operation.scope === 'write')) {
      expect(scope).toBe('write');
      const { status, body } = await shelf.ask(method, filled(path), readOnly, {});
      expect([status, body['detail']]).toEqual([403, 'This token is not scoped for "write".']);
    }
  });

  it('refuses a change that another site sends with the session along', async () => {
    const owner = await shelf.cookieOf('owner');
    const from = (origin: string) =>
      shelf.ask('PUT', '/organisation', owner, { name: 'M', currency: 'EUR' }, { origin });
    expect((await from('http://elsewhere.example')).status).toBe(403);
    expect((await from('null')).status).toBe(403);
    expect((await from('http://127.0.0.1:4999')).status).toBe(200);
    // One that does not say where it comes from is no page of ours, with a body or without.
    const silent = (method: string, path: string, more: Record<string, string> = {}) =>
      answer(
        shelf.app,
        new Request(`http://127.0.0.1:4999/api/v1${path}`, {
          method,
          headers: { host: '127.0.0.1:4999', cookie: owner.cookie, ...more },
        }),
        path,
      );
    const nobody = '/tokens/00000000-0000-4000-8000-000000000000';
    expect((await silent('DELETE', nobody)).status).toBe(403);
    expect((await silent('DELETE', nobody, { 'sec-fetch-site': 'cross-site' })).status).toBe(403);
    expect((await silent('DELETE', nobody, { 'sec-fetch-site': 'same-origin' })).status).toBe(404);
    expect((await silent('GET', '/units')).status).toBe(200);
  });

  it('knows no other address and no other method', async () => {
    expect((await shelf.ask('GET', '/nothing', keeper)).status).toBe(404);
    expect((await shelf.ask('GET', '/layouts', keeper)).status).toBe(405);
    expect((await shelf.ask('PATCH', '/units', keeper)).status).toBe(405);
  });

  it('ranks owners over keepers over readers', () => {
    const viewer = { kind: 'viewer', id: '', name: '', role: 'keeper', via: 'session', scopes: [] } as const;
    expect([mayAct(viewer, 'reader'), mayAct(viewer, 'keeper'), mayAct(viewer, 'owner')]).toEqual([true, true, false]);
  });
});

describe('POST /layouts', () => {
  const request = {
    profile: 'plain',
    bays: 6,
    spares: 0,
    drives: [
      { bay: '1', bytes: 12_000_138_625_024 },
      { bay: '2', label: '12 TB' },
    ],
    schemes: ['mixed-1'],
  };

  it('answers as the interface is written down', async () => {
    const { status, body } = await shelf.ask('POST', '/layouts', keeper, request);
    expect(status).toBe(200);
    expect(body).toEqual({
      layouts: [
        {
          scheme: 'mixed-1',
          legal: true,
          reasons: [],
          rawBytes: 24_000_277_250_048,
          usableBytes: 12_000_138_625_024,
          protectionBytes: 12_000_138_625_024,
          unusedBytes: 0,
          systemBytes: 0,
          poolMetadataBytes: 0,
          shownBytes: 12_000_138_625_024,
          fileSystemReserveBytes: 0,
          guaranteedFailures: 1,
          survival: [
            { failed: 0, survived: '1', of: '1', lostShare: 0 },
            { failed: 1, survived: '2', of: '2', lostShare: 0 },
            { failed: 2, survived: '0', of: '1', lostShare: 1 },
          ],
          bands: [
            {
              kind: 'mirror',
              fromBytes: 0,
              toBytes: 12_000_138_625_024,
              members: ['1', '2'],
              redundancy: 1,
              usableBytes: 12_000_138_625_024,
            },
          ],
          spareBays: [],
        },
      ],
    });
  });

  it('plans all schemes and all widths when not told which, in the published shape', async () => {
    const drives = Array.from({ length: 24 }, (_, i) => ({ bay: String(i + 1), label: '16 TB' }));
    const { body } = await shelf.ask('POST', '/layouts', keeper, { profile: 'plain', drives });
    expect(body['layouts']).toHaveLength(11 + 5 + 4);
  });

  it('follows a single byte', async () => {
    const ask = async (bytes: number) =>
      (
        await shelf.ask('POST', '/layouts', keeper, {
          ...request,
          drives: [
            { bay: '1', bytes },
            { bay: '2', bytes: 9e12 },
            { bay: '3', bytes: 9e12 },
          ],
        })
      ).body['layouts'][0];
    const [one, other] = [await ask(4e12), await ask(4e12 + 1)];
    expect([
      other.rawBytes - one.rawBytes,
      other.usableBytes - one.usableBytes,
      other.bands[0].toBytes - one.bands[0].toBytes,
    ]).toEqual([1, 1, 1]);
  });

  it('takes a whole profile sent as JSON, one nobody has seen, with limits of its own', async () => {
    const sixth = JSON.parse(readFileSync('core/platform/profiles/causeway.json', 'utf8')) as Json;
    const profile = {
      ...sixth,
      id: 'sixth',
      name: 'Sixth',
      schemes: { 'parity-1-groups': { widths: [4] } },
      space: { ...sixth['space'], systemAreaBytes: 1e9, poolMetadataShare: 0.1 },
    };
    const drives = Array.from({ length: 8 }, (_, i) => ({ bay: String(i + 1), label: '8 TB' }));
    const { body } = await shelf.ask('POST', '/layouts', keeper, { profile, drives });
    const legal = (body['layouts'] as Json[]).filter((layout) => layout['legal']);
    expect(legal).toHaveLength(1);
    const usable = 6 * (labelBytes(8000) - 1e9);
    expect(legal[0]).toMatchObject({
      scheme: 'parity-1-groups',
      groupWidth: 4,
      systemBytes: 8e9,
      usableBytes: usable,
      poolMetadataBytes: Math.floor(usable * 0.1),
    });
  });

  it.each<[string, unknown, string]>([
    ['an unknown field', { ...request, colour: 'red' }, '#/colour'],
    ['an unknown field of a drive', { ...request, drives: [{ bay: '1', bytes: 1, size: 3 }] }, '#/drives/0/size'],
    ['no drives', { profile: 'plain' }, '#/drives'],
    ['an empty list', { ...request, drives: [] }, '#/drives'],
    ['neither bytes nor label', { ...request, drives: [{ bay: '1' }] }, '#/drives/0/bytes'],
    ['a fraction of a byte', { ...request, drives: [{ bay: '1', bytes: 0.5 }] }, '#/drives/0/bytes'],
    ['a negative size', { ...request, drives: [{ bay: '1', bytes: -4 }] }, '#/drives/0/bytes'],
    ['bytes as text', { ...request, drives: [{ bay: '1', bytes: '4' }] }, '#/drives/0/bytes'],
    ['an unreadable label', { ...request, drives: [{ bay: '1', label: '12 ells' }] }, '#/drives/0/label'],
    [
      'one bay twice',
      {
        ...request,
        drives: [
          { bay: '1', bytes: 4 },
          { bay: '1', bytes: 4 },
        ],
      },
      '#/drives/1/bay',
    ],
    ['more drives than bays', { ...request, bays: 1 }, '#/drives'],
    ['an unknown scheme', { ...request, schemes: ['raid-9'] }, '#/schemes/0'],
    ['an unknown profile', { ...request, profile: 'nobody' }, '#/profile'],
    ['a negative number of spares', { ...request, spares: -1 }, '#/spares'],
    [
      'more than 9 PB',
      {
        ...request,
        drives: [
          { bay: '1', bytes: 9e15 },
          { bay: '2', bytes: 1 },
        ],
      },
      '#/drives',
    ],
    [
      'more than 1,000 drives',
      { profile: 'plain', drives: Array.from({ length: 1001 }, (_, i) => ({ bay: String(i), bytes: 1 })) },
      '#/drives',
    ],
    ['no object at all', [1], '#'],
  ])('refuses %s, and points at it', async (_what, body, pointer) => {
    const answer = await shelf.ask('POST', '/layouts', keeper, body);
    expect(answer.status).toBe(422);
    expect(answer.headers.get('content-type')).toBe('application/problem+json');
    expect(answer.body).toMatchObject({
      type: 'about:blank',
      status: 422,
      title: expect.any(String),
      detail: expect.any(String),
    });
    expect(pointers(answer.body)).toContain(pointer);
  });

  it('refuses what is not JSON, and not said to be', async () => {
    expect((await shelf.ask('POST', '/layouts', keeper, '{"profile":')).status).toBe(400);
    expect(
      (await shelf.ask('POST', '/layouts', keeper, 'profile=plain', { 'content-type': 'text/plain' })).status,
    ).toBe(415);
    expect((await shelf.ask('POST', '/layouts', keeper, `"${'x'.repeat(5_000_001)}"`)).status).toBe(413);
  });

  it('gives back an illegal layout for a width that does not fit, not an error', async () => {
    const drives = ['1', '2', '3', '4', '5', '6'].map((bay) => ({ bay, bytes: 8e12 }));
    const { status, body } = await shelf.ask('POST', '/layouts', keeper, {
      profile: 'plain',
      drives,
      schemes: ['parity-1-groups'],
      groupWidth: 4,
    });
    expect(status).toBe(200);
    expect(body['layouts'][0]).toMatchObject({
      legal: false,
      groupWidth: 4,
      reasons: ['Two groups of 4 need 8 drives; 6 are there.'],
    });
  });
});

describe('POST /appraisals', () => {
  const five = [12, 12, 6, 6, 4].map((size, i) => ({
    bay: String(i + 1),
    label: `${String(size)} TB`,
    priceCents: size * 2000,
  }));

  it('gives everything the bench shows, and ranks by what matters', async () => {
    const { status, body } = await shelf.ask('POST', '/appraisals', keeper, {
      profile: 'plain',
      bays: 6,
      drives: five,
      assumptions: { years: 10 },
      needs: { survive: 2, terabytesNow: 8 },
    });
    expect(status).toBe(200);
    const single = (body['appraisals'] as Json[]).find(
      ({ layout }) => (layout as Json)['scheme'] === 'mixed-1',
    ) as Json;
    expect(single).toMatchObject({
      growth: [{ what: 'Add one 12 TB drive in a free bay' }, {}, {}],
      sharedCauses: [{ cause: 'Head: all its supplies', marginLeft: -4 }],
    });
    expect(body['ranking'][0]).toMatchObject({ verdicts: [{ met: true }, {}], wouldWinIf: null });
    expect(['mixed-2', 'dedicated-2', 'parity-2']).toContain(body['ranking'][0].scheme);
  });

  it('follows a single byte in risk and speed too', async () => {
    const ask = async (bytes: number) =>
      (
        await shelf.ask('POST', '/appraisals', keeper, {
          profile: 'plain',
          schemes: ['mirror'],
          drives: [
            { bay: '1', bytes },
            { bay: '2', bytes },
          ],
        })
      ).body['appraisals'][0] as Json;
    const [one, other] = [await ask(4e12), await ask(4e12 + 1)];
    expect(other['layout'].usableBytes - one['layout'].usableBytes).toBe(1);
    expect(other['rebuild'].writtenBytes - one['rebuild'].writtenBytes).toBe(1);
    expect(other['risk'].chanceOfUnreadable[1]).toBeGreaterThan(one['risk'].chanceOfUnreadable[1]);
  });

  it('refuses a need or an assumption that is none', async () => {
    const ask = (more: object) => shelf.ask('POST', '/appraisals', keeper, { profile: 'plain', drives: five, ...more });
    expect(pointers((await ask({ needs: { survive: -1, terabytesNow: 1 } })).body)).toEqual(['#/needs/survive']);
    expect(pointers((await ask({ assumptions: { years: 0 } })).body)).toEqual(['#/assumptions/years']);
    expect(pointers((await ask({ drives: [{ bay: '1', label: '8 TB', media: 'drum' }] })).body)).toContain(
      '#/drives/0/media',
    );
  });
});

describe('profiles and comparisons', () => {
  it('takes a profile of the user’s own, which covers a shipped one until it is removed', async () => {
    const plain = (await shelf.ask('GET', '/profiles/plain', keeper)).body;
    const tide = { ...plain, id: 'plain', name: 'Plainer', schemes: { mirror: {} } };
    expect((await shelf.ask('PUT', '/profiles/other', keeper, tide)).body['errors'][0].pointer).toBe('#/id');
    expect(pointers((await shelf.ask('PUT', '/profiles/plain', keeper, { ...tide, colour: 1 })).body)).toEqual([
      '#/colour',
    ]);
    expect((await shelf.ask('PUT', '/profiles/plain', keeper, tide)).status).toBe(200);
    const legal = async () =>
      (
        (
          await shelf.ask('POST', '/layouts', keeper, {
            profile: 'plain',
            drives: [
              { bay: '1', bytes: 8e12 },
              { bay: '2', bytes: 8e12 },
            ],
          })
        ).body['layouts'] as Json[]
      ).filter(({ legal }) => legal).length;
    expect(await legal()).toBe(1);
    expect((await shelf.ask('DELETE', '/profiles/plain', keeper)).status).toBe(200);
    expect(await legal()).toBeGreaterThan(3);
    expect((await shelf.ask('DELETE', '/profiles/plain', keeper)).status).toBe(404);
    expect((await shelf.ask('GET', '/schemas/profile', keeper)).body['title']).toBe('Platform profile');
  });

  it('keeps a comparison, gives it back word for word, and forgets it', async () => {
    const comparison = {
      kind: 'patient-shelf-comparison',
      name: 'For the hut',
      sheet: 'size\n8 TB',
      address: 'profile=plain',
    };
    const { status, body } = await shelf.ask('POST', '/comparisons', keeper, comparison);
    expect(status).toBe(201);
    expect((await shelf.ask('GET', `/comparisons/${String(body['id'])}`, keeper)).body).toEqual(comparison);
    expect((await shelf.ask('POST', '/comparisons', keeper, { ...comparison, name: ' ' })).status).toBe(422);
    expect((await shelf.ask('DELETE', `/comparisons/${String(body['id'])}`, keeper)).status).toBe(200);
    expect((await shelf.ask('GET', `/comparisons/${String(body['id'])}`, keeper)).status).toBe(404);
  });
});

describe('/openapi.json', () => {
  it('describes every operation, with the schemas requests are checked with', async () => {
    const { body } = await shelf.ask('GET', '/openapi.json', keeper);
    expect(body['openapi']).toBe('3.1.0');
    const described = Object.entries(body['paths'] as Record<string, object>).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
    );
    expect(described.sort()).toEqual(OPERATIONS.map(({ method, path }) => `${method} ${path}`).sort());
    const schema = body['paths']['/layouts'].post.requestBody.content['application/json'].schema;
    const validate = new Ajv2020({ strict: false }).compile(schema as object);
    expect(validate({ profile: 'plain', drives: [{ bay: '1', bytes: 1 }] })).toBe(true);
    expect(validate({ profile: 'plain', drives: [{ bay: '1', bytes: 1, more: 1 }] })).toBe(false);
    // Nothing is answered of which nobody says what it is.
    for (const { method, path, file } of OPERATIONS)
      if (file === null)
        expect([method, path, Object.keys(answerSchema(method, path))]).not.toEqual([method, path, []]);
    // Programs are made from it: every operation has a name of its own, stands under a word that is listed, and says what it refuses.
    const all = Object.values(body['paths'] as Record<string, Record<string, Json>>).flatMap((of) => Object.values(of));
    const ids = all.map(({ operationId }) => operationId as string);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids.filter((id) => !/^[a-z]+[A-Za-z0-9]*$/.test(id))).toEqual([]);
    expect(ids).toContain('postUnitsByIdEvents');
    const tags = new Set((body['tags'] as { name: string }[]).map(({ name }) => name));
    expect(all.filter((one) => !tags.has((one['tags'] as string[])[0] ?? ''))).toEqual([]);
    for (const { responses, requestBody } of all)
      expect(Object.keys(responses as object)).toEqual(
        expect.arrayContaining(requestBody === undefined ? ['401', '403'] : ['400', '401', '403', '409', '413', '422']),
      );
    // Patterns are of the kind every reader of schemas has.
    expect(JSON.stringify([body, takeAwaySchema])).not.toMatch(/\\\\p\{/);
    // Every reference inside the document leads somewhere in it.
    for (const [, target] of JSON.stringify(body).matchAll(/"\$ref":"#\/([^"]+)"/g)) {
      expect((target as string).split('/').reduce<Json>((at, key) => at[key] as Json, body)).toBeDefined();
    }
  });
});

describe('tokens and people', () => {
  it('shows a token once, keeps its hash, and ends it', async () => {
    const owner = await shelf.cookieOf('owner');
    const { status, body } = await shelf.ask('POST', '/tokens', owner, { name: 'script', scopes: ['read'] });
    expect(status).toBe(201);
    const token = String(body['token']);
    expect((await shelf.ask('GET', '/units', token)).status).toBe(200);
    const list = await shelf.ask('GET', '/tokens', owner);
    expect(JSON.stringify(list.body)).not.toContain(token);
    expect(JSON.stringify(await shelf.app.db.selectFrom('api_token').selectAll().execute())).not.toContain(token);
    // Somebody else cannot end it; its holder can.
    expect((await shelf.ask('DELETE', `/tokens/${String(body['id'])}`, await shelf.cookieOf('owner'))).status).toBe(
      404,
    );
    expect((await shelf.ask('DELETE', `/tokens/${String(body['id'])}`, owner)).status).toBe(200);
    expect((await shelf.ask('GET', '/units', token)).status).toBe(401);
  });

  it('lets one person have only so many, at once too, and what was revoked takes no room', async () => {
    const [reader, other] = [await shelf.cookieOf('reader'), await shelf.cookieOf('reader')];
    const make = (as: { readonly cookie: string }) =>
      shelf.ask('POST', '/tokens', as, { name: 'script', scopes: ['read'] });
    const made = await Promise.all(Array.from({ length: 33 }, () => make(reader)));
    const refused = made.filter(({ status }) => status !== 201);
    expect(refused.map(({ status, body }) => [status, body['code']])).toEqual(
      Array.from({ length: 3 }, () => [422, 'too-many-of-yours']),
    );
    expect((await make(other)).status).toBe(201);
    const one = made.find(({ status }) => status === 201)?.body['id'];
    expect((await shelf.ask('DELETE', `/tokens/${String(one)}`, reader)).status).toBe(200);
    expect((await make(reader)).status).toBe(201);
    const rows = await shelf.app.db.selectFrom('api_token').select('id').where('user_id', '=', reader.id).execute();
    expect(rows).toHaveLength(30);
  });

  it('keeps somebody who is owner', async () => {
    const other = await testShelf();
    try {
      const owner = await other.cookieOf('owner');
      expect((await other.ask('PUT', `/people/${owner.id}`, owner, { role: 'reader' })).status).toBe(409);
      expect((await other.ask('DELETE', `/people/${owner.id}`, owner)).status).toBe(409);
      const second = await other.cookieOf('owner');
      expect((await other.ask('PUT', `/people/${owner.id}`, second, { role: 'reader' })).status).toBe(200);
      expect((await other.ask('GET', '/people', owner)).status).toBe(403);
    } finally {
      await other.close();
    }
  });

  it('ends the sessions of somebody at once', async () => {
    const [owner, reader] = [await shelf.cookieOf('owner'), await shelf.cookieOf('reader')];
    expect((await shelf.ask('GET', '/units', reader)).status).toBe(200);
    expect((await shelf.ask('DELETE', `/people/${reader.id}/sessions`, owner)).status).toBe(200);
    expect((await shelf.ask('GET', '/units', reader)).status).toBe(401);
  });

  it('adds nobody twice, and names the field', async () => {
    const owner = await shelf.cookieOf('owner');
    const body = { name: 'New', email: 'New@Example.org', role: 'keeper' };
    expect((await shelf.ask('POST', '/people', owner, body)).status).toBe(201);
    const again = await shelf.ask('POST', '/people', owner, { ...body, email: 'new@example.org' });
    expect([again.status, pointers(again.body)]).toEqual([409, ['#/email']]);
    expect(pointers((await shelf.ask('POST', '/people', owner, { ...body, email: 'nonsense' })).body)).toEqual([
      '#/email',
    ]);
  });
});
