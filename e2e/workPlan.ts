import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { ROOT } from '../ops/folders';
import { key, typeIn } from './browser';

/** What stands on the page of a plan when nothing is left to do. */
export const ALL_DONE = 'Every step is done';

function wordsOf(page: Page): Promise<string> {
  return page.$eval('main', (main) => (main as HTMLElement).innerText);
}

/** The step that is shown. */
export function stepShown(page: Page): Promise<string> {
  return page.$eval('[data-step]', (part) => (part as HTMLElement).dataset['step'] ?? '');
}

/** Waits until all of what a step asks for has come to the page. */
export async function stepIsThere(page: Page): Promise<void> {
  await page.waitForFunction(
    () =>
      document.querySelector('[data-evidence], [data-page-question]') && !document.querySelector('main [data-coming]'),
    { timeout: 45_000 },
  );
}

/** Fills a field for a day as its picker does. */
function setToday(input: Element): void {
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
  set?.call(input, new Date().toISOString().slice(0, 10));
  input.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Says, field by field, that there is a copy, that it ran today, and that a file came back from it. */
export async function sayCopy(page: Page): Promise<void> {
  await key(page, '[data-copy-fields] [role=radio][value=copy]');
  await typeIn(page, '[data-copy-fields] input[name=where]', 'in the bank');
  await key(page, '[data-copy-fields] [role=radio][value=versions]');
  await typeIn(page, '[data-copy-fields] input[name=file]', 'orders 2019.ods');
  for (const name of ['ranOn', 'fetchedOn']) await page.$eval(`[data-copy-fields] input[name=${name}]`, setToday);
  await key(page, '[data-copy-fields] [role=radio][value=yes]');
  await key(page, '[data-evidence] button[type=submit]');
}

/** Reads the size off a drive that nobody knows yet: as it was planned. */
export async function readSize(page: Page): Promise<void> {
  await stepIsThere(page);
  const planned = await page.$$eval('[data-evidence] input[name=size]', (found) =>
    found.map((input) => ((input as HTMLInputElement).value === '' ? (input.dataset['planned'] ?? '') : '')).join(''),
  );
  if (planned !== '') await page.type('[data-evidence] input[name=size]', planned);
}

/** Reads drives that are laid out, one after another, each as large as was planned, and says that these are they. */
export async function readDrives(page: Page, serials: readonly string[]): Promise<void> {
  for (const [i, serial] of serials.entries()) {
    await typeIn(page, '[data-scan]', serial);
    await readSize(page);
    await key(page, '[data-evidence] button[type=submit]');
    await page.waitForSelector(`[data-drives="${String(serials.length - i - 1)}"]`);
  }
  await key(page, '[data-evidence] button[type=submit]');
}

/** What somebody gives who does everything right. */
export interface Given {
  /** The serial of the one drive a step asks for. */
  readonly serial?: string;
  /** The serials of a list, in the order in which they are read. */
  readonly serials?: readonly string[];
  /** What a unit does for people. */
  readonly stock?: string;
  /** The words of the answer that is chosen; left out means the first. */
  readonly choice?: string;
}

/** Gives what the step that is shown asks for; does not wait for what comes of it. */
export async function give(page: Page, { serial = '', serials = [], choice, stock }: Given): Promise<void> {
  await stepIsThere(page);
  if (await page.$('[data-evidence][data-scans]')) {
    for (let left = serials; left.length > 0; left = left.slice(1)) {
      await readSize(page);
      await typeIn(page, '[data-scan]', left[0] ?? '');
      await page.keyboard.press('Enter');
      const open = String(left.length - 1);
      await page.waitForSelector(`[data-scans="${open}"]`);
    }
    await key(page, '[data-evidence] button[type=submit]');
  } else if (await page.$('[data-evidence][data-stock]')) {
    // First written down, then gone through.
    const ticks = await page.$$('[data-stock] [role=checkbox]');
    for (const tick of ticks) await key(page, tick);
    if (ticks.length === 0 && stock !== undefined) await page.type('[data-stock] textarea', stock);
    await key(page, '[data-evidence] button[type=submit]');
  } else if (await page.$('[data-evidence] [data-copy-fields]')) {
    await sayCopy(page);
  } else if (await page.$('[data-evidence][data-fates]')) {
    await key(page, '[data-evidence] [role=radio][value=stays]');
    await key(page, '[data-evidence] button[type=submit]');
    if (await page.$('[data-fates="0"]')) await key(page, '[data-evidence] button[type=submit]');
  } else if (await page.$('[data-evidence][data-drives]')) {
    await readDrives(page, serials.length > 0 ? serials : [serial]);
  } else if (await page.$('[data-evidence] [data-scan]')) {
    await typeIn(page, '[data-scan]', serial);
    await readSize(page);
    await page.keyboard.press('Enter');
  } else if (await page.$('[data-page-question]')) {
    await key(page, '[data-page-question] [role=radio][value=done]');
    await key(page, '[data-page-question] button[type=submit]');
  } else if (await page.$('[data-evidence] [role=radio]')) {
    await key(page, choice === undefined ? '[data-evidence] [role=radio]' : `[role=radio][value="${choice}"]`);
    await key(page, '[data-evidence] button[type=submit]');
  } else if (await page.$('[data-evidence] input[type=file]')) {
    const input = await page.$('input[type=file]');
    await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(
      join(ROOT, 'docs', 'screenshots', 'shelf.png'),
    );
  } else {
    const words = await page.$('[data-evidence]:not([data-items]) input');
    // What its page should show stands in the heading.
    const about = /shows about ([\d.]+)/.exec(
      await page.$eval('[data-step] h2', (head) => head.textContent ?? ''),
    )?.[1];
    if (words) await words.type(about ?? 'as it was written down');
    await key(page, '[data-evidence] button[type=submit]');
  }
}

/** Does the step that is shown as somebody does who does everything right; waits until another is. */
export async function confirm(page: Page, given: Given = {}): Promise<void> {
  const was = await stepShown(page);
  const moved = (orStopped: string): Promise<unknown> =>
    page
      .waitForFunction(
        (before, done, stopped) =>
          document.querySelector<HTMLElement>('[data-step]')?.dataset['step'] !== before ||
          document.querySelector('main')?.innerText.includes(done) ||
          (stopped !== '' && document.querySelector(stopped)),
        { timeout: 20_000 },
        was,
        ALL_DONE,
        orStopped,
      )
      .catch(async () => {
        throw new Error(`It stays at ${was}: ${await wordsOf(page)}`);
      });
  await give(page, given);
  await moved('[data-stopped=too-early]');
  // A wait that ends before its time is ended by the unit's own page.
  if (await page.$('[data-stopped=too-early]')) {
    await key(page, '[data-page-question] [role=radio][value=done]');
    await key(page, '[data-page-question] button[type=submit]');
    await moved('');
  }
}

/** Every step up to one, or to the end. */
export async function workTo(page: Page, upTo: string | null, given: (step: string) => Given): Promise<string[]> {
  const walked: string[] = [];
  for (;;) {
    const at = await stepShown(page);
    if (at === upTo || (await wordsOf(page)).includes(ALL_DONE)) return walked;
    walked.push(at);
    await confirm(page, given(at));
  }
}
