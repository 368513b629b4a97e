import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import ICAL from 'ical.js';
import { expectedEvidence } from '../../core/plan/engine/dryRun';
import type { PlanRun } from '../../core/planRun/planRun';
import { calendarAt } from '../upkeep/calendar';
import { readMessages, tellOverdue } from '../upkeep/messages';
import { keepMailSaid, mailSaid, type MailSaid } from '../tell/fromEnvironment';
import { tellRound } from '../tell/rounds';
import { postbox } from '../testing/postbox';
import { readWaits } from '../units/readShelf';
import { shelfOfFile, type Json } from '../testing/testShelf';
import { BYTES, drivesFor, unitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const [keeper, reader, owner] = await Promise.all([
  shelf.tokenOf('keeper'),
  shelf.tokenOf('reader'),
  shelf.tokenOf('owner'),
]);

const NEW = { bytes: BYTES, basis: 'exact' };
const ask = (method: string, path: string, body?: unknown, as: string | { readonly cookie: string } = keeper) =>
  shelf.ask(method, path, as, body);

const poolOf = (unit: Json): string => Object.keys(unit['state'].pools as Json)[0] ?? '';

/** A unit of three in a pool that can lose one, and one of them failed. */
async function thinned(name: string, profile = 'reedbank'): Promise<Json> {
  const about = { profile, bays: profile === 'reedbank' ? 4 : 6, drives: drivesFor(name.toUpperCase()) };
  const { body } = await ask('POST', '/units', unitSent(name, about));
  return (
    await ask('POST', `/units/${String(body['id'])}/events`, {
      expectedVersion: body['version'],
      event: { kind: 'drive-failed', serial: `${name.toUpperCase()}-2` },
    })
  ).body;
}

/** A plan under way, and what can be sent of it with the version as it is. */
async function begun(name: string, wish: object = {}, profile?: string) {
  const unit = await thinned(name, profile);
  const page = `/units/${String(unit['id'])}`;
  const started = await ask('POST', `${page}/plans`, {
    expectedVersion: unit['version'],
    job: 'replace',
    wish: { serial: `${name.toUpperCase()}-2`, way: 'in-place', drive: { ...NEW, serial: `${name}-N` }, ...wish },
  });
  if (started.status !== 201) throw new Error(JSON.stringify(started.body));
  const address = `${page}/plans/${String(started.body['plan'])}`;
  const state = async (): Promise<Json> => (await ask('GET', page)).body;
  const send = async (path: string, body: object, as = keeper) =>
    ask('POST', address + path, { expectedVersion: (await state())['version'], ...body }, as);
  const step = (id: string, evidence: object = { kind: 'tick' }, more: object = {}, as = keeper) =>
    send('/steps', { step: id, evidence, ...more }, as);
  const before = async (last: string): Promise<void> => {
    for (const one of (started.body['run'] as PlanRun).plan.steps) {
      if (one.id === last) return;
      const done = await step(one.id, expectedEvidence(one, new Date().toISOString()));
      if (done.status !== 201) throw new Error(`${one.id}: ${JSON.stringify(done.body)}`);
    }
  };
  const run = async (): Promise<Json> => (await ask('GET', address)).body['run'] as Json;
  return { page, address, plan: String(started.body['plan']), state, run, send, step, before, unit };
}

describe('a replacement', () => {
  it('is tried with what it risks, both ways', async () => {
    const unit = await thinned('Avocet', 'saltern');
    const wish = { serial: 'AVOCET-2', way: 'in-place', drive: NEW };
    const { body } = await ask('POST', '/plans/replace', { unit: unit['id'], wish }, reader);
    expect(body['risks']).toMatchObject([{ pool: poolOf(unit), stretches: [{ margin: 0 }, { margin: 1 }] }]);
    expect(body['dryRun'].at(-1)).toMatchObject({ kind: 'dry-step', margin: { [poolOf(unit)]: 1 }, interlocks: [] });
    const wrong = await ask(
      'POST',
      '/plans/replace',
      { unit: unit['id'], wish: { ...wish, way: 'free-bay', bay: '4' } },
      reader,
    );
    expect([wrong.body['code'], wrong.body['errors'][0].pointer]).toEqual(['not-working', '#/wish/way']);
    expect(
      (await ask('POST', '/plans/replace', { unit: unit['id'], wish: { ...wish, way: 'sideways' } }, reader)).status,
    ).toBe(422);
    expect(
      (
        await ask(
          'POST',
          `/units/${String(unit['id'])}/plans`,
          { expectedVersion: unit['version'], job: 'replace', wish },
          reader,
        )
      ).status,
    ).toBe(403);
    expect(
      (
        await ask('POST', `/units/${String(unit['id'])}/plans`, {
          expectedVersion: unit['version'],
          job: 'repair',
          wish,
        })
      ).status,
    ).toBe(422);
  });

  it('refuses the wrong serial with the way back, remembers it, and changes nothing else', async () => {
    const { state, run, step, before, address } = await begun('Bunting');
    await before('pull');
    const was = await state();
    const { status, body } = await step('pull', { kind: 'serial', serial: 'BUNTING-3' });
    expect([status, body['code'], body['version']]).toEqual([422, 'wrong-serial', Number(was['version']) + 1]);
    expect(body['detail']).toContain('That is bay 3, a working member');
    const now = await state();
    expect({ ...now['state'], plans: {} }).toEqual({ ...was['state'], plans: {} });
    const { events } = (await ask('GET', `${address.split('/plans')[0] ?? ''}/events`)).body as {
      events: { event: Json }[];
    };
    expect(events.map(({ event }) => event).findLast(({ kind }) => kind === 'plan-step')).toMatchObject({
      how: 'refused',
      step: 'pull',
    });
    expect(await run()).toMatchObject({ refused: 1 });
    // Tried without a network and told afterwards: as what was tried, once, and never done by it.
    const told = (serial: string, act: string): Promise<{ status: number; body: Json }> =>
      state().then(({ version }) =>
        ask('POST', `${address}/steps`, {
          expectedVersion: version,
          step: 'pull',
          evidence: { kind: 'serial', serial },
          act,
          wasStopped: true,
        }),
      );
    const act = randomUUID();
    expect((await told('BUNTING-3', act)).body['code']).toBe('wrong-serial');
    // Where only the answer was lost it is told again, and written once.
    expect((await told('BUNTING-3', act)).status).toBeLessThan(300);
    expect(await run()).toMatchObject({ refused: 2 });
    const right = await told('BUNTING-2', randomUUID());
    expect([right.status, right.body['code']]).toEqual([422, 'not-stopped']);
    expect(Object.keys((await run())['done'] as Json)).not.toContain('pull');
    // What somebody else recorded meanwhile comes first.
    expect(
      (
        await ask('POST', `${address}/steps`, {
          expectedVersion: was['version'],
          step: 'pull',
          evidence: { kind: 'serial', serial: 'BUNTING-2' },
        })
      ).status,
    ).toBe(409);
  });

  it('lets an owner go on against the record, with the serial typed and a reason, and nobody else', async () => {
    const { state, run, step, before } = await begun('Coot');
    await before('pull');
    const unread = { kind: 'unread', why: 'the label is worn off' };
    expect((await step('pull', unread)).body['code']).toBe('serial-unread');
    const override = { serial: 'COOT-2', reason: 'only this lamp is lit' };
    expect((await step('pull', unread, { override })).body['code']).toBe('owner-only');
    expect((await step('pull', unread, { override: { ...override, serial: 'COOT-3' } }, owner)).body['code']).toBe(
      'override-serial',
    );
    expect((await step('pull', unread, { override: { serial: 'COOT-2', reason: ' ' } }, owner)).status).toBe(422);
    expect((await step('pull', unread, { override }, owner)).status).toBe(201);
    const { drives } = (await state())['state'] as { drives: Json };
    expect([(await run())['done']['pull'], drives['COOT-2']]).toMatchObject([
      { override, evidence: unread },
      { bay: null },
    ]);
  });

  it('goes by what the drive’s own ledger says of its size, whatever the plan thought', async () => {
    const drive = { serial: 'SHORT-1', drive: { bytes: BYTES - 41 * 512, basis: 'exact' } };
    expect(
      (await ask('POST', '/drives', { drives: [drive], drawer: { site: 'S', room: 'R', drawer: 'top' } })).status,
    ).toBe(201);
    const { step } = await begun('Dunlin', { drive: { bytes: BYTES, basis: 'label', label: '8 TB' } });
    for (const id of ['copy', 'serial'])
      await step(id, id === 'copy' ? { kind: 'copy', none: { why: 'it is a test' } } : { kind: 'tick' });
    // Taken in hand it is too small already; and where another was taken, at the bay.
    const taken = (await step('new-drive', { kind: 'serial', serial: 'SHORT-1' })).body;
    expect([taken['code'], taken['detail']]).toEqual(['too-small', expect.stringContaining('41 sectors short')]);
    // One that nobody knows is taken only with the size that was read off it.
    const fresh = { kind: 'serial', serial: 'FRESH-1' };
    expect((await step('new-drive', fresh)).body).toMatchObject({
      code: 'size-unread',
      errors: [{ pointer: '#/evidence/drive' }],
    });
    await step('new-drive', { ...fresh, drive: { bytes: BYTES, basis: 'label', label: '8 TB' } });
    for (const id of ['told', 'locate']) await step(id);
    await step('pull', { kind: 'serial', serial: 'DUNLIN-2' });
    const { body } = await step('fit', { kind: 'serial', serial: 'SHORT-1' });
    expect([body['code'], body['detail']]).toEqual(['too-small', expect.stringContaining('41 sectors short')]);
    expect(
      (
        await step(
          'fit',
          { kind: 'serial', serial: 'SHORT-1' },
          { override: { serial: 'SHORT-1', reason: 'try' } },
          owner,
        )
      ).body['code'],
    ).toBe('no-override');
  });

  it('takes a sheet filled by hand, all of it or nothing, each row with its time', async () => {
    const { state, send } = await begun('Egret');
    const minutes = (n: number): string => new Date(Date.now() - n * 60_000).toISOString();
    const row = (step: string, ago: number, evidence: object = { kind: 'tick' }) => ({
      step,
      evidence,
      happenedAt: minutes(ago),
    });
    const was = (await state())['version'];
    // Within the minute the plan began in, later rows are later.
    const rows = [
      row('copy', 0.9, { kind: 'copy', none: { why: 'it is a test' } }),
      row('serial', 0.8),
      row('new-drive', 0.8, { kind: 'serial', serial: 'Egret-N', drive: { bytes: BYTES, basis: 'exact' } }),
      row('told', 0.5),
      row('locate', 0.5),
    ];
    const wrong = await send('/sheet', { steps: [...rows, row('pull', 0.2, { kind: 'serial', serial: 'EGRET-1' })] });
    expect([wrong.body['code'], wrong.body['errors'][0].pointer]).toEqual(['wrong-serial', '#/steps/5/evidence']);
    expect((await send('/sheet', { steps: [row('serial', 0.1)] })).body['code']).toBe('not-yet');
    expect((await send('/sheet', { steps: [rows[0], row('serial', 500)] })).body['errors'][0].pointer).toBe(
      '#/steps/1/happenedAt',
    );
    expect((await state())['version']).toBe(was);
    const { status, body } = await send('/sheet', {
      steps: [...rows, row('pull', 0.2, { kind: 'serial', serial: 'egret-2' })],
    });
    expect([status, body['next'], body['state'].drives['EGRET-2'].bay]).toEqual([201, 'fit', null]);
  });

  it('rests with words, and goes on with the next step', async () => {
    const { run, send, step } = await begun('Finch');
    expect((await send('/pause', { note: ' ' })).status).toBe(422);
    await send('/pause', { note: 'the new drive comes tomorrow' });
    const paused = async () => (await run())['paused'] as Json | undefined;
    expect(await paused()).toMatchObject({ note: 'the new drive comes tomorrow' });
    await step('copy', { kind: 'copy', none: { why: 'it is a test' } });
    expect(await paused()).toBeUndefined();
    expect((await send('/pause', { note: 'x' }, reader)).status).toBe(403);
  });
});

describe('every kind of plan', () => {
  const bytes = BYTES * 2;
  const wishes: readonly [string, (name: string, unit: Json) => Json, string][] = [
    // A spare in the unit steps in for what is missing: nothing else is planned over it.
    ['replace', (name) => ({ serial: `${name.toUpperCase()}-2`, way: 'in-place', drive: NEW }), 'spare-waits'],
    ['replace-all', (_name, unit) => ({ pool: poolOf(unit), drive: { bytes, basis: 'exact' } }), 'thinned'],
    ['spare-in', (name) => ({ serial: `${name.toUpperCase()}-2`, spare: `${name}-4`, drive: NEW }), 'spare-again'],
    ['came-back', (name) => ({ serial: `${name.toUpperCase()}-2`, how: 'rebuild' }), 'watch'],
    ['rescue', () => ({ because: 'offers-to-erase' }), 'back'],
  ];

  const REFUSED = new Set(['thinned', 'spare-waits']);

  it.each(wishes)('%s is made for the unit as it is, checked field by field', async (job, wishOf, step) => {
    const name = `Plan ${job}`;
    const unit = await thinned(name, 'saltern');
    let version = unit['version'] as number;
    for (const event of [
      { kind: 'drive-inserted', bay: '4', drive: { serial: `${name}-4`, ...NEW } },
      { kind: 'spare-assigned', pool: poolOf(unit), serial: `${name}-4` },
    ])
      version = (await ask('POST', `/units/${String(unit['id'])}/events`, { expectedVersion: version, event })).body[
        'version'
      ] as number;
    const wish = wishOf(name, unit);
    const tried = await ask('POST', `/plans/${job}`, { unit: unit['id'], wish }, reader);
    if (REFUSED.has(step)) expect(tried.body['code']).toBe(step);
    else {
      expect((tried.body['plan'] as { steps: { id: string }[] }).steps.map(({ id }) => id)).toContain(step);
      expect((tried.body['dryRun'] as Json[]).every(({ kind }) => kind === 'dry-step')).toBe(true);
    }
    // A field that is not there, one that is none of ours, one of the wrong kind: each named.
    const [field] = Object.keys(wish) as [string];
    const { [field]: _left, ...without } = wish;
    for (const wrong of [without, { ...wish, colour: 'red' }, { ...wish, [field]: 7 }]) {
      const { status, body } = await ask('POST', `/plans/${job}`, { unit: unit['id'], wish: wrong }, reader);
      expect([status, body['errors'][0].pointer]).toEqual([422, expect.stringMatching(/^#\/wish/)]);
    }
    expect(
      (await ask('POST', `/plans/${job}`, { unit: '00000000-0000-4000-8000-000000000000', wish }, reader)).status,
    ).toBe(404);
    expect(
      (await ask('POST', `/units/${String(unit['id'])}/plans`, { expectedVersion: version - 1, job, wish })).status,
    ).toBe(409);
  });
});

describe('waiting', () => {
  it('says when, from the reports, in the strip and in the calendar; tells once when it is odd, overdue or done, and mails it', async () => {
    const { page, plan, state, before, step } = await begun('Grebe');
    await before('wait');
    const report = async (percent: number, hoursAgo: number) =>
      ask('POST', `${page}/events`, {
        expectedVersion: (await state())['version'],
        event: { kind: 'job-progressed', job: 'rebuild-1', percent },
        happenedAt: new Date(Date.now() - hoursAgo * 3_600_000).toISOString(),
      });
    await report(3, 0);
    const wait = async () => (await readWaits(shelf.app)).find(({ unitName }) => unitName === 'Grebe');
    expect(await wait()).toMatchObject({ percent: 3, plan, estimate: { reports: 1, found: [] } });

    const feed = (await shelf.ask('POST', '/calendar-feed', await shelf.cookieOf('keeper'), undefined)).body;
    const secret = String(feed['path']).split('/').at(-1) ?? '';
    const calendar = new ICAL.Component(ICAL.parse((await calendarAt(shelf.app, secret)) ?? '') as object[]);
    const summaries = calendar.getAllSubcomponents('vevent').map((of) => String(of.getFirstPropertyValue('summary')));
    expect(summaries).toContain('Grebe: rebuild, bay 2 about done');

    // It falls back to nothing: told once, however often it is heard.
    await report(0, 0);
    await report(0, 0);
    const late = new Date(Date.now() + 90 * 86_400_000);
    for (const again of [late, late]) await tellOverdue(shelf.app.db, again);
    // Ticked too early: only what its own page says ends the wait, and "done" is said twice.
    for (const evidence of [{ kind: 'tick' }, { kind: 'page', says: 'done' }])
      expect((await step('wait', evidence)).body).toMatchObject({
        code: 'too-early',
        detail: expect.stringContaining('At the last reading it stood at 0 %'),
      });
    const working = await step('wait', { kind: 'page', says: 'working', note: 'step 2 of 3' });
    expect([working.status, working.body['next'], working.body['margin']]).toEqual([201, 'wait', 0]);
    const { events } = (await ask('GET', `${page}/events`)).body as { events: { event: Json }[] };
    expect(events.at(-1)?.event).toEqual({
      kind: 'noted',
      note: 'Its page says that it is still at work: step 2 of 3',
    });
    expect((await step('wait', { kind: 'page', says: 'done', again: true })).status).toBe(201);
    const told = (await readMessages(shelf.app, new Date(), 10)).filter(({ sentence }) => sentence.startsWith('Grebe'));
    expect(told.map(({ code }) => code).sort()).toEqual(['done', 'overdue', 'restarted']);
    expect((await state())['margin']).toBe(1);

    // Of all of it at one time, in one mail, and once.
    const box = await postbox();
    const said = mailSaid({
      PATIENT_SHELF_SMTP: `smtp://127.0.0.1:${String(box.port)}`,
      PATIENT_SHELF_MAIL_TO: 'keeper@marrowfen.example',
    }) as MailSaid;
    await keepMailSaid(shelf.app, said);
    await sql`update tell_rule set set_at = now() - interval '1 day'`.execute(shelf.app.db);
    await sql`update message set made_at = made_at - interval '2 minutes'`.execute(shelf.app.db);
    await tellRound(shelf.app);
    await tellRound(shelf.app);
    await box.close();
    expect(box.mails).toHaveLength(1);
    expect(box.mails[0]?.text).toContain('Grebe: rebuild, bay 2, is done.');
    expect(box.mails[0]?.text).toContain('ought to have been done');
  });
});

describe('the bad day', () => {
  it('has a rescue desk by the ledger, and a plan that may begin beside another', async () => {
    const { page, state } = await begun('Heron');
    await ask('POST', `${page}/events`, {
      expectedVersion: (await state())['version'],
      event: { kind: 'drive-removed', serial: 'HERON-3' },
    });
    const { body } = await ask('GET', `${page}/rescue`, undefined, reader);
    expect(body['pools']).toMatchObject([
      {
        needed: 1,
        tryFirst: [
          { serial: 'HERON-3', how: 'removed' },
          { serial: 'HERON-2', how: 'failed' },
        ],
      },
    ]);
    const { needs } = (await ask('GET', '/needs', undefined, reader)).body as { needs: Json[] };
    expect(needs.find(({ title }) => String(title).startsWith('Heron'))).toMatchObject({ code: 'pool-stopped' });
    const rescue = await ask('POST', `${page}/plans`, {
      expectedVersion: (await state())['version'],
      job: 'rescue',
      wish: { because: 'lost' },
    });
    expect(rescue.status).toBe(201);
    const again = await ask('POST', `${page}/plans`, {
      expectedVersion: rescue.body['version'],
      job: 'replace',
      wish: { serial: 'HERON-1', way: 'in-place', drive: NEW },
    });
    expect(again.body['code']).toBe('pool-lost');
    expect((await ask('GET', '/units/nothing/rescue', undefined, reader)).status).toBe(404);
  });
});
