import { addReadings } from '../../store/readings';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { emptyUnitSent, unitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const [reader, keeper] = [await shelf.tokenOf('reader'), await shelf.tokenOf('keeper')];
let unit: string;
const DAYS = 3 * 365;
const dayBefore = (days: number): string => new Date(Date.now() - days * 86_400_000).toISOString();

beforeAll(async () => {
  const drives = ['A', 'B', 'C'].map((serial, i) => ({
    bay: String(i + 1),
    bytes: 4e12,
    basis: 'exact',
    serial,
    ...(serial === 'C' ? {} : { lot: '0412' }),
  }));
  const made = await shelf.ask('POST', '/units', keeper, unitSent('Teal', { drives }));
  unit = made.body['id'] as string;
  const readings = ['A', 'B', 'C'].flatMap((subject) =>
    Array.from({ length: DAYS }, (_, n) => [
      { unit, subject, metric: 'temperature' as const, at: dayBefore(DAYS - n), value: subject === 'A' ? 40 : 30 },
      { unit, subject, metric: 'read-errors' as const, at: dayBefore(DAYS - n), value: subject === 'A' ? n : 0 },
    ]).flat(),
  );
  await addReadings(shelf.app.db, readings);
});

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

it('follows a drive from unit to unit: one line in the order of days, held against the readings as they were sent', async () => {
  const made = await shelf.ask(
    'POST',
    '/units',
    keeper,
    emptyUnitSent('Smew', { drives: [{ bay: '1', bytes: 4e12, basis: 'exact', serial: 'MOVED' }] }),
  );
  const other = made.body['id'] as string;
  // A year here, a month in a drawer, half a year there; sent out of order, as two watches would.
  const sent = Array.from({ length: 18 }, (_, n) => ({
    unit: n < 12 ? unit : other,
    subject: 'MOVED',
    metric: 'reallocated-sectors' as const,
    at: dayBefore(600 - 30 * n - (n < 12 ? 0 : 30)),
    value: 2 * n,
  }));
  await addReadings(shelf.app.db, [...sent.slice(9), ...sent.slice(0, 9)]);
  const { body } = await shelf.ask('GET', '/drives/moved/trends', reader);
  const [trend] = (body['trends'] as { metric: string; own: { day: string; last: number }[]; words: string }[]).filter(
    ({ metric }) => metric === 'reallocated-sectors',
  );
  expect(trend?.own.map(({ day, last }) => [day, last])).toEqual(sent.map(({ at, value }) => [at.slice(0, 10), value]));
  expect(trend?.words).toContain(`34 reallocated sectors, 34 more than on ${(sent[0]?.at ?? '').slice(0, 10)}.`);
});

it('says that nobody knows a drive, and nothing of one that was never measured', async () => {
  expect((await shelf.ask('GET', '/drives/nobody/trends', reader)).status).toBe(404);
  expect((await shelf.ask('GET', '/drives/c/trends', reader)).body['trends']).toHaveLength(2);
});

describe('the rated life of flash', () => {
  const month = (n: number): string => dayBefore(30 * n);
  const send = (readings: object[]) => shelf.ask('POST', '/readings', keeper, { readings });
  const left = (subject: string, months: number, value: number) => ({
    unit,
    subject,
    metric: 'life-left',
    at: month(months),
    value,
  });
  const needs = async () =>
    ((await shelf.ask('GET', '/needs', reader)).body['needs'] as Json[])
      .filter(({ code }) => String(code).startsWith('wear'))
      .map(({ code, serial }) => [code, serial] as unknown[]);

  it('is a share in percent, and no count is below nothing', async () => {
    for (const [metric, value] of [
      ['life-left', 101],
      ['life-left', -1],
      ['read-errors', -1],
      ['temperature', 400],
    ] as const) {
      const { status, body } = await send([left('A', 1, 50), { unit, subject: 'A', metric, value }]);
      expect([status, (body['errors'] as Json[])[0]?.['pointer']]).toEqual([422, '#/readings/1/value']);
    }
    expect((await needs()).length).toBe(0);
  });

  it('needs hands when it is used up soon, and together with its neighbour’s', async () => {
    // 5 % a month of both, one of them a little ahead: half a year is left.
    expect(
      (await send([6, 5, 4, 3, 2, 1, 0].flatMap((n) => [left('A', n, 25 + 5 * n), left('B', n, 27 + 5 * n)]))).status,
    ).toBe(201);
    expect((await needs()).sort()).toEqual([
      ['wear-together', 'A'],
      ['wears-out', 'A'],
      ['wears-out', 'B'],
    ]);
    const { body } = await shelf.ask('GET', '/drives/a/trends', reader);
    const life = (body['trends'] as Json[]).find(({ metric }) => (metric as string) === 'life-left');
    expect(life?.['words']).toMatch(/^25 % of its rated life left\. At its pace the rating lasts until about /);
  });

  it('comes along, and what nobody can have measured does not keep the rest out', async () => {
    const owner = await shelf.cookieOf('owner');
    const document = (await shelf.ask('GET', '/export', owner)).body as Json;
    const readings = [...(document['readings'] as unknown[]), [unit, 'B', 'life-left', month(7), 300]];
    const { status, body } = await shelf.ask('POST', '/import', owner, { document: { ...document, readings } });
    expect(status).toBe(200);
    expect((body['rows'] as Json[]).find(({ what }) => (what as string) === 'readings')?.['detail']).toMatch(
      /^0 are new\. Left out: 1, the first in row \d+\. 300 is no share in percent/,
    );
  });
});
