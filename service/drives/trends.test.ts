import { addReadings } from '../../store/readings';
import { testShelf, type Json, type TestShelf } from '../testing/testShelf';

let shelf: TestShelf;
let reader: string;
let unit: string;
const DAYS = 3 * 365;
const dayBefore = (days: number): string => new Date(Date.now() - days * 86_400_000).toISOString();

beforeAll(async () => {
  shelf = await testShelf();
  reader = await shelf.tokenOf('reader');
  const drives = ['A', 'B', 'C'].map((serial, i) => ({
    bay: String(i + 1),
    bytes: 4e12,
    basis: 'exact',
    serial,
    ...(serial === 'C' ? {} : { lot: '0412' }),
  }));
  const made = await shelf.ask('POST', '/units', await shelf.tokenOf('keeper'), {
    name: 'Teal',
    place: { site: 'S', room: 'R' },
    profile: 'plain',
    bays: 4,
    drives,
    pool: { scheme: 'parity-1' },
  });
  unit = made.body['id'] as string;
  const readings = ['A', 'B', 'C'].flatMap((subject) =>
    Array.from({ length: DAYS }, (_, n) => [
      { unit, subject, metric: 'temperature' as const, at: dayBefore(DAYS - n), value: subject === 'A' ? 40 : 30 },
      { unit, subject, metric: 'read-errors' as const, at: dayBefore(DAYS - n), value: subject === 'A' ? n : 0 },
    ]).flat(),
  );
  await addReadings(shelf.app.db, readings);
});
afterAll(() => shelf.close());

it('gives what was measured over the years in stretches, beside its lot and nobody else', async () => {
  const { status, body } = await shelf.ask('GET', '/drives/a/trends', reader);
  expect(status).toBe(200);
  const trends = body['trends'] as Json[];
  expect(trends.map(({ metric }) => metric as string).sort()).toEqual(['read-errors', 'temperature']);
  const errors = trends.find(({ metric }) => metric === 'read-errors') as Json;
  expect((errors['mates'] as Json[]).map(({ serial }) => serial as string)).toEqual(['B']);
  const own = errors['own'] as { day: string; low: number; high: number; last: number }[];
  expect(own.length).toBeGreaterThan(350);
  expect(own.length).toBeLessThanOrEqual(401);
  // Nothing is left out: each stretch begins where the one before ended.
  own.slice(1).forEach((one, i) => expect(one.low).toBe((own[i] as (typeof own)[0]).high + 1));
  expect(own.at(-1)?.last).toBe(DAYS - 1);
  expect(errors['words']).toContain('It is above that.');
});

it('says that nobody knows a drive, and nothing of one that was never measured', async () => {
  expect((await shelf.ask('GET', '/drives/nobody/trends', reader)).status).toBe(404);
  expect((await shelf.ask('GET', '/drives/c/trends', reader)).body['trends']).toHaveLength(2);
});
