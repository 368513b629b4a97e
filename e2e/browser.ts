import puppeteer, { type Browser, type Page } from 'puppeteer-core';
import { chromium } from '../ops/packages';

const SWITCHES = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--lang=en',
];

/**
 * Debian's Chromium without a window, with a profile of its own that goes with it.
 *
 * @param camera a film (y4m) that is played before its camera
 */
export function openBrowser(camera?: string): Promise<Browser> {
  const film =
    camera === undefined ? [] : ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream', `--use-file-for-fake-video-capture=${camera}`];
  return puppeteer.launch({ executablePath: chromium(), headless: true, args: [...SWITCHES, ...film], defaultViewport: { width: 1280, height: 800 } });
}

/** A page in a context of its own: somebody else's browser. */
export async function openPage(browser: Browser): Promise<Page> {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  page.setDefaultTimeout(45_000);
  return page;
}

/** Opens an entry link and waits until the shelf is there. */
export async function enter(page: Page, link: string): Promise<void> {
  await page.goto(link, { waitUntil: 'domcontentloaded' });
  await page.waitForFunction(() => location.pathname === '/', { polling: 50 });
  await page.waitForSelector('main#content');
}

/** Clicks the button of that name, as a person finds it, once it can be clicked. */
export async function press(page: Page, name: string): Promise<void> {
  await page.locator(`::-p-aria([name="${name}"][role="button"])`).click();
}
