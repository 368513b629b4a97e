import { randomUUID } from 'node:crypto';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { drivesFor, emptyUnitSent } from '../testing/unitSent';

/** What the record refuses, asked for as a client would: each by its code, at its field, and nothing recorded by it. */
const TB = 1e12;
const shelf = await shelfOfFile();
const owner = await shelf.tokenOf('owner');
const session = await shelf.cookieOf('owner');
const drives = drivesFor('T', 4, 2 * TB).map((drive) => ({ ...drive, bytes: drive.bay === '4' ? TB : drive.bytes }));
const pools = [{ name: 'Data', scheme: 'parity-1', members: ['1', '2', '3'] }];
const { body: unit } = await shelf.ask('POST', '/units', owner, emptyUnitSent('Teal', { bays: 6, drives, pools }));
const pool = Object.keys(unit['state'].pools as Json)[0] ?? '';

const ask = (method: string, path: string, body?: unknown, as: typeof owner | typeof session = owner) =>
  shelf.ask(method, path, as, body);
const state = async (): Promise<Json> => (await ask('GET', `/units/${String(unit['id'])}`)).body;
const event = async (sent: Json) =>
  ask('POST', `/units/${String(unit['id'])}/events`, { expectedVersion: (await state())['version'], event: sent });
const plan = async (job: string, wish: Json) =>
  ask('POST', `/units/${String(unit['id'])}/plans`, { expectedVersion: (await state())['version'], job, wish });

const shape = () => ({
  bands: [{ fromBytes: 0, toBytes: TB, members: ['T-4'], kind: 'single', redundancy: 0, usableBytes: TB }],
  usableBytes: TB,
  shownBytes: TB,
  fileSystemReserveBytes: 0,
});
const newPool = (more: Json) =>
  event({ kind: 'pool-created', pool: randomUUID(), name: 'New', scheme: 'separate', spares: [], ...shape(), ...more });
const CASES: readonly (readonly [
  code: string,
  pointer: string | null,
  ask: () => Promise<{ status: number; body: Json }>,
])[] = [
  [
    'pool-exists',
    '#/event/pool',
    () => event({ kind: 'pool-created', pool, name: 'Again', scheme: 'separate', spares: [], ...shape() }),
  ],
  ['reserve-too-large', '#/event/fileSystemReserveBytes', () => newPool({ fileSystemReserveBytes: 2 * TB })],
  ['shown-too-large', '#/event/shownBytes', () => newPool({ shownBytes: 2 * TB })],
  ['pool-unknown', '#/event/pool', () => event({ kind: 'job-started', job: 'j', task: 'scrub', pool: 'none' })],
  [
    'copy-unknown',
    '#/event/copy',
    async () => (
      await event({ kind: 'data-set-described', dataSet: 'photos', name: 'Photos' }),
      event({ kind: 'copy-confirmed', dataSet: 'photos', copy: 'none', outcome: 'ran' })
    ),
  ],
  [
    'job-exists',
    '#/event/job',
    async () => (
      await event({ kind: 'job-started', job: 'look', task: 'scrub', pool }),
      event({ kind: 'job-started', job: 'look', task: 'scrub', pool })
    ),
  ],
  [
    'no-moment',
    '#/happenedAt',
    async () =>
      ask('POST', `/units/${String(unit['id'])}/events`, {
        expectedVersion: (await state())['version'],
        happenedAt: '1979-12-31T23:59:59Z',
        event: { kind: 'noted', note: 'x' },
      }),
  ],
  [
    'in-the-future',
    '#/happenedAt',
    async () =>
      ask('POST', `/units/${String(unit['id'])}/events`, {
        expectedVersion: (await state())['version'],
        happenedAt: new Date(Date.now() + 400 * 86_400_000).toISOString(),
        event: { kind: 'noted', note: 'x' },
      }),
  ],
  ['name-taken', '#/name', () => ask('POST', '/units', emptyUnitSent('Teal'))],
  ['profile-unknown', '#/profile', () => ask('POST', '/units', emptyUnitSent('Smew', { profile: 'no such' }))],
  [
    'too-many-drives',
    '#/drives',
    () => ask('POST', '/units', emptyUnitSent('Smew', { bays: 1, drives: drivesFor('S', 2) })),
  ],
  [
    'too-large',
    '#/drives',
    () => ask('POST', '/layouts', { profile: 'plain', drives: ['1', '2'].map((bay) => ({ bay, bytes: 9e15 })) }),
  ],
  [
    'unit-unknown',
    '#/readings/0/unit',
    () =>
      ask('POST', '/readings', {
        readings: [{ unit: randomUUID(), subject: 'T-1', metric: 'temperature', value: 30 }],
      }),
  ],
  [
    'subject-unknown',
    '#/readings/1/subject',
    () =>
      ask('POST', '/readings', {
        readings: ['T-1', 'T-9'].map((subject) => ({ unit: unit['id'], subject, metric: 'temperature', value: 30 })),
      }),
  ],
  [
    'not-missing',
    '#/wish/serial',
    () => plan('spare-in', { serial: 'T-1', spare: 'T-4', drive: { bytes: 2 * TB, basis: 'exact' } }),
  ],
  [
    'cannot-be-kept',
    null,
    () => ask('POST', '/drives', { drives: [{ serial: 'ß'.repeat(33), drive: { bytes: TB, basis: 'exact' } }] }),
  ],
  [
    'paper-type',
    '#/base64',
    () =>
      ask('POST', `/units/${String(unit['id'])}/papers`, {
        name: 'x',
        base64: Buffer.from([0, 1, 2, 3]).toString('base64'),
      }),
  ],
  ['not-found', null, () => ask('POST', `/acts/${randomUUID()}/back`, { reason: 'x' })],
  ['id-differs', '#/id', () => ask('PUT', '/profiles/another', { ...(shelf.app.profiles.get('plain') as object) })],
  [
    'last-owner',
    null,
    async () => {
      const { people } = (await ask('GET', '/people', undefined, session)).body as { people: Json[] };
      for (const one of people.filter(({ id, role }) => role === 'owner' && id !== session.id))
        await ask('PUT', `/people/${String(one['id'])}`, { role: 'reader' }, session);
      return ask('PUT', `/people/${session.id}`, { role: 'reader' }, session);
    },
  ],
];

it.each(CASES)('%s', async (code, pointer, request) => {
  const acts = async (): Promise<number> =>
    ((await ask('GET', '/export')).body['acts'] as unknown[] | undefined)?.length ?? 0;
  const answer = await request();
  const before = await acts();
  expect([answer.body['code'], (answer.body['errors'] as Json[] | undefined)?.[0]?.['pointer'] ?? null]).toEqual([
    code,
    pointer,
  ]);
  expect(answer.status).toBeGreaterThanOrEqual(400);
  expect(answer.status).toBeLessThan(500);
  // Asked once more it is refused once more, and leaves nothing behind.
  const again = await request();
  expect(again.body['code']).toBe(code);
  if (code !== 'copy-unknown') expect(await acts()).toBe(before);
});
