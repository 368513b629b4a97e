import { randomUUID } from 'node:crypto';
import { shelfOfFile } from '../testing/testShelf';

const shelf = await shelfOfFile();

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

it('says it of a newer unit that is only described, with what has to be bought for it', async () => {
  const keeper = await shelf.tokenOf('keeper');
  const place = { site: 'House', room: 'Rack' };
  const drive = (bay: string) => ({ bay, serial: `DS-${bay}`, bytes: 4000787030016, basis: 'exact' });
  const made = await shelf.ask('POST', '/units', keeper, {
    name: 'Elder',
    place,
    profile: 'reedbank',
    bays: 4,
    drives: ['1', '2', '3', '4'].map(drive),
    pool: { scheme: 'parity-1', name: 'Papers' },
  });
  const from = made.body['id'];
  const ask = async (to: object, more = {}) =>
    shelf.ask('POST', '/plans/move', await shelf.tokenOf('reader'), { from, to, ...more });
  const waysOf = async (to: object): Promise<Record<string, { possible: boolean; reasons: string[] }>> => {
    const { status, body } = await ask(to);
    expect(status).toBe(200);
    const ways = body['ways'] as unknown as { way: string; possible: boolean; reasons: string[] }[];
    return Object.fromEntries(ways.map(({ way, ...of }) => [way, of]));
  };
  const larger = await waysOf({ profile: 'reedbank', bays: 8 });
  expect(larger['carry-by-slot']?.possible).toBe(true);
  // As it will be: with drives of its own, which nobody has yet.
  expect(larger['copy']).toMatchObject({ possible: true });
  expect(larger['copy']?.reasons[0]).toContain('commissioned first, with new drives and room for');
  const other = await waysOf({ profile: 'tidemill', bays: 4, name: 'Godwit' });
  expect(other['carry-by-slot']?.possible).toBe(false);
  const small = await waysOf({ profile: 'reedbank', bays: 2, name: 'Godwit' });
  expect(small['carry-by-slot']?.reasons.join(' ')).toContain('Godwit has 2 bays for 4 drives.');
  // No plan over a unit that is not there.
  expect((await ask({ profile: 'reedbank', bays: 8 }, { way: 'carry-by-slot' })).body['plan']).toBeUndefined();
  for (const [wrong, pointer] of [
    [{ profile: 'nowhere', bays: 4 }, '#/to/profile'],
    [{ profile: 'reedbank', bays: 0 }, '#/to/bays'],
    [{ profile: 'reedbank', bays: 4, hope: 1 }, '#/to/hope'],
    [{ bays: 4 }, '#/to'],
  ] as const)
    expect((await ask(wrong)).body).toMatchObject({
      errors: expect.arrayContaining([expect.objectContaining({ pointer })]),
    });
});
