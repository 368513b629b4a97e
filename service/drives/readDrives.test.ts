import { randomUUID } from 'node:crypto';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { unitSent } from '../testing/unitSent';
import { countFound, readDrive, readDrives, readHolding } from './readDrives';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');
let unit: string;

beforeAll(async () => {
  const drives = ['A_1', 'B%2', 'C-3'].map((serial, i) => ({
    bay: String(i + 1),
    bytes: (3 - i) * 1e12,
    basis: 'exact',
    serial,
    ...(i === 1 ? { model: 'Q1' } : {}),
  }));
  const made = await shelf.ask('POST', '/units', keeper, unitSent('Teal', { drives }));
  unit = made.body['id'] as string;
  expect(made.status).toBe(201);
});

const serials = async (order: Parameters<typeof readDrives>[4]): Promise<string[]> =>
  (await readDrives(shelf.app, undefined, 0, 10, order)).drives.map(({ life }) => life.serial);

it('orders by any column, nothing last, and finds by words that stand for themselves', async () => {
  expect(await serials({ words: '', by: 'size', desc: false })).toEqual(['C-3', 'B%2', 'A_1']);
  expect(await serials({ words: '', by: 'size', desc: true })).toEqual(['A_1', 'B%2', 'C-3']);
  expect((await serials({ words: '', by: 'model', desc: false }))[0]).toBe('B%2');
  expect((await serials({ words: '', by: 'model', desc: true }))[0]).toBe('B%2');
  for (const [words, found] of [
    ['teal', 3],
    ['%', 1],
    ['_', 1],
    ['q1', 1],
    ['\\', 0],
    ["'; drop table entry; --", 0],
  ] as const) {
    expect([words, (await serials({ words, by: null, desc: false })).length]).toEqual([words, found]);
    expect(await countFound(shelf.app, undefined, words)).toBe(found);
  }
});

it('finds a drive’s page by every event that names it, wherever in it', async () => {
  const before = (await readDrive(shelf.app, 'A_1'))?.ledger ?? [];
  // As a member among others.
  expect(before.some(({ words }) => words.startsWith('Pool'))).toBe(true);
  const version = ((await shelf.ask('GET', `/units/${unit}`, keeper)).body as Json)['version'] as number;
  await shelf.ask('POST', `/units/${unit}/events`, keeper, {
    expectedVersion: version,
    event: { kind: 'drive-suspected', serial: 'A_1', note: 'clicks' },
  });
  const after = (await readDrive(shelf.app, 'A_1'))?.ledger ?? [];
  expect(after.length).toBe(before.length + 1);
  // Of another that only ends alike nothing is said.
  expect((await readDrive(shelf.app, 'C-3'))?.ledger.some(({ words }) => words.includes('clicks'))).toBe(false);
});

it('names the drives a unit leaves behind with its data, until they are emptied or stand in another', async () => {
  const record = async (body: object): Promise<number> => {
    const version = Number((await shelf.ask('GET', `/units/${unit}`, keeper)).body['version']);
    return (await shelf.ask('POST', `/units/${unit}/events`, keeper, { expectedVersion: version, ...body })).status;
  };
  expect(await readHolding(shelf.app, unit)).toEqual([]);
  const name = Object.values(
    ((await shelf.ask('GET', `/units/${unit}`, keeper)).body['state'] as { pools: Record<string, { name: string }> })
      .pools,
  )[0]?.name;
  expect(await record({ event: { kind: 'drive-removed', serial: 'A_1' } })).toBe(201);
  expect(await readHolding(shelf.app, unit)).toEqual([{ serial: 'A_1', pool: name, where: expect.any(String) }]);
  expect(
    await readHolding(
      shelf.app,
      unit.replace(/^./, (first) => (first === 'a' ? 'b' : 'a')),
    ),
  ).toEqual([]);
  // Sent away as it is, it is named still; emptied, no more.
  const tell = (event: object): Promise<{ status: number; body: Json }> =>
    shelf.ask('POST', '/acts', keeper, { id: randomUUID(), entries: [{ drive: 'A_1', event }] });
  const wiped = { kind: 'wiped', method: 'purge', how: 'overwritten', by: 'K', checked: true };
  expect((await tell(wiped)).body).toMatchObject({ versions: expect.anything() as unknown });
  expect(await readHolding(shelf.app, unit)).toEqual([]);
});
