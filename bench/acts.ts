/**
 * What an act costs, asked through the door like any client: a note on one unit, beside the same note with half a year of
 * entries behind it, and beside a whole pool of 24 drives that moves from one unit to another.
 *
 * Run: npm run bench:acts
 */
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { labelBytes } from '../core/drive/labelBytes';
import { startCluster } from '../ops/cluster';
import { openSecrets } from '../ops/secrets';
import { testShelf, type Json } from '../service/testing/testShelf';

const ROUNDS = 60;
const DRIVES = 24;
const BYTES = labelBytes(8000);
const folder = mkdtempSync(join(tmpdir(), 'shelf-acts-'));
chmodSync(folder, 0o711);
mkdirSync(join(folder, 'log'));
const cluster = await startCluster(folder, openSecrets(folder));
process.env['SHELF_TEST_URLS'] = JSON.stringify(
  Object.fromEntries(
    (['postgres', 'patient_shelf_owner', 'patient_shelf_app'] as const).map((role) => [
      role,
      cluster.url(role, 'DATABASE'),
    ]),
  ),
);
const shelf = await testShelf();
try {
  const keeper = await shelf.tokenOf('keeper');
  const ask = async (path: string, body: unknown): Promise<Json> => {
    const answer = await shelf.ask('POST', path, keeper, body);
    if (answer.status >= 300) throw new Error(JSON.stringify(answer.body));
    return answer.body;
  };
  const drives = Array.from({ length: DRIVES }, (_, i) => ({
    bay: String(i + 1),
    serial: `QH8-${String(i + 1)}`,
    bytes: BYTES,
    basis: 'exact',
  }));
  const putUp = (name: string, more: object = {}): Promise<Json> =>
    ask('/units', { name, place: { site: 'Office', room: 'rack' }, profile: 'plain', bays: DRIVES, ...more });
  const homes = [await putUp('Avocet', { drives, pool: { scheme: 'parity-2' } }), await putUp('Bunting')];
  const others = drives.map((drive) => ({ ...drive, serial: `X${drive.serial}` }));
  const young = await putUp('Crake', { drives: others, pool: { scheme: 'parity-2' } });
  const old = await putUp('Dunlin', {
    drives: others.map((drive) => ({ ...drive, serial: `Y${drive.serial}` })),
    pool: { scheme: 'parity-2' },
  });
  const note = (unit: Json) => async (): Promise<void> => {
    const { version } = await ask(`/units/${String(unit['id'])}/events`, {
      expectedVersion: unit['version'],
      event: { kind: 'noted', note: 'looked at' },
    });
    unit['version'] = version;
  };
  for (let i = 0; i < 1000; i++) await note(old)();

  let at = 0;
  const movePool = async (): Promise<void> => {
    const [from, to] = [homes[at] as Json, homes[1 - at] as Json];
    at = 1 - at;
    const { body } = await shelf.ask('GET', `/units/${String(from['id'])}`, keeper);
    const [pool] = Object.values(body['state'].pools as Record<string, Json>);
    const { kind: _kind, id, missing: _missing, lost: _lost, arrivedFrom: _from, ...built } = pool as Json;
    await ask('/acts', {
      id: randomUUID(),
      entries: [
        { unit: from['id'], event: { kind: 'pool-left', pool: id, to: to['id'] } },
        ...drives.flatMap(({ bay, serial }) => [
          { unit: from['id'], event: { kind: 'drive-removed', serial } },
          { unit: to['id'], event: { kind: 'drive-inserted', bay, drive: { serial, bytes: BYTES, basis: 'exact' } } },
        ]),
        { unit: to['id'], event: { ...(built as object), kind: 'pool-arrived', pool: id, from: from['id'] } },
      ],
    });
  };
  const took: Record<'note' | 'old' | 'move', number[]> = { note: [], old: [], move: [] };
  const timed = async (name: keyof typeof took, run: () => Promise<void>): Promise<void> => {
    const start = performance.now();
    await run();
    took[name].push(performance.now() - start);
  };
  // In turns, so that whatever else the machine does falls on all of them.
  for (let round = 0; round < ROUNDS; round++) {
    await timed('note', note(young));
    await timed('old', note(old));
    await timed('move', movePool);
  }
  const median = (name: keyof typeof took): number => took[name].sort((a, b) => a - b)[Math.floor(ROUNDS / 2)] ?? NaN;
  const one = median('note');
  const row = (words: string, ms: number): void =>
    console.log(`${words.padEnd(52)} ${ms.toFixed(1).padStart(7)} ms  ${(ms / one).toFixed(2)}×`);
  row('A note on a unit of 24 drives', one);
  row('The same after a thousand entries', median('old'));
  row('A pool of 24 drives moves to another unit', median('move'));
} finally {
  await shelf.close();
  await cluster.stop();
  rmSync(folder, { recursive: true });
}
