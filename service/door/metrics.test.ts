import pg from 'pg';
import { shelfOfFile } from '../testing/testShelf';
import { drivesFor, unitSent } from '../testing/unitSent';
import { metrics } from './metrics';

const shelf = await shelfOfFile();
const is = { version: '1.2.3', commit: 'abcdef012345' };
const read = async (headers: Record<string, string>) => {
  const response = await metrics(shelf.app, new Headers(headers), is);
  return { status: response.status, type: response.headers.get('content-type') ?? '', text: await response.text() };
};
const valueOf = (text: string, name: string): number | undefined => {
  const found = new RegExp(`^patient_shelf_${name}(?:\\{[^}]*\\})? (\\S+)$`, 'm').exec(text)?.[1];
  return found === undefined ? undefined : Number(found);
};

it('gives figures to whoever runs this machine, or holds a token for them; to nobody else', async () => {
  const bearer = async (...scopes: ('read' | 'write' | 'metrics')[]) => ({
    authorization: `Bearer ${await shelf.tokenOf('reader', scopes)}`,
  });
  expect((await read({ 'x-shelf-direct': 'yes' })).status).toBe(200);
  expect((await read(await bearer('metrics'))).status).toBe(200);
  expect((await read({ 'x-shelf-direct': 'no' })).status).toBe(401);
  expect((await read({})).status).toBe(401);
  expect((await read(await bearer('read', 'write'))).status).toBe(403);
  // A wrong token on this machine is a wrong token.
  expect((await read({ 'x-shelf-direct': 'yes', authorization: 'Bearer shelf_made-up' })).status).toBe(401);
  const { cookie } = await shelf.cookieOf('owner');
  expect((await read({ cookie })).status).toBe(401);
  // And it opens nothing else.
  const token = await shelf.tokenOf('owner', ['metrics']);
  expect((await shelf.ask('GET', '/units', token)).status).toBe(403);
});

it('counts what there is, in the form monitoring reads, and has no line for what is not known', async () => {
  const keeper = await shelf.tokenOf('keeper');
  const sent = unitSent('Heron', { profile: 'reedbank', drives: drivesFor('HERON', 4) });
  const { body } = await shelf.ask('POST', '/units', keeper, sent);
  const before = await read({ 'x-shelf-direct': 'yes' });
  expect(before.type).toMatch(/^application\/openmetrics-text; version=1\.0\.0/);
  expect(before.text).toMatch(/^# HELP patient_shelf_units Units on the shelf\.$/m);
  expect(before.text).toMatch(/^# TYPE patient_shelf_units gauge$/m);
  expect(before.text).toMatch(/# EOF\n?$/);
  expect(before.text).toContain('version="1.2.3",commit="abcdef012345"');
  expect(valueOf(before.text, 'units')).toBe(1);
  expect(valueOf(before.text, 'last_backup_timestamp_seconds')).toBeUndefined();
  expect(valueOf(before.text, 'last_look_timestamp_seconds')).toBeUndefined();
  // Neither names nor serials.
  expect(before.text).not.toMatch(/heron/i);

  await shelf.ask('POST', `/units/${String(body['id'])}/events`, keeper, {
    expectedVersion: body['version'],
    event: { kind: 'drive-failed', serial: 'HERON-3' },
  });
  const tables = new pg.Client({ connectionString: shelf.addresses.owner });
  await tables.connect();
  await tables.query(`insert into backup_made (at, bytes, entries) values ('2026-01-01T00:00:00Z', 5000, 1)`);
  await tables.end();
  const { text } = await read({ 'x-shelf-direct': 'yes' });
  expect(valueOf(text, 'needs')).toBeGreaterThan(valueOf(before.text, 'needs') ?? NaN);
  expect(valueOf(text, 'last_backup_timestamp_seconds')).toBe(Date.UTC(2026, 0, 1) / 1000);
  expect(valueOf(text, 'last_backup_bytes')).toBe(5000);
});
