import { shelfOfFile, type Json } from '../testing/testShelf';
import { BYTES, unitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');

const ask = (method: string, path: string, body?: unknown) => shelf.ask(method, path, keeper, body);
const drive = { bytes: BYTES, basis: 'exact' };
const DRAWER = { site: 'S', room: 'R', drawer: 'top' };

interface At {
  readonly id: string;
  readonly pool: string;
}

async function put(name: string): Promise<At> {
  const { body } = await ask('POST', '/units', unitSent(name, { profile: 'reedbank' }));
  return { id: String(body['id']), pool: Object.keys(body['state'].pools as Json)[0] ?? '' };
}
const now = async ({ id }: At): Promise<Json> => (await ask('GET', `/units/${id}`)).body;
const say = async (unit: At, event: object): Promise<Json> =>
  (await ask('POST', `/units/${unit.id}/events`, { expectedVersion: (await now(unit))['version'], event })).body;
const tell = async (serial: string, event: object): Promise<Json> =>
  (
    await ask('POST', `/drives/${serial}/events`, {
      expectedVersion: (await ask('GET', `/drives/${serial}`)).body['version'],
      event,
    })
  ).body;
const spares = async (unit: At): Promise<string[]> =>
  ((await ask('GET', `/spares?unit=${unit.id}`)).body['units'][0].bays as Json[]).flatMap(({ spares: found }) =>
    (found as Json[]).map(({ serial }) => String(serial)),
  );

describe('a drive that came out sick', () => {
  it('is no spare before a recorded test finds it well, wherever it is put', async () => {
    const [unit, other] = [await put('Avocet'), await put('Bittern')];
    await say(unit, { kind: 'drive-suspected', serial: 'Avocet-2', note: 'clicks' });
    await say(unit, { kind: 'drive-taken-out-of-service', serial: 'Avocet-2' });
    await say(unit, { kind: 'drive-removed', serial: 'Avocet-2' });
    await tell('Avocet-2', { kind: 'put-in-drawer', drawer: DRAWER });
    expect((await ask('GET', '/drives/AVOCET-2')).body['life']).toMatchObject({
      sick: { what: 'signs', note: 'clicks' },
      holds: { name: 'Pool 1' },
    });
    expect(await spares(other)).toEqual([]);

    // It is not fitted as the new drive either, not even by its last four, and nothing is recorded of it but that it was tried.
    const wish = { serial: 'Bittern-2', way: 'in-place', drive };
    const version = (await now(other))['version'];
    const started = (await ask('POST', `/units/${other.id}/plans`, { expectedVersion: version, job: 'replace', wish }))
      .body;
    const steps = `/units/${other.id}/plans/${String(started['plan'])}/steps`;
    const step = async (name: string, evidence: object) =>
      ask('POST', steps, { expectedVersion: (await now(other))['version'], step: name, evidence });
    for (const { id, asks } of started['run'].plan.steps as Json[]) {
      if (id === 'new-drive') break;
      expect(
        (await step(String(id), asks.kind === 'copy' ? { kind: 'copy', none: { why: 'x' } } : { kind: 'tick' })).status,
      ).toBe(201);
    }
    for (const serial of ['Avocet-2', 'et-2']) {
      const { body } = await step('new-drive', { kind: 'serial', serial });
      expect([body['code'], body['detail']]).toEqual([
        'sick-drive',
        expect.stringContaining('AVOCET-2 is no drive to rebuild onto: it showed signs when it came out on'),
      ]);
    }

    await tell('Avocet-2', { kind: 'tested', result: 'well', note: 'read through twice' });
    expect(await spares(other)).toEqual(['AVOCET-2', 'AVOCET-2', 'AVOCET-2']);
    // It still holds what it had in the other pool: that is said too.
    expect((await step('new-drive', { kind: 'serial', serial: 'Avocet-2' })).body).toMatchObject({
      code: 'holds-data',
    });
    await tell('Avocet-2', { kind: 'wiped', method: 'purge', how: 'overwritten', by: 'K' });
    expect((await step('new-drive', { kind: 'serial', serial: 'Avocet-2' })).status).toBe(201);
    expect((await step('new-drive', { kind: 'serial', serial: '1234' })).body).toMatchObject({ code: 'step-done' });
  });

  it('goes by what it had shown in the next unit, too', async () => {
    const unit = await put('Curlew');
    await say(unit, { kind: 'drive-failed', serial: 'Curlew-3', note: 'dead' });
    await say(unit, { kind: 'drive-removed', serial: 'Curlew-3' });
    const again = await say(unit, { kind: 'drive-inserted', bay: '3', drive: { serial: 'Curlew-3', ...drive } });
    expect(again['state'].drives['CURLEW-3']).toMatchObject({ condition: 'suspected', note: 'dead' });
  });
});

describe('a member that was out', () => {
  const out = async (name: string): Promise<At> => {
    const unit = await put(name);
    await say(unit, { kind: 'drive-removed', serial: `${name}-2` });
    return unit;
  };
  const back = (unit: At, name: string): Promise<Json> =>
    say(unit, { kind: 'drive-inserted', bay: '2', drive: { serial: `${name}-2`, ...drive } });
  const whole = (unit: At, name: string): Promise<Json> =>
    say(unit, { kind: 'pool-restored', pool: unit.pool, serials: [`${name}-2`] });

  it('is taken back whole where it only left its bay', async () => {
    const unit = await out('Dunlin');
    await back(unit, 'Dunlin');
    expect(await whole(unit, 'Dunlin')).toMatchObject({ margin: 1, standing: 'well' });
  });

  it('is not where it was wiped since, by the record or by a plan', async () => {
    const unit = await out('Egret');
    await tell('Egret-2', { kind: 'wiped', method: 'purge', how: 'overwritten', by: 'K' });
    await back(unit, 'Egret');
    expect(await whole(unit, 'Egret')).toMatchObject({ code: 'not-whole', errors: [{ pointer: '#/event/serials/0' }] });
    const wish = { serial: 'Egret-2', how: 'whole' };
    expect((await ask('POST', '/plans/came-back', { unit: unit.id, wish })).body).toMatchObject({
      code: 'not-whole',
      errors: [{ pointer: '#/wish/how' }],
    });
    expect((await ask('POST', '/plans/came-back', { unit: unit.id, wish: { ...wish, how: 'rebuild' } })).status).toBe(
      200,
    );
    expect(await now(unit)).toMatchObject({ margin: 0 });
  });

  it('is not where it stood in another unit since', async () => {
    const [unit, other] = [await out('Fulmar'), await put('Gannet')];
    await say(other, { kind: 'drive-inserted', bay: '4', drive: { serial: 'Fulmar-2', ...drive } });
    await say(other, { kind: 'drive-removed', serial: 'Fulmar-2' });
    await back(unit, 'Fulmar');
    expect(await whole(unit, 'Fulmar')).toMatchObject({ code: 'not-whole' });
  });
});
