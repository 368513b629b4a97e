import { shelfOfFile } from '../testing/testShelf';
import { emptyUnitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');
beforeAll(async () => {
  for (const name of ['Wren', 'Coot', 'Teal']) await shelf.ask('POST', '/units', keeper, emptyUnitSent(name));
});

const names = async (behind: string): Promise<unknown> => {
  const { body } = await shelf.ask('GET', `/units${behind}`, keeper);
  return [(body['units'] as { state: { name: string } }[]).map(({ state }) => state.name), body['next']];
};

it('hands out units by name from where it is asked to, and says where the next begin', async () => {
  expect(await names('')).toEqual([['Coot', 'Teal', 'Wren'], null]);
  expect(await names('?from=1')).toEqual([['Teal', 'Wren'], null]);
  expect(await names('?from=9')).toEqual([[], null]);
  for (const from of ['-1', '1.5', 'x', '1e10'])
    expect((await shelf.ask('GET', `/units?from=${from}`, keeper)).status).toBeGreaterThanOrEqual(400);
});
