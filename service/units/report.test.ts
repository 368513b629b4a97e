import { testShelf, type Json, type TestShelf } from '../testing/testShelf';

let shelf: TestShelf;
let [keeper, reader] = ['', ''];
let unit = '';
let sibling = '';
const CSV = '\uFEFFFach;Gerätenummer;Zustand\r\n1;"QH8-0001-AAA1";Normal\r\n2;QH8-0002-BBB2;"Failed"\r\n';
const COLUMNS = { bay: 'Fach', serial: 'Gerätenummer', status: 'Zustand' };

beforeAll(async () => {
  shelf = await testShelf();
  [keeper, reader] = [await shelf.tokenOf('keeper'), await shelf.tokenOf('reader')];
  const register = async (name: string, profile: string): Promise<string> => {
    const place = { site: 'Main office', room: 'rack' };
    return (await shelf.ask('POST', '/units', keeper, { name, profile, bays: 4, place })).body['id'] as string;
  };
  unit = await register('Heron', 'reedbank');
  sibling = await register('Wren', 'reedbank');
  for (const [bay, serial] of [
    ['1', 'QH8-0001-AAA1'],
    ['2', 'QH8-0002-BBB2'],
  ]) {
    const { body } = await shelf.ask('GET', `/units/${unit}`, keeper);
    await shelf.ask('POST', `/units/${unit}/events`, keeper, {
      expectedVersion: body['version'],
      event: { kind: 'drive-inserted', bay, drive: { serial, bytes: 8001563222016, basis: 'exact' } },
    });
  }
});
afterAll(() => shelf.close());

const report = (body: object, id = unit): Promise<{ status: number; body: Json }> =>
  shelf.ask('POST', `/units/${id}/reports`, reader, body);
const readOf = ({ body }: { body: Json }): unknown =>
  (body['report']['bays'] as Json[]).map(({ bay, serial, state }) => [bay, serial, state]);
const WHOLE = [
  ['1', 'QH8-0001-AAA1', 'well'],
  ['2', 'QH8-0002-BBB2', 'failed'],
];

it('is a list by the columns that are said with it', async () => {
  const found = await report({ text: CSV, columns: COLUMNS });
  expect(readOf(found)).toEqual(WHOLE);
  expect(found.body['contradictions'].map(({ bay, code }: Json) => [bay, code])).toEqual([['2', 'failed']]);
  // Asking keeps nothing.
  expect((await shelf.ask('GET', `/units/${unit}/report-columns`, reader)).body).toEqual({ kept: null });
});

it('is read by the columns that are kept, for this unit and for others of its family, where all of them are there', async () => {
  expect((await shelf.ask('PUT', `/units/${unit}/report-columns`, reader, COLUMNS)).status).toBe(403);
  const { body } = await shelf.ask('PUT', `/units/${unit}/report-columns`, keeper, COLUMNS);
  expect(body['kept']).toMatchObject({ columns: COLUMNS, setBy: expect.any(String) as string });
  expect(readOf(await report({ text: CSV }))).toEqual(WHOLE);
  // A model that says "Ready" is no health, once it is said where the health stands.
  const more = CSV.replaceAll('\r\n', ';Ready 9\r\n').replace('Ready 9', 'Modell').replace('Normal', '');
  expect(readOf(await report({ text: more }))).toEqual([['1', 'QH8-0001-AAA1', undefined], WHOLE[1]]);
  // What is another list is read as it stands.
  expect(readOf(await report({ text: 'Bay 1  QH8-0001-AAA1  Normal' }))).toEqual([WHOLE[0]]);
  expect((await shelf.ask('GET', `/units/${sibling}/report-columns`, reader)).body['kept']['columns']).toEqual(COLUMNS);
  await shelf.ask('PUT', `/units/${sibling}/report-columns`, keeper, { bay: 'Platz' });
  expect((await shelf.ask('GET', `/units/${unit}/report-columns`, reader)).body['kept']['columns']).toEqual(COLUMNS);
});

it('names the column that is not there, and what is no column', async () => {
  for (const [body, pointer] of [
    [{ text: CSV, columns: { bay: 'Fach', serial: 'Serial' } }, '#/columns/serial'],
    [{ text: 'Bay 1  QH8-0001-AAA1  Normal', columns: COLUMNS }, '#/columns'],
    [{ text: CSV, columns: { serial: 'Gerätenummer' } }, '#/columns/bay'],
    [{ text: CSV, columns: { bay: '' } }, '#/columns/bay'],
    [{ text: CSV, columns: { bay: 'Fach', colour: 'Zustand' } }, '#/columns/colour'],
  ] as const) {
    const { status, body: answer } = await report(body);
    expect([status, answer['errors'][0]['pointer']]).toEqual([422, pointer]);
  }
});
