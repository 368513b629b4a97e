import pg from 'pg';
import { openDatabase } from '~/store/database';
import { catalogueOf } from '~/store/catalogue';
import { testShelf, type Json, type TestShelf } from '../testing/testShelf';
import { drivesFor, emptyUnitSent } from '../testing/unitSent';
import { whatIsOff } from './soundness';

let shelf: TestShelf;
beforeAll(async () => {
  shelf = await testShelf();
  const owner = await shelf.tokenOf('owner');
  for (const name of ['Teal', 'Smew']) {
    const about = { profile: 'reedbank', drives: drivesFor(name, 1) };
    const { body } = await shelf.ask('POST', '/units', owner, emptyUnitSent(name, about));
    await shelf.ask('POST', `/units/${String(body['id'])}/events`, owner, {
      expectedVersion: (body as Json)['version'],
      event: { kind: 'noted', note: 'x' },
    });
  }
});
afterAll(() => shelf.close());

/** What the tables' owner can do and the application cannot; mended again afterwards. */
async function tamper(statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: shelf.addresses.owner });
  await client.connect();
  try {
    await client.query(statement);
  } finally {
    await client.end();
  }
}

it('finds nothing off in what was recorded', async () => {
  expect(await whatIsOff(shelf.app.db)).toEqual({ broken: [], odd: [] });
});

// Each is done, found, and undone by the second statement.
it.each([
  [
    `update entry set seq = 7 where kind = 'noted' and ledger = 'unit'`,
    `update entry set seq = 4 where kind = 'noted'`,
    /entries numbered up to 7/,
  ],
  [
    `update entry set body = '{"note": ""}' where kind = 'noted'`,
    `update entry set body = '{"note": "x"}' where kind = 'noted'`,
    /Act .*: entries 0 event note must/,
  ],
  [
    `update act set recorded_at = now() + interval '2 days' where n = 1`,
    `update act set recorded_at = happened_at where n = 1`,
    /has not come yet/,
  ],
  [
    `update act set happened_at = happened_at + interval '1 day' where n = 1`,
    `update act set happened_at = happened_at - interval '1 day' where n = 1`,
    /another time than its act/,
  ],
  [`update act set by_name = ' ' where n = 1`, `update act set by_name = 'A owner' where n = 1`, /by nobody/],
  [
    `update unit_now set state = jsonb_set(state, '{name}', '"Forged"')`,
    'select 1',
    /computed in unit_now for .* is not what its ledger comes to/,
  ],
  [`update drive_now set condition = 'failed'`, 'select 1', /computed in drive_now/],
  [`delete from drive_life where serial = 'TEAL-1'`, 'select 1', /computed in drive_life for TEAL-1/],
  [
    `update entry set body = jsonb_set(body, '{bay}', '"99"') where kind = 'drive-inserted'`,
    `update entry set body = jsonb_set(body, '{bay}', '"1"') where kind = 'drive-inserted'`,
    /does not fold/,
  ],
])('names what is off: %s', async (statement, mend, sentence) => {
  await tamper(statement);
  const { broken, odd } = await whatIsOff(shelf.app.db);
  expect([...broken, ...odd].join(' ')).toMatch(sentence);
  // What is not whole is told from what is only odd.
  expect(broken.length > 0).toBe(/numbered|another time|fold/.test(sentence.source));
  await tamper(mend);
  await whatIsOff(shelf.app.db);
  expect(await whatIsOff(shelf.app.db)).toEqual({ broken: [], odd: [] });
});

it('names what this program did not make', async () => {
  const owner = openDatabase(shelf.addresses.owner);
  const ours = await catalogueOf(owner);
  expect(ours.length).toBeGreaterThan(100);
  await tamper(`
    create function sly() returns trigger language plpgsql as 'begin return null; end';
    create trigger quiet before insert on entry for each row execute function sly();
    create table aside (a int);
    create view seen as select * from act;
    alter table paper add column more text default 'x';
    alter table entry drop constraint entry_seq_check;
    create rule none as on delete to paper do instead nothing`);
  const now = await catalogueOf(owner);
  await owner.destroy();
  const more = now.filter((line) => !ours.includes(line)).join('\n');
  for (const part of [
    'function public.sly()',
    'trigger: CREATE TRIGGER quiet',
    'table public.aside',
    'view public.seen',
    'column public.paper.more',
    'rule: CREATE RULE',
  ])
    expect(more).toContain(part);
  expect(ours.filter((line) => !now.includes(line)).join('\n')).toContain('entry_seq_check');
});
