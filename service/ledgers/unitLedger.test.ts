import type { UnitState } from '../../core/unit/state';
import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { sql } from 'kysely';
import type { UnitEvent } from '~/core/unit/event';
import { canonicalJson } from '~/core/value/canonicalJson';
import { isRefusal } from '~/core/value/refusal';
import { unitById } from '~/store/units';
import { recordAct } from './recordAct';
import { rebuildProjections } from './rebuild';
import { takeBackAct } from './takeBackAct';
import { entriesOf } from '~/store/acts';
import { unitLedger } from '~/core/world/ledger';
import type { Act } from '~/core/world/act';
import { readLedger } from '../units/readLedger';
import { shelfOfFile, type Json } from '../testing/testShelf';

const shelf = await shelfOfFile();
const keeper = await shelf.tokenOf('keeper');

const place = { site: 'Field station', room: 'hut' };
const newUnit = (name: string, serials: string[], pool: object | null = { scheme: 'parity-1' }) => ({
  name,
  place,
  profile: 'plain',
  bays: 4,
  drives: serials.map((serial, i) => ({ bay: String(i + 1), serial, bytes: 8e12, basis: 'exact' })),
  ...(pool ? { pool } : {}),
});
const put = (name: string, pool?: object | null) =>
  shelf.ask(
    'POST',
    '/units',
    keeper,
    newUnit(
      name,
      [1, 2, 3].map((n) => `${name.toUpperCase()}-${String(n)}`),
      pool,
    ),
  );
const counts = async () => {
  const { rows } = await sql<{
    n: string;
  }>`select (select count(*) from entry) || ' ' || (select count(*) from unit_now) || ' ' || (select count(*) from drive_now) as n`.execute(
    shelf.app.db,
  );
  return rows[0]?.n;
};

/** The only one there is. */
const theOne = (of: Json): Json => Object.values(of)[0] as Json;

describe('a ledger page by page', () => {
  const page = (of: Json, from: number, most: number, kinds?: readonly string[]) =>
    readLedger(shelf.app, { id: String(of['id']), state: of['state'] as UnitState }, { from, most, kinds });

  it('names everything an act recorded, also what the page and the filter leave out', async () => {
    const { body: unit } = await put('Phalarope');
    const id = String(unit['id']);
    for (const note of ['one', 'two', 'three'])
      await shelf.ask('POST', '/acts', keeper, {
        id: randomUUID(),
        entries: [
          { unit: id, event: { kind: 'noted', note } },
          { unit: id, event: { kind: 'sign-noted', note: `lamp ${note}` } },
        ],
      });
    const all = await page(unit, 0, 100);
    expect(all.rows).toHaveLength(all.total);
    const pages = await Promise.all([0, 3, 6].map((from) => page(unit, from, 3)));
    expect(pages.flatMap(({ rows }) => rows)).toEqual(all.rows.slice(0, 9));
    expect(pages.map(({ total }) => total)).toEqual([all.total, all.total, all.total]);
    // The newest three end between the two entries of one act: both are named.
    expect(pages[0]?.ofActs.get(String(pages[0].rows[2]?.act))).toHaveLength(2);
    const notes = await page(unit, 1, 1, ['noted']);
    expect([
      notes.total,
      notes.rows.map(({ event }) => event.kind),
      [...notes.ofActs.values()].flat().map(({ words }) => words),
    ]).toEqual([3, ['noted'], [expect.stringContaining('two'), expect.stringContaining('lamp two')]]);
    expect((await page(unit, 0, 5, [])).total).toBe(0);
  });

  it('names what an act recorded of other units and in drawers, and nothing twice', async () => {
    const [{ body: from }, { body: to }] = [await put('Stilt'), await put('Redshank')];
    const act = randomUUID();
    const sent = await shelf.ask('POST', '/acts', keeper, {
      id: act,
      entries: [
        { unit: from['id'], event: { kind: 'drive-removed', serial: 'STILT-3' } },
        { drive: 'STILT-3', event: { kind: 'put-in-drawer', drawer: { site: 'S', room: 'R', drawer: 'B' } } },
        { unit: to['id'], event: { kind: 'noted', note: 'its spare is in drawer B' } },
      ],
    });
    expect([sent.status, sent.body['detail']]).toEqual([201, undefined]);
    const words = async (of: Json) => ((await page(of, 0, 40)).ofActs.get(act) ?? []).map((one) => one.words);
    expect((await words(from)).sort()).toEqual([
      expect.stringMatching(/^Drive STILT-3: .*B/),
      expect.stringMatching(/^Redshank: .*its spare is in drawer B/),
      expect.stringMatching(/^Drive STILT-3 .*removed|taken out|pulled/),
    ]);
    expect((await words(to)).some((one) => one.startsWith('Stilt: '))).toBe(true);
  });
});

describe('putting a unit on the shelf', () => {
  it('stores the unit, its drives and its pool, and says what it erased', async () => {
    const { status, body } = await put('Avocet');
    expect(status).toBe(201);
    expect(body).toMatchObject({
      version: 6,
      margin: 1,
      standing: 'well',
      hazards: [{ code: 'erases', serials: ['AVOCET-1', 'AVOCET-2', 'AVOCET-3'] }],
    });
    const again = await shelf.ask('GET', `/units/${String(body['id'])}`, keeper);
    expect(theOne(again.body['state'].pools).bands[0].members).toEqual(['AVOCET-1', 'AVOCET-2', 'AVOCET-3']);
    const { found } = (await shelf.ask('GET', '/find?q=cet-2', keeper)).body;
    expect(found).toMatchObject([{ kind: 'drive', title: 'AVOCET-2', href: `/units/${String(body['id'])}?bay=2` }]);
  });

  it.each<[string, (unit: ReturnType<typeof newUnit>) => object, number, string]>([
    ['a name that is taken', (unit) => ({ ...unit, name: 'aVOCET' }), 409, '#/name'],
    [
      'a drive that stands elsewhere, in whatever case',
      (unit) => ({
        ...unit,
        drives: [{ bay: '1', serial: ' avocet-1', bytes: 8e12, basis: 'exact' }],
        pool: { scheme: 'separate' },
      }),
      409,
      '#/drives/0',
    ],
    [
      'one serial twice',
      (unit) => ({ ...unit, drives: unit.drives.map((drive) => ({ ...drive, serial: 'same' })) }),
      422,
      '#/drives/1/serial',
    ],
    [
      'a serial missing',
      (unit) => ({ ...unit, drives: [{ bay: '1', bytes: 8e12, basis: 'exact' }] }),
      422,
      '#/drives/0/serial',
    ],
    [
      'a bay the unit does not have',
      (unit) => ({ ...unit, drives: unit.drives.map((drive, i) => ({ ...drive, bay: String(i + 3) })) }),
      422,
      '#/drives/2/bay',
    ],
    ['a layout that cannot be', (unit) => ({ ...unit, pool: { scheme: 'parity-2' } }), 422, '#/pool/scheme'],
    ['a blank name', (unit) => ({ ...unit, name: '   ' }), 422, '#/name'],
  ])('refuses %s whole', async (_what, change, status, pointer) => {
    const before = await counts();
    const answer = await shelf.ask(
      'POST',
      '/units',
      keeper,
      change(newUnit(`Unit ${randomUUID().slice(0, 8)}`, [randomUUID(), randomUUID(), randomUUID()])),
    );
    expect(answer.status).toBe(status);
    expect(answer.body['errors'].map((error: { pointer: string }) => error.pointer)).toContain(pointer);
    expect(await counts()).toBe(before);
  });

  it('keeps a formula-looking serial as text, and sets it off on the sheet it hands out', async () => {
    const serial = '=HYPERLINK("HTTP://X")';
    const { body } = await shelf.ask('POST', '/units', keeper, newUnit('Curlew', [serial, '+1', '@X'], null));
    expect((await shelf.ask('GET', `/units/${String(body['id'])}`, keeper)).body['state'].drives[serial].serial).toBe(
      serial,
    );
    const { body: sheet, headers } = await shelf.ask('GET', `/units/${String(body['id'])}/drives.csv`, keeper);
    expect(headers.get('content-disposition')).toBe('attachment; filename="Curlew-drives.csv"');
    expect(String(sheet['text']).split('\r\n')).toEqual([
      'bay,size,bytes,serial,model,kind,price,bought,lot',
      `1,,8000000000000,"'=HYPERLINK(""HTTP://X"")",,,,,`,
      `2,,8000000000000,'+1,,,,,`,
      `3,,8000000000000,'@X,,,,,`,
      '',
    ]);
  });

  it('says what one more drive adds to a pool as it was built', async () => {
    const { body } = await put('Dotterel');
    const ask = (bytes: unknown) => shelf.ask('POST', `/units/${String(body['id'])}/additions`, keeper, { bytes });
    expect((await ask(12e12)).body).toMatchObject({
      additions: [{ pool: theOne(body['state'].pools).id, gainedBytes: 8e12 }],
    });
    expect((await ask(4e12)).body).toMatchObject({
      additions: [{ gainedBytes: 0, sentence: 'Too small: every member must hold 8 TB.' }],
    });
    expect((await ask(0)).status).toBe(422);
  });

  it('lets one of two at once have the name', async () => {
    const answers = await Promise.all(
      [1, 2, 3].map((i) =>
        shelf.ask('POST', '/units', keeper, newUnit('Dunlin', [`D${String(i)}a`, `D${String(i)}b`, `D${String(i)}c`])),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409, 409]);
  });
});

describe('recording what happened', () => {
  it('goes by the version the author looked at', async () => {
    const { body: unit } = await put('Egret');
    const record = (expectedVersion: number) =>
      shelf.ask('POST', `/units/${String(unit['id'])}/events`, keeper, {
        expectedVersion,
        event: { kind: 'drive-failed', serial: 'EGRET-2' },
      });
    const [first, second] = await Promise.all([record(6), record(6)]);
    expect([first.status, second.status].sort()).toEqual([201, 409]);
    const { body } = await shelf.ask('GET', `/units/${String(unit['id'])}/events`, keeper);
    expect(body).toMatchObject({ version: 7 });
    expect((body['events'] as object[]).at(-1)).toMatchObject({
      seq: 7,
      event: { kind: 'drive-failed', serial: 'EGRET-2' },
      recordedBy: 'A keeper',
    });
  });

  it('refuses what cannot have happened, what is not known, and what has not happened yet', async () => {
    const { body: unit } = await put('Fulmar');
    const record = (body: object) =>
      shelf.ask('POST', `/units/${String(unit['id'])}/events`, keeper, { expectedVersion: 6, ...body });
    expect(
      (await record({ event: { kind: 'drive-inserted', bay: '1', drive: { serial: 'X', bytes: 8, basis: 'exact' } } }))
        .body,
    ).toMatchObject({
      status: 422,
      code: 'bay-occupied',
      errors: [{ pointer: '#/event/bay' }],
    });
    expect((await record({ event: { kind: 'drive-vanished', serial: 'FULMAR-1' } })).status).toBe(422);
    expect(
      (await record({ happenedAt: '2999-01-01T00:00:00Z', event: { kind: 'drive-failed', serial: 'FULMAR-1' } })).body,
    ).toMatchObject({
      code: 'in-the-future',
    });
    expect(
      (
        await shelf.ask('POST', '/units/nonsense/events', keeper, {
          expectedVersion: 1,
          event: { kind: 'drive-failed', serial: 'x' },
        })
      ).status,
    ).toBe(404);
    const { body } = await shelf.ask('GET', `/units/${String(unit['id'])}`, keeper);
    expect(body['version']).toBe(6);
  });

  it('refuses characters that cannot be stored, in an address too, and moments that are none', async () => {
    const bad = (change: object) =>
      shelf.ask('POST', '/units', keeper, {
        ...newUnit(randomUUID(), [randomUUID(), randomUUID(), randomUUID()]),
        ...change,
      });
    expect((await bad({ name: 'nul\0' })).body).toMatchObject({ status: 422, code: 'not-text' });
    expect((await bad({ name: 'half \ud800' })).body).toMatchObject({ status: 422, code: 'not-text' });
    expect((await bad({ name: 'typed \\u0000' })).status).toBe(201);
    expect((await bad({ happenedAt: '2026-12-31T23:59:60Z' })).body).toMatchObject({
      status: 422,
      errors: [{ pointer: '#/happenedAt' }],
    });
    expect((await bad({ happenedAt: '2999-01-01T00:00:00Z' })).body).toMatchObject({ code: 'in-the-future' });
    expect((await shelf.ask('GET', '/find?q=%00', keeper)).body).toMatchObject({ status: 422, code: 'not-text' });
    expect((await shelf.ask('GET', '/find?q=100%25_', keeper)).body).toEqual({ found: [] });
  });

  it('places a late entry where it belongs', async () => {
    const id = randomUUID();
    const at = (minute: number): string => new Date(Date.UTC(2026, 0, 1, 0, minute)).toISOString();
    const registered = {
      kind: 'unit-registered',
      name: 'Gadwall',
      place,
      profile: shelf.app.profiles.get('plain'),
      enclosures: [{ name: 'Head', bays: ['1'] }],
    } as UnitEvent;
    const inserted = (serial: string): UnitEvent => ({
      kind: 'drive-inserted',
      bay: '1',
      drive: { serial, bytes: 8, basis: 'exact' },
    });
    const recordAt = (minute: number, ...events: UnitEvent[]) => recordAct(shelf.app.db, act(id, at(minute), events));
    await recordAt(0, registered);
    await recordAt(30, inserted('G2'));
    // Remembered later: another drive was in that bay before.
    expect(isRefusal(await recordAt(10, inserted('G1')))).toBe(true);
    const late = await recordAt(10, inserted('G1'), { kind: 'drive-removed', serial: 'G1' });
    expect(isRefusal(late)).toBe(false);
    const unit = await unitById(shelf.app.db, id);
    expect([unit?.version, unit?.state.drives['G1']?.condition, unit?.state.drives['G2']?.bay]).toEqual([
      4,
      'removed',
      '1',
    ]);
    // One that makes what came after impossible is refused.
    expect(await recordAt(25, inserted('G0'))).toMatchObject({ code: 'bay-occupied' });
  });
});

/** Events of one unit as an act of somebody's. */
function act(id: string, happenedAt: string, events: readonly UnitEvent[]): Act {
  const entries = events.map((event) => ({ ledger: unitLedger(id), event }));
  return {
    kind: 'act',
    id: randomUUID(),
    by: { kind: 'watch', id: null, name: 'test' },
    happenedAt,
    expects: [],
    entries,
  };
}

describe('the ledger', () => {
  it('cannot be edited by the application', async () => {
    for (const statement of [
      'update entry set body = body',
      'delete from entry',
      'truncate entry',
      'update act set by_name = by_name',
      'delete from act',
      'update reading set value = 0',
      'update drive_order set count = 1',
      'drop table entry',
      'alter table entry disable trigger all',
    ]) {
      await expect(sql.raw(statement).execute(shelf.app.db)).rejects.toThrow(/permission denied|must be owner/);
    }
  });

  it('makes the same projections again, on random histories with late and withdrawn entries', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.tuple(
            fc.constantFrom(
              'failed',
              'removed',
              'inserted',
              'suspected',
              'job',
              'done',
              'withdrawn',
              'sign',
              'copy',
              'reading' as const,
            ),
            fc.integer({ min: 1, max: 4 }),
            fc.integer({ min: 1, max: 500 }),
          ),
          { maxLength: 14 },
        ),
        async (steps) => {
          const name = randomUUID();
          const { body } = await put(name);
          const id = String(body['id']);
          const pool = String(theOne(body['state'].pools)['id']);
          for (const [what, bay, minute] of steps) {
            const serial = `${name.toUpperCase()}-${String(bay)}`;
            const happenedAt = new Date(Date.now() + minute * 60_000).toISOString();
            if (what === 'withdrawn') {
              const entries = await entriesOf(shelf.app.db, unitLedger(id));
              const by = { kind: 'watch' as const, id: null, name: 'test' };
              const wrong = entries[minute % entries.length]?.act ?? '';
              await takeBackAct(shelf.app.db, { id: randomUUID(), by, happenedAt, expects: [] }, wrong, 'r');
              continue;
            }
            if (what === 'reading') {
              const reading = {
                unit: id,
                subject: pool,
                metric: 'used-bytes',
                at: new Date(Date.now() - minute * 36e5).toISOString(),
                value: bay * 1e12,
              };
              await shelf.ask('POST', '/readings', keeper, { readings: [reading] });
              continue;
            }
            const event: UnitEvent = {
              failed: { kind: 'drive-failed', serial } as const,
              removed: { kind: 'drive-removed', serial } as const,
              inserted: {
                kind: 'drive-inserted',
                bay: String(bay),
                drive: { serial: `${name}-n${String(minute)}`, bytes: 8e12, basis: 'exact' },
              } as const,
              suspected: { kind: 'drive-suspected', serial, note: 'n' } as const,
              job: { kind: 'job-started', job: 'j', task: 'scrub', pool } as const,
              done: { kind: 'job-finished', job: 'j' } as const,
              sign: { kind: 'sign-noted', note: `sign ${String(bay)}` } as const,
              copy: { kind: 'data-set-described', dataSet: `d${String(bay)}`, name: 'D' } as const,
            }[what];
            await recordAct(shelf.app.db, act(id, happenedAt, [event]));
          }
        },
      ),
      { numRuns: 20 },
    );
    const projections = async () =>
      JSON.parse(
        canonicalJson({
          units: await shelf.app.db.selectFrom('unit_now').selectAll().orderBy('unit').execute(),
          drives: await shelf.app.db.selectFrom('drive_now').selectAll().orderBy('serial').execute(),
          plans: await shelf.app.db.selectFrom('plan_now').selectAll().orderBy('plan').execute(),
          lives: await shelf.app.db.selectFrom('drive_life').selectAll().orderBy('serial').execute(),
          needs: await shelf.app.db.selectFrom('need_now').selectAll().orderBy('unit').orderBy('n').execute(),
          waits: await shelf.app.db.selectFrom('wait_now').selectAll().orderBy('unit').orderBy('job').execute(),
          newest: await shelf.app.db
            .selectFrom('reading_now')
            .selectAll()
            .orderBy('unit')
            .orderBy('subject')
            .orderBy('metric')
            .execute(),
          days: await shelf.app.db
            .selectFrom('reading_day')
            .selectAll()
            .orderBy('unit')
            .orderBy('subject')
            .orderBy('metric')
            .orderBy('day')
            .execute(),
        }),
      ) as object;
    const before = await projections();
    await shelf.app.db.updateTable('unit_now').set({ version: 999 }).execute();
    expect(await projections()).not.toEqual(before);
    expect(await rebuildProjections(shelf.app.db)).toBeGreaterThan(12);
    expect(await projections()).toEqual(before);
  });
});
