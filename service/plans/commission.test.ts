import { expectedEvidence } from '../../core/plan/engine/dryRun';
import type { PlanRun } from '../../core/planRun/planRun';
import { usedOf } from '../../store/readings';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { emptyUnitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');

const NEW = { bytes: 8001563222016, basis: 'exact' };
const ask = (method: string, path: string, body?: unknown) => shelf.ask(method, path, keeper, body);

describe('a unit commissioned through the interface', () => {
  it('takes a list of serials whole or not at all, knows each drive, counts, and is as full as what was copied in', async () => {
    const { body: unit } = await ask('POST', '/units', emptyUnitSent('Ruff', { profile: 'reedbank', bays: 2 }));
    const id = String(unit['id']);
    // One of them is known, and sick.
    const drives = ['2', '3'].map((bay) => ({ bay, serial: `RAIL-${bay}`, ...NEW }));
    const { body: rail0 } = await ask('POST', '/units', emptyUnitSent('Rail', { profile: 'reedbank', drives }));
    const home = rail0['id'];
    await ask('POST', `/units/${String(home)}/events`, {
      expectedVersion: rail0['version'],
      event: { kind: 'drive-failed', serial: 'RAIL-2' },
    });
    const rail = (await ask('GET', `/units/${String(home)}`)).body;
    await ask('POST', `/units/${String(home)}/events`, {
      expectedVersion: rail['version'],
      event: { kind: 'drive-removed', serial: 'RAIL-2' },
    });
    const wish = {
      drives: ['1', '2'].map((bay) => ({ bay, ...NEW })),
      pool: { name: 'P', scheme: 'mirror' },
      copyBytes: 2e12,
      copyOver: '10',
    };
    const started = await ask('POST', `/units/${id}/plans`, {
      expectedVersion: unit['version'],
      job: 'commission',
      wish,
    });
    const address = `/units/${id}/plans/${String(started.body['plan'])}`;
    const version = async (): Promise<number> => Number((await ask('GET', `/units/${id}`)).body['version']);
    const step = async (of: string, evidence: object) =>
      ask('POST', `${address}/steps`, { step: of, evidence, expectedVersion: await version() });
    const scans = (...serials: string[]) => ({
      kind: 'scans',
      scans: serials.map((serial, i) => ({ bay: String(i + 1), serial, drive: { bytes: NEW.bytes, basis: 'exact' } })),
    });
    for (const one of (started.body['run'] as PlanRun).plan.steps) {
      const { id: of } = one;
      if (of === 'fit-1') {
        const was = await version();
        expect(await step(of, scans('RUFF-1'))).toMatchObject({
          status: 422,
          body: { code: 'not-scanned', errors: [{ pointer: '#/evidence/scans' }] },
        });
        expect(await step(of, scans('RUFF-1', 'ruff-1'))).toMatchObject({
          status: 422,
          body: { code: 'scanned-twice', errors: [{ pointer: '#/evidence/scans/1' }] },
        });
        expect(await step(of, scans('RUFF-1', 'RAIL-3'))).toMatchObject({
          status: 422,
          body: { code: 'wrong-serial' },
        });
        expect(await step(of, scans('RUFF-1', 'RAIL-2'))).toMatchObject({ status: 422, body: { code: 'sick-drive' } });
        const now = (await ask('GET', `/units/${id}`)).body;
        expect([now['version'], (now['state'] as Json)['drives']]).toEqual([was + 2, {}]);
        expect((await step(of, scans('RUFF-1', 'RUFF-2'))).status).toBe(201);
        continue;
      }
      if (of === 'copy')
        expect(await step(of, { kind: 'tick' })).toMatchObject({ status: 422, body: { code: 'too-early' } });
      const done = await step(of, expectedEvidence(one, new Date().toISOString()));
      if (done.status !== 201) throw new Error(`${of}: ${JSON.stringify(done.body)}`);
    }
    const { state } = (await ask('GET', `/units/${id}`)).body as { state: Json };
    const pool = Object.keys(state['pools'] as Json)[0] as string;
    expect(state['jobs']).toEqual({});
    expect(await usedOf(shelf.app.db, [pool])).toEqual({ [pool]: 2e12 });
    // Said again after a step back, it is not fuller.
    expect((await ask('POST', `${address}/back`, { expectedVersion: await version(), step: 'compare' })).status).toBe(
      201,
    );
    expect((await ask('POST', `${address}/back`, { expectedVersion: await version(), step: 'copy' })).status).toBe(201);
    expect((await step('copy', { kind: 'page', says: 'done', again: true })).status).toBe(201);
    expect(await usedOf(shelf.app.db, [pool])).toEqual({ [pool]: 2e12 });
  });
});
