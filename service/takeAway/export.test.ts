import { answer } from '../door/door';
import { shelfOfFile, testShelf, type Json } from '../testing/testShelf';
import { drivesFor, emptyUnitSent } from '../testing/unitSent';
import { csvLines, toCsv } from './csv';

const shelf = await shelfOfFile();
const owner = await shelf.tokenOf('owner');

const ask = (method: string, path: string, body?: unknown) => shelf.ask(method, path, owner, body);
const exporting = async () => {
  const response = await answer(
    shelf.app,
    new Request('http://127.0.0.1:4999/api/v1/export', { headers: { authorization: `Bearer ${owner}` } }),
    '/export',
  );
  return (response.body as ReadableStream<Uint8Array>).getReader();
};
async function rest(reader: Awaited<ReturnType<typeof exporting>>, begun: string): Promise<Json> {
  let text = begun;
  for (let next = await reader.read(); !next.done; next = await reader.read())
    text += new TextDecoder().decode(next.value);
  return JSON.parse(text) as Json;
}

describe('an export', () => {
  it('is of one moment, however long it is read: what is recorded meanwhile is in none of it, and it comes back', async () => {
    const two: Json[] = [];
    for (const name of ['Knot', 'Dunlin'])
      two.push(
        (await ask('POST', '/units', emptyUnitSent(name, { profile: 'reedbank', drives: drivesFor(name, 1) }))).body,
      );
    const reader = await exporting();
    const begun = new TextDecoder().decode((await reader.read()).value);
    // A drive moves from one unit to the other, and a model is tested, between two pieces of the document.
    const [from, to] = two as [Json, Json];
    expect(
      (
        await ask('POST', `/units/${String(from['id'])}/events`, {
          expectedVersion: from['version'],
          event: { kind: 'drive-removed', serial: 'Knot-1' },
        })
      ).status,
    ).toBe(201);
    const moved = {
      kind: 'drive-inserted',
      bay: '2',
      drive: { serial: 'Knot-1', bytes: 8001563222016, basis: 'exact' },
    };
    expect(
      (await ask('POST', `/units/${String(to['id'])}/events`, { expectedVersion: to['version'], event: moved })).status,
    ).toBe(201);
    expect((await ask('POST', '/tested-models', { model: 'Q9', verdict: 'works' })).status).toBeLessThan(300);
    const document = await rest(reader, begun);
    expect(JSON.stringify(document)).not.toContain('"drive-removed"');
    expect(document['testedModels']).toEqual([]);
    const other = await testShelf();
    try {
      const there = await other.tokenOf('owner');
      expect(await other.ask('POST', '/import', there, { document })).toMatchObject({ status: 200 });
      const units = (await other.ask('GET', '/units', there)).body['units'] as Json[];
      expect(units.map(({ state }) => (state as Json)['drives']['KNOT-1']?.bay)).toEqual(
        expect.arrayContaining(['1', undefined]),
      );
    } finally {
      await other.close();
    }
  });

  it('gives its snapshot back when whoever reads it stops', async () => {
    // More than the pool has connections: were one of them kept, the last would wait for ever.
    for (let i = 0; i < 12; i++) {
      const reader = await exporting();
      await reader.read();
      await reader.cancel();
    }
    expect((await ask('GET', '/units')).status).toBe(200);
  });
});

describe('a sheet', () => {
  it('says beside each sheet what its columns are, as its head has them', async () => {
    for (const sheet of ['units', 'drives', 'events', 'readings']) {
      const { body } = await shelf.ask('GET', `/${sheet}.csv-metadata.json`, owner);
      const csv = await shelf.ask('GET', `/${sheet}.csv`, owner);
      const columns = body['tableSchema'].columns as { titles: string; datatype: string }[];
      const [head] = String(csv.body['text'] ?? csv.body).split('\r\n');
      expect([sheet, columns.map(({ titles }) => titles).join()]).toEqual([sheet, head]);
      expect(body['url']).toBe(`${sheet}.csv`);
      // A serial of digits is a text.
      for (const { titles, datatype } of columns) if (titles === 'serial') expect(datatype).toBe('string');
    }
  });

  it('sets off every cell that a spreadsheet would take for a formula, one behind a line feed too', () => {
    const cells = ['=1+1', '+1', '-1', '@x', '\t=1', '\r=1', '\n=1', 'QH8-1'];
    expect(
      toCsv(
        ['a'],
        cells.map((cell) => [cell]),
      ).split('\r\n')[1],
    ).toBe("'=1+1");
    for (const cell of cells.slice(0, -1))
      expect([cell, toCsv(['a'], [[cell]]).includes(`'${cell}`)]).toEqual([cell, true]);
    expect(toCsv(['a'], [['QH8-1']])).toBe('a\r\nQH8-1\r\n');
    // Of several lines too, and a sheet of nothing is its head.
    expect(toCsv(['a'], [['=1+1\nsecond']])).toBe('a\r\n"\'=1+1\nsecond"\r\n');
    expect(toCsv(['a', 'b'], [])).toBe('a,b\r\n');
    expect(csvLines([])).toBe('');
  });
});
