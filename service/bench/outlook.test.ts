import { testShelf, type Json, type TestShelf } from '../testing/testShelf';

let shelf: TestShelf;
let id: string;
let pool: string;
let reader: string;
beforeAll(async () => {
  shelf = await testShelf();
  reader = await shelf.tokenOf('reader');
  const made = await shelf.ask('POST', '/units', await shelf.tokenOf('keeper'), {
    name: 'Dunlin',
    place: { site: 'Hut', room: 'Loft' },
    profile: 'plain',
    bays: 6,
    drives: ['1', '2', '3', '4'].map((bay) => ({
      bay,
      serial: `AH-${bay}`,
      bytes: 8e12,
      basis: 'exact',
      lot: '0412',
      boughtOn: '2021-03-01',
    })),
    pool: { scheme: 'parity-1', name: 'Survey' },
  });
  id = String(made.body['id']);
  pool = Object.keys((made.body['state'] as { pools: object }).pools)[0] ?? '';
});
afterAll(() => shelf.close());

const ask = (body: object, of = id) => shelf.ask('POST', `/units/${of}/outlook`, reader, { pool, years: 1, ...body });

describe('POST /units/{id}/outlook', () => {
  it('answers with three outcomes at both ends, the same every time, and what would change it', async () => {
    const { status, body } = await ask({ isLookedThrough: true });
    expect(status).toBe(200);
    const [good, bad] = body['lost'] as { likely: number; low: number; high: number; lives: number }[];
    expect(good?.likely).toBeGreaterThan(0);
    expect(bad?.likely).toBeGreaterThan(good?.likely ?? 1);
    expect([bad?.low, bad?.high].every((end) => end !== undefined && end !== bad?.likely)).toBe(true);
    const [oneFails] = body['oneFails'] as number[];
    // Four drives of at least 0.9 % a year.
    expect(oneFails).toBeGreaterThan(0.03);
    const changes = body['changes'] as { kind: string; which?: string; serials?: string[]; wins: number }[];
    expect(changes.map(({ kind, which }) => which ?? kind)).toEqual(
      expect.arrayContaining(['spare-in-drawer', 'one-more-may-fail', 'oldest', 'of-its-age']),
    );
    const again = await ask({ isLookedThrough: true });
    // A busy machine may cut it short, and then it says so: what was lived to the end is the same.
    if (body['isCutShort'] === false && again.body['isCutShort'] === false) expect(again.body).toEqual(body);
    else expect([body['isCutShort'], again.body['isCutShort']]).toContain(true);
    expect((await ask({})).body['changes']).toEqual([]);
  });

  it('follows how it is looked after', async () => {
    const lost = async (body: object): Promise<number> =>
      ((await ask(body)).body['lost'] as { likely: number }[])[1]?.likely ?? NaN;
    const usual = await lost({});
    expect(await lost({ notice: 'after-weeks', orderDays: 30 })).toBeGreaterThan(3 * usual);
    expect(await lost({ inDrawer: 1, notice: 'within-the-hour' })).toBeLessThan(usual);
    expect(await lost({ failuresPerYear: [0, 0] })).toBe(0);
  });

  it('answers also where nearly every drive fails within the year', async () => {
    const { status, body } = await ask({
      years: 10,
      failuresPerYear: [0.99, 0.99],
      inDrawer: 100,
      isLookedThrough: true,
    });
    expect(status).toBe(200);
    const [good, bad] = body['lost'] as { likely: number }[];
    expect(good?.likely).toBeGreaterThan(0.1);
    expect(bad?.likely).toBeLessThanOrEqual(1);
    // Each end has had its time.
    expect((body['lives'] as number[]).every((lives) => lives >= 1000)).toBe(true);
  });

  it('names the field of what it cannot use, and says why nothing can be foreseen', async () => {
    const wrong = async (body: object): Promise<[number, unknown]> => {
      const { status, body: answer } = await ask(body);
      return [status, (answer['errors'] as { pointer: string }[] | undefined)?.[0]?.pointer ?? answer['code']];
    };
    expect(await wrong({ failuresPerYear: [-0.1, 0.1] })).toEqual([422, '#/failuresPerYear/0']);
    expect(await wrong({ failuresPerYear: [0.01, 1.5] })).toEqual([422, '#/failuresPerYear/1']);
    expect(await wrong({ failuresPerYear: [0.04, 0.01] })).toEqual([422, '#/failuresPerYear']);
    expect(await wrong({ years: 0 })).toEqual([422, '#/years']);
    expect(await wrong({ years: 1e300 })).toEqual([422, '#/years']);
    expect(await wrong({ notice: 'soon' })).toEqual([422, '#/notice']);
    expect(await wrong({ scrubDays: 0 })).toEqual([422, '#/scrubDays']);
    expect((await ask({ pool: 'none' })).body['code']).toBe('pool-unknown');
    expect((await ask({}, 'no-such-unit')).status).toBe(404);
    expect((await shelf.ask('POST', `/units/${id}/outlook`, null, { pool, years: 1 })).status).toBe(401);
  });

  it('says of a layout what it says of the unit that was built so', async () => {
    const drives = ['1', '2', '3', '4'].map((bay) => ({ bay, bytes: 8e12, lot: '0412', boughtOn: '2021-03-01' }));
    const care = { years: 1, scrubDays: 30, inDrawer: 0, failuresPerYear: [0.009, 0.04], isLookedThrough: true };
    const ofLayout = (body: object) =>
      shelf.ask('POST', '/outlooks', reader, { profile: 'plain', scheme: 'parity-1', drives, ...care, ...body });
    const [planned, built] = [await ofLayout({}), await ask(care)];
    expect(planned.status).toBe(200);
    expect(planned.body['lost']).toEqual(built.body['lost']);
    // By the names of bays, as nothing has a serial yet.
    const named = (body: Json): unknown => JSON.parse(JSON.stringify(body['changes']).replaceAll('AH-', ''));
    expect(named(planned.body)).toEqual(named(built.body));
    // New drives of no lot do better, and a spare is not a member.
    const lost = async (body: object): Promise<number> =>
      ((await ofLayout(body)).body['lost'] as { likely: number }[])[1]?.likely ?? NaN;
    const [, worst] = planned.body['lost'] as { likely: number }[];
    const five = ['1', '2', '3', '4', '5'].map((bay) => ({ bay, bytes: 8e12 }));
    expect(await lost({ drives: five.slice(0, 4) })).toBeLessThan((worst?.likely ?? 0) / 2);
    expect(await lost({ drives: five, spares: 1 })).toBeLessThan(await lost({ drives: five.slice(0, 4) }));

    const pointer = async (body: object): Promise<unknown> => {
      const { status, body: answer } = await ofLayout(body);
      return [status, (answer['errors'] as { pointer: string }[] | undefined)?.[0]?.pointer];
    };
    expect(await pointer({ drives: five.slice(0, 2) })).toEqual([422, '#/drives']);
    expect(await pointer({ scheme: 'parity-1-groups' })).toEqual([422, '#/groupWidth']);
    expect(await pointer({ drives: [...five, ...five.slice(4)] })).toEqual([422, '#/drives/5/bay']);
    expect(await pointer({ failuresPerYear: [0.04, 0.01] })).toEqual([422, '#/failuresPerYear']);
    expect(await pointer({ drives: [{ ...five[0], boughtOn: 'yesterday' }] })).toEqual([422, '#/drives/0/boughtOn']);
    expect(await pointer({ hope: 1 })).toEqual([422, '#/hope']);
  });

  it('refuses a pool that has lost data, with what comes first', async () => {
    const keeper = await shelf.tokenOf('keeper');
    for (const serial of ['AH-1', 'AH-2']) {
      const { body } = await shelf.ask('GET', `/units/${id}`, keeper);
      await shelf.ask('POST', `/units/${id}/events`, keeper, {
        expectedVersion: body['version'],
        event: { kind: 'drive-failed', serial },
      });
    }
    const { status, body } = await ask({});
    expect([status, body['code']]).toEqual([422, 'pool-lost']);
  });
});
