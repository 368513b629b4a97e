import { randomUUID } from 'node:crypto';
import ICAL from 'ical.js';
import { calendarAt } from '../upkeep/calendar';
import { shelfOfFile, testShelf, type Json, type TestShelf } from '../testing/testShelf';
import { BYTES, emptyUnitSent, unitSent } from '../testing/unitSent';

const shelf = await shelfOfFile();
const [keeper, reader, owner] = await Promise.all([
  shelf.tokenOf('keeper'),
  shelf.tokenOf('reader'),
  shelf.tokenOf('owner'),
]);

const ask = (method: string, path: string, body?: unknown, as: string | { readonly cookie: string } = keeper) =>
  shelf.ask(method, path, as, body);
async function put(name: string, more: object = {}): Promise<Json> {
  const { status, body } = await ask('POST', '/units', unitSent(name, more));
  if (status !== 201) throw new Error(JSON.stringify(body));
  return body;
}
const event = (unit: Json, of: object, more: object = {}) =>
  ask('POST', `/units/${String(unit['id'])}/events`, { expectedVersion: unit['version'], event: of, ...more });
const now = async (unit: Json): Promise<Json> => (await ask('GET', `/units/${String(unit['id'])}`)).body;

describe('registering', () => {
  it('takes boxes in their order with dial numbers, and what the label says', async () => {
    const { status, body } = await ask('POST', '/units', {
      name: 'Rail',
      place: { site: 'Main', room: 'rack', shelf: '3' },
      profile: 'causeway',
      enclosures: [
        { name: 'Head', bays: 12 },
        { name: 'Extension 1', bays: 12, dial: 4 },
      ],
      details: { serial: 'CW-1', warrantyUntil: '2031-01-31', call: 'A. Reed' },
    });
    expect(status).toBe(201);
    expect(body['state']).toMatchObject({
      enclosures: [{ bays: { length: 12 } }, { dial: 4 }],
      details: { serial: 'CW-1', call: 'A. Reed' },
    });
    expect(body['state'].enclosures[1].bays[0]).toBe('13');
    const wrong = await ask('POST', '/units', {
      name: 'Rail 2',
      place: { site: 'Main', room: 'rack' },
      profile: 'causeway',
      bays: 3,
      enclosures: [{ name: 'Head', bays: 12 }],
    });
    expect([wrong.status, wrong.body['code']]).toEqual([422, 'bays-differ']);
    expect(
      (await ask('POST', '/units', { name: 'R', place: { site: 'M', room: 'r' }, profile: 'plain' })).body['code'],
    ).toBe('bays-missing');
    expect(
      (
        await ask('POST', '/units', {
          name: 'R',
          place: { site: 'M', room: 'r' },
          profile: 'plain',
          bays: 2,
          details: { warrantyUntil: 'soon' },
        })
      ).status,
    ).toBe(422);
  });
});

/** The id of the only pool of a unit, and of the pool a plan makes. */
const poolOf = (unit: Json): string => Object.keys(unit['state'].pools as Json)[0] ?? '';
const madePool = (plan: Json): string =>
  (plan['steps'] as Json[]).flatMap(({ does }) =>
    (does as Json[]).flatMap((one) => (one['kind'] === 'make-pool' ? [String(one['pool'])] : [])),
  )[0] ?? '';

describe('what happened', () => {
  it('is previewed with its hazards, and recorded in one go or not at all', async () => {
    const unit = await put('Avocet');
    const seen = await ask(
      'POST',
      `/units/${String(unit['id'])}/previews`,
      { event: { kind: 'drive-failed', serial: 'AVOCET-2' } },
      reader,
    );
    expect(seen.body).toMatchObject({
      marginBefore: { [poolOf(unit)]: 1 },
      marginAfter: { [poolOf(unit)]: 0 },
      hazards: [{ code: 'margin-lowered', serials: ['AVOCET-2'] }],
    });
    expect((await now(unit))['version']).toBe(unit['version']);
    const half = await ask('POST', `/units/${String(unit['id'])}/entries`, {
      expectedVersion: unit['version'],
      events: [
        { kind: 'drive-failed', serial: 'AVOCET-2' },
        { kind: 'drive-failed', serial: 'nobody' },
      ],
    });
    expect([half.status, (await now(unit))['version']]).toEqual([422, unit['version']]);
    expect(
      (await ask('POST', `/units/${String(unit['id'])}/entries`, { expectedVersion: 1, events: [] }, reader)).status,
    ).toBe(403);
  });

  it('says who was first, in the words of the ledger', async () => {
    const unit = await put('Bunting');
    await event(unit, { kind: 'noted', note: 'dusted' });
    const second = await event(unit, { kind: 'noted', note: 'dusted too' });
    expect([second.status, second.body['detail']]).toEqual([
      409,
      'Somebody recorded something in the meantime: “dusted” (A keeper). Look again, then decide.',
    ]);
  });

  it('is read out of a few words', async () => {
    const unit = await put('Crake');
    const { body } = await ask(
      'POST',
      `/units/${String(unit['id'])}/statements`,
      { text: 'bay 3 is clicking' },
      reader,
    );
    expect(body['meanings'][0]).toMatchObject({ event: { kind: 'drive-suspected', serial: 'CRAKE-3' } });
  });

  it('is held against what a page reports', async () => {
    const unit = await put('Dipper');
    const { body } = await ask(
      'POST',
      `/units/${String(unit['id'])}/reports`,
      { text: 'Bay 1 Dipper-1 8 TB Normal\nBay 2 Dipper-2 8 TB Failed\nBay 3 Dipper-3 8 TB Normal' },
      reader,
    );
    expect(body['contradictions']).toMatchObject([{ code: 'failed', bay: '2' }]);
  });

  it('is withdrawn by another entry, never deleted, and the state is as if it had not been', async () => {
    const unit = await put('Egret');
    const failed = (await event(unit, { kind: 'drive-failed', serial: 'EGRET-1' })).body;
    expect(failed['margin']).toBe(0);
    const seq = failed['version'] as number;
    const undone = (await event(failed, { kind: 'statement-withdrawn', seq, reason: 'wrong bay' })).body;
    expect([undone['margin'], undone['version']]).toEqual([1, seq + 1]);
    const { events } = (await ask('GET', `/units/${String(unit['id'])}/events`)).body as { events: Json[] };
    expect(events.at(-2)).toMatchObject({ seq, event: { kind: 'drive-failed' } });
    for (const [of, code] of [
      [seq, 'entry-withdrawn'],
      [seq + 1, 'entry-stands'],
      [9999, 'entry-unknown'],
    ] as const)
      expect((await event(undone, { kind: 'statement-withdrawn', seq: of, reason: 'x' })).body['code']).toBe(code);
    // What rests on it stands in the way; with nothing left on it, the unit itself was not so, nor were its drives in it.
    const version = (await event(undone, { kind: 'noted', note: 'dusted' })).body['version'] as number;
    expect(
      (await event({ ...undone, version }, { kind: 'statement-withdrawn', seq: 2, reason: 'x' })).body['code'],
    ).toBe('rests-on-it');
    await event({ ...undone, version }, { kind: 'statement-withdrawn', seq: version, reason: 'x' });
    expect(
      (await event({ ...undone, version: version + 1 }, { kind: 'statement-withdrawn', seq: 2, reason: 'never came' }))
        .status,
    ).toBe(201);
    expect([
      (await ask('GET', `/units/${String(unit['id'])}`)).status,
      (await ask('GET', '/drives/EGRET-1')).status,
    ]).toEqual([404, 404]);
  });
});

describe('the evening round', () => {
  it('records lamps, drives seen and fill together', async () => {
    const unit = await put('Fulmar');
    const walked = await ask('POST', `/units/${String(unit['id'])}/rounds`, {
      expectedVersion: unit['version'],
      seen: 2,
      signs: ['beeping'],
      used: [{ pool: poolOf(unit), share: 0.85 }],
    });
    expect(walked.body['state']).toMatchObject({ counted: { seen: 2, expected: 3 }, signs: [{ note: 'beeping' }] });
    const { needs } = (await ask('GET', '/needs', undefined, reader)).body as { needs: Json[] };
    const codes = needs.filter((need) => need['unit'] === unit['id']).map(({ code }) => String(code));
    expect(codes).toEqual(expect.arrayContaining(['drives-unseen', 'sign-open', 'near-full']));
    const wrong = await ask('POST', `/units/${String(unit['id'])}/rounds`, {
      expectedVersion: walked.body['version'],
      signs: [],
      used: [{ pool: 'pool-9', share: 0.5 }],
    });
    expect([wrong.status, wrong.body['errors'][0].pointer, (await now(unit))['version']]).toEqual([
      422,
      '#/used/0/pool',
      walked.body['version'],
    ]);
  });

  it('is held against the record like everything that is seen: work goes on by what it shows, and what went back is for a person', async () => {
    const unit = await put('Gannet');
    const id = String(unit['id']);
    const pool = poolOf(unit);
    const idle = await ask('POST', `/units/${id}/rounds`, {
      expectedVersion: unit['version'],
      signs: [],
      progress: [{ pool, percent: 5 }],
    });
    expect([idle.status, idle.body['code'], idle.body['errors'][0].pointer]).toEqual([
      422,
      'job-unknown',
      '#/progress/0/pool',
    ]);
    const begun = await ask('POST', `/units/${id}/events`, {
      expectedVersion: unit['version'],
      event: { kind: 'job-started', job: 'check', task: 'scrub', pool },
    });
    const walk = async (version: unknown, more: object) =>
      (await ask('POST', `/units/${id}/rounds`, { expectedVersion: version, signs: [], ...more })).body;
    const first = await walk(begun.body['version'], { progress: [{ pool, percent: 40 }] });
    expect(first['state']).toMatchObject({ jobs: { check: { percent: 40 } }, counted: null });
    expect(first['doubtful']).toEqual([]);
    const second = await walk(first['version'], { seen: 2, progress: [{ pool, percent: 12.5 }] });
    expect(second['state']).toMatchObject({ jobs: { check: { percent: 40 } }, counted: { seen: 2 } });
    expect((second['doubtful'] as Json[]).map(({ code }) => code)).toEqual(['went-back', 'count']);
    // Sent again because no answer came, when the work is done meanwhile: it is on record, and said to be.
    const round = {
      act: randomUUID(),
      expectedVersion: second['version'],
      signs: [],
      progress: [{ pool, percent: 60 }],
    };
    const once = await ask('POST', `/units/${id}/rounds`, round);
    expect(once.body['state']).toMatchObject({ jobs: { check: { percent: 60 } } });
    const done = await ask('POST', `/units/${id}/events`, {
      expectedVersion: once.body['version'],
      event: { kind: 'job-finished', job: 'check' },
    });
    const again = await ask('POST', `/units/${id}/rounds`, round);
    expect([again.status < 300, again.body['act'], again.body['doubtful']]).toEqual([true, round.act, []]);
    expect((await now(unit))['version']).toBe(done.body['version']);
    const wrong = await ask('POST', `/units/${id}/rounds`, {
      expectedVersion: second['version'],
      signs: [],
      progress: [{ pool: 'pool-9', percent: 5 }],
    });
    expect([wrong.status, wrong.body['errors'][0].pointer]).toEqual([422, '#/progress/0/pool']);
    const more = await walk(second['version'], { progress: [{ pool, percent: 101 }] });
    expect(more['errors']).toMatchObject([{ pointer: '#/progress/0/percent' }]);
  });
});

describe('readings', () => {
  it('are added once, rolled up by day, and name the row that is wrong', async () => {
    const unit = await put('Gadwall');
    const id = String(unit['id']);
    const row = (at: string, value: number, subject = 'GADWALL-1') => ({
      unit: id,
      subject,
      metric: 'reallocated-sectors',
      at,
      value,
    });
    const first = [row('2026-01-01T08:00:00Z', 2), row('2026-01-01T20:00:00Z', 5), row('2026-01-02T08:00:00Z', 4)];
    expect((await ask('POST', '/readings', { readings: first })).body).toEqual({ added: 3 });
    expect((await ask('POST', '/readings', { readings: first })).body).toEqual({ added: 0 });
    const { body } = await ask('GET', '/drives/Gadwall-1');
    expect(body['readings']['reallocated-sectors']).toEqual([
      { day: '2026-01-01', low: 2, high: 5, last: 5 },
      { day: '2026-01-02', low: 4, high: 4, last: 4 },
    ]);
    await ask('POST', '/readings', { readings: [row('2026-01-12T08:00:00Z', 9)] });
    const { needs } = (await ask('GET', '/needs', undefined, reader)).body as { needs: Json[] };
    expect(needs.find((need) => need['unit'] === id && need['code'] === 'sign-growing')).toMatchObject({
      reason: expect.stringContaining('From 4 on 2026-01-02 to 9.'),
    });
    // No more is used of a pool than it holds, but for what its page rounds.
    const [pool] = Object.values(unit['state'].pools) as { id: string; shownBytes: number }[];
    const used = (share: number) => ({
      ...row('2026-01-05T08:00:00Z', Math.round(share * (pool?.shownBytes ?? 0)), pool?.id),
      metric: 'used-bytes',
    });
    const more = await ask('POST', '/readings', { readings: [used(1.5)] });
    expect([more.status, more.body['errors'][0].pointer]).toEqual([422, '#/readings/0/value']);
    expect((await ask('POST', '/readings', { readings: [used(1.01)] })).body).toEqual({ added: 1 });
    // One count has one value at one moment, in what is sent and beside what is kept; nothing of it goes in.
    for (const [at, value] of [
      ['2026-01-02T08:00:00Z', 5],
      ['2026-01-20T08:00:00Z', 2],
    ] as const) {
      const twice = await ask('POST', '/readings', { readings: [row('2026-01-20T08:00:00Z', 1), row(at, value)] });
      expect([twice.status, twice.body['code'], twice.body['errors'][0].pointer]).toEqual([
        422,
        'read-otherwise',
        '#/readings/1/value',
      ]);
    }
    expect((await ask('POST', '/readings', { readings: [row('2026-01-20T08:00:00Z', 1)] })).body).toEqual({ added: 1 });
    // Sent by several at once, one of them is right.
    const sent = await Promise.all(
      [1, 2, 3, 4].map((value) => ask('POST', '/readings', { readings: [row('2026-01-21T08:00:00Z', value)] })),
    );
    expect(sent.map(({ status }) => status).sort()).toEqual([201, 422, 422, 422]);
    const wrong = await ask('POST', '/readings', {
      readings: [row('2026-01-03T08:00:00Z', 1), row('2026-01-03T09:00:00Z', 1, 'nobody')],
    });
    expect([wrong.status, wrong.body['errors'][0].pointer]).toEqual([422, '#/readings/1/subject']);
    expect((await ask('POST', '/readings', { readings: [row('2199-01-01T00:00:00Z', 1)] })).body['code']).toBe(
      'in-the-future',
    );
    expect(
      (await ask('POST', '/readings', { readings: [{ ...row('2026-01-01T08:00:00Z', 1), metric: 'mood' }] })).status,
    ).toBe(422);
  });
});

describe('a plan', () => {
  it('is tried, begun, worked with evidence, taken back, and finished', async () => {
    const { body: unit } = await ask('POST', '/units', emptyUnitSent('Heron', { profile: 'reedbank', bays: 2 }));
    const wish = {
      drives: ['1', '2'].map((bay) => ({ bay, bytes: BYTES, basis: 'exact' })),
      pool: { name: 'Office', scheme: 'mirror' },
      fileSystem: 'without checksums',
    };
    const tried = await ask('POST', '/plans/commission', { unit: unit['id'], wish }, reader);
    expect(tried.body['dryRun'].at(-1)).toMatchObject({
      kind: 'dry-step',
      margin: { [madePool(tried.body['plan'])]: 1 },
    });
    expect(
      (
        await ask(
          'POST',
          '/plans/commission',
          { unit: unit['id'], wish: { ...wish, pool: { name: 'P', scheme: 'parity-2' } } },
          reader,
        )
      ).body,
    ).toMatchObject({
      code: 'layout-illegal',
      errors: [{ pointer: '#/wish/pool/scheme' }],
    });
    let state = (
      await ask('POST', `/units/${String(unit['id'])}/plans`, {
        expectedVersion: unit['version'],
        job: 'commission',
        wish,
      })
    ).body;
    const address = `/units/${String(unit['id'])}/plans/${String(state['plan'])}`;
    const plan = state['run'].plan as { steps: Json[] };
    expect(
      (
        await ask('POST', `/units/${String(unit['id'])}/plans`, {
          expectedVersion: state['version'],
          job: 'commission',
          wish,
        })
      ).body['code'],
    ).toBe('plan-running');
    const step = (id: string, evidence: object) =>
      ask('POST', `${address}/steps`, { expectedVersion: state['version'], step: id, evidence });

    const early = await step('pool', { kind: 'tick' });
    expect([early.body['code'], early.body['detail']]).toEqual(['not-yet', expect.stringMatching(/^First: Fit/)]);
    expect((await step('attention', { kind: 'serial', serial: 'x' })).body['code']).toBe('evidence-kind');
    expect((await step('nonsense', { kind: 'tick' })).body['code']).toBe('step-unknown');
    expect(
      (await ask('POST', `${address}/skips`, { expectedVersion: state['version'], step: 'tested', reason: 'no time' }))
        .body['code'],
    ).toBe('not-skippable');
    expect(
      (await ask('POST', `${address}/end`, { expectedVersion: state['version'], how: 'finished' })).body['code'],
    ).toBe('steps-open');

    for (const { id, asks, does } of plan.steps) {
      const kind = String((asks as Json)['kind']);
      const evidence = {
        // The unit says itself when its first build is done.
        tick: JSON.stringify(does).includes('finish-job') ? { kind: 'page', says: 'done', again: true } : { kind },
        scans: {
          kind,
          scans: ((asks as Json)['bays'] as Json[] | undefined)?.map(({ bay }) => ({
            bay,
            serial: `qh8-fit-${String(bay)}`,
            drive: { bytes: BYTES, basis: 'exact' },
          })),
        },
        number: { kind, number: (does as Json[])[0]?.['expected'] },
        text: { kind, text: 'written' },
        items: { kind, missing: [] },
        speed: { kind, read: 110, write: 90 },
        copy: { kind, copy: { where: 'the bank', keeps: 'versions', offSite: true } },
      }[kind];
      const done = await step(String(id), evidence as object);
      if (done.status !== 201) throw new Error(`${String(id)}: ${JSON.stringify(done.body)}`);
      if (id === 'fit-1') {
        // One step back: the drives are out of their bays again, and of their own ledgers too.
        const back = await ask('POST', `${address}/back`, { expectedVersion: done.body['version'], step: id });
        expect([back.body['state'].drives['QH8-FIT-2'], back.body['next']]).toEqual([undefined, 'fit-1']);
        expect((await ask('GET', '/drives/QH8-fit-2')).status).toBe(404);
        state = back.body;
        const { scans } = evidence as { scans: Json[] };
        state = (
          await step('fit-1', {
            kind: 'scans',
            scans: [...scans.slice(0, -1), { ...scans.at(-1), serial: 'QH8-second' }],
          })
        ).body;
      } else state = done.body;
    }
    expect(state).toMatchObject({
      next: null,
      margin: 1,
      state: {
        details: { call: 'written', firmware: 'written' },
        dataSets: { [madePool(plan)]: { copies: { 'copy-1': { where: 'the bank' } } } },
      },
    });
    expect(
      (await ask('POST', `${address}/back`, { expectedVersion: state['version'], step: 'pool' })).body['code'],
    ).toBe('rests-on-it');
    const ended = await ask('POST', `${address}/end`, { expectedVersion: state['version'], how: 'finished' });
    expect([ended.body['run'].ended, ended.body['state'].plans]).toMatchObject([{ how: 'finished' }, {}]);
    expect((await ask('GET', '/plans', undefined, reader)).body['plans']).toMatchObject([
      { unitName: 'Heron', run: { ended: { how: 'finished' } } },
    ]);
    expect(
      (await ask('POST', `${address}/steps`, { expectedVersion: 1, step: 'x', evidence: { kind: 'tick' } }, reader))
        .status,
    ).toBe(403);
  });
});

describe('papers', () => {
  const png = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  it('are kept as they came, by what they are and not by what they are called', async () => {
    const unit = await put('Ibis');
    const address = `/units/${String(unit['id'])}/papers`;
    const kept = await ask('POST', address, { name: 'cabling.exe', base64: png });
    expect([kept.status, kept.body['type']]).toEqual([201, 'image/png']);
    const got = await shelf.ask('GET', `/papers/${String(kept.body['id'])}`, reader);
    expect([
      got.headers.get('content-type'),
      got.headers.get('content-disposition'),
      got.headers.get('x-content-type-options'),
    ]).toEqual(['image/png', 'inline; filename="cabling.exe"', 'nosniff']);
    expect(got.headers.get('content-security-policy')).toContain("default-src 'none'");
    const html = await ask('POST', address, {
      name: 'page.html',
      base64: Buffer.from('<script>alert(1)</script>').toString('base64'),
    });
    expect(html.body['type']).toBe('text/plain');
    const served = await shelf.ask('GET', `/papers/${String(html.body['id'])}`, reader);
    expect([served.headers.get('content-type'), served.headers.get('content-disposition')]).toEqual([
      'text/plain; charset=utf-8',
      'attachment; filename="page.html"',
    ]);
    expect(
      (await ask('POST', address, { name: 'x', base64: Buffer.from([0x4d, 0x5a, 0x90, 0, 3]).toString('base64') }))
        .body['code'],
    ).toBe('paper-type');
    expect((await ask('POST', address, { name: 'x', base64: 'not base 64' })).status).toBe(422);
    expect(
      (await ask('POST', address, { name: 'x', base64: Buffer.alloc(3_000_001, 65).toString('base64') })).body['code'],
    ).toBe('paper-too-large');
    expect((await ask('DELETE', `/papers/${String(kept.body['id'])}`, undefined, reader)).status).toBe(403);
    expect((await ask('DELETE', `/papers/${String(kept.body['id'])}`)).status).toBe(200);
    expect((await ask('GET', `/papers/${String(kept.body['id'])}`)).status).toBe(404);
  });
});

describe('upkeep', () => {
  it('is a calendar at a secret address, which a general calendar library reads back', async () => {
    const unit = await put('Jacana');
    const as = await shelf.cookieOf('keeper');
    expect((await ask('POST', '/calendar-feed', undefined, keeper)).status).toBe(403);
    const { body } = await shelf.ask('POST', '/calendar-feed', as, undefined);
    const secret = String(body['path']).split('/').at(-1) ?? '';
    const text = (await calendarAt(shelf.app, secret)) ?? '';
    const events = new ICAL.Component(ICAL.parse(text) as unknown[])
      .getAllSubcomponents('vevent')
      .map((of) => new ICAL.Event(of));
    const scrub = events.find(({ uid }) => uid === `${String(unit['id'])}-scrub@patient-shelf`);
    expect([scrub?.summary, scrub?.isRecurring(), scrub?.startDate.isDate]).toEqual([
      'Jacana: Read everything to check it (scrub)',
      true,
      true,
    ]);
    const task = ((await ask('GET', '/upkeep')).body['units'] as Json[])
      .find((one) => one['unit'] === unit['id'])
      ?.['tasks'].find((one: Json) => one['id'] === 'scrub') as Json;
    expect(scrub?.startDate.toString()).toBe(task['due']);
    // Asked again it is the same to the byte; what is entered counts on. Nobody is busy because of it.
    expect(await calendarAt(shelf.app, secret)).toBe(text);
    const sequenceOf = (of: string): number =>
      Number(
        new ICAL.Component(ICAL.parse(of) as unknown[])
          .getAllSubcomponents('vevent')
          .find((one) => one.getFirstPropertyValue('uid') === `${String(unit['id'])}-scrub@patient-shelf`)
          ?.getFirstPropertyValue('sequence'),
      );
    const events0 = text.match(/BEGIN:VEVENT/g)?.length;
    expect(text.match(/TRANSP:TRANSPARENT/g)?.length).toBe(events0);
    await event(unit, { kind: 'noted', note: 'x' });
    expect(sequenceOf((await calendarAt(shelf.app, secret)) ?? '')).toBe(sequenceOf(text) + 1);
    expect(await calendarAt(shelf.app, `${secret}x`)).toBeNull();
    const { body: again } = await shelf.ask('POST', '/calendar-feed', as, undefined);
    expect(await calendarAt(shelf.app, secret)).toBeNull();
    await shelf.ask('DELETE', '/calendar-feed', as);
    expect(await calendarAt(shelf.app, String(again['path']).split('/').at(-1) ?? '')).toBeNull();
  });

  it('lists copies with what is wrong, spares that fit, and the tested drives', async () => {
    const unit = await put('Knot');
    await event(unit, { kind: 'data-set-described', dataSet: 'd', name: 'Accounts', pool: poolOf(unit) });
    const copies = ((await ask('GET', '/copies', undefined, reader)).body['units'] as Json[]).find(
      (one) => one['unit'] === unit['id'],
    ) as Json;
    expect(copies).toMatchObject({ dataSets: [{ name: 'Accounts', troubles: [{ code: 'no-copy' }] }], uncovered: [] });
    const spares = () => ask('GET', `/spares?unit=${String(unit['id'])}`, undefined, reader);
    expect((await spares()).body['units'][0].bays[0]).toMatchObject({ bay: '1', spares: [] });
    await ask('POST', '/drives', {
      drives: [{ serial: 'SPARE-1', drive: { bytes: BYTES, basis: 'exact' } }],
      drawer: { site: 'S', room: 'R', drawer: 'top' },
    });
    expect((await spares()).body['units'][0].bays[0].spares).toMatchObject([{ serial: 'SPARE-1', reach: 'same-room' }]);
    expect(
      (await ask('POST', '/tested-models', { model: 'Q8', verdict: 'avoid', note: 'stalls' })).body['models'],
    ).toEqual([{ model: 'Q8', verdict: 'avoid', note: 'stalls' }]);
    expect((await ask('DELETE', '/tested-models/Q8')).status).toBe(200);
    expect((await ask('DELETE', '/tested-models/Q8')).status).toBe(404);
  });

  it('decodes lamps of a unit as it is now', async () => {
    const unit = await put('Lapwing');
    const lamps = (of = '') => ask('GET', `/units/${String(unit['id'])}/lamps${of}`, undefined, reader);
    expect((await lamps()).body['lamps'][1]).toMatchObject({ see: 'A beep that repeats', reads: 'new' });
    await event(unit, { kind: 'drive-failed', serial: 'LAPWING-1' });
    expect((await lamps()).body['lamps'][1]).toMatchObject({ reads: 'expected' });
    expect((await lamps()).body['lamps'][0]).toMatchObject({ isOfBay: true, reads: 'unsaid' });
    expect((await lamps('?bay=1')).body['lamps'][0]).toMatchObject({ reads: 'expected' });
    expect((await lamps('?bay=2')).body['lamps'][0]).toMatchObject({ reads: 'worse' });
    expect(await lamps('?bay=99')).toMatchObject({ status: 422, body: { code: 'bay-unknown' } });
  });
});

/** An act of one entry on a unit, as an export has it. */
const actOn = (unit: Json, seq: number, event: object): Json => {
  const at = new Date().toISOString();
  return {
    id: randomUUID(),
    happenedAt: at,
    recordedAt: at,
    by: { kind: 'person', id: null, name: 'K' },
    entries: [{ unit: unit['id'], seq, event }],
  };
};

describe('taking everything away', () => {
  it('brings all of it back into an empty shelf, the same to the byte in what it makes', async () => {
    const paper = await ask('POST', `/units/${String((await put('Merganser'))['id'])}/papers`, {
      name: 'invoice.txt',
      base64: Buffer.from('seven drives').toString('base64'),
    });
    expect(paper.status).toBe(201);
    const exported = (await shelf.ask('GET', '/export', reader)).body as Json;
    expect(exported['format']).toBe('patient-shelf-export');
    const other = await testShelf();
    try {
      const there = await other.tokenOf('owner');
      const tried = await other.ask('POST', '/import', there, { document: exported, try: true });
      expect([tried.status, tried.body['done']]).toEqual([200, false]);
      expect((tried.body['rows'] as Json[]).filter(({ verdict }) => verdict === 'refused')).toEqual([]);
      expect((await other.ask('GET', '/units', there)).body['units']).toEqual([]);
      expect((await other.ask('POST', '/import', there, { document: exported })).body['done']).toBe(true);
      const again = (await other.ask('GET', '/export', there)).body as Json;
      for (const part of ['acts', 'orders', 'testedModels', 'readings']) expect(again[part]).toEqual(exported[part]);
      expect((again['papers'] as Json[]).map(({ base64 }) => String(base64)).sort()).toEqual(
        (exported['papers'] as Json[]).map(({ base64 }) => String(base64)).sort(),
      );
      const units = async (of: TestShelf, as: string) => (await of.ask('GET', '/units', as)).body['units'];
      expect(await units(other, there)).toEqual(await units(shelf, owner));
      const twice = await other.ask('POST', '/import', there, { document: exported });
      expect(
        (twice.body['rows'] as Json[])
          .filter(({ what }) => what === 'unit')
          .every(({ verdict }) => verdict === 'unchanged'),
      ).toBe(true);
    } finally {
      await other.close();
    }
  });

  it('refuses the whole when one row is refused, and says which and why', async () => {
    const unit = await put('Noddy');
    const exported = (await shelf.ask('GET', '/export', reader)).body as Json;
    const forged = structuredClone(exported);
    const mine = (forged['acts'] as Json[]).find(
      ({ entries }) => (entries as Json[])[0]?.['unit'] === unit['id'],
    ) as Json;
    mine['entries'][0].event.name = 'Forged';
    (forged['acts'] as Json[]).push(actOn(unit, (unit['version'] as number) + 1, { kind: 'noted', note: 'new' }));
    const before = (await shelf.ask('GET', '/export', reader)).body;
    const { body } = await ask('POST', '/import', { document: forged }, owner);
    expect(body['done']).toBe(false);
    expect((body['rows'] as Json[]).find(({ verdict }) => verdict === 'refused')).toMatchObject({
      what: 'unit',
      detail: expect.stringContaining('It says something else here than in the file'),
    });
    const after = (await shelf.ask('GET', '/export', reader)).body;
    expect({ ...after, exportedAt: 0 }).toEqual({ ...before, exportedAt: 0 });
    expect((await ask('POST', '/import', { document: { ...exported, colour: 1 } }, owner)).status).toBe(422);
    expect((await ask('POST', '/import', { document: exported }, keeper)).status).toBe(403);
  });

  it('goes on where a ledger ends', async () => {
    const unit = await put('Osprey');
    const exported = (await shelf.ask('GET', '/export', reader)).body as Json;
    const longer = structuredClone(exported);
    const next = (unit['version'] as number) + 1;
    (longer['acts'] as Json[]).push(actOn(unit, next, { kind: 'drive-failed', serial: 'OSPREY-1' }));
    // An entry out of its turn, or one that is made of nothing anybody did, is refused whole.
    for (const wrong of [
      actOn(unit, next + 1, { kind: 'noted', note: 'n' }),
      actOn(unit, next, { kind: 'drive-removed', serial: 'OSPREY-1' }),
    ]) {
      const torn = { ...exported, acts: [...(exported['acts'] as Json[]), wrong] };
      expect((await ask('POST', '/import', { document: torn }, owner)).body).toMatchObject({ done: false });
    }
    const { body } = await ask('POST', '/import', { document: longer }, owner);
    expect((body['rows'] as Json[]).find(({ name }) => name === 'Osprey')).toMatchObject({
      verdict: 'changed',
      detail: '1 entry.',
    });
    expect(await now(unit)).toMatchObject({ version: (unit['version'] as number) + 1, margin: 0 });
  });

  it('is a sheet of each kind', async () => {
    for (const [path, head] of [
      ['units', 'unit,site,room,family'],
      ['drives', 'serial,where,bytes'],
      ['events', 'unit,entry,happened at'],
      ['readings', 'unit,subject,metric,at,value'],
    ] as const) {
      const { headers, body } = await shelf.ask('GET', `/${path}.csv`, reader);
      const text = String(body['text']);
      expect([headers.get('content-type'), text.startsWith(head), text.split('\r\n').length > 2]).toEqual([
        'text/csv; charset=utf-8',
        true,
        true,
      ]);
    }
  });
});
