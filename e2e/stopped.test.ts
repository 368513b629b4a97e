import { seriousFaults } from './axe';
import { key, press, typeIn } from './browser';
import { openDemo } from './demo';
import { stepShown, workTo, type Given } from './workPlan';

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
