import { shelfOfFile, type Json } from '../testing/testShelf';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');

const BYTES = 8001563222016;
const drive = { bytes: BYTES, basis: 'exact', model: 'Q8', lot: '0442' };
const drawer = { site: 'Site', room: 'Room', drawer: 'top' };
const ask = (method: string, path: string, body?: unknown, as = keeper) => shelf.ask(method, path, as, body);
const where = async (serial: string): Promise<Json> =>
  (await ask('GET', `/drives/${encodeURIComponent(serial)}`)).body['life']?.where as Json;
const record = async (serial: string, event: object) => {
  const { body } = await ask('GET', `/drives/${encodeURIComponent(serial)}`);
  return ask('POST', `/drives/${encodeURIComponent(serial)}/events`, { expectedVersion: body['version'] ?? 0, event });
};

it('follows a drive from order to drawer to bay to the shredder, and back to a bay never', async () => {
  const order = (await ask('POST', '/drive-orders', { supplier: 'Fenside', count: 2, drive })).body['id'] as string;
  await ask('POST', '/drives', { drives: [{ serial: 'QH8/1 A', drive }], order, drawer });
  expect(await where('QH8/1 A')).toEqual({ kind: 'drawer', ...drawer });
  expect((await ask('GET', '/drive-orders')).body['orders']).toMatchObject([
    { id: order, received: 1, count: 2, closed: null },
  ]);
  const unit = (
    await ask('POST', '/units', { name: 'Avocet', place: { site: 'Site', room: 'Room' }, profile: 'plain', bays: 2 })
  ).body;
  const inserted = await ask('POST', `/units/${String(unit['id'])}/events`, {
    expectedVersion: unit['version'],
    event: { kind: 'drive-inserted', bay: '1', drive: { serial: 'QH8/1 A', bytes: BYTES, basis: 'exact' } },
  });
  expect(await where('QH8/1 A')).toMatchObject({ kind: 'bay', unitName: 'Avocet', bay: '1' });
  // In a bay it is in no drawer, and is not wiped.
  expect((await record('QH8/1 A', { kind: 'put-in-drawer', drawer })).body).toMatchObject({
    code: 'drive-in-bay',
    detail: expect.stringContaining('bay 1 of Avocet'),
  });
  await ask('POST', `/units/${String(unit['id'])}/events`, {
    expectedVersion: inserted.body['version'],
    event: { kind: 'drive-removed', serial: 'QH8/1 A' },
  });
  expect(await where('QH8/1 A')).toEqual({ kind: 'in-hand' });
  expect(
    (
      await record('QH8/1 A', {
        kind: 'wiped',
        method: 'destroy',
        how: 'shredder, 20 mm',
        by: 'M. Sedge',
        checked: true,
      })
    ).status,
  ).toBe(201);
  expect((await record('QH8/1 A', { kind: 'sent-away', to: 'recycler' })).body['code']).toBe('drive-destroyed');
  const { version } = (await ask('GET', `/units/${String(unit['id'])}`)).body;
  const again = await ask('POST', `/units/${String(unit['id'])}/events`, {
    expectedVersion: version,
    event: { kind: 'drive-inserted', bay: '1', drive: { serial: 'QH8/1 A', bytes: BYTES, basis: 'exact' } },
  });
  expect([
    again.status,
    again.body['code'],
    (await ask('GET', `/units/${String(unit['id'])}`)).body['version'],
  ]).toEqual([422, 'drive-destroyed', version]);
  const page = (await ask('GET', '/drives/QH8%2F1%20A')).body;
  expect((page['ledger'] as Json[]).map(({ words }) => String(words))).toEqual([
    'Wiped (destroy) by M. Sedge: shredder, 20 mm, checked.',
    'QH8/1 A taken out.',
    'QH8/1 A (8 TB) put into bay 1.',
    'Put into top, Site, Room.',
    'Received.',
  ]);
});

it('takes an insertion back out of both ledgers', async () => {
  const unit = (
    await ask('POST', '/units', { name: 'Bittern', place: { site: 'Site', room: 'Room' }, profile: 'plain', bays: 2 })
  ).body;
  await ask('POST', '/drives', { drives: [{ serial: 'B1', drive }], drawer });
  const inserted = await ask('POST', `/units/${String(unit['id'])}/events`, {
    expectedVersion: unit['version'],
    event: { kind: 'drive-inserted', bay: '1', drive: { serial: 'B1', bytes: BYTES, basis: 'exact' } },
  });
  const seq = inserted.body['version'] as number;
  await ask('POST', `/units/${String(unit['id'])}/events`, {
    expectedVersion: seq,
    event: { kind: 'statement-withdrawn', seq, reason: 'wrong unit' },
  });
  expect(await where('B1')).toEqual({ kind: 'drawer', ...drawer });
  expect((await ask('GET', '/spares')).status).toBe(200);
});

it('shows what is of the same lot, lists by place, and counts', async () => {
  await ask('POST', '/drives', {
    drives: ['C1', 'C2', 'C3'].map((serial) => ({ serial, drive: { ...drive, lot: 'lot-c' } })),
  });
  expect(
    ((await ask('GET', '/drives/C1')).body['sameLot'] as Json[]).map(({ life }) => (life as Json)['serial']),
  ).toEqual(['C2', 'C3']);
  const inHand = (await ask('GET', '/drives?place=in-hand')).body;
  expect((inHand['drives'] as Json[]).every(({ life }) => (life as Json)['where'].kind === 'in-hand')).toBe(true);
  expect(inHand['counts']['in-hand']).toBe((inHand['drives'] as Json[]).length);
  expect((await ask('GET', '/drives?place=moon')).status).toBe(422);
  expect((await ask('GET', '/find?q=C2')).body['found']).toEqual([
    { kind: 'drive', href: '/drives/C2', title: 'C2', detail: 'in hand, not put anywhere yet' },
  ]);
});

it('names what is wrong, and leaves nothing half done', async () => {
  const take = (drives: object[], more: object = {}) => ask('POST', '/drives', { drives, ...more });
  expect(
    (
      await take([
        { serial: 'D1', drive },
        { serial: 'd1', drive },
      ])
    ).body,
  ).toMatchObject({ code: 'serial-twice', errors: [{ pointer: '#/drives/1/serial' }] });
  expect((await take([{ serial: 'D1', drive }], { order: '00000000-0000-4000-8000-000000000000' })).body['code']).toBe(
    'order-unknown',
  );
  expect((await ask('GET', '/drives/D1')).status).toBe(404);
  await take([{ serial: 'D1', drive }]);
  const body = (await ask('GET', '/drives/D1')).body;
  await record('D1', { kind: 'noted', note: 'dented' });
  expect(
    (
      await ask('POST', '/drives/D1/events', {
        expectedVersion: body['version'],
        event: { kind: 'noted', note: 'late' },
      })
    ).status,
  ).toBe(409);
  expect(
    (
      await record('D1', {
        kind: 'fitted',
        unit: '00000000-0000-4000-8000-000000000000',
        unitName: 'x',
        bay: '1',
        drive,
      })
    ).status,
  ).toBe(422);
  expect((await record('nobody', { kind: 'noted', note: 'x' })).status).toBe(404);
  expect((await record('D1', { kind: 'statement-withdrawn', seq: 99, reason: 'x' })).body['code']).toBe('entry-stands');
  expect((await record('D1', { kind: 'wiped', method: 'wish', how: 'x', by: 'y' })).status).toBe(422);
  const reader = await shelf.tokenOf('reader');
  expect((await ask('POST', '/drives', { drives: [{ serial: 'E1', drive }] }, reader)).status).toBe(403);
});

it('closes an order once, with the reason', async () => {
  const id = (await ask('POST', '/drive-orders', { supplier: 'Fenside', count: 1, drive })).body['id'] as string;
  expect((await ask('POST', `/drive-orders/${id}/close`, { reason: 'sold out' })).status).toBe(200);
  expect((await ask('POST', `/drive-orders/${id}/close`, { reason: 'again' })).body['code']).toBe('order-closed');
  expect((await ask('POST', '/drive-orders/nonsense/close', { reason: 'x' })).status).toBe(404);
});
