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
    camera === undefined
      ? []
      : [
          '--use-fake-device-for-media-stream',
          '--use-fake-ui-for-media-stream',
          `--use-file-for-fake-video-capture=${camera}`,
        ];
  return puppeteer.launch({
    executablePath: chromium(),
    headless: true,
    args: [...SWITCHES, ...film],
    defaultViewport: { width: 1280, height: 800 },
  });
}

/** A page in a context of its own: somebody else's browser. */
export async function openPage(browser: Browser): Promise<Page> {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  page.setDefaultTimeout(45_000);
  // Asked whether a half-filled form may be left: yes, unless a test answers otherwise.
  page.on('dialog', (dialog) => void dialog.accept().catch(() => undefined));
  return page;
}

/** Opens an entry link and waits until the shelf is there. */
export async function enter(page: Page, link: string): Promise<void> {
  await page.goto(link, { waitUntil: 'domcontentloaded' });
  await page.waitForFunction(() => location.pathname === '/', { polling: 50 });
  await page.waitForSelector('main#content');
}

/** Chooses in a list that opens, as a person does with the keyboard: Enter, arrow keys to what is wanted, Enter. */
export async function choose(page: Page, label: string, words: string, nth = 0): Promise<void> {
  const lists = await page.$$(`::-p-aria([name="${label}"][role="combobox"])`);
  const list = lists[nth];
  if (!list) throw new Error(`There is no list “${label}”.`);
  await list.focus();
  await page.keyboard.press('Enter');
  await page.waitForSelector('[role=listbox]');
  // A key goes to whatever has the focus by then: each is waited for.
  const here = (): Promise<string> =>
    page
      .waitForSelector('[role=option][data-highlighted]')
      .then((option) => option?.evaluate((of) => of.textContent) ?? '');
  for (const key of ['ArrowDown', 'ArrowUp'] as const)
    for (let at = await here(), before = ''; !at.startsWith(words) && at !== before; at = await here()) {
      before = at;
      await page.keyboard.press(key);
      await page
        .waitForFunction(
          (was) => document.querySelector('[role=option][data-highlighted]')?.textContent !== was,
          { timeout: 500 },
          before,
        )
        .catch(() => undefined);
    }
  if (!(await here()).startsWith(words)) throw new Error(`“${words}” is not in the list “${label}”.`);
  await page.keyboard.press('Enter');
  await page.waitForSelector('[role=listbox]', { hidden: true });
}

/** Opens a menu of links and goes to one of them. */
export async function goByMenu(page: Page, menu: string, name: string): Promise<void> {
  await page.locator(`[data-menu="${menu}"] > summary`).click();
  await page.locator(`::-p-aria([name="${name}"][role="link"])`).click();
}

/** Clicks the button of that name, as a person finds it, once it can be clicked. */
export async function press(page: Page, name: string): Promise<void> {
  await page.locator(`::-p-aria([name="${name}"][role="button"])`).click();
}
