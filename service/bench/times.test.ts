import { rebuildProjections } from '../ledgers/rebuild';
import { unitLedger } from '../../core/world/ledger';
import { entriesOf } from '../../store/acts';
import { readUnit } from '../units/readUnit';
import { readWaits } from '../units/readShelf';
import { shelfOfFile } from '../testing/testShelf';

const shelf = await shelfOfFile();

const asked = {
  profile: 'plain',
  scheme: 'parity-1',
  drives: ['1', '2', '3', '4'].map((bay) => ({ bay, label: '8 TB', media: 'hard-disk' })),
  member: '2',
};
const HOUR = 3_600_000;
const began = Date.parse('2026-03-01T08:00:00Z');
const at = (hours: number): string => new Date(began + hours * HOUR).toISOString();

describe('POST /rebuilds/estimate', () => {
  const ask = async (more: object) =>
    shelf.ask('POST', '/rebuilds/estimate', await shelf.tokenOf('reader'), { ...asked, ...more });

  it('says how long before anything is heard, and what is written and read', async () => {
    const { status, body } = await ask({});
    expect(status).toBe(200);
    // Classic single parity: the member from end to end, and as much of each of the three others.
    expect(body).toMatchObject({ writtenBytes: 8001563222016, readBytes: 3 * 8001563222016, live: null });
    const { low, likely, high } = body as unknown as { low: number; likely: number; high: number };
    expect(low < likely && likely < high).toBe(true);
  });

  it('says when it is done from what was heard, in any order, and after it began anew', async () => {
    const reports = [20, 40, 60].map((percent, i) => ({ at: at(4 * (i + 1)), percent }));
    interface Live {
      readonly progress: number;
      readonly low: string;
      readonly likely: string;
      readonly high: string;
      readonly found: string[];
    }
    const live = async (more: object): Promise<Live> =>
      (await ask({ startedAt: at(0), ...more })).body['live'] as unknown as Live;
    const steady = await live({ reports });
    expect(steady.progress).toBeCloseTo(0.6, 2);
    expect(steady.low < steady.likely && steady.likely < steady.high).toBe(true);
    expect(steady.low > at(12)).toBe(true);
    expect(await live({ reports: [...reports].reverse() })).toEqual(steady);
    const anew = await live({ reports: [...reports, { at: at(15), percent: 10 }], restarts: [at(13)] });
    expect(anew.progress).toBeCloseTo(0.1, 2);
    expect(anew.likely > steady.likely).toBe(true);
  });

  it.each<[string, object, string]>([
    ['no such member', { member: '9' }, '/member'],
    ['nothing to rebuild from', { scheme: 'stripe' }, '/scheme'],
    ['a drive too small for it', { onto: { bytes: 4e12 } }, '/onto/bytes'],
    ['reports of work that never began', { reports: [{ at: at(1), percent: 5 }] }, '/startedAt'],
    ['a report from before', { startedAt: at(2), reports: [{ at: at(1), percent: 5 }] }, '/reports/0/at'],
    ['more than all', { startedAt: at(0), reports: [{ at: at(1), percent: 101 }] }, '/reports/0/percent'],
    ['a family nobody knows', { profile: 'nobody' }, '/profile'],
  ])('is refused, and says where: %s', async (_what, more, pointer) => {
    const { status, body } = await ask(more);
    expect(status).toBe(422);
    expect((body['errors'] as unknown as { pointer: string }[])[0]?.pointer).toBe(`#${pointer}`);
  });
});

describe('POST /transfers/shares', () => {
  const ask = async (body: object) => shelf.ask('POST', '/transfers/shares', await shelf.tokenOf('reader'), body);
  const shares = [
    { name: 'Maps', bytes: 1.3e12, files: 100 },
    { name: 'Papers', bytes: 1e10, files: 1_000_000 },
  ];

  it('says it of each, one after the other and side by side', async () => {
    const { status, body } = await ask({ shares, linkGigabits: 1, source: 'ssd', target: 'nvme' });
    expect(status).toBe(200);
    const { inSequence, sideBySide, bottleneck } = body as unknown as Record<
      string,
      { likely: number; streams?: number }
    >;
    // 111 MB/s and 2 ms a file (common practice): the papers wait beside the maps.
    expect(Math.abs((inSequence?.likely ?? 0) - (1.31e12 / 111e6 + 2000))).toBeLessThan(50);
    expect([sideBySide?.streams, bottleneck]).toEqual([2, 'link']);
    expect(sideBySide?.likely).toBeLessThan((inSequence?.likely ?? 0) - 1000);
  });

  it('is refused for what cannot be', async () => {
    for (const [more, pointer] of [
      [{ shares: [] }, '/shares'],
      [{ shares: [...shares, { name: ' ', bytes: 1, files: 1 }] }, '/shares/2/name'],
      [{ shares: [{ name: 'A', bytes: 1, files: 0 }] }, '/shares/0/files'],
      [{ streams: 0 }, '/streams'],
    ] as const) {
      const { status, body } = await ask({ linkGigabits: 1, ...{ shares }, ...more });
      expect([status, (body['errors'] as unknown as { pointer: string }[])[0]?.pointer]).toEqual([422, `#${pointer}`]);
    }
  });
});

describe('what work is reckoned with beside drives and reports', () => {
  it('takes office hours by the organisation’s clocks, which an owner sets', async () => {
    const owner = await shelf.cookieOf('owner');
    const set = (timeZone: string | null) =>
      shelf.ask('PUT', '/organisation', owner, { name: 'Marrowfen', currency: 'EUR', timeZone });
    const nowhere = await set('Marrowfen/Hut');
    expect([nowhere.status, nowhere.body['errors']]).toEqual([
      422,
      [expect.objectContaining({ pointer: '#/timeZone' })],
    ]);
    // A crawl from eight to six in Auckland, which is thirteen hours ahead in March, and full speed after it.
    const start = Date.parse('2026-03-02T19:00:00Z');
    const reports = Array.from({ length: 14 }, (_, h) => ({
      at: new Date(start + h * HOUR).toISOString(),
      percent: h <= 10 ? h : 10 + (h - 10) * 8,
    }));
    const live = async () =>
      (
        await shelf.ask('POST', '/rebuilds/estimate', await shelf.tokenOf('reader'), {
          ...asked,
          startedAt: reports[0]?.at,
          reports,
        })
      ).body['live'] as object;
    expect((await set('UTC')).status).toBe(200);
    const elsewhere = await live();
    expect((await set('Pacific/Auckland')).body).toMatchObject({ timeZone: 'Pacific/Auckland' });
    expect(await live()).not.toEqual(elsewhere);
    // Saying nothing of it leaves it as it is.
    await shelf.ask('PUT', '/organisation', owner, { name: 'Marrowfen', currency: 'CHF' });
    expect((await shelf.ask('GET', '/export', owner)).body['organisation']).toEqual({
      name: 'Marrowfen',
      currency: 'CHF',
      timeZone: 'Pacific/Auckland',
    });
    // Taken out, it is that of where the application runs again.
    expect((await set(null)).body).toEqual({ name: 'Marrowfen', currency: 'EUR' });
    expect((await shelf.ask('GET', '/export', owner)).body['organisation']).toEqual({
      name: 'Marrowfen',
      currency: 'EUR',
    });
  });

  it('has learnt of the other units of the family, in the list of waits as on the unit’s page', async () => {
    const keeper = await shelf.tokenOf('keeper');
    const put = async (name: string, profile: string) =>
      String(
        (
          await shelf.ask('POST', '/units', keeper, {
            name,
            place: { site: 'Hut', room: 'one' },
            profile,
            bays: 4,
            drives: ['1', '2', '3'].map((bay) => ({
              bay,
              serial: `${name}-${bay}`.toUpperCase(),
              bytes: 8e12,
              basis: 'exact',
            })),
            pool: { scheme: 'parity-1' },
          })
        ).body['id'],
      );
    const hear = async (unit: string, event: object) => {
      const { version, state } = (await shelf.ask('GET', `/units/${unit}`, keeper)).body;
      return shelf.ask('POST', `/units/${unit}/events`, keeper, {
        expectedVersion: version,
        event: { pool: Object.keys(state['pools'] as object)[0], ...event },
      });
    };
    const [taught, like, unlike] = [
      await put('Sora', 'plain'),
      await put('Crake', 'plain'),
      await put('Rail', 'saltern'),
    ];
    expect((await hear(taught, { kind: 'job-started', job: 'a', task: 'scrub' })).status).toBe(201);
    expect((await hear(taught, { kind: 'job-progressed', job: 'a', pool: undefined, percent: 90 })).status).toBe(201);
    expect((await hear(taught, { kind: 'job-finished', job: 'a', pool: undefined })).status).toBe(201);
    for (const unit of [like, unlike])
      expect((await hear(unit, { kind: 'job-started', job: 'b', task: 'scrub' })).status).toBe(201);
    const about = { name: 'Marrowfen', currency: 'EUR', timeZone: 'Pacific/Auckland' };
    expect((await shelf.ask('PUT', '/organisation', await shelf.cookieOf('owner'), about)).status).toBe(200);
    const waits = await readWaits(shelf.app);
    const earlier = (unit: string) => waits.find((wait) => wait.unit === unit)?.estimate;
    expect(earlier(like)).toMatchObject({ earlier: 0, earlierInFamily: 1 });
    expect(earlier(unlike)).toMatchObject({ earlier: 0, earlierInFamily: 0 });
    const page = await readUnit(shelf.app, like, new Date());
    expect(page?.work?.taught).toEqual([expect.objectContaining({ unit: 'Sora', family: 'plain' })]);
    expect(page?.work?.zone).toBe('Pacific/Auckland');

    // What another learns while it waits, it knows; and the clocks, when they are set.
    const waitsNow = () => shelf.app.db.selectFrom('wait_now').selectAll().orderBy('unit').orderBy('job').execute();
    for (const event of [
      { kind: 'job-started', job: 'c', task: 'scrub' },
      { kind: 'job-progressed', job: 'c', pool: undefined, percent: 90 },
      { kind: 'job-finished', job: 'c', pool: undefined },
    ])
      expect((await hear(taught, event)).status).toBe(201);
    const learnt = await readWaits(shelf.app);
    expect(learnt.find((wait) => wait.unit === like)?.estimate).toMatchObject({ earlierInFamily: 2 });
    expect(learnt.find((wait) => wait.unit === unlike)?.estimate).toMatchObject({ earlierInFamily: 0 });
    // An act that did not count after all taught nothing.
    const newest = (await entriesOf(shelf.app.db, unitLedger(taught))).at(-1);
    expect((await shelf.ask('POST', `/acts/${newest?.act ?? ''}/back`, keeper, { reason: 'not yet' })).status).toBe(
      201,
    );
    expect((await readWaits(shelf.app)).find((wait) => wait.unit === like)?.estimate).toMatchObject({
      earlierInFamily: 1,
    });
    const before = await waitsNow();
    await rebuildProjections(shelf.app.db);
    expect(await waitsNow()).toEqual(before);
    expect(
      (
        await shelf.ask('PUT', '/organisation', await shelf.cookieOf('owner'), {
          name: 'M',
          currency: 'EUR',
          timeZone: 'America/Lima',
        })
      ).status,
    ).toBe(200);
    const elsewhere = await waitsNow();
    expect(elsewhere).not.toEqual(before);
    await rebuildProjections(shelf.app.db);
    expect(await waitsNow()).toEqual(elsewhere);
  });
});

describe('POST /transfers/estimate', () => {
  const ask = async (body: object) => shelf.ask('POST', '/transfers/estimate', await shelf.tokenOf('reader'), body);

  it('names what holds it up', async () => {
    const large = await ask({ bytes: 1.3e12, files: 100, linkGigabits: 1 });
    expect(large.status).toBe(200);
    expect(large.body).toMatchObject({ bottleneck: 'link' });
    // 111 MB/s (common practice): 3 h 15 min.
    expect(Math.abs((large.body['likely'] as unknown as number) / 60 - 195)).toBeLessThan(2);
    expect(
      (await ask({ bytes: 1e12, files: 1e7, linkGigabits: 10, source: 'ssd', target: 'hard-disk' })).body,
    ).toMatchObject({
      bottleneck: 'files',
    });
    expect((await ask({ bytes: 1e12, files: 10, linkGigabits: 10, source: 'hard-disk' })).body).toMatchObject({
      bottleneck: 'source',
    });
  });

  it('tells of files that go on being used how they are copied in passes, and how long everybody is off', async () => {
    const used = { bytes: 1.3e12, files: 100, linkGigabits: 1, changedBytesPerDay: 13e9 };
    const { body } = await ask(used);
    // 3 h 15 min, then what changed in them: 1.76 GB at 111 MB/s.
    expect((body['passes'] as unknown as { bytes: number }[]).map(({ bytes }) => Math.round(bytes / 1e7))).toEqual([
      130000, 176,
    ]);
    expect(Math.abs(Number(body['offSeconds']) - 1.76e9 / 111e6)).toBeLessThan(1);
    const night = (await ask({ ...used, hoursPerDay: 6 })).body;
    expect(Number(night['days']) / Number(body['days'])).toBeCloseTo(4, 1);
    expect((await ask({ bytes: 1, files: 1, linkGigabits: 1 })).body).not.toHaveProperty('passes');
    const never = await ask({ ...used, changedBytesPerDay: 1e15 });
    expect(never.body).toMatchObject({ code: 'never-caught-up', errors: [{ pointer: '#/changedBytesPerDay' }] });
    const { body: alone } = await ask({ bytes: 1, files: 1, linkGigabits: 1, hoursPerDay: 6 });
    expect(alone).toMatchObject({ errors: [{ pointer: '#/changedBytesPerDay' }] });
  });

  it('is refused for what cannot be', async () => {
    for (const [body, pointer] of [
      [{ bytes: 1, files: 0, linkGigabits: 1 }, '/files'],
      [{ bytes: -1, files: 1, linkGigabits: 1 }, '/bytes'],
      [{ bytes: 1, files: 1, linkGigabits: 0 }, '/linkGigabits'],
      [{ bytes: 1, files: 1, linkGigabits: 1, source: 'tape' }, '/source'],
    ] as const) {
      const answer = await ask(body);
      expect([answer.status, (answer.body['errors'] as unknown as { pointer: string }[])[0]?.pointer]).toEqual([
        422,
        `#${pointer}`,
      ]);
    }
  });
});

describe('risk in POST /appraisals', () => {
  it('is a number for one rate, from and to for a range, and the three outcomes stand apart', async () => {
    const reader = await shelf.tokenOf('reader');
    const risk = async (assumptions: object): Promise<Record<string, unknown>> => {
      const { profile, drives } = asked;
      const body = { profile, drives, schemes: ['parity-1'], assumptions };
      const answer = await shelf.ask('POST', '/appraisals', reader, body);
      return (answer.body['appraisals'] as unknown as { risk: Record<string, unknown> }[])[0]?.risk ?? {};
    };
    const one = await risk({});
    expect(one).toMatchObject({ chanceOfLoss: expect.any(Number), rebuildStops: expect.any(Number), filesLost: 0 });
    const range = await risk({ failuresPerYear: [0.009, 0.04] });
    for (const figure of ['chanceOfLoss', 'rebuildStops', 'lostBytesPerTBYear', 'meanTimeToLoss', 'chanceOfUnreadable'])
      expect(range[figure]).toEqual([expect.any(Number), expect.any(Number)]);
    const wrong = await shelf.ask('POST', '/appraisals', reader, {
      ...{ profile: asked.profile, drives: asked.drives },
      assumptions: { failuresPerYear: [0.04, 0.009] },
    });
    expect([wrong.status, (wrong.body['errors'] as unknown as { pointer: string }[])[0]?.pointer]).toEqual([
      422,
      '#/assumptions/failuresPerYear',
    ]);
  });
});
