import { seriousFaults } from './axe';
import { choose, key, named, press } from './browser';
import { openDemo } from './demo';

const { shelf, page, textOf } = await openDemo();

const open = async (name: string): Promise<void> => {
  const { units } = (await page.evaluate(async () => (await fetch('/api/v1/units')).json())) as {
    units: { id: string; state: { name: string } }[];
  };
  await page.goto(`${shelf.base}/units/${units.find(({ state }) => state.name === name)?.id ?? ''}?view=ahead`);
};
const isDone = (): Promise<unknown> => page.waitForSelector('[data-outlook=done]');

it('lives the time ahead of a pool with a sick drive, and says what replacing it would win', async () => {
  await open('Coot');
  await isDone();
  const figures = await textOf('[data-outlook-figures]');
  expect(figures).toMatch(/A drive fails\s+[\d.]+ to [\d.]+\s%/);
  expect(figures).toMatch(/The pool is lost\s+\S/);
  const rows = await page.$$eval('[data-outlook-changes] tbody tr', (of) =>
    of.map((row) => (row as HTMLElement).innerText),
  );
  expect(rows.some((row) => row.startsWith('The drive that shows signs is replaced: bay 3.'))).toBe(true);
  expect(await textOf('main')).toContain('that is what copies are for');
  // From the answer the way leads to the plan.
  expect(
    await page.$$eval('[data-outlook-changes] a', (links) =>
      links.map((link) => new URL((link as HTMLAnchorElement).href).search),
    ),
  ).toContain('?serial=QH6-01904-19TD');
  expect(await seriousFaults(page)).toEqual([]);
});

it('is stopped and begun again, and follows how the unit is looked after', async () => {
  const before = await textOf('[data-outlook-figures]');
  await choose(page, 'Everything is read (scrub)', 'never');
  // It may be done in a moment: stopped as soon as that can be.
  await page.waitForFunction(
    () => {
      const stop = document.querySelector<HTMLElement>('[data-outlook=busy] [role=progressbar] + button');
      stop?.click();
      return stop !== null;
    },
    { polling: 'raf' },
  );
  await page.waitForSelector('[data-outlook=idle]');
  await press(page, 'Simulate it');
  await isDone();
  const after = await textOf('[data-outlook-figures]');
  expect(after).not.toBe(before);
  expect(await textOf('[data-outlook-changes]')).toContain('Everything is read once a week');
  // A box that may be lost with all in it is counted once somebody says how often.
  expect(await textOf('[data-outlook]')).toContain('is not in any of this');
  await choose(page, 'A box is lost with its drives', 'one in 100');
  await page.waitForFunction(() =>
    document.querySelector<HTMLElement>('[data-outlook=done]')?.innerText.includes('counted as often as you say'),
  );
  expect(await textOf('[data-outlook-figures]')).not.toBe(after);
});

it('says what comes first where a pool is thin, and is whole on a phone', async () => {
  await page.setViewport({ width: 390, height: 844 });
  await open('Heron');
  await isDone();
  expect(await textOf('[data-outlook-figures]')).toContain('The pool is lost');
  // With a member missing nothing else is to be pulled.
  expect(await textOf('[data-outlook]')).toContain('Nothing else of this pool is pulled before');
  expect(await page.$('[data-outlook-changes]')).toBeNull();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(await seriousFaults(page)).toEqual([]);
});

it('lives every layout on the bench, each stands under its own heading, and the chosen one is foreseen like a unit', async () => {
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${shelf.base}/bench`);
  await press(page, 'Use the sample');
  await press(page, 'Use these 5 drives');
  await page.waitForSelector('button[data-layout="mixed-1"]');
  const table = (): Promise<string> => textOf('main table');
  const reckoned = await table();
  expect(reckoned).not.toContain('simulated');
  await press(page, 'Simulate them, with ages and lots');
  await page.waitForSelector('[data-foreseen=done]');
  const lived = await table();
  expect(lived).toMatch(/pool lost in 5\syr, at worst, simulated/);
  expect(lived.replaceAll(', simulated', '')).not.toBe(reckoned);
  // Other drives have other chances: what was simulated does not stay under them.
  await page.goto(`${shelf.base}/bench?spares=1`);
  await page.waitForSelector('[data-foreseen=idle]');
  expect(await table()).not.toContain('simulated');

  await key(page, named('Ahead', 'tab'));
  await isDone();
  const figures = await textOf('[data-outlook-figures]');
  expect(figures).toMatch(/The pool is lost\s+\S/);
  const changes = await textOf('[data-outlook-changes]');
  expect(changes).toContain('One more may fail');
  expect(changes).not.toContain('Plan it');
  await key(page, named('All of one lot, as out of one box', 'switch'));
  await page.waitForFunction(
    (before) => document.querySelector<HTMLElement>('[data-outlook-figures]')?.innerText !== before,
    {},
    figures,
  );
  await isDone();
  expect(await seriousFaults(page)).toEqual([]);
});

it('says of both ways to replace a sick drive what each risks, from the best to the worst', async () => {
  const { units } = (await page.evaluate(async () => (await fetch('/api/v1/units')).json())) as {
    units: { id: string; state: { name: string } }[];
  };
  await page.goto(`${shelf.base}/units/${units.find(({ state }) => state.name === 'Coot')?.id ?? ''}/replace`);
  for (const way of ['in-place', 'free-bay']) {
    await page.waitForSelector(`[data-way="${way}"] table`);
    expect(await textOf(`[data-way="${way}"] table`)).toMatch(/(1.in.\S+.*|[\d.]+) to (1.in|[\d.]+.%)/);
  }
});
