/**
 * Takes the pictures in docs/screenshots from a demo started for the purpose.
 *
 * Run: npm run pictures
 */
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { SAMPLE_SHEET } from '../core/drive/sampleSheet';
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

const data = newDataFolder();
const shelf = await startShelf({ data: data.path });
const browser = await openBrowser();
try {
  const page = await openPage(browser);
  await page.goto(`${shelf.base}/sign-in`);
  await take(page, 'sign-in');
  await enter(page, shelf.link);
  await take(page, 'shelf');

  await page.goto(`${shelf.base}/bench`);
  await page.waitForSelector('#sheet');
  await page.type('#sheet', SAMPLE_SHEET.replace('4,6 TB', '4,six TB'));
  await take(page, 'bench-sheet');
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
  await press(page, 'Put it on the shelf…');
  await page.waitForSelector('[role=dialog] input[name=name]');
  await page.type('[role=dialog] input[name=name]', 'Sandpiper');
  await page.type('[role=dialog] input[name=site]', 'Packing house');
  await page.type('[role=dialog] input[name=room]', 'comms cupboard');
  await take(page, 'put-on-shelf');

  const units = await page.evaluate(() =>
    fetch('/api/v1/units').then((response) => response.json() as Promise<{ units: { id: string; state: { name: string } }[] }>),
  );
  const address = (name: string): string => `${shelf.base}/units/${units.units.find(({ state }) => state.name === name)?.id ?? ''}`;
  for (const [name, view] of [
    ['Heron', 'unit'],
    ['Plover', 'unit-rack'],
  ] as const) {
    await page.goto(address(name));
    await page.waitForSelector('button[data-bay]');
    await take(page, view);
  }
  await page.goto(`${shelf.base}/bench?unit=${address('Coot').split('/').at(-1) ?? ''}&profile=saltern`);
  await page.waitForSelector('[role=tabpanel][data-state=active] svg');
  await take(page, 'bench-as-built');
  for (const [path, name] of [
    ['/drives', 'drives'],
    ['/settings', 'settings'],
  ] as const) {
    await page.goto(shelf.base + path);
    await page.waitForSelector('main h1');
    await take(page, name);
  }
  await page.setViewport(PHONE);
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
