import { seriousFaults } from './axe';
import { key, press, typeIn } from './browser';
import { openDemo } from './demo';
import { sayCopy, stepIsThere, stepShown, workTo, type Given } from './workPlan';

/** The evening that goes wrong twice, on a phone: two old drives, the wrong one pulled, the pool stopped, back, and the plan worked to its end. */

const OLD = 'QH8-04417-77PX';
const WORKING = 'QH8-04422-4KH9';
const NEW = 'QH8-05102-V3KE';

const { shelf, page, says, textOf, troubles } = await openDemo();
await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });

interface Unit {
  readonly id: string;
  readonly version: number;
  readonly standing: string;
  readonly margin: number;
  readonly state: {
    readonly name: string;
    readonly pools: Readonly<
      Record<
        string,
        { readonly missing: readonly string[]; readonly lost: readonly string[]; readonly stopped?: object }
      >
    >;
    readonly plans: Readonly<Record<string, object>>;
  };
}
const heron = async (): Promise<Unit> => {
  const { units } = (await page.evaluate(async () => (await fetch('/api/v1/units')).json())) as { units: Unit[] };
  return units.find(({ state }) => state.name === 'Heron') as Unit;
};
const scan = async (serial: string): Promise<void> => {
  await page.$eval('[data-scan]', (input) => (input as HTMLInputElement).select());
  await typeIn(page, '[data-scan]', serial);
  await page.keyboard.press('Enter');
};
const ask = <T>(path: string, body: object): Promise<T> =>
  page.evaluate(
    async (to, text) =>
      (
        await fetch(`/api/v1${to}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: text })
      ).json() as Promise<T>,
    path,
    JSON.stringify(body),
  );
const fits = (): Promise<boolean> =>
  page.evaluate(() => document.documentElement.scrollWidth <= document.documentElement.clientWidth);

it('is stopped and never called lost, comes back by its unit’s word, and the plan goes on to its end', async () => {
  const { id } = await heron();
  // The second old drive shows signs as well.
  const before = await heron();
  await page.evaluate(
    (unit, body) =>
      fetch(`/api/v1/units/${unit}/events`, { method: 'POST', headers: { 'content-type': 'application/json' }, body }),
    id,
    JSON.stringify({
      expectedVersion: before.version,
      event: { kind: 'drive-suspected', serial: WORKING, note: 'slow reads' },
    }),
  );
  await page.goto(`${shelf.base}/units/${id}/replace?serial=${OLD}`);
  await page.waitForSelector('[data-way=in-place]');
  await press(page, 'Begin the plan');
  await page.waitForSelector('[data-step]');
  const given = (step: string): Given => ({ serial: step === 'new-drive' || step === 'fit' ? NEW : OLD });
  await workTo(page, 'pull', given);
  const plan = page.url();

  // The other old one is in the hand.
  await scan(WORKING);
  await page.waitForSelector('[data-stopped="wrong-serial"]');
  expect(await textOf('[data-stopped]')).toContain('stops');
  expect(await textOf('[data-stopped]')).not.toMatch(/\blost\b/);
  await press(page, 'It is out of its bay');
  await page.waitForSelector('[data-wrong-out]');
  await key(page, '::-p-text(The pool has stopped, or is gone)');
  await press(page, 'Record both, and say what comes now');
  await page.waitForSelector('[data-after-wrong=stopped]');
  expect(await textOf('[data-after-wrong]')).toContain('Stopped is not lost');
  await page.waitForSelector('[data-frozen=pool-lost]');
  const stopped = await heron();
  expect([stopped.standing, stopped.margin]).toEqual(['stopped', -1]);
  expect(await fits()).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);

  // The shelf says so, and where to go.
  await page.goto(shelf.base);
  await says('Heron · Accounts and orders has stopped');
  await says('Nothing is proven lost');
  await page.goto(`${shelf.base}/units/${id}/rescue`);
  const desk = await textOf('[data-rescue]');
  expect(desk).toContain('Every drive it needs stands in its bay: leave them there, and gather nothing.');
  expect(desk).toMatch(/QH8-04422-4KH9\s+· in bay 3[^]*leave it there/);
  expect(desk).not.toMatch(/Gather/);
  expect(await fits()).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
  // It was restarted, and is there again.
  await key(page, '::-p-text(It is back, degraded: a drive is missing)');
  await press(page, 'Record what it says');
  await says('By the record no pool of this unit has stopped');
  const back = await heron();
  expect([back.standing, back.margin]).toEqual(['thinned', 0]);
  expect(Object.values(back.state.pools)).toMatchObject([{ missing: [OLD], lost: [] }]);

  await page.goto(plan);
  expect(await stepShown(page)).toBe('pull');
  await workTo(page, null, given);
  await press(page, 'Finish the plan');
  await says('finished', 'nav[aria-label=Steps]');
  const whole = await heron();
  expect([whole.margin, Object.values(whole.state.pools)[0]?.missing, Object.keys(whole.state.plans)]).toEqual([
    1,
    [],
    [],
  ]);
  expect(troubles).toEqual([]);
});

it('changes no level without a copy: it is asked by fields, stopped, and nothing is begun; the drive that stands idle is taken', async () => {
  const drives = ['1', '2'].map((bay) => ({
    bay,
    serial: `QH4-0410${bay}-MIR${bay}`,
    bytes: 4000787030016,
    basis: 'exact',
  }));
  const { id, version } = await ask<Unit>('/units', {
    name: 'Dunlin',
    place: { site: 'Field station', room: 'hut' },
    profile: 'reedbank',
    bays: 3,
    drives,
    pool: { scheme: 'mirror' },
  });
  const idle = { serial: 'QH4-04103-IDLE', bytes: 4000787030016, basis: 'exact' };
  await ask(`/units/${id}/events`, {
    expectedVersion: version,
    event: { kind: 'drive-inserted', bay: '3', drive: idle },
  });
  await page.goto(`${shelf.base}/units/${id}/level`);
  await page.waitForSelector('[data-idle="1"]');
  await page.waitForSelector('[data-trays-asked]');
  await press(page, 'While it runs');
  await says('Drives of Dunlin are changed while it runs.');
  await says('See that its page shows bay 3 (QH4-04103-IDLE) as free', '[data-plan-preview]');
  expect(await fits()).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Begin the plan');
  await page.waitForSelector('[data-step=copy]');
  await stepIsThere(page);
  // None, and why not: the plan goes on to where it must not.
  await key(page, '[data-copy-fields] [role=radio][value=none]');
  await typeIn(page, '[data-copy-fields] input:not([type=radio])', 'nobody has made one yet');
  await key(page, '[data-evidence] button[type=submit]');
  await page.waitForSelector('[data-step=restore]');
  await stepIsThere(page);
  await key(page, '[data-copy-fields] [role=radio][value=none]');
  await typeIn(page, '[data-copy-fields] input:not([type=radio])', 'nobody has made one yet');
  await key(page, '[data-evidence] button[type=submit]');
  await page.waitForSelector('[data-stopped=no-copy]');
  expect(await textOf('[data-stopped]')).toMatch(
    /There is no other copy of .+ writes every byte of it anew[^]*Arrange one first/,
  );
  expect(await fits()).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
  const { state } = (await page.evaluate(async (of) => (await fetch(`/api/v1/units/${of}`)).json(), id)) as {
    state: { jobs: object; pools: Record<string, { scheme: string }> };
  };
  expect(state.jobs).toEqual({});
  expect(Object.values(state.pools).map(({ scheme }) => scheme)).toEqual(['mirror']);
  // With one that is proven it goes on.
  await page.goto(page.url());
  await page.waitForSelector('[data-step=restore]');
  await stepIsThere(page);
  await sayCopy(page);
  await page.waitForFunction(() => document.querySelector<HTMLElement>('[data-step]')?.dataset['step'] !== 'restore');
});

it('has begun to rebuild onto the idle drive that was pulled by mistake: recorded, and this plan is stopped', async () => {
  const bytes = 4000787030016;
  const serials = ['QH4-06101-AR1', 'QH4-06102-BS2', 'QH4-06103-CT3'];
  const { id, version } = await ask<Unit>('/units', {
    name: 'Ruff',
    place: { site: 'Field station', room: 'hut' },
    profile: 'reedbank',
    bays: 4,
    drives: serials.map((serial, i) => ({ bay: String(i + 1), serial, bytes, basis: 'exact' })),
    pool: { name: 'Maps', scheme: 'parity-1' },
  });
  const idle = 'QH4-06104-IDLE';
  const [failed = ''] = serials;
  const events = [
    { kind: 'drive-inserted', bay: '4', drive: { serial: idle, bytes, basis: 'exact' } },
    { kind: 'drive-failed', serial: failed },
  ];
  for (const [i, event] of events.entries()) await ask(`/units/${id}/events`, { expectedVersion: version + i, event });
  await page.goto(`${shelf.base}/units/${id}/replace?serial=${failed}`);
  await page.waitForSelector('[data-way=in-place]');
  if (await page.$('[data-trays-asked]')) await press(page, 'While it runs');
  await page.waitForSelector('[data-trays-asked]', { hidden: true });
  await press(page, 'Begin the plan');
  await page.waitForSelector('[data-step]');
  await workTo(page, 'pull', (step) => ({
    serial: step === 'new-drive' || step === 'fit' ? 'QH4-05231-M61C' : failed,
  }));
  await scan(idle);
  await page.waitForSelector('[data-stopped="wrong-serial"]');
  await press(page, 'It is out of its bay');
  await page.waitForSelector('[data-wrong-out]');
  expect(await textOf('[data-wrong-out]')).toContain('back into bay 4 now');
  await key(page, '::-p-text(It has begun to rebuild onto this drive)');
  await press(page, 'Record both, and say what comes now');
  await page.waitForSelector('[data-after-wrong=rebuilds]');
  expect(await textOf('[data-after-wrong]')).toContain('pull nothing, fit nothing');
  await page.waitForSelector('[data-frozen=another-takes-over]');
  expect(await textOf('[data-frozen]')).toContain(`${idle} in bay 4 is being written in place of ${failed}`);
  expect(await fits()).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
  const jobs = async (): Promise<object[]> => {
    const unit = (await page.evaluate(async (of) => (await fetch(`/api/v1/units/${of}`)).json(), id)) as {
      state: { jobs: object };
    };
    return Object.values(unit.state.jobs);
  };
  expect(await jobs()).toMatchObject([{ task: 'rebuild', replaces: failed, onto: idle }]);
  // The one that was planned is not pulled either: its serial is stopped with the same.
  await press(page, 'I have read that');
  await scan(failed);
  await page.waitForSelector('[data-stopped=another-takes-over]');
  await press(page, 'Stop this plan…');
  await press(page, 'Stop it');
  await says('stopped', 'nav[aria-label=Steps]');
  await page.goto(`${shelf.base}/units/${id}`);
  await says(idle);
  expect(await jobs()).toHaveLength(1);
});
