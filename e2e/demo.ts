import type { Browser, Page } from 'puppeteer-core';
import { enter, openBrowser, openPage } from './browser';
import { demoDataFolder, startShelf, type StartedShelf } from './startShelf';

export interface Demo {
  readonly shelf: StartedShelf;
  readonly browser: Browser;
  /** Its owner has come in, and sees the shelf. */
  readonly page: Page;
  /** The folder it keeps its data in. */
  readonly folder: string;
  /** Waits until the page, or a part of it, says so. */
  readonly says: (text: string, selector?: string) => Promise<unknown>;
  /** What a part of the page says. */
  readonly textOf: (selector: string) => Promise<string>;
}

/**
 * A demo of its own for a file of tests, in Chromium; it ends with the file.
 *
 * @param openAs how its page is opened, where a test listens to it from the first
 */
export async function openDemo(openAs: (browser: Browser) => Promise<Page> = openPage): Promise<Demo> {
  const data = await demoDataFolder();
  const shelf = await startShelf({ data: data.path });
  const browser = await openBrowser();
  afterAll(async () => {
    await browser.close();
    await shelf.stop();
    data.remove();
  });
  const page = await openAs(browser);
  await enter(page, shelf.link);
  return {
    shelf,
    browser,
    page,
    folder: data.path,
    says: (text, selector = 'body') =>
      page.waitForFunction(
        (wanted, of) => document.querySelector<HTMLElement>(of)?.innerText.includes(wanted),
        { polling: 50 },
        text,
        selector,
      ),
    textOf: (selector) => page.$eval(selector, (element) => (element as HTMLElement).innerText),
  };
}
