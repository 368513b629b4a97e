import { randomUUID } from 'node:crypto';
import { shelfOfFile } from '../testing/testShelf';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');

const order = (more: object = {}, as = keeper) =>
  shelf.ask('POST', '/drive-orders', as, {
    supplier: 'Fenside Supplies',
    count: 2,
    drive: { bytes: 8001563222016, basis: 'label' },
    ...more,
  });
const many = async (): Promise<number> =>
  ((await shelf.ask('GET', '/drive-orders', keeper)).body['orders'] as unknown[]).length;

describe('an order', () => {
  it('sent twice within a moment is one, also at once; another person’s, or another one, is not', async () => {
    const ids = (await Promise.all([order(), order(), order(), order()])).map(({ status, body }) => [
      status,
      body['id'] as string,
    ]);
    expect(new Set(ids.map(([, id]) => id)).size).toBe(1);
    expect(await many()).toBe(1);
    await order({ count: 3 });
    await order({ note: 'for Teal' });
    expect(await many()).toBe(3);
  });

  it('goes by the id its sender made: the same again is the same, something else is refused', async () => {
    const [one, two] = [randomUUID(), randomUUID()];
    const before = await many();
    for (const act of [one, one.toUpperCase(), one]) expect((await order({ act })).body['id']).toBe(one);
    // Two that are meant are two, in however short a time.
    expect((await order({ act: two })).body['id']).toBe(two);
    expect(await many()).toBe(before + 2);
    expect(await order({ act: one, count: 9 })).toMatchObject({ status: 409, body: { code: 'act-differs' } });
    expect(await many()).toBe(before + 2);
  });
});
