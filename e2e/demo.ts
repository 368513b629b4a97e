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
  /** What went wrong in the page itself. */
  readonly troubles: readonly string[];
  /** The program stops, and starts again at the same address. */
  readonly stop: () => Promise<unknown>;
  readonly start: () => Promise<void>;
}

interface Opening {
  /** How its page is opened, where a test listens to it from the first. */
  readonly openAs?: (browser: Browser) => Promise<Page>;
  /** Makes the film the camera sees, in the demo's folder; its path. */
  readonly filmIn?: (folder: string) => Promise<string>;
}

/** A demo of its own for a file of tests, in Chromium; it ends with the file. */
export async function openDemo({ openAs = openPage, filmIn }: Opening = {}): Promise<Demo> {
  const data = await demoDataFolder();
  const shelf = await startShelf({ data: data.path });
  let running: StartedShelf | undefined = shelf;
  const stop = async (): Promise<unknown> => {
    const code = await running?.stop();
    running = undefined;
    return code;
  };
  const browser = await openBrowser(await filmIn?.(data.path));
  afterAll(async () => {
    await browser.close();
    await stop();
    data.remove();
  });
  const page = await openAs(browser);
  const troubles: string[] = [];
  page.on('pageerror', (error) => troubles.push(String(error)));
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
    troubles,
    stop,
    start: async () => {
      running = await startShelf({ data: data.path, port: shelf.port });
    },
  };
}
