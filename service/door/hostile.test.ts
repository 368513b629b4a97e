import { shelfOfFile, type Json } from '../testing/testShelf';
import { drivesFor, unitSent } from '../testing/unitSent';
import { OPERATIONS } from '../operations';

/** What somebody may put where an id, a serial or a number is asked: none of it is our fault. */
const VALUES = [
  '%00',
  '%FF',
  '%E0%A4%A',
  '%ED%A0%80',
  '..',
  '%2e%2e%2f',
  ' ',
  '%20',
  '-'.repeat(36),
  '00000000-0000-0000-0000-00000000000G',
  'ffffffff-ffff-4fff-8fff-ffffffffffff',
  '1e300',
  '-1',
  '99999999999999999999',
  'constructor',
  '__proto__',
  'a'.repeat(4000),
  "';--",
  '%0a',
  '%F0%9F%92%BE',
];

const shelf = await shelfOfFile();
const owner = await shelf.tokenOf('owner');
const session: { readonly cookie: string } = await shelf.cookieOf('owner');
const sent = unitSent('Godwit', { profile: 'reedbank', drives: drivesFor('H') });
const { body: unit } = await shelf.ask('POST', '/units', owner, sent);

/** Asks, and says what was our fault or came undone: nothing is expected. */
async function faults(method: string, path: string, body?: unknown): Promise<string[]> {
  // Some things no token may do: whoever is signed in may try them.
  const { status } = await shelf.ask(method, path, session, body);
  return status >= 500
    ? [`${method} ${path.slice(0, 120)} ${JSON.stringify(body ?? '').slice(0, 200)}: ${String(status)}`]
    : [];
}

/** Operations that end what the others need, or answer for as long as they are heard. */
const reads = OPERATIONS.filter(
  ({ method, bodySchema }) => method === 'GET' || (method === 'DELETE' && bodySchema === null),
);

it.each(reads.map(({ method, path, query }) => [method, path, query] as const))(
  '%s %s answers whatever stands in its address',
  async (method, path, query) => {
    const named = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name as string);
    const real = (name: string): string =>
      name === 'id' && path.startsWith('/units')
        ? String(unit['id'])
        : name === 'serial'
          ? 'H-1'
          : 'ffffffff-ffff-4fff-8fff-ffffffffffff';
    const found: string[] = [];
    for (const value of VALUES) {
      for (const hostile of named) {
        const address = path.replaceAll(/\{(\w+)\}/g, (_, name: string) => (name === hostile ? value : real(name)));
        found.push(...(await faults(method, address)));
      }
      if (method === 'GET')
        for (const name of [...Object.keys(query), 'from'])
          found.push(
            ...(await faults(method, `${path.replaceAll(/\{(\w+)\}/g, (_, of: string) => real(of))}?${name}=${value}`)),
          );
    }
    expect(found).toEqual([]);
  },
);

const TIMES = [
  '0000-01-01T00:00:00Z',
  '0001-01-01T00:00:00Z',
  '1582-10-10T00:00:00Z',
  '2016-12-31T23:59:60Z',
  '9999-12-31T23:59:59Z',
  '2026-01-01T00:00:00.123456789Z',
  '2026-01-01T00:00:00+23:59',
  '2026-02-30T00:00:00Z',
  '2026-01-01T24:00:00Z',
];
const NUMBERS = [-1, 0, 2 ** 31, 2 ** 53, 1e300, 1.5];

describe('what changes something', () => {
  const events: (readonly [string, object])[] = [
    ['noted', { kind: 'noted', note: 'x' }],
    ['drive-failed', { kind: 'drive-failed', serial: 'H-2' }],
    ['job', { kind: 'job-started', job: 'j', task: 'scrub', pool: 'none' }],
    ['serial of a name that objects have', { kind: 'drive-failed', serial: 'constructor' }],
  ];
  it.each(events)('takes a time and a version as what they are: %s', async (_what, event) => {
    const path = `/units/${String(unit['id'])}/events`;
    const found: string[] = [];
    for (const happenedAt of TIMES)
      found.push(...(await faults('POST', path, { expectedVersion: 1, event, happenedAt })));
    for (const expectedVersion of NUMBERS) found.push(...(await faults('POST', path, { expectedVersion, event })));
    expect(found).toEqual([]);
  });

  it('refuses a moment before there was such a thing, with a sentence', async () => {
    const { version } = (await shelf.ask('GET', `/units/${String(unit['id'])}`, owner)).body;
    for (const happenedAt of TIMES.slice(0, 3))
      expect(
        (
          await shelf.ask('POST', `/units/${String(unit['id'])}/events`, owner, {
            expectedVersion: version,
            event: { kind: 'noted', note: 'x' },
            happenedAt,
          })
        ).body['code'],
      ).toMatch(/no-moment|bad-input/);
  });

  it('answers a pace or a size no unit has', async () => {
    const profile = unit['state'].profile as Json;
    const slow = { ...profile, id: 'slow', rebuild: { ...profile['rebuild'], ceilingBytesPerSecond: 1 } };
    const drives = ['1', '2', '3'].map((bay) => ({ bay, bytes: 30e12 }));
    const found: string[] = [];
    for (const path of ['/layouts', '/appraisals']) {
      found.push(...(await faults('POST', path, { profile: slow, bays: 3, drives })));
      for (const bytes of [1, 511, 9e15])
        found.push(
          ...(await faults('POST', path, {
            profile: 'plain',
            bays: 3,
            drives: drives.map((drive) => ({ ...drive, bytes })),
          })),
        );
    }
    const own = drives.map(({ bay, bytes }) => ({ bay, bytes, basis: 'exact', serial: `S-${bay}` }));
    const registered = await shelf.ask('POST', '/units', owner, unitSent('Snail', { profile: slow, drives: own }));
    const pool = Object.keys((registered.body['state']?.pools ?? {}) as Json)[0];
    found.push(
      ...(await faults('POST', `/units/${String(registered.body['id'])}/events`, {
        expectedVersion: registered.body['version'],
        event: { kind: 'job-started', job: 'j', task: 'scrub', pool },
      })),
    );
    expect(registered.status).toBeLessThan(500);
    expect(found).toEqual([]);
  });

  it('answers a body of any shape to everything that takes one', async () => {
    const found: string[] = [];
    const shapes: unknown[] = [
      null,
      [],
      0,
      '',
      { constructor: 1 },
      { __proto__: null, a: { b: { c: [] } } },
      JSON.parse('{"__proto__":{"x":1}}'),
    ];
    for (const { method, path, bodySchema } of OPERATIONS)
      if (bodySchema !== null)
        for (const shape of shapes)
          found.push(...(await faults(method, path.replaceAll(/\{\w+\}/g, String(unit['id'])), shape)));
    expect(found).toEqual([]);
  });
});
