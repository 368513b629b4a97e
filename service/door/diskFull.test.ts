import { sql } from 'kysely';
import pg from 'pg';
import { testShelf } from '../testing/testShelf';
import { emptyUnitSent } from '../testing/unitSent';
import { healthOf } from './health';

it('says that the disk is full, stores nothing by half, goes on reading, and stores again when there is room', async () => {
  const shelf = await testShelf();
  const keeper = await shelf.tokenOf('keeper');
  const tables = new pg.Client({ connectionString: shelf.addresses.owner });
  await tables.connect();
  const unit = (name: string) => shelf.ask('POST', '/units', keeper, emptyUnitSent(name));
  try {
    expect((await unit('Teal')).status).toBe(201);
    // What the database says when it finds no room (SQLSTATE 53100), at the last thing that is written of an act.
    await tables.query(
      `create function no_room() returns trigger language plpgsql as 'begin raise exception using errcode = ''53100'', message = ''could not extend file''; end'`,
    );
    await tables.query(
      'create trigger no_room before insert or update on unit_now for each row execute function no_room()',
    );
    expect(await unit('Smew')).toMatchObject({
      status: 507,
      body: { code: 'disk-full', detail: expect.stringContaining('nothing was stored') },
    });
    const units = async () => ((await shelf.ask('GET', '/units', keeper)).body['units'] as { name: string }[]).length;
    expect(await units()).toBe(1);
    expect((await shelf.ask('GET', '/export', keeper)).body['acts']).toHaveLength(1);
    await tables.query('drop trigger no_room on unit_now');
    expect((await unit('Smew')).status).toBe(201);
    expect(await units()).toBe(2);
    const is = { version: '1.2.3', commit: '' };
    expect(await healthOf(shelf.app, '.', is)).toEqual({
      status: 'ok',
      database: 'ok',
      disk: 'ok',
      version: '1.2.3',
      commit: null,
      schema: '012_backups',
      lastBackup: null,
      watch: { units: 0, silent: 0, lastEnded: null },
    });
    await tables.query('insert into backup_made (bytes, entries) values (2500000000, 7)');
    const { lastBackup } = await healthOf(shelf.app, '.', is);
    expect(lastBackup).toEqual({ at: expect.any(String), bytes: 2_500_000_000 });
    // Only the tables' owner says that there is one.
    await expect(sql`insert into backup_made (bytes, entries) values (1, 1)`.execute(shelf.app.db)).rejects.toThrow(
      'permission denied',
    );
    // /proc has no room at all.
    expect(await healthOf(shelf.app, '/proc', is)).toMatchObject({ status: 'failing', disk: 'full' });
  } finally {
    await tables.end();
    await shelf.close();
  }
});
