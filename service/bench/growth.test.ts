import { shelfOfFile, testShelf, type Json } from '../testing/testShelf';

const shelf = await shelfOfFile();

const asked = {
  profile: 'plain',
  scheme: 'parity-1',
  bays: 6,
  drives: ['1', '2', '3', '4'].map((bay) => ({ bay, label: '4 TB' })),
  usedBytes: 7e12,
  needPerYearBytes: 2e12,
  line: 0.8,
  years: 3,
  prices: [
    { label: '4 TB', cents: 9200 },
    { label: '8 TB', cents: 15_000 },
  ],
  declinePerYear: 0.15,
  allow: ['swap', 'add'],
};
type Path = {
  readonly totalCents: number;
  readonly steps: readonly {
    readonly month: number;
    readonly kind: string;
    readonly to?: string;
    readonly bays: string[];
    readonly bytes: number;
    readonly usableAfterBytes: number;
    readonly marginAfter: number;
  }[];
};
type Answer = {
  readonly best: Path | null;
  readonly others: readonly ({ readonly kind: string } & Path)[];
  readonly why?: string;
};

describe('POST /growth', () => {
  it('answers with the cheapest steps and the best of each other kind', async () => {
    const { status, body } = await shelf.ask('POST', '/growth', await shelf.tokenOf('reader'), asked);
    expect(status).toBe(200);
    const { best, others } = body as unknown as Answer;
    // 12 TB hold 9 below 80 % in the first year; 11 of the second want 13.75, 13 of the third 16.25.
    expect(best?.steps.map(({ month, kind, bays }) => [month, kind, bays])).toEqual([
      [12, 'add', ['5']],
      [24, 'add', ['6']],
    ]);
    // 4 TB at 92.00 are 15 % less each year.
    expect(best?.totalCents).toBe(7820 + 6647);
    expect(others.map(({ kind }) => kind)).toContain('swap-only');
    for (const other of others) expect(other.totalCents).toBeGreaterThanOrEqual(best?.totalCents ?? Infinity);
  });

  it('says what waiting until it hurts costs, and from when it is above the line then', async () => {
    const { body } = await shelf.ask('POST', '/growth', await shelf.tokenOf('reader'), asked);
    const { late, best } = body as unknown as Answer & { late: Path & { line: number; fromMonth: number } };
    expect(best?.steps.map(({ marginAfter }) => marginAfter)).toEqual([1, 1]);
    // 12 TB hold 11.4 at 95 %: 9 and 11 fit, 13 do not. 80 % of them, 9.6, are passed 15.6 months from now.
    expect(late).toMatchObject({ line: 0.95, fromMonth: 16, totalCents: 6647 });
    expect(late.steps.map(({ month, kind }) => [month, kind])).toEqual([[24, 'add']]);
    const none = await shelf.ask('POST', '/growth', await shelf.tokenOf('reader'), { ...asked, needPerYearBytes: 0 });
    expect(none.body).not.toHaveProperty('late');
  });

  it('says what is wrong with what it is asked, by its place', async () => {
    const reader = await shelf.tokenOf('reader');
    const pointerOf = async (more: object): Promise<[number, unknown]> => {
      const { status, body } = await shelf.ask('POST', '/growth', reader, { ...asked, ...more });
      return [status, (body['errors'] as { pointer: string }[] | undefined)?.[0]?.pointer];
    };
    expect(await pointerOf({ prices: [] })).toEqual([422, '#/prices']);
    expect(await pointerOf({ prices: [{ label: 'large', cents: 1 }] })).toEqual([422, '#/prices/0/label']);
    expect(await pointerOf({ line: 0 })).toEqual([422, '#/line']);
    expect(await pointerOf({ bays: 3 })).toEqual([422, '#/drives']);
    expect(await pointerOf({ scheme: 'parity-1-groups' })).toEqual([422, '#/groupWidth']);
    expect(await pointerOf({ scheme: 'striped-mirrors', drives: asked.drives.slice(0, 3) })).toEqual([422, '#/drives']);
    expect(await pointerOf({ declinePerYear: -0.1 })).toEqual([422, '#/declinePerYear']);
    expect(await pointerOf({ allow: ['add', 'extend'] })).toEqual([422, '#/extension']);
    expect(await pointerOf({ allow: ['extend'], extension: { bays: 0, cents: 1 } })).toEqual([422, '#/extension/bays']);
  });

  const newUnit = { profile: 'reedbank', bays: 4, scheme: 'parity-1', cents: 30_000 };

  it('has a new unit beside it, its drives in its own bays, and keeps a year’s money', async () => {
    const reader = await shelf.tokenOf('reader');
    const ask = async (more: object): Promise<Answer> =>
      (await shelf.ask('POST', '/growth', reader, { ...asked, ...more })).body as unknown as Answer;
    const moved = (await ask({ newUnit })).others.find(({ kind }) => kind === 'new-unit');
    const first = moved?.steps[0];
    expect([first?.month, first?.kind]).toEqual([12, 'new-unit']);
    // The unit and its drives, at the price they have by then.
    expect(first).toMatchObject({
      isInNewUnit: true,
      cents: 30_000 + (first?.bays.length ?? 0) * ((first?.bytes ?? 0) > 6e12 ? 12_750 : 7820),
    });
    const limited = await ask({ budgetCentsPerYear: 7000 });
    expect(limited).toMatchObject({ best: null, dearestYearCents: 7820 });
    expect((await ask({ budgetCentsPerYear: 7820 })).best?.totalCents).toBe(7820 + 6647);
  });

  it('hangs on a box, and changes a level, where the family does', async () => {
    const reader = await shelf.tokenOf('reader');
    const kindsOf = async (more: object): Promise<unknown> =>
      ((await shelf.ask('POST', '/growth', reader, { ...asked, ...more })).body as unknown as Answer).best?.steps.map(
        ({ kind, to, bays }) => [kind, ...(to === undefined ? [] : [to]), bays.length],
      );
    const drives = (count: number): object[] =>
      Array.from({ length: count }, (_, i) => ({ bay: String(i + 1), label: '8 TB' }));
    const rack = { profile: 'causeway', bays: 12, drives: drives(12), scheme: 'parity-2-groups', groupWidth: 6 };
    const grows = { usedBytes: 50e12, needPerYearBytes: 5e12, years: 1, prices: [{ label: '8 TB', cents: 15_000 }] };
    expect(
      await kindsOf({ ...rack, ...grows, allow: ['group', 'extend'], extension: { bays: 12, cents: 90_000 } }),
    ).toEqual([
      ['extend', 12],
      ['group', 6],
    ]);
    expect(await kindsOf({ ...rack, ...grows, allow: ['group'] })).toBeUndefined();
    // A mirror of two becomes parity over three: half as much more for one drive.
    const mirror = { profile: 'reedbank', bays: 4, drives: drives(2), scheme: 'mirror', usedBytes: 6e12 };
    expect(await kindsOf({ ...mirror, needPerYearBytes: 1e12, years: 1, allow: ['convert'] })).toEqual([
      ['convert', 'parity-1', 1],
    ]);
  });

  it('says what is wrong with a new unit, by its place', async () => {
    const reader = await shelf.tokenOf('reader');
    const pointerOf = async (more: object): Promise<[number, unknown]> => {
      const { status, body } = await shelf.ask('POST', '/growth', reader, {
        ...asked,
        newUnit: { ...newUnit, ...more },
      });
      return [status, (body['errors'] as { pointer: string }[] | undefined)?.[0]?.pointer];
    };
    expect(await pointerOf({ profile: 'nobody' })).toEqual([422, '#/newUnit/profile']);
    expect(await pointerOf({ bays: 0 })).toEqual([422, '#/newUnit/bays']);
    expect(await pointerOf({ scheme: 'dedicated-1' })).toEqual([422, '#/newUnit/scheme']);
    expect(await pointerOf({ profile: 'plain', scheme: 'parity-1-groups' })).toEqual([422, '#/newUnit/groupWidth']);
    expect(await pointerOf({ cents: -1 })).toEqual([422, '#/newUnit/cents']);
    expect(await pointerOf({ bays: 1 })).toEqual([422, '#/newUnit/scheme']);
  });

  it('says how far it goes when nothing keeps it', async () => {
    const { body } = await shelf.ask('POST', '/growth', await shelf.tokenOf('reader'), {
      ...asked,
      needPerYearBytes: 9e13,
    });
    const { best, why } = body as unknown as Answer;
    expect([best, why]).toEqual([null, expect.stringContaining('the most it can hold is')]);
  });
});

describe('POST /units/{id}/growth', () => {
  const wish = { needPerYearBytes: 1e12, line: 0.8, years: 2, prices: asked.prices, allow: ['swap', 'add'] };

  it('goes by the bands as they are built, and refuses what is not there, not whole or never read', async () => {
    const keeper = await shelf.tokenOf('keeper');
    const made = await shelf.ask('POST', '/units', keeper, {
      name: 'Dunlin',
      place: { site: 'Hut', room: 'Loft' },
      profile: 'plain',
      bays: 4,
      drives: ['1', '2', '3'].map((bay) => ({ bay, serial: `GR-${bay}`, bytes: 4e12, basis: 'exact' })),
      pool: { scheme: 'parity-1', name: 'Survey' },
    });
    expect(made.status).toBe(201);
    const id = String(made.body['id']);
    const pool = Object.keys((made.body['state'] as { pools: object }).pools)[0] ?? '';
    const ask = (body: object) => shelf.ask('POST', `/units/${id}/growth`, keeper, { ...wish, ...body });
    expect((await ask({ pool: 'none' })).body['code']).toBe('pool-unknown');
    expect((await ask({ pool })).body['code']).toBe('never-read');
    const grown = await ask({ pool, usedBytes: 6e12 });
    expect(grown.status).toBe(200);
    // 8 TB hold 6.4; 7 at the end of the year want 8.75: one more drive in the free bay.
    expect((grown.body as unknown as Answer).best?.steps.map(({ month, kind, bays }) => [month, kind, bays])).toEqual([
      [0, 'add', ['4']],
    ]);
    await shelf.ask('POST', `/units/${id}/events`, keeper, {
      expectedVersion: made.body['version'],
      event: { kind: 'drive-failed', serial: 'GR-1' },
    });
    expect((await ask({ pool, usedBytes: 6e12 })).body['code']).toBe('others-missing');
  });
});

describe('both', () => {
  it('answer alike of a pool that was just made, in a family that keeps back a part of what it shows', async () => {
    const keeper = await shelf.tokenOf('keeper');
    const drives = ['1', '2', '3'].map((bay) => ({ bay, serial: `AL-${bay}`, bytes: 4000787030016, basis: 'exact' }));
    const made = await shelf.ask('POST', '/units', keeper, {
      name: 'Ruff',
      place: { site: 'Hut', room: 'Loft' },
      profile: 'saltern',
      bays: 6,
      drives,
      pool: { scheme: 'mixed-1', name: 'Survey' },
    });
    const [pool] = Object.values(
      (made.body['state'] as { pools: Record<string, { id: string; shownBytes: number }> }).pools,
    );
    const wish = {
      usedBytes: 5e12,
      needPerYearBytes: 2.5e12,
      line: 0.8,
      years: 5,
      prices: asked.prices,
      declinePerYear: 0.1,
      allow: ['swap', 'add'],
      budgetCentsPerYear: 40_000,
    };
    const { body: ofUnit } = await shelf.ask('POST', `/units/${String(made.body['id'])}/growth`, keeper, {
      ...wish,
      pool: pool?.id,
    });
    const { body: ofDrives } = await shelf.ask('POST', '/growth', keeper, {
      ...wish,
      profile: 'saltern',
      scheme: 'mixed-1',
      bays: 6,
      drives: drives.map(({ bay, bytes }) => ({ bay, bytes })),
    });
    type Steps = readonly { readonly risk?: object; readonly gain?: object; readonly shownAfterBytes: number }[];
    const bare = (of: Json): unknown =>
      (of['best'] as { steps: Steps }).steps.map(({ risk: _risk, gain: _gain, ...step }) => step);
    expect(bare(ofUnit)).toEqual(bare(ofDrives));
    expect((ofUnit['best'] as Path).totalCents).toBe((ofDrives['best'] as Path).totalCents);
    expect((bare(ofUnit) as Steps).length).toBeGreaterThan(1);
    // What is shown after the first is more than before, and less than what it holds.
    const [first] = (ofUnit['best'] as { steps: (Steps[number] & { usableAfterBytes: number })[] }).steps;
    expect(first?.shownAfterBytes).toBeGreaterThan(pool?.shownBytes ?? Infinity);
    expect(first?.shownAfterBytes).toBeLessThan(first?.usableAfterBytes ?? 0);
  });
});

describe('/prices', () => {
  const list = { prices: [{ bytes: 8e12, cents: 15_900 }], declinePerYear: 0.1, labourCents: 2500, deliveryDays: 7 };

  it('keeps what drives cost for everybody, by whom, and only by who may', async () => {
    const [reader, keeper] = [await shelf.tokenOf('reader'), await shelf.tokenOf('keeper')];
    expect((await shelf.ask('GET', '/prices', reader)).body).toEqual({ kept: null });
    expect((await shelf.ask('PUT', '/prices', reader, list)).status).toBe(403);
    expect((await shelf.ask('PUT', '/prices', keeper, list)).status).toBe(200);
    const { kept } = (await shelf.ask('GET', '/prices', reader)).body;
    expect(kept).toEqual({ ...list, setBy: 'A keeper', setAt: expect.stringMatching(/^\d{4}-.*Z$/) });
    for (const [wrong, pointer] of [
      [{ ...list, prices: [] }, '#/prices'],
      [{ ...list, prices: [{ bytes: 8e12, cents: -1 }] }, '#/prices/0/cents'],
      [{ ...list, deliveryDays: 1.5 }, '#/deliveryDays'],
      [{ ...list, declinePerYear: 1 }, '#/declinePerYear'],
      [{ ...list, budgetCentsPerYear: '9' }, '#/budgetCentsPerYear'],
    ] as const) {
      const { status, body } = await shelf.ask('PUT', '/prices', keeper, wrong);
      expect([status, (body['errors'] as { pointer: string }[])[0]?.pointer]).toEqual([422, pointer]);
    }
    // What was wrong changed nothing; what is right replaces the whole list.
    expect((await shelf.ask('GET', '/prices', reader)).body['kept']).toEqual(kept);
    const fewer = { ...list, budgetCentsPerYear: 90_000, labourCents: 0 };
    await shelf.ask('PUT', '/prices', keeper, fewer);
    expect((await shelf.ask('GET', '/prices', reader)).body['kept']).toMatchObject(fewer);
  });

  it('travels, and does not replace what stands where it comes to', async () => {
    const owner = await shelf.tokenOf('owner');
    const { exportedAt: _, ...document } = (await shelf.ask('GET', '/export', owner)).body;
    const there = await testShelf();
    try {
      const as = await there.tokenOf('owner');
      const rows = async (): Promise<unknown> =>
        ((await there.ask('POST', '/import', as, { document })).body['rows'] as Json[])
          .filter(({ what }) => what === 'prices')
          .map(({ verdict }) => verdict as string);
      expect(await rows()).toEqual(['added']);
      const brought = (await there.ask('GET', '/prices', as)).body['kept'];
      expect(brought).toEqual((await shelf.ask('GET', '/prices', owner)).body['kept']);
      await there.ask('PUT', '/prices', as, { ...list, deliveryDays: 99 });
      expect(await rows()).toEqual(['unchanged']);
      expect((await there.ask('GET', '/prices', as)).body['kept']).toMatchObject({ deliveryDays: 99 });
    } finally {
      await there.close();
    }
  });
});

describe('POST /forecasts', () => {
  const readings = Array.from({ length: 200 }, (_, i) => ({
    at: new Date(Date.UTC(2026, 0, 1 + i, 20)).toISOString(),
    usedBytes: 4e12 + i * 5e9 + (i % 7) * 1e8,
  }));

  it('answers with a slope, a date and their spans, the same every time', async () => {
    const reader = await shelf.tokenOf('reader');
    const ask = () => shelf.ask('POST', '/forecasts', reader, { readings, usableBytes: 8e12, line: 0.8 });
    const { status, body } = await ask();
    expect(status).toBe(200);
    expect((body['slopeBytesPerYear'] as number[])[1]).toBeCloseTo(5e9 * 365.25, -11);
    expect((body['crosses'] as string[])[1]?.slice(0, 7)).toBe('2027-04');
    expect((await ask()).body).toEqual(body);
    // Too short to have been asked in three quarters; of two years it was.
    expect(body['heldBefore']).toBeNull();
    const long = Array.from({ length: 104 }, (_, i) => ({
      at: new Date(Date.UTC(2024, 0, 1 + 7 * i, 20)).toISOString(),
      usedBytes: 4e12 + i * 35e9 + (i % 5) * 1e9,
    }));
    const asked = await shelf.ask('POST', '/forecasts', reader, { readings: long, usableBytes: 8e12, line: 0.8 });
    expect(asked.body['heldBefore']).toMatchObject({ of: 7 });
  });

  it('guesses nothing from one reading, and refuses what is no reading', async () => {
    const reader = await shelf.tokenOf('reader');
    const one = await shelf.ask('POST', '/forecasts', reader, {
      readings: readings.slice(0, 1),
      usableBytes: 8e12,
      line: 0.8,
    });
    expect([one.status, one.body['code']]).toEqual([422, 'too-little-history']);
    const wrong = await shelf.ask('POST', '/forecasts', reader, {
      readings: [{ at: 'yesterday', usedBytes: 1 }],
      usableBytes: 8e12,
      line: 0.8,
    });
    expect((wrong.body['errors'] as { pointer: string }[])[0]?.pointer).toBe('#/readings/0/at');
    const leap = await shelf.ask('POST', '/forecasts', reader, {
      readings: [...readings.slice(0, 3), { at: '2026-12-31T23:59:60Z', usedBytes: 1 }],
      usableBytes: 8e12,
      line: 0.8,
    });
    expect([leap.status, (leap.body['errors'] as { pointer: string }[])[0]?.pointer]).toEqual([422, '#/readings/3/at']);
  });
});
