import { randomUUID } from 'node:crypto';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { BYTES, unitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const [keeper, reader] = await Promise.all([shelf.tokenOf('keeper'), shelf.tokenOf('reader')]);

const ask = (method: string, path: string, body?: unknown, as = keeper) => shelf.ask(method, path, as, body);
const put = async (name: string): Promise<Json> => (await ask('POST', '/units', unitSent(name))).body;
const unitNow = async (unit: Json): Promise<Json> => (await ask('GET', `/units/${String(unit['id'])}`)).body;
const whereIs = async (serial: string): Promise<Json> =>
  (await ask('GET', `/drives/${serial}`)).body['life']?.where as Json;
const counted = async (): Promise<number> =>
  Number(
    (
      await shelf.app.db
        .selectFrom('entry')
        .select((of) => of.fn.countAll().as('n'))
        .executeTakeFirstOrThrow()
    ).n,
  );
const insert = (bay: string, serial: string): object => ({
  kind: 'drive-inserted',
  bay,
  drive: { serial, bytes: BYTES, basis: 'exact' },
});

describe('an act over several ledgers', () => {
  it('is written once however often it is sent, answers as the first time, and is taken back whole', async () => {
    const [a, b] = [await put('Avocet'), await put('Bunting')];
    const act = {
      id: randomUUID(),
      expects: [
        { unit: a['id'], version: a['version'] },
        { unit: b['id'], version: b['version'] },
        { drive: 'avocet-3', version: 1 },
      ],
      entries: [
        { unit: a['id'], event: { kind: 'drive-removed', serial: 'avocet-3' } },
        { unit: b['id'], event: insert('4', 'Avocet-3') },
        { drive: 'Avocet-3', event: { kind: 'noted', note: 'carried over' } },
      ],
    };
    const first = await ask('POST', '/acts', act);
    expect([first.status, first.body['id'], first.body['versions']]).toEqual([
      201,
      act.id,
      expect.arrayContaining([
        { unit: a['id'], version: Number(a['version']) + 1 },
        { unit: b['id'], version: Number(b['version']) + 1 },
        { drive: 'AVOCET-3', version: 4 },
      ]),
    ]);
    const before = await counted();
    const again = await ask('POST', '/acts', act);
    expect([again.status, again.body['versions'].length, await counted()]).toEqual([200, 3, before]);
    expect([...(again.body['versions'] as Json[])].map((one) => JSON.stringify(one)).sort()).toEqual(
      [...(first.body['versions'] as Json[])].map((one) => JSON.stringify(one)).sort(),
    );
    const other = await ask('POST', '/acts', {
      id: act.id,
      entries: [{ unit: a['id'], event: { kind: 'noted', note: 'else' } }],
    });
    expect([other.status, other.body['code']]).toEqual([409, 'act-differs']);
    // The same, said to have happened at another time, is another act.
    const then = await ask('POST', '/acts', { ...act, happenedAt: '2026-01-01T00:00:00Z' });
    expect([then.status, then.body['code'], then.body['detail']]).toEqual([
      409,
      'act-differs',
      expect.stringContaining('at another time'),
    ]);
    expect(await whereIs('AVOCET-3')).toMatchObject({ unitName: 'Bunting', bay: '4' });

    const back = await ask('POST', `/acts/${act.id}/back`, { reason: 'wrong drive' });
    expect(back.body).toMatchObject({ versions: [{}, {}, {}] });
    expect(await whereIs('AVOCET-3')).toMatchObject({ unitName: 'Avocet', bay: '3' });
    expect([(await unitNow(a))['margin'], (await unitNow(b))['state'].drives['AVOCET-3']]).toEqual([1, undefined]);
    expect((await ask('POST', `/acts/${act.id}/back`, { reason: 'again' })).body['code']).toBe('entry-withdrawn');
    expect((await ask('POST', `/acts/${String(back.body['id'])}/back`, { reason: 'again' })).body['code']).toBe(
      'entry-stands',
    );
    expect((await ask('POST', `/acts/${randomUUID()}/back`, { reason: 'x' })).status).toBe(404);
    expect((await ask('POST', '/acts/nonsense/back', { reason: 'x' })).status).toBe(404);
    expect((await ask('POST', `/acts/${act.id}/back`, { reason: 'x' }, reader)).status).toBe(403);
  });

  it('says of every ledger that moved on who was first and what they recorded', async () => {
    const unit = await put('Crake');
    await ask('POST', '/drives/CRAKE-1/events', { expectedVersion: 1, event: { kind: 'noted', note: 'dented' } });
    const { status, body } = await ask('POST', '/acts', {
      id: randomUUID(),
      expects: [
        { unit: unit['id'], version: 1 },
        { drive: 'crake-1', version: 1 },
      ],
      entries: [{ unit: unit['id'], event: { kind: 'noted', note: 'n' } }],
    });
    expect([status, body['code'], body['errors'][0].pointer]).toEqual([409, 'version-conflict', '#/expects/0/version']);
    expect(body['ledgers']).toMatchObject([
      { unit: unit['id'], version: unit['version'] },
      { drive: 'CRAKE-1', version: 2, since: [{ words: 'dented', by: 'A keeper' }] },
    ]);
    expect(body['detail']).toContain('“dented” (A keeper)');
    expect(body['onlyHeard']).toBe(false);
  });

  it.each<[string, (unit: Json) => Json, string, string]>([
    [
      'an unknown unit',
      () => ({ entries: [{ unit: randomUUID(), event: { kind: 'noted', note: 'n' } }] }),
      'not-registered',
      '#/entries/0/unit',
    ],
    [
      'an unknown drive',
      () => ({ entries: [{ drive: 'nobody', event: { kind: 'noted', note: 'n' } }] }),
      'drive-unknown',
      '#/entries/0/drive',
    ],
    [
      'a drive twice',
      (unit) => ({ entries: [{ unit: unit['id'], event: insert('4', `${String(unit['state'].name)}-1 `) }] }),
      'drive-elsewhere',
      '#/entries/0/event/drive/serial',
    ],
    [
      'a bay that is not there',
      (unit) => ({ entries: [{ unit: unit['id'], event: insert('17', 'new') }] }),
      'bay-unknown',
      '#/entries/0/event/bay',
    ],
    [
      'a serial nobody sees',
      (unit) => ({ entries: [{ unit: unit['id'], event: insert('4', '\u200b') }] }),
      'bad-input',
      '#/entries/0/event/drive/serial',
    ],
    ['an entry of nothing', () => ({ entries: [{ event: { kind: 'noted', note: 'n' } }] }), 'bad-input', '#/entries/0'],
    [
      'a step nobody did',
      (unit) => ({
        entries: [
          { unit: unit['id'], event: { kind: 'plan-step', plan: randomUUID(), step: 's', title: 't', how: 'done' } },
        ],
      }),
      'bad-input',
      '#/entries/0/event',
    ],
    [
      'a drive that its unit says was fitted',
      (unit) => ({ entries: [{ drive: 'x', event: { kind: 'taken-out', unit: unit['id'] } }] }),
      'bad-input',
      '#/entries/0/event',
    ],
    [
      'a plan’s ledger',
      () => ({ entries: [{ plan: randomUUID(), event: { kind: 'plan-ended', how: 'finished' } }] }),
      'bad-input',
      '#/entries/0/plan',
    ],
    [
      'tomorrow',
      (unit) => ({
        happenedAt: '2999-01-01T00:00:00Z',
        entries: [{ unit: unit['id'], event: { kind: 'noted', note: 'n' } }],
      }),
      'in-the-future',
      '#/happenedAt',
    ],
  ])('refuses %s whole, with a pointer', async (what, make, code, pointer) => {
    const unit = await put(`U ${what.slice(0, 20)}`);
    const before = await counted();
    const { entries, ...rest } = make(unit);
    // Something that is right comes before it: nothing of it is kept.
    const right = { unit: unit['id'], event: { kind: 'noted', note: 'right' } };
    const { body } = await ask('POST', '/acts', {
      id: randomUUID(),
      ...rest,
      entries: [...(entries as Json[]), right],
    });
    expect([body['code'], (body['errors'] as Json[]).map((one) => one['pointer'])]).toEqual([
      code,
      expect.arrayContaining([pointer]),
    ]);
    expect(await counted()).toBe(before);
  });

  it('makes no two of one drive, whoever is quicker', async () => {
    const [a, b] = [await put('Dunlin'), await put('Egret')];
    const both = await Promise.all(
      [a, b].map((unit) =>
        ask('POST', '/acts', {
          id: randomUUID(),
          entries: [{ unit: unit['id'], event: insert('4', unit === a ? 'twin' : 'TWIN') }],
        }),
      ),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([201, 409]);
    const same = randomUUID();
    const twice = await Promise.all(
      [1, 2, 3].map(() =>
        ask('POST', '/acts', { id: same, entries: [{ unit: a['id'], event: { kind: 'noted', note: 'once' } }] }),
      ),
    );
    expect(twice.map(({ status }) => status).sort()).toEqual([200, 200, 201]);
  });
});

describe('a unit that runs already', () => {
  const bays = Array.from({ length: 12 }, (_, i) => String(i + 1));
  const running = (name: string, pools: readonly Json[]): object => ({
    name,
    place: { site: 'S', room: 'R' },
    profile: 'saltern',
    enclosures: [
      { name: 'Head', bays: 4 },
      { name: 'Extension 1', bays: 4, dial: 1 },
      { name: 'Extension 2', bays: 4, dial: 2 },
    ],
    drives: bays.map((bay) => ({
      bay,
      serial: `${name}-${bay}`,
      bytes: BYTES,
      basis: 'exact',
      boughtOn: '2024-02-01',
      lot: '0442',
    })),
    pools,
  });
  const two: readonly Json[] = [
    {
      name: 'Office',
      scheme: 'mixed-1',
      members: ['1', '2', '3', '4'],
      builtAt: '2024-03-01T00:00:00Z',
      usedBytes: 9e12,
      volumes: [{ name: 'Shares', bytes: 30e12, thin: true, fileSystem: 'with checksums', checksums: true }],
    },
    { name: 'Archive', scheme: 'mixed-2', members: ['5', '6', '7', '8', '9'], spares: ['10'] },
  ];

  it('is taken over with its pools, volumes, fill, ages and idle drives, and without a word of erasing', async () => {
    const { status, body } = await ask('POST', '/units', running('Godwit', two));
    expect([status, body['hazards']]).toEqual([201, []]);
    const pools = Object.values(body['state'].pools as Json) as Json[];
    expect(pools.map(({ name, builtAt, arrivedFrom, spares }) => [name, builtAt, arrivedFrom, spares])).toEqual([
      ['Office', '2024-03-01T00:00:00.000Z', null, []],
      ['Archive', null, null, ['GODWIT-10']],
    ]);
    expect(Object.values(body['state'].volumes as Json)).toMatchObject([
      { name: 'Shares', thin: true, pool: pools[0]?.['id'] },
    ]);
    expect(body['state'].drives['GODWIT-12']).toMatchObject({ boughtOn: '2024-02-01', lot: '0442', bay: '12' });
    expect((await ask('GET', '/readings.csv')).body['text']).toContain(`${String(pools[0]?.['id'])},used-bytes`);
    // One act, one undo.
    expect((await ask('POST', `/acts/${String(body['act'])}/back`, { reason: 'not ours' })).status).toBe(201);
    expect([(await unitNow(body))['status'], (await ask('GET', '/drives/GODWIT-1')).status]).toEqual([404, 404]);
  });

  it('is told by box and tray where it has more than one', async () => {
    const sent = running('Dotterel', two) as { drives: Json[] };
    const { body } = await ask('POST', '/units', { ...sent, drives: sent.drives.filter(({ bay }) => bay !== '6') });
    expect([body['code'], body['detail']]).toEqual([
      'bay-empty',
      'There is no drive in Extension 1, tray 2: say first what is in it.',
    ]);
  });

  it('has its cache drives in no other use', async () => {
    const sent = running('Whinchat', two);
    const { status, body } = await ask('POST', '/units', { ...sent, cache: ['11'] });
    expect([status, body['state'].cache]).toEqual([201, ['WHINCHAT-11']]);
    expect((await ask('GET', '/drives/WHINCHAT-11')).body).toMatchObject({
      role: 'cache',
      partOf: 'cache of the unit',
      pool: null,
    });
    const spare = {
      expectedVersion: body['version'],
      event: { kind: 'spare-assigned', pool: Object.keys(body['state'].pools as Json)[0], serial: 'Whinchat-11' },
    };
    expect((await ask('POST', `/units/${String(body['id'])}/events`, spare)).body['code']).toBe('drive-in-pool');
    const other = running('Wigeon', two) as { drives: Json[] };
    const empty = await ask('POST', '/units', {
      ...other,
      drives: other.drives.filter(({ bay }) => bay !== '11'),
      cache: ['12', '11'],
    });
    expect([empty.body['code'], empty.body['detail'], (empty.body['errors'] as Json[])[0]?.['pointer']]).toEqual([
      'bay-empty',
      'There is no drive in Extension 2, tray 3: say first what is in it.',
      '#/cache/1',
    ]);
    const member = await ask('POST', '/units', { ...other, cache: ['1'] });
    expect([member.body['code'], (member.body['errors'] as Json[])[0]?.['pointer']]).toEqual([
      'drive-in-pool',
      '#/cache/serials/0',
    ]);
  });

  it('is taken over once, whoever is quicker', async () => {
    const senders = ['Shoveler', 'Smew'].map((name) => ({ ...running('Same', two), name }));
    const answers = await Promise.all(senders.map((body) => ask('POST', '/units', body)));
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409]);
    const lost = answers.find(({ status }) => status === 409)?.body as Json;
    expect(lost['code']).toBe('drive-elsewhere');
    const won = answers.find(({ status }) => status === 201)?.body as Json;
    expect((await ask('POST', `/acts/${String(won['act'])}/back`, { reason: 'r' })).status).toBe(201);
  });

  it('is not all well where its page says it is not', async () => {
    const sick = running('Gannet', two) as { drives: Json[] };
    const drives = sick.drives.map((drive) => ({
      ...drive,
      ...(drive['bay'] === '2' ? { shows: 'failed' } : drive['bay'] === '6' ? { shows: 'signs' } : {}),
    }));
    const { status, body } = await ask('POST', '/units', { ...sick, drives });
    expect([status, body['margin'], (body['hazards'] as Json[]).map(({ code }) => code)]).toEqual([
      201,
      0,
      ['margin-lowered'],
    ]);
    expect(body['state'].drives).toMatchObject({
      'GANNET-2': { condition: 'failed' },
      'GANNET-6': { condition: 'suspected' },
      'GANNET-3': { condition: 'well' },
    });
    expect((Object.values(body['state'].pools as Json) as Json[]).map(({ missing, lost }) => [missing, lost])).toEqual([
      [['GANNET-2'], []],
      [[], []],
    ]);
  });

  it.each<[string, object, string, string]>([
    ['a bay without a drive', { members: ['1', '2', '77'] }, 'bay-empty', '#/pools/0/members'],
    [
      'a layout these drives do not make',
      { scheme: 'mixed-2', members: ['1', '2'] },
      'layout-illegal',
      '#/pools/0/scheme',
    ],
    ['more than there is', { shownBytes: 9e15 }, 'shown-too-large', '#/pools/0/shownBytes'],
    ['more in it than there is', { usedBytes: 9e14 }, 'used-too-large', '#/pools/0/usedBytes'],
    ['a pool built tomorrow', { builtAt: '2999-01-01T00:00:00Z' }, 'built-later', '#/pools/0/builtAt'],
    ['a drive in two pools', { members: ['5', '6', '7'] }, 'drive-in-pool', '#/pools/1/bands'],
  ])('refuses %s, and keeps nothing', async (_what, change, code, pointer) => {
    const before = await counted();
    const { body } = await ask('POST', '/units', running('Knot', [{ ...two[0], ...change }, two[1] as Json]));
    expect([body['code'], (body['errors'] as Json[])[0]?.['pointer'], await counted()]).toEqual([
      code,
      pointer,
      before,
    ]);
  });
});

describe('what only the model makes', () => {
  it.each<[string, object]>([
    [
      'a step done, with an override',
      { kind: 'step-done', step: 'pull', evidence: { kind: 'tick' }, override: { serial: 'x', reason: 'y' } },
    ],
    ['a step left out', { kind: 'step-skipped', step: 'pull', reason: 'r' }],
    ['a plan ended', { kind: 'plan-ended', plan: '00000000-0000-4000-8000-000000000000', how: 'finished' }],
    [
      'a plan begun',
      {
        kind: 'plan-began',
        plan: '00000000-0000-4000-8000-000000000000',
        job: 'replace',
        title: 't',
        of: 1,
        serials: [],
      },
    ],
    [
      'a step passed',
      { kind: 'plan-step', plan: '00000000-0000-4000-8000-000000000000', step: 'pull', title: 't', how: 'done' },
    ],
    ['something taken back', { kind: 'taken-back', act: '00000000-0000-4000-8000-000000000000', reason: 'r' }],
  ])('is not sent: %s', async (what, event) => {
    const unit = await put(`V ${what.slice(0, 20)}`);
    const [id, version] = [String(unit['id']), unit['version']];
    expect((await ask('POST', `/units/${id}/events`, { expectedVersion: version, event })).status).toBe(422);
    expect((await ask('POST', `/units/${id}/entries`, { expectedVersion: version, events: [event] })).status).toBe(422);
    expect((await ask('POST', `/units/${id}/previews`, { event })).status).toBe(422);
    expect((await ask('POST', '/acts', { id: randomUUID(), entries: [{ unit: id, event }] })).status).toBe(422);
    expect((await unitNow(unit))['version']).toBe(version);
  });
});

describe('one drive', () => {
  it('is one however its serial is typed, in a drawer, in a bay, and in an address', async () => {
    const unit = await put('Fulmar');
    const drawer = { site: 'S', room: 'R', drawer: 'top' };
    await ask('POST', '/drives', {
      drives: [{ serial: 'abc-1234', drive: { bytes: BYTES - 512, basis: 'exact' } }],
      drawer,
    });
    const added = await ask('POST', `/units/${String(unit['id'])}/events`, {
      expectedVersion: unit['version'],
      event: insert('4', ' ABC-1234'),
    });
    expect([added.status, added.body['state'].drives['ABC-1234'].bay]).toEqual([201, '4']);
    expect(await whereIs('aBc-1234')).toMatchObject({ kind: 'bay', unitName: 'Fulmar' });
    expect(
      (await ask('GET', '/drives?place=drawer')).body['drives'].filter(
        (one: Json) => one['life'].serial === 'ABC-1234',
      ),
    ).toEqual([]);
    const { body } = await ask('POST', '/drives', {
      drives: [{ serial: 'abc\u200b-1234', drive: { bytes: 1, basis: 'exact' } }],
    });
    expect(body['code']).toBe('drive-elsewhere');
    for (const serial of ['', ' ', '\u200b', '\u0007', 'x'.repeat(65)])
      expect((await ask('POST', '/drives', { drives: [{ serial, drive: { bytes: 1, basis: 'exact' } }] })).status).toBe(
        422,
      );
    const readings = [{ unit: unit['id'], subject: 'abc-1234', metric: 'temperature', value: 31 }];
    expect((await ask('POST', '/readings', { readings })).body).toEqual({ added: 1 });
  });

  it('keeps the serial as it is printed for the eye', async () => {
    await ask('POST', '/drives', {
      drives: [{ serial: 'Qx9-lower', drive: { bytes: 1, basis: 'exact', printed: 'made up' } }],
    });
    expect((await ask('GET', '/drives/QX9-LOWER')).body['life']).toMatchObject({
      serial: 'QX9-LOWER',
      drive: { printed: 'Qx9-lower' },
    });
  });
});
