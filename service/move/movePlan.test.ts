import { randomUUID } from 'node:crypto';
import { ARRIVALS } from '../../core/plan/engine/carrying';
import { expectedEvidence } from '../../core/plan/engine/dryRun';
import type { PlanRun } from '../../core/planRun/planRun';
import { nextStep } from '../../core/planRun/progress';
import { readShelf } from '../units/readShelf';
import { readUnitNames } from '../units/readUnitNames';
import { shelfOfFile, testShelf, type Json } from '../testing/testShelf';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');

const ask = (method: string, path: string, body?: unknown) => shelf.ask(method, path, keeper, body);
const BYTES = 4000787030016;
const PLACE = { site: 'House', room: 'Rack' };

async function unit(name: string, more: object): Promise<Json> {
  return (await ask('POST', '/units', { name, place: PLACE, profile: 'reedbank', bays: 4, ...more })).body;
}
const drives = (name: string, count: number) =>
  Array.from({ length: count }, (_, i) => ({
    bay: String(i + 1),
    serial: `${name.toUpperCase()}-${String(i + 1)}`,
    bytes: BYTES,
    basis: 'exact',
    model: 'Quernholt Q4C',
    media: 'hard-disk',
    priceCents: 9900,
    lot: '0310',
    boughtOn: '2025-01-02',
    warrantyUntil: '2030-01-01',
  }));
const now = async (id: string): Promise<Json> => (await ask('GET', `/units/${id}`)).body;

interface Begun {
  readonly from: string;
  readonly to: string;
  readonly plan: string;
}
async function begin(from: string, to: string, wish: object): Promise<Begun> {
  const { version } = await now(from);
  const { status, body } = await ask('POST', `/units/${from}/plans`, {
    expectedVersion: version,
    job: 'move',
    wish: { to, ...wish },
  });
  if (status !== 201) throw new Error(JSON.stringify(body));
  return { from, to, plan: String(body['plan']) };
}
const runOf = async ({ from, plan }: Begun): Promise<PlanRun> =>
  (await ask('GET', `/units/${from}/plans/${plan}`)).body['run'] as PlanRun;
async function step({ from, plan }: Begun, id: string, evidence: object, as = keeper) {
  const { version } = await now(from);
  return shelf.ask('POST', `/units/${from}/plans/${plan}/steps`, as, { expectedVersion: version, step: id, evidence });
}
/** Works it as somebody does who does everything right, up to a step or to its end. */
async function work(begun: Begun, upTo?: string): Promise<void> {
  for (;;) {
    const next = nextStep(await runOf(begun));
    if (!next || next.id === upTo) return;
    const evidence =
      next.asks.kind === 'picture'
        ? { kind: 'picture', paper: randomUUID() }
        : next.asks.kind === 'copy'
          ? { kind: 'copy', copy: { where: 'the bank', keeps: 'versions', offSite: true } }
          : expectedEvidence(next, new Date().toISOString());
    const { status, body } = await step(begun, next.id, evidence);
    if (status !== 201) throw new Error(`${next.id}: ${JSON.stringify(body)}`);
  }
}
/** What is taken away comes back elsewhere, and is taken away again as the very same. */
async function comesBack(): Promise<void> {
  const there = await testShelf();
  try {
    const as = await there.tokenOf('owner');
    const { body: document } = await shelf.ask('GET', '/export', await shelf.tokenOf('owner'));
    const { body } = await there.ask('POST', '/import', as, { document });
    expect([body['done'], (body['rows'] as Json[]).filter(({ verdict }) => verdict === 'refused')]).toEqual([true, []]);
    const again = (await there.ask('GET', '/export', as)).body;
    expect(again['acts']).toEqual(document['acts']);
    expect(((await there.ask('GET', '/units', as)).body['units'] as Json[]).map(({ state }) => state)).toEqual(
      ((await ask('GET', '/units')).body['units'] as Json[]).map(({ state }) => state),
    );
  } finally {
    await there.close();
  }
}

it('carries a unit over through the one door; half-way and at its end it is taken away and brought back the same', async () => {
  const old = await unit('Carr', { drives: drives('Carr', 3), pool: { scheme: 'parity-1' } });
  const newer = await unit('Carrow', {});
  const [from, to] = [String(old['id']), String(newer['id'])];
  const { body: seen } = await ask('POST', '/plans/move', { from, to, way: 'carry-by-slot' });
  expect((seen['dryRun'] as Json[]).every(({ kind }) => kind === 'dry-step')).toBe(true);
  expect(seen['risks']).toHaveLength(1);
  const begun = await begin(from, to, { way: 'carry-by-slot' });
  await work(begun, 'in-1');
  expect((await now(from))['state'].packed.bays).toEqual({ 'CARR-1': '1', 'CARR-2': '2', 'CARR-3': '3' });
  await comesBack();

  // Half-way neither takes anything else on, and the pool has all its margin.
  const other = await ask('POST', `/units/${from}/plans`, {
    expectedVersion: (await now(from))['version'],
    job: 'replace',
    wish: { serial: 'CARR-1', way: 'in-place', drive: { bytes: BYTES, basis: 'exact' } },
  });
  expect([409, 422]).toContain(other.status);
  await work(begun);
  await ask('POST', `/units/${from}/plans/${begun.plan}/end`, {
    expectedVersion: (await now(from))['version'],
    how: 'finished',
  });
  expect((await now(from))['state'].pools).toEqual({});
  expect(Object.values((await now(to))['state'].pools as Json)).toMatchObject([{ scheme: 'parity-1', missing: [] }]);
  const { body: life } = await ask('GET', '/drives/CARR-2');
  expect(life['life']).toMatchObject({ where: { kind: 'bay', unit: to, bay: '2' } });
  // The old one goes out of use: off the shelf and every list, and not out of the record.
  const retire = async (id: string) =>
    ask('POST', `/units/${id}/events`, {
      expectedVersion: (await now(id))['version'],
      event: { kind: 'unit-retired', note: 'to e-waste' },
    });
  expect((await retire(to)).body).toMatchObject({ code: 'not-empty' });
  expect((await retire(from)).status).toBe(201);
  const onShelf = await readShelf(shelf.app, new Date(), undefined, 0, 40, 40);
  expect(onShelf.units.map(({ id }) => id)).not.toContain(from);
  expect(onShelf.retired).toMatchObject([{ id: from, name: expect.stringMatching(/^Carr \(retired /) as unknown }]);
  // Its name is free for another.
  const again = { name: 'Carr', place: { site: 'S', room: 'R' }, profile: 'reedbank', bays: 2 };
  expect((await ask('POST', '/units', again)).status).toBe(201);
  expect((await readUnitNames(shelf.app)).map(({ id }) => id)).not.toContain(from);
  expect((await now(from))['state'].retired.note).toBe('to e-waste');
  await comesBack();
});

it('a question to erase is answered by a plan that takes over: the drives are back where they were', async () => {
  const old = await unit('Mere', { drives: drives('Mere', 2), pool: { scheme: 'mirror' } });
  const newer = await unit('Merewell', {});
  const [from, to] = [String(old['id']), String(newer['id'])];
  const begun = await begin(from, to, { way: 'carry-by-slot' });
  await work(begun, 'arrived');
  const asked = await step(begun, 'arrived', { kind: 'choice', choice: ARRIVALS[1] });
  expect(asked.body).toMatchObject({ code: 'asks-to-erase', interlocks: [{ mayOverride: false }] });
  // Whoever owns it does not go on here either.
  const owner = await shelf.tokenOf('owner');
  const forced = await shelf.ask('POST', `/units/${from}/plans/${begun.plan}/steps`, owner, {
    expectedVersion: (await now(from))['version'],
    step: 'arrived',
    evidence: { kind: 'choice', choice: ARRIVALS[1] },
    override: { serial: 'MERE-1', reason: 'It will be well' },
  });
  expect(forced.body).toMatchObject({ code: 'no-override' });
  const { body, status } = await ask('POST', `/units/${from}/plans`, {
    expectedVersion: (await now(from))['version'],
    job: 'carry-back',
    wish: {},
  });
  expect(status).toBe(201);
  expect((await runOf(begun)).ended).toMatchObject({ how: 'stopped' });
  await work({ from, to, plan: String(body['plan']) });
  expect((await now(from))['state']).toMatchObject({ power: 'on', drives: { 'MERE-1': { bay: '1' } } });
  expect((await now(from))['state'].packed).toBeUndefined();
  expect(Object.keys((await now(to))['state'].plans as object)).toEqual([
    Object.keys((await now(from))['state'].plans as object)[0],
  ]);
  await comesBack();
});

it('copies over and cuts over: the data is at home at the newer one, and the old drive is its second', async () => {
  const old = await unit('Tarn', { bays: 1, drives: drives('Tarn', 1), pool: { scheme: 'separate' } });
  const newer = await unit('Tarnhow', { bays: 2, drives: drives('Tarnhow', 1), pool: { scheme: 'separate' } });
  const [from, to] = [String(old['id']), String(newer['id'])];
  const pool = Object.keys((await now(from))['state'].pools as Json)[0] ?? '';
  await ask('POST', '/readings', {
    readings: [{ unit: from, subject: pool, metric: 'used-bytes', at: new Date().toISOString(), value: 5e11 }],
  });
  const begun = await begin(from, to, { way: 'copy', addOld: true });
  // Restored too early, the configuration overwrites the shares that are made next.
  expect((await step(begun, 'people', { kind: 'tick' })).body).toMatchObject({ code: 'not-yet' });
  await work(begun);
  const end = (await now(to))['state'];
  expect(Object.values(end.pools as Json)).toMatchObject([{ scheme: 'mirror', missing: [] }]);
  expect(Object.values(end.dataSets as Json)).toHaveLength(1);
  expect((await now(from))['state']).toMatchObject({ power: 'off', pools: {}, dataSets: {} });
  await comesBack();
  // What only the model makes is looked at all the same when it comes from outside.
  const owner = await shelf.tokenOf('owner');
  const { body: document } = await shelf.ask('GET', '/export', owner);
  for (const broken of [
    { d: { id: 'd', name: 'D', copies: null } },
    { d: { id: 'd', name: 'D', copies: { c: {} } } },
  ]) {
    const acts = (document['acts'] as Json[]).map((act) => ({
      ...act,
      entries: (act['entries'] as Json[]).map((entry) =>
        (entry['event'] as Json)['kind'] === 'data-arrived'
          ? { ...entry, event: { ...(entry['event'] as Json), dataSets: broken } }
          : entry,
      ),
    }));
    const refused = await shelf.ask('POST', '/import', owner, { document: { ...document, acts } });
    expect([400, 422]).toContain(refused.status);
  }
});

it('joins several units to one, one after the other, each beside what is there: it keeps its address, and nothing is lost', async () => {
  const small = { bays: 1, pool: { scheme: 'separate' } };
  const [first, second, one] = [
    await unit('Lode', { ...small, drives: drives('Lode', 1) }),
    await unit('Sike', { ...small, drives: drives('Sike', 1) }),
    await unit('Washland', { bays: 4, drives: drives('Washland', 4), pool: { scheme: 'parity-1' } }),
  ].map(({ id }) => String(id)) as [string, string, string];
  await ask('POST', `/units/${one}/events`, {
    expectedVersion: (await now(one))['version'],
    event: { kind: 'unit-described', details: { address: '10.1.1.9' } },
  });
  const merge = (to: string, ...from: string[]) => ask('POST', '/plans/merge', { to, from });
  for (const [of, pointer] of [
    [merge(one, first, one), '#/from/1'],
    [merge(one, first, second, first.toUpperCase()), '#/from/2'],
    [merge(one, randomUUID()), '#/from/0'],
    [merge(one), '#/from'],
  ] as const)
    expect((await of).body).toMatchObject({ errors: [{ pointer }] });
  const asked = (await merge(one, first, second)).body['joining'] as Json[];
  expect(asked.map(({ whyNot, pool }) => [whyNot, (pool as Json)['leftBytes'] !== undefined])).toEqual([
    [[], true],
    [[], true],
  ]);
  // The first: nothing is at home there yet, so it is said.
  const begun = await begin(first, one, { way: 'copy', joins: true });
  await work(begun);
  await ask('POST', `/units/${first}/plans/${begun.plan}/end`, {
    expectedVersion: (await now(first))['version'],
    how: 'finished',
  });
  // The second joins what came with the first by itself.
  await work(await begin(second, one, { way: 'copy' }));
  const end = (await now(one))['state'];
  expect(end.details).toMatchObject({ address: '10.1.1.9' });
  expect(end.name).toBe('Washland');
  expect(Object.values(end.dataSets as Json)).toHaveLength(2);
  for (const old of [first, second])
    expect((await now(old))['state']).toMatchObject({ power: 'off', dataSets: {}, movedTo: { unit: one } });
  await comesBack();
});

it('splits a part off to another unit, and the rest stays at home; taken away and brought back it is the same', async () => {
  const small = { bays: 1, pool: { scheme: 'separate' } };
  const [from, to] = [
    String((await unit('Eau', { ...small, drives: drives('Eau', 1) }))['id']),
    String((await unit('Leam', { ...small, drives: drives('Leam', 1) }))['id']),
  ];
  const pool = Object.keys((await now(from))['state'].pools as Json)[0] ?? '';
  for (const [dataSet, name] of [
    ['maps', 'Maps'],
    ['papers', 'Papers'],
  ])
    await ask('POST', `/units/${from}/events`, {
      expectedVersion: (await now(from))['version'],
      event: { kind: 'data-set-described', dataSet, name, pool, bytes: 1e11 },
    });
  for (const [wish, code] of [
    [{ dataSets: [] }, 'invalid'],
    [{ dataSets: ['nobody'] }, 'data-set-unknown'],
    [{ way: 'assistant', dataSets: ['maps'] }, 'not-possible'],
  ] as const) {
    const { body } = await ask('POST', `/units/${from}/plans`, {
      expectedVersion: (await now(from))['version'],
      job: 'move',
      wish: { to, way: 'copy', ...wish },
    });
    expect(body).toMatchObject(code === 'invalid' ? { status: 422 } : { code });
  }
  await work(await begin(from, to, { way: 'copy', dataSets: ['maps'] }));
  expect(Object.keys((await now(to))['state'].dataSets as Json)).toEqual(['maps']);
  expect(Object.keys((await now(from))['state'].dataSets as Json)).toEqual(['papers']);
  expect((await now(from))['state']).toMatchObject({ power: 'on' });
  await comesBack();
});

it('takes the same beginning twice at once, as from two taps, for one plan', async () => {
  const old = await unit('Hipper', { drives: drives('Hipper', 2), pool: { scheme: 'mirror' } });
  const newer = await unit('Hipperholme', {});
  const [from, to] = [String(old['id']), String(newer['id'])];
  const act = '3b0a4a2e-6f0c-4a51-9d5f-0d1f7f0a9c11';
  const body = { act, expectedVersion: (await now(from))['version'], job: 'move', wish: { to, way: 'carry-by-slot' } };
  const both = await Promise.all([1, 2].map(() => ask('POST', `/units/${from}/plans`, body)));
  expect(both.map(({ status, body: { plan } }) => [status, plan])).toEqual([
    [201, act],
    [201, act],
  ]);
});

it('of two who begin at once one is first, and the other is told', async () => {
  const old = await unit('Fleet', { drives: drives('Fleet', 2), pool: { scheme: 'mirror' } });
  const newer = await unit('Fleetham', {});
  const [from, to] = [String(old['id']), String(newer['id'])];
  const body = { expectedVersion: (await now(from))['version'], job: 'move', wish: { to, way: 'carry-by-slot' } };
  const both = await Promise.all([1, 2].map(() => ask('POST', `/units/${from}/plans`, body)));
  expect(both.map(({ status }) => status).sort()).toEqual([201, 409]);
  const begun = { from, to, plan: String(both.find(({ status }) => status === 201)?.body['plan']) };
  // Late by more than a moment it is told the same, not that the plan cannot be made.
  expect((await ask('POST', `/units/${from}/plans`, body)).status).toBe(409);
  // The answer was lost, and it is sent once more: the plan it began.
  expect((await ask('POST', `/units/${from}/plans`, { ...body, act: begun.plan })).body['plan']).toBe(begun.plan);
  await work(begun, 'old-off');
  const { version } = await now(from);
  const sent = { expectedVersion: version, step: 'old-off', evidence: { kind: 'tick' } };
  const twice = await Promise.all([1, 2].map(() => ask('POST', `/units/${from}/plans/${begun.plan}/steps`, sent)));
  expect(twice.map(({ status }) => status).sort()).toEqual([201, 409]);
  // From the other unit's address it is the same plan.
  expect((await ask('GET', `/units/${to}/plans/${begun.plan}`)).body['next']).toBe('new-off');
});

it.each<[string, (of: { readonly from: string; readonly to: string }) => object, string]>([
  ['to itself', ({ from }) => ({ to: from.toUpperCase(), way: 'copy' }), '#/wish/to'],
  ['to a unit nobody knows', () => ({ to: randomUUID(), way: 'copy' }), '#/wish/to'],
  ['by a way that is none', ({ to }) => ({ to, way: 'post' }), '#/wish/way'],
  ['by a way that is not possible', ({ to }) => ({ to, way: 'carry-by-serial' }), '#/wish/way'],
  ['with a field nobody knows', ({ to }) => ({ to, way: 'copy', fast: true }), '#/wish/fast'],
])('refuses to move a unit %s, at the field', async (what, wish, pointer) => {
  const name = `N${what.length.toString()}`;
  const old = await unit(`${name} old`, { drives: drives(name, 2), pool: { scheme: 'mirror' } });
  const newer = await unit(`${name} newer`, {});
  const { status, body } = await ask('POST', `/units/${String(old['id'])}/plans`, {
    expectedVersion: old['version'],
    job: 'move',
    wish: wish({ from: String(old['id']), to: String(newer['id']) }),
  });
  expect(status).toBeGreaterThanOrEqual(400);
  expect(status).toBeLessThan(500);
  expect(body).toMatchObject({ errors: [{ pointer }] });
});
