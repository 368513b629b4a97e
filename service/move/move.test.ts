import { randomUUID } from 'node:crypto';
import { testShelf, type TestShelf } from '../testing/testShelf';

let shelf: TestShelf;
beforeAll(async () => {
  shelf = await testShelf();
});
afterAll(() => shelf.close());

it('says which ways there are between two units on the shelf, and why not the others', async () => {
  const keeper = await shelf.tokenOf('keeper');
  const unit = async (name: string): Promise<{ readonly id: string; readonly version: number }> => {
    const place = { site: 'House', room: 'Rack' };
    const made = await shelf.ask('POST', '/units', keeper, { name, place, profile: 'tidemill', bays: 4 });
    return made.body as unknown as { id: string; version: number };
  };
  const [{ id: from, version }, { id: to }] = [await unit('Old'), await unit('Newer')];
  const ask = async (body: object) => shelf.ask('POST', '/plans/move', await shelf.tokenOf('reader'), body);
  expect((await ask({ from, to })).body).toMatchObject({ errors: [{ pointer: '#/from' }] });
  await shelf.ask('POST', `/units/${from}/events`, keeper, {
    expectedVersion: version,
    event: { kind: 'drive-inserted', bay: '1', drive: { serial: 'OLD-1', bytes: 4000787030016, basis: 'exact' } },
  });
  const { status, body } = await ask({ from, to });
  expect(status).toBe(200);
  const ways = body['ways'] as unknown as { way: string; possible: boolean; reasons: string[]; hours: number[] }[];
  expect(ways.map(({ way, possible }) => [way, possible])).toEqual([
    ['carry-by-slot', false],
    ['carry-by-serial', true],
    ['assistant', false],
    ['copy', false],
  ]);
  for (const { reasons, hours } of ways) {
    expect(reasons.length).toBeGreaterThan(0);
    expect(hours).toHaveLength(3);
  }
  expect((await ask({ from, to, way: 'copy' })).body['ways']).toHaveLength(1);
  for (const [wrong, pointer] of [
    [{ from, to: from.toUpperCase() }, '#/to'],
    [{ from: randomUUID(), to }, '#/from'],
    [{ from, to: randomUUID() }, '#/to'],
    [{ from, to, way: 'post' }, '#/way'],
  ] as const)
    expect((await ask(wrong)).body).toMatchObject({ errors: [{ pointer }] });
});
