/**
 * Takes the pictures in docs/screenshots from a demo started for the purpose.
 *
 * Run: npm run pictures
 */
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { enter, openBrowser, openPage, press } from './browser';
import { newDataFolder, startShelf } from './startShelf';

const DESK = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

async function take(page: Page, name: string): Promise<void> {
  await page.evaluate(() => document.fonts.ready);
  await page.mouse.move(0, 0);
  await new Promise((resolve) => setTimeout(resolve, 400));
  await page.screenshot({ path: join('docs', 'screenshots', `${name}.png`) });
}

/** Two new units: one whose plan is to be made, one whose plan is at its first drive. */
async function commission(page: Page): Promise<{ readonly commission: string; readonly run: string }> {
  const ask = (path: string, body: object): Promise<{ id: string; version: number; plan: string }> =>
    page.evaluate(
      (to, text) =>
        fetch(`/api/v1${to}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: text }).then(
          (response) => response.json() as Promise<{ id: string; version: number; plan: string }>,
        ),
      path,
      JSON.stringify(body),
    );
  const place = { site: 'Packing house', room: 'comms cupboard' };
  const fresh = await ask('/units', { name: 'Dunlin', place, profile: 'saltern', bays: 6 });
  const unit = await ask('/units', { name: 'Sandpiper', place, profile: 'reedbank', bays: 4, details: { serial: 'RB4-23001' } });
  const drive = { bytes: 8001563222016, basis: 'exact', label: '8 TB', model: 'Quernholt Q8C' };
  const drives = [{ bay: '1', ...drive, serial: 'QH8-05102-V3KE' }, ...['2', '3', '4'].map((bay) => ({ bay, ...drive }))];
  const begun = await ask(`/units/${unit.id}/plans`, {
    expectedVersion: unit.version,
    job: 'commission',
    wish: { drives, pool: { name: 'Seed stock', scheme: 'parity-1' }, fileSystem: 'without checksums', copyBytes: 1.3e12 },
  });
  const { plan } = begun;
  let { version } = begun;
  for (const step of ['attention', 'count', 'unit-serial', 'tested', 'kind', 'partitions'])
    ({ version } = await ask(`/units/${unit.id}/plans/${plan}/steps`, {
      expectedVersion: version,
      step,
      evidence: step === 'unit-serial' ? { kind: 'text', text: 'RB4-23001' } : { kind: 'tick' },
    }));
  return { commission: `/units/${fresh.id}/commission`, run: `/units/${unit.id}/plans/${plan}` };
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
  await page.goto(`${shelf.base}/bench?profile=saltern&survive=1&hold=8&growth=0.1&years=5&work=large-files&still=false`);
  await page.locator('::-p-aria([name="What matters"][role="tab"])').click();
  await page.waitForSelector('[data-recommendation]');
  await take(page, 'bench-matters');
  await page.locator('::-p-aria([name="Figures"][role="tab"])').click();
  await press(page, 'Set aside to compare with a change');
  await page.$$eval('ul[aria-label=Bays] button', (buttons) => buttons.find((button) => button.innerText.startsWith('bay 6'))?.click());
  await page.waitForSelector('input[name=size]');
  await press(page, 'Try it');
  await press(page, 'Set aside to compare with a change');
  await page.waitForSelector('[aria-label="Side by side"]');
  await page.$eval('[aria-label="Side by side"]', (part) => part.scrollIntoView());
  await take(page, 'bench-side-by-side');
  const units = await page.evaluate(() =>
    fetch('/api/v1/units').then((response) => response.json() as Promise<{ units: { id: string; state: { name: string } }[] }>),
  );
  const address = (name: string): string => `${shelf.base}/units/${units.units.find(({ state }) => state.name === name)?.id ?? ''}`;
  await page.goto(address('Heron'));
  await page.waitForSelector('button[data-bay]');
  await take(page, 'unit');
  await page.keyboard.press('n');
  await page.waitForSelector('[data-say]');
  await page.type('[data-say]', 'bay 3 is clicking');
  await page.waitForSelector('[role=option]');
  await take(page, 'record');
  await page.keyboard.press('Escape');
  await page.goto(`${shelf.base}/bench?unit=${address('Coot').split('/').at(-1) ?? ''}&profile=saltern`);
  await page.waitForSelector('[role=tabpanel][data-state=active] svg');
  await take(page, 'bench-as-built');
  for (const [path, name] of [
    ['/drives', 'drives'],
    ['/drives/QH6-01904-19TD', 'drive'],
    ['/upkeep?view=spares', 'spares'],
    ['/upkeep?view=copies', 'copies'],
    [`/labels?unit=${address('Heron').split('/').at(-1) ?? ''}`, 'labels'],
    ['/settings', 'settings'],
  ] as const) {
    await page.goto(shelf.base + path);
    await page.waitForSelector('main h1');
    await take(page, name);
  }
  const plan = await commission(page);
  await page.goto(shelf.base + plan.commission);
  await page.waitForSelector('[data-plan-preview] li');
  await page.type('input[placeholder="8 TB"]', '8 TB');
  await press(page, 'Fill in');
  await page.waitForFunction(() => document.querySelector('[data-plan-preview]')?.textContent?.includes('Fit 8 TB in bay 6'));
  await take(page, 'commission');
  await page.goto(shelf.base + plan.run);
  await page.waitForSelector('[data-step=fit-1]');
  await take(page, 'plan');
  await page.setViewport(PHONE);
  await page.goto(`${address('Heron')}/lamps`);
  await press(page, 'Long beep every ten seconds');
  await take(page, 'lamps-phone');
  await page.goto(`${shelf.base}/round?site=Packing%20house`);
  await page.waitForSelector('form');
  await take(page, 'round-phone');
  await page.goto(address('Coot'));
  await page.waitForSelector('button[data-bay]');
  await take(page, 'unit-phone');
  await page.setViewport(DESK);
  await page.evaluate(() => (document.cookie = 'shelf-theme=dark; path=/'));
  await page.goto(`${shelf.base}/`);
  await page.waitForSelector('main h2');
  await take(page, 'shelf-dark');
} finally {
  await browser.close();
  await shelf.stop();
  data.remove();
}
