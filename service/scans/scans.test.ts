import { describe, expect, it } from '@jest/globals';
import type { PlanRun } from '../../core/planRun/planRun';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { emptyUnitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');
const reader = await shelf.tokenOf('reader');
const BYTES = 8001563222016;
const ask = (method: string, path: string, body?: unknown, token = keeper) => shelf.ask(method, path, token, body);
const judge = (body: object, token = reader) => ask('POST', '/scans/judge', body, token);

/** Heron: a pool over three drives that can lose one; Egret: empty, with a plan to fit two drives of which one is named. */
async function bothUnits() {
  const drives = ['1', '2', '3'].map((bay) => ({ bay, serial: `HRN-700${bay}`, bytes: BYTES, basis: 'exact' }));
  const heron = (
    await ask('POST', '/units', {
      ...emptyUnitSent('Heron', { profile: 'reedbank', drives }),
      pool: { name: 'Papers', scheme: 'parity-1' },
    })
  ).body;
  const egret = (await ask('POST', '/units', emptyUnitSent('Egret', { profile: 'reedbank', bays: 4 }))).body;
  const wish = {
    drives: [
      { bay: '1', serial: 'EGR-ABC41', bytes: BYTES, basis: 'exact' },
      { bay: '2', serial: 'EGR-XYZ52', bytes: BYTES, basis: 'exact' },
      { bay: '3', bytes: BYTES, basis: 'exact' },
    ],
  };
  const begun = (
    await ask('POST', `/units/${String(egret['id'])}/plans`, {
      expectedVersion: egret['version'],
      job: 'commission',
      wish,
    })
  ).body;
  return { heron, egret, plan: String(begun['plan']), run: begun['run'] as PlanRun };
}
const { heron, egret, plan, run } = await bothUnits();
const unit = String(egret['id']);
const home = String(heron['id']);
const at = { unit, plan, step: 'fit-1' };

describe('a serial that is read, through the interface', () => {
  it('is judged for the list of a plan: this bay, another bay, already read, alike, none', async () => {
    expect(run.plan.steps.map(({ id }) => id)).toContain('fit-1');
    expect((await judge({ ...at, serial: 'egr-abc41' })).body).toMatchObject({ verdict: 'here', bay: '1' });
    expect((await judge({ ...at, serial: 'EGR-XYZ52' })).body).toMatchObject({ verdict: 'other-bay', bay: '2' });
    expect((await judge({ ...at, serial: 'EGR-XYZ52', read: [{ bay: '2', serial: 'EGR-XYZ52' }] })).body).toMatchObject(
      {
        verdict: 'already-in',
        bay: '2',
      },
    );
    expect((await judge({ ...at, serial: 'EGR-A8C41' })).body).toMatchObject({
      verdict: 'alike',
      alike: ['EGR-ABC41'],
    });
    // On no list, but a bay is open for any.
    expect((await judge({ ...at, serial: 'QQ-1234567' })).body).toMatchObject({ verdict: 'unknown', bay: '3' });
    const full = [{ bay: '3', serial: 'QQ-1234567' }];
    expect((await judge({ ...at, serial: 'WW-7654321', read: full })).body).toMatchObject({
      verdict: 'unknown',
      insteadOf: [{ bay: '1', expects: 'EGR-ABC41' }, { bay: '2' }],
    });
  });

  it('is told whose it is, with what its pool can still lose; and where it is stored', async () => {
    const known = (await judge({ ...at, serial: 'HRN-7001' })).body;
    expect(known).toMatchObject({ verdict: 'other-unit', unit: home, bay: '1', marginThere: 1 });
    expect(String(known['sentence'])).toMatch(/Put it back into bay 1 of Heron now/);
    // The same without a plan, and misread by one character that looks alike.
    expect((await judge({ unit, serial: 'HRN-7001' })).body).toMatchObject({ verdict: 'other-unit', unit: home });
    expect((await judge({ unit, serial: 'HRN-7OO1' })).body).toMatchObject({ verdict: 'alike', alike: ['HRN-7001'] });
    expect((await judge({ unit, serial: 'HRN-7OO1', not: ['HRN-7001'] })).body).toMatchObject({
      verdict: 'unknown',
      bay: '1',
    });
    // In its own unit it is in already.
    expect((await judge({ unit: home, serial: '7002' })).body).toMatchObject({ verdict: 'already-in', bay: '2' });
    await ask('POST', '/drives', {
      drives: [{ serial: 'SPARE-KLM9', drive: { bytes: BYTES, basis: 'exact' } }],
      drawer: { site: 'Main office', room: 'Rack', drawer: 'Drawer 2' },
    });
    expect((await judge({ unit, serial: 'SPARE-KLM9' })).body).toMatchObject({ verdict: 'stored', bay: '1' });
  });

  it('stops the same at the step, however the list was filled', async () => {
    for (const { id } of run.plan.steps) {
      if (id === 'fit-1') break;
      const now = (await ask('GET', `/units/${unit}`)).body;
      const step = run.plan.steps.find((one) => one.id === id);
      const evidence = step?.asks.kind === 'text' ? { kind: 'text', text: 'as written' } : { kind: 'tick' };
      await ask('POST', `/units/${unit}/plans/${plan}/steps`, { step: id, evidence, expectedVersion: now['version'] });
    }
    const fit = async (serials: readonly string[], more: object = {}) =>
      ask('POST', `/units/${unit}/plans/${plan}/steps`, {
        step: 'fit-1',
        expectedVersion: (await ask('GET', `/units/${unit}`)).body['version'],
        evidence: {
          kind: 'scans',
          scans: serials.map((serial, i) => ({
            bay: String(i + 1),
            serial,
            drive: { bytes: BYTES, basis: 'exact' },
            ...(i === 0 ? more : {}),
          })),
        },
      });
    const others = await fit(['EGR-ABC41', 'EGR-XYZ52', 'HRN-7001']);
    expect(others).toMatchObject({ status: 422, body: { code: 'wrong-serial' } });
    expect(String(others.body['detail'])).toContain('Put it back into bay 1 of Heron now');
    // Another than the planned one goes in where a person says instead of which, and not where nobody did.
    expect(await fit(['WW-7654321', 'EGR-XYZ52', 'QQ-1234567'])).toMatchObject({
      status: 422,
      body: { code: 'wrong-serial' },
    });
    expect((await fit(['WW-7654321', 'EGR-XYZ52', 'QQ-1234567'], { instead: 'EGR-ABC41' })).status).toBe(201);
    const { drives } = (await ask('GET', `/units/${unit}`)).body['state'] as { drives: Json };
    expect(Object.keys(drives).sort()).toEqual(['EGR-XYZ52', 'QQ-1234567', 'WW-7654321']);
  });

  it('is judged with the size that was read off it: half as large is told before a bay is', async () => {
    const small = { bytes: 4_000_787_030_016, basis: 'label', label: '4 TB' };
    const judged = (await judge({ ...at, serial: 'EGR-ABC41', drive: small })).body;
    expect(judged).toMatchObject({ verdict: 'here', stop: { code: 'too-small', mayOverride: true } });
    expect(String(judged['sentence'])).not.toContain('click');
    expect(await judge({ ...at, serial: 'EGR-ABC41', drive: { bytes: -1, basis: 'label' } })).toMatchObject({
      status: 422,
      body: { errors: [{ pointer: '#/drive/bytes' }] },
    });
  });

  it('takes one of two lists that come at once with other sizes, whole, and none that comes after', async () => {
    const made = (await ask('POST', '/units', emptyUnitSent('Dunlin', { profile: 'reedbank', bays: 4 }))).body;
    const id = String(made['id']);
    const wish = { drives: ['1', '2'].map((bay) => ({ bay, bytes: BYTES, basis: 'exact' })) };
    const begun = (
      await ask('POST', `/units/${id}/plans`, { expectedVersion: made['version'], job: 'commission', wish })
    ).body;
    const version = async () => (await ask('GET', `/units/${id}`)).body['version'];
    const step = async (body: object) =>
      ask('POST', `/units/${id}/plans/${String(begun['plan'])}/steps`, { expectedVersion: await version(), ...body });
    for (const one of (begun['run'] as PlanRun).plan.steps) {
      if (one.id === 'fit-1') break;
      await step({
        step: one.id,
        evidence: one.asks.kind === 'text' ? { kind: 'text', text: 'as written' } : { kind: 'tick' },
      });
    }
    const list = (drives: readonly (object | undefined)[]) => ({
      step: 'fit-1',
      evidence: {
        kind: 'scans',
        scans: drives.map((drive, i) => ({
          bay: String(i + 1),
          serial: `DUN-44${String(i)}-KX${String(i)}`,
          ...(drive && { drive }),
        })),
      },
    });
    const [eight, larger] = [
      { bytes: BYTES, basis: 'exact' },
      { bytes: 12_000_138_625_024, basis: 'exact' },
    ];
    // One of two that nobody read the size of: nothing of the list goes in.
    expect(await step(list([eight, undefined]))).toMatchObject({ status: 422, body: { code: 'size-unread' } });
    expect((await ask('GET', `/units/${id}`)).body['state']).toMatchObject({ drives: {} });
    const both = await Promise.all([step(list([eight, eight])), step(list([larger, larger]))]);
    expect(both.map(({ status }) => status).sort()).toEqual([201, 409]);
    const taken = both[0].status === 201 ? eight : larger;
    const drivesOf = async () =>
      Object.values(
        ((await ask('GET', `/units/${id}`)).body['state'] as { drives: Record<string, { bytes: number }> }).drives,
      ).map(({ bytes }) => bytes);
    expect(await drivesOf()).toEqual([taken.bytes, taken.bytes]);
    const late = await step(list([taken === eight ? larger : eight, taken === eight ? larger : eight]));
    expect(late.status).toBeGreaterThanOrEqual(400);
    expect(await drivesOf()).toEqual([taken.bytes, taken.bytes]);
  });

  it('refuses what it cannot judge, with the field', async () => {
    const none = '99999999-9999-4999-8999-999999999999';
    expect(await judge({ unit: none, serial: 'A' })).toMatchObject({ status: 404 });
    expect(await judge({ unit, plan: none, serial: 'A' })).toMatchObject({
      status: 404,
      body: { errors: [{ pointer: '#/plan' }] },
    });
    expect(await judge({ unit, step: 'fit-1', serial: 'A' })).toMatchObject({
      status: 422,
      body: { errors: [{ pointer: '#/plan' }] },
    });
    expect(await judge({ ...at, step: 'nothing', serial: 'A' })).toMatchObject({ status: 404 });
    expect(await judge({ ...at, step: 'attention', serial: 'A' })).toMatchObject({
      status: 422,
      body: { code: 'no-scan' },
    });
    expect(await judge({ ...at, bay: '4', serial: 'A' })).toMatchObject({ status: 422, body: { code: 'bay-unknown' } });
    expect(await judge({ unit, serial: '' })).toMatchObject({ status: 422 });
    expect(await judge({ unit, serial: 'A', more: 1 })).toMatchObject({ status: 422 });
  });
});
