import { expectedEvidence } from '../../core/plan/engine/dryRun';
import type { PlanRun } from '../../core/planRun/planRun';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { emptyUnitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');
const ask = (method: string, path: string, body?: unknown) => shelf.ask(method, path, keeper, body);
const NEW = { bytes: 8001563222016, basis: 'exact' };

it('a unit goes out of use by its plan: each drive’s own ledger says what became of it, taken back with the step', async () => {
  const drives = ['1', '2'].map((bay) => ({ bay, serial: `RAIL-${bay}0-LONG`, ...NEW }));
  const sent = { ...emptyUnitSent('Rail', { profile: 'reedbank', drives }), pool: { name: 'P', scheme: 'mirror' } };
  const { body: unit } = await ask('POST', '/units', sent);
  const id = String(unit['id']);
  const now = async (): Promise<Json> => (await ask('GET', `/units/${id}`)).body;
  const lifeOf = async (serial: string): Promise<Json> => (await ask('GET', `/drives/${serial}`)).body['life'] as Json;
  const started = await ask('POST', `/units/${id}/plans`, {
    expectedVersion: (await now())['version'],
    job: 'retire',
    wish: {},
  });
  expect(started.status).toBe(201);
  const at = `/units/${id}/plans/${String(started.body['plan'])}`;
  const step = async (of: string, evidence: object) =>
    ask('POST', `${at}/steps`, { step: of, evidence, expectedVersion: (await now())['version'] });
  const fates = (goes: object, wiped?: object) => ({
    kind: 'fates',
    fates: drives.map(({ serial }) => ({ serial, goes, ...(wiped ? { wiped } : {}) })),
  });
  const wiped = { method: 'purge', how: 'its own erase command', by: 'Ruff', checked: true };
  for (const one of (started.body['run'] as PlanRun).plan.steps) {
    if (one.id !== 'fates') {
      const done = await step(one.id, expectedEvidence(one, new Date().toISOString()));
      if (done.status !== 201) throw new Error(`${one.id}: ${JSON.stringify(done.body)}`);
      continue;
    }
    expect((await step('fates', fates({ kind: 'away', to: 'the scrap yard' }))).body).toMatchObject({
      code: 'unwiped',
    });
    expect((await step('fates', fates({ kind: 'away', to: ' ' }, wiped))).status).toBe(422);
    expect((await lifeOf('RAIL-10-LONG'))['where']).toMatchObject({ kind: 'in-hand' });
    expect((await step('fates', fates({ kind: 'away', to: 'the scrap yard' }, wiped))).status).toBe(201);
    expect(await lifeOf('RAIL-20-LONG')).toMatchObject({
      where: { kind: 'gone', to: 'the scrap yard' },
      wiped: { method: 'purge', checked: true },
      holds: null,
    });
    // Taken back, they are where they were, with what is on them.
    const back = await ask('POST', `${at}/back`, { expectedVersion: (await now())['version'], step: 'fates' });
    expect(back.status).toBe(201);
    expect(await lifeOf('RAIL-20-LONG')).toMatchObject({ where: { kind: 'in-hand' }, wiped: null });
    const drawer = { kind: 'drawer', site: 'S', room: 'R', drawer: 'top' };
    expect((await step('fates', fates(drawer, { ...wiped, checked: false }))).status).toBe(201);
    expect(await lifeOf('RAIL-10-LONG')).toMatchObject({ where: { kind: 'drawer', drawer: 'top' }, wiped: {} });
  }
  expect((await now())['state']).toMatchObject({
    retired: {},
    pools: {},
    name: expect.stringMatching(/^Rail \(retired /) as unknown,
  });
  const ended = await ask('POST', `${at}/end`, { expectedVersion: (await now())['version'], how: 'finished' });
  expect(ended.status).toBe(201);
  expect((await ask('POST', '/units', emptyUnitSent('Rail', { profile: 'reedbank', bays: 2 }))).status).toBe(201);
});
