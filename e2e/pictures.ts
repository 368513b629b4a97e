/**
 * Takes the pictures in docs/screenshots from a demo started for the purpose.
 *
 * Run: npm run pictures
 */
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { enter, openBrowser, openPage, press, typeIn } from './browser';
import { newDataFolder, startShelf } from './startShelf';
import { workTo } from './workPlan';

const DESK = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

async function take(page: Page, name: string): Promise<void> {
  await page.evaluate(() => document.fonts.ready);
  await page.mouse.move(0, 0);
  await new Promise((resolve) => setTimeout(resolve, 400));
  await page.screenshot({ path: join('docs', 'screenshots', `${name}.png`) });
}

interface Answer {
  readonly id: string;
  readonly version: number;
  readonly plan: string;
  readonly plans: readonly { readonly id: string; readonly unitName: string }[];
}

/** Asks as the person in the browser. */
function asking(page: Page): (path: string, body?: object) => Promise<Answer> {
  return (path, body) =>
    page.evaluate(
      (to, text) =>
        fetch(
          `/api/v1${to}`,
          text === '' ? {} : { method: 'POST', headers: { 'content-type': 'application/json' }, body: text },
        ).then((response) => response.json() as Promise<Answer>),
      path,
      body === undefined ? '' : JSON.stringify(body),
    );
}

/** A new unit without drives. */
async function bareUnit(page: Page): Promise<string> {
  const place = { site: 'Packing house', room: 'comms cupboard' };
  return (await asking(page)('/units', { name: 'Dunlin', place, profile: 'saltern', bays: 6 })).id;
}

/** A replacement in bay 2, up to the pull. */
async function replacement(page: Page, unit: string): Promise<string> {
  const ask = asking(page);
  const drive = { bytes: 8001563222016, basis: 'exact', serial: 'QH8-05102-V3KE' };
  const wish = { serial: 'QH8-04417-77PX', way: 'in-place', drive };
  const { plan, version } = await ask(`/units/${unit}/plans`, {
    expectedVersion: (await ask(`/units/${unit}`)).version,
    job: 'replace',
    wish,
  });
  let now = version;
  for (const step of ['copy', 'serial', 'new-drive', 'told', 'locate']) {
    const evidence = step === 'new-drive' ? { kind: 'serial', serial: drive.serial } : { kind: 'tick' };
    now = (await ask(`/units/${unit}/plans/${plan}/steps`, { expectedVersion: now, step, evidence })).version;
  }
  return `/units/${unit}/plans/${plan}`;
}

const data = newDataFolder();
const shelf = await startShelf({ data: data.path });
const browser = await openBrowser();
try {
  const page = await openPage(browser);
  await enter(page, shelf.link);
  await take(page, 'shelf');

  await page.goto(`${shelf.base}/bench`);
  await page.waitForSelector('#sheet');
  await press(page, 'Use the sample');
  await press(page, 'Use these 5 drives');
  await page.waitForSelector('button[data-layout]');
  await page.goto(`${shelf.base}/bench?profile=saltern`);
  await page.waitForSelector('button[data-layout]');
  await take(page, 'bench');
  const units = await page.evaluate(() =>
    fetch('/api/v1/units').then(
      (response) => response.json() as Promise<{ units: { id: string; state: { name: string } }[] }>,
    ),
  );
  const address = (name: string): string =>
    `${shelf.base}/units/${units.units.find(({ state }) => state.name === name)?.id ?? ''}`;
  await page.goto(address('Heron'));
  await page.waitForSelector('button[data-bay]');
  await page.waitForSelector('aside .recharts-surface');
  await take(page, 'unit');
  await page.keyboard.press('n');
  await page.waitForSelector('[data-say]');
  await page.type('[data-say]', 'bay 3 is clicking');
  await page.waitForSelector('[role=option]');
  await take(page, 'record');
  await page.keyboard.press('Escape');
  for (const [path, name] of [
    ['/drives', 'drives'],
    ['/drives/QH6-01904-19TD', 'drive'],
    ['/messages', 'messages'],
  ] as const) {
    await page.goto(shelf.base + path);
    await page.waitForSelector('main h1');
    await take(page, name);
  }
  await page.goto(`${shelf.base}/units/${await bareUnit(page)}/commission`);
  await page.waitForSelector('[data-plan-preview] li');
  await page.type('input[placeholder="8 TB"]', '8 TB');
  await press(page, 'Fill in');
  await page.waitForFunction(() =>
    document.querySelector('[data-plan-preview]')?.textContent?.includes('Fit 6 drives, each by its serial'),
  );
  await take(page, 'commission');
  await page.goto(`${address('Coot')}/replace`);
  await page.waitForFunction(() => document.querySelectorAll('[data-way] svg:not(.lucide)').length === 2);
  await page.$eval('[data-way=in-place]', (part) => part.scrollIntoView({ block: 'end' }));
  await take(page, 'replace');
  const { plans } = await asking(page)('/plans');
  await page.goto(`${address('Wren')}/plans/${plans.find(({ unitName }) => unitName === 'Wren')?.id ?? ''}`);
  await page.waitForSelector('[data-wait]');
  await take(page, 'wait');
  await page.goto(`${address('Bittern')}?view=growing`);
  await page.type('textarea[name=prices]', '8 TB, 159\n12 TB, 229.50\n16 TB, 299');
  // What is kept is told in a corner: not on the picture.
  await page.locator('::-p-text(Keep prices)').click();
  await press(page, 'Find the cheapest way');
  await page.waitForSelector('[data-growth]');
  await page.waitForSelector('figure .recharts-area');
  await page.$eval('main h2', (head) => head.scrollIntoView({ block: 'start' }));
  await take(page, 'growing');
  await page.goto(`${address('Coot')}?view=ahead`);
  await page.waitForSelector('[data-outlook=done]');
  await take(page, 'ahead');
  await page.goto(`${address('Teal')}/move?to=${address('Snipe').split('/').at(-1) ?? ''}&way=copy&old=added`);
  await page.waitForSelector('[data-move-plan]');
  await press(page, 'Begin the move');
  await page.waitForFunction(() => location.pathname.includes('/plans/'));
  await page.waitForSelector('[data-step]');
  await workTo(page, 'copied', () => ({ stock: 'share: Weather station, 3 people may write' }));
  await page.waitForSelector('[data-where-data]');
  await take(page, 'moving');
  const run = await replacement(page, address('Heron').split('/').at(-1) ?? '');
  await page.goto(shelf.base + run);
  await page.waitForSelector('[data-step=pull]');
  await take(page, 'plan');
  await page.setViewport(PHONE);
  await page.goto(shelf.base + run);
  await typeIn(page, '[data-scan]', 'QH8-04422-4KH9');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-stopped]');
  await page.$eval('[data-stopped]', (part) => part.scrollIntoView({ block: 'end' }));
  await take(page, 'stop-phone');
  await page.goto(`${address('Heron')}/lamps`);
  await page.click('button[data-bay="3"]');
  await press(page, 'Bay lamp steady violet');
  await page.waitForSelector('[data-reads=worse]');
  await page.$eval('[data-reads=worse]', (part) => part.scrollIntoView({ block: 'end' }));
  await take(page, 'lamps-phone');
  await page.setViewport(DESK);
  const wren = address('Wren').split('/').at(-1) ?? '';
  const { version } = await asking(page)(`/units/${wren}`);
  await asking(page)(`/units/${wren}/events`, {
    expectedVersion: version,
    event: { kind: 'drive-removed', serial: 'QH4-03016-M55T' },
  });
  await page.goto(`${address('Wren')}/rescue`);
  await page.waitForSelector('[data-rescue]');
  await take(page, 'rescue');
  await page.evaluate(() => (document.cookie = 'shelf-theme=dark; path=/'));
  await page.goto(`${shelf.base}/`);
  await page.waitForSelector('main h2');
  await take(page, 'shelf-dark');
} finally {
  await browser.close();
  await shelf.stop();
  data.remove();
}
await takeWatch();

/** A unit that speaks, with something that waits for a person. */
async function takeWatch(): Promise<void> {
  const home = newDataFolder();
  const speaking = await startShelf({ data: home.path, env: { PATIENT_SHELF_STANDIN: 'on' } });
  const window = await openBrowser();
  try {
    const page = await openPage(window);
    await page.setViewport(DESK);
    await enter(page, speaking.link);
    const ask = asking(page);
    const { units } = (await ask('/units')) as unknown as { units: { id: string; state: { name: string } }[] };
    const id = units.find(({ state }) => state.name === 'Coot')?.id ?? '';
    await ask(`/units/${id}/watch/panel`, { do: 'pull', bay: '4' });
    await ask(`/units/${id}/watch/looks`, {});
    await page.goto(`${speaking.base}/units/${id}?view=watch`);
    await page.waitForSelector('[data-doubtful]');
    await take(page, 'watch');
  } finally {
    await window.close();
    await speaking.stop();
    home.remove();
  }
}
