import { shelfOfFile, testShelf, type Json } from '../testing/testShelf';

/** Plans at the bounds of what may be named: what the model says of them can be kept, and brought back. */
const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');

const TB16 = 16000900661248;
const ask = (method: string, path: string, body?: unknown) => shelf.ask(method, path, keeper, body);
const long = (start: string, most: number): string => start.padEnd(most, 'x');
const begin = (unit: Json, job: string, wish: Json) =>
  ask('POST', `/units/${String(unit['id'])}/plans`, { expectedVersion: unit['version'], job, wish });

/** A head and extensions with the longest names there may be. */
async function unitOf(
  name: string,
  profile: string,
  boxes: number,
  bays: number,
  more: Json = {},
): Promise<{ unit: Json; bays: string[] }> {
  const enclosures = Array.from({ length: boxes }, (_, i) => ({
    name: long(i === 0 ? 'Head ' : `Extension ${String(i)} `, 60),
    bays,
    ...(i === 0 ? {} : { dial: i }),
  }));
  const { status, body } = await ask('POST', '/units', {
    name: long(name, 60),
    place: { site: 'S', room: 'R' },
    profile,
    enclosures,
    ...more,
  });
  expect([status, body['detail']]).toEqual([201, undefined]);
  return { unit: body, bays: (body['state'] as Json)['enclosures'].flatMap((box: Json) => box['bays'] as string[]) };
}

it('commissioning a head with four extensions, and copying more into it than a year holds', async () => {
  const { unit, bays } = await unitOf('Greylag', 'causeway', 5, 16);
  const drives = bays.map((bay, i) => ({
    bay,
    bytes: TB16,
    basis: 'exact',
    ...(i % 2 === 0 ? { serial: long(`Q${String(i)}`, 64), model: long('m', 64) } : {}),
  }));
  const wish = {
    drives,
    pool: { name: long('Surveys', 60), scheme: 'parity-2-groups', groupWidth: 10 },
    copyBytes: 8e14,
    copyOver: '1',
  };
  const begun = await begin(unit, 'commission', wish);
  expect([begun.status, begun.body['detail']]).toEqual([201, undefined]);
});

it('replacing one, and all, of drives with the longest serials', async () => {
  for (const [job, wish] of [
    [
      'replace',
      { serial: long('Q1', 64), way: 'in-place', drive: { bytes: TB16, basis: 'exact', serial: long('N', 64) } },
    ],
    ['replace-all', { pool: '', drive: { bytes: 2 * TB16, basis: 'exact' }, way: 'in-place' }],
  ] as const) {
    const drives = Array.from({ length: 6 }, (_, i) => ({
      bay: String(i + 1),
      serial: long(`Q${job === 'replace' ? '' : 'A'}${String(i)}`, 64),
      bytes: TB16,
      basis: 'exact',
    }));
    const { unit } = await unitOf(`For ${job}`, 'plain', 1, 8, { drives, pool: { scheme: 'parity-2' } });
    const pool = Object.keys((unit['state'] as Json)['pools'] as Json)[0] ?? '';
    const begun = await begin(unit, job, { ...wish, ...('pool' in wish ? { pool } : {}) });
    expect([job, begun.status, begun.body['detail']]).toEqual([job, 201, undefined]);
  }
});

it('and all of it goes out and comes into an empty shelf', async () => {
  const other = await testShelf();
  try {
    const { exportedAt: _at, ...document } = (await ask('GET', '/export')).body;
    const there = await other.tokenOf('owner');
    expect((await other.ask('POST', '/import', there, { document })).body['done']).toBe(true);
  } finally {
    await other.close();
  }
});
