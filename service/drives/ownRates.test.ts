import { lotKey } from '~/core/outlook/livesAhead';
import { readSeenOfDrives } from './ownRates';
import { testShelf, type Json, type TestShelf } from '../testing/testShelf';
import { emptyUnitSent } from '../testing/unitSent';

let shelf: TestShelf;
let keeper: string;
const DAY_MS = 86_400_000;
const daysAgo = (days: number): string => new Date(Date.now() - days * DAY_MS).toISOString();

beforeAll(async () => {
  shelf = await testShelf();
  keeper = await shelf.tokenOf('keeper');
});
afterAll(() => shelf.close());

const rates = async (): Promise<Json[]> =>
  (await shelf.ask('GET', '/failure-rates', await shelf.tokenOf('reader'))).body['rates'] as Json[];

it('learns from the ledgers: drive-years and failures by what drives are made of, nothing of what was withdrawn', async () => {
  expect(await rates()).toEqual([]);

  const made = await shelf.ask('POST', '/units', keeper, emptyUnitSent('Teal', { happenedAt: daysAgo(1461) }));
  expect(made.status).toBe(201);
  const id = String(made.body['id']);
  let version = 1;
  const record = async (days: number, event: object): Promise<Json> => {
    const { status, body } = await shelf.ask('POST', `/units/${id}/events`, keeper, {
      expectedVersion: version,
      event,
      happenedAt: daysAgo(days),
    });
    expect([status, body['detail']]).toEqual([201, undefined]);
    version = Number(body['version']);
    return body;
  };
  const fit = (days: number, bay: string, serial: string, more: object = {}): Promise<Json> =>
    record(days, { kind: 'drive-inserted', bay, drive: { serial, bytes: 1e12, basis: 'exact', ...more } });
  version = Number((await shelf.ask('GET', `/units/${id}`, keeper)).body['version']);
  await fit(1461, '1', 'D-1', { model: 'M', lot: '0412' });
  await fit(1461, '2', 'D-2', { model: 'M', lot: '0412' });
  await fit(1461, '3', 'F-1', { media: 'ssd' });
  // Two years in, one fails; it is taken out a year later, and another comes.
  await record(730.5, { kind: 'drive-failed', serial: 'D-2' });
  await record(365.25, { kind: 'drive-removed', serial: 'D-2' });
  await fit(365.25, '2', 'D-3', { model: 'M', lot: '0413' });

  const [disks, flash] = await rates();
  expect(disks).toMatchObject({ group: 'disks', drives: 3, failures: 1 });
  // Four years, two until it failed, and one.
  expect(disks?.['years']).toBeCloseTo(7, 2);
  expect(flash).toMatchObject({ group: 'flash', drives: 1, failures: 0 });
  expect(flash?.['years']).toBeCloseTo(4, 2);
  expect(disks?.['low']).toBeLessThan(Number(disks?.['likely']));
  expect(disks?.['within']).toMatchObject([
    { of: ['M'], drives: 3, failures: 1 },
    { of: ['M', '0412'], drives: 2, failures: 1 },
  ]);

  // Of a lot also what is gone: the one that failed was taken out two years ago.
  const lot = lotKey({ model: 'M', lot: '0412' }) ?? '';
  const [seen] = (await readSeenOfDrives(shelf.app, new Date(), new Set([lot]))).lots;
  expect(seen).toMatchObject({ lot, failures: 1 });
  expect(seen?.years.map((years) => Math.round(years)).sort()).toEqual([2, 4]);

  // One that is said to have failed by mistake, and taken back, has not.
  const { act } = await record(1, { kind: 'drive-failed', serial: 'D-3' });
  expect((await rates())[0]).toMatchObject({ failures: 2 });
  expect((await shelf.ask('POST', `/acts/${String(act)}/back`, keeper, { reason: 'the wrong bay' })).status).toBe(201);
  expect((await rates())[0]).toMatchObject({ failures: 1, drives: 3 });
});
