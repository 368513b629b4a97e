import puppeteer, { type Browser, type ElementHandle, type Page } from 'puppeteer-core';
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
  // Before the page's own code runs a list does not open yet.
  for (let tries = 0, isOpen = false; !isOpen && tries < 20; tries++) {
    await key(page, list);
    isOpen = await page.waitForSelector('[role=listbox]', { timeout: 2000 }).then(Boolean, () => false);
  }
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
  await key(page, `[data-menu="${menu}"] > summary`);
  await key(page, named(name, 'link'));
}

/** Presses the button of that name, by the keyboard. */
export function press(page: Page, name: string): Promise<void> {
  return key(page, named(name, 'button'));
}

/** Whatever is called so, as somebody finds it who only hears the page. */
export function named(name: string, role: string): string {
  return `::-p-aria([name="${name}"][role="${role}"])`;
}

/** So long somebody tries again before the test says what stands in the way. */
const PATIENCE_MS = 45_000;

/**
 * Uses one thing on a page, as a selector finds it, with the keyboard alone: brings it the focus, and presses the key that is its own. Where a
 * label or a part of it is found it is what that belongs to. Tries again while it is not there or not to be used yet.
 */
export async function key(page: Page, what: string | ElementHandle): Promise<void> {
  for (const end = Date.now() + PATIENCE_MS; ;) {
    const found = typeof what === 'string' ? await page.locator(what).waitHandle() : what;
    const turn = await found
      .evaluate(async (element) => {
        // As a page settles, what is drawn anew takes the focus along.
        await new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)));
        const control = (element.closest('label')?.control ??
          element.closest('a[href], button, input, select, textarea, summary, [tabindex]')) as HTMLElement | null;
        if (!control) return { kind: 'never', why: 'nothing of it takes the focus' } as const;
        const role = control.getAttribute('role') ?? (control as HTMLInputElement).type;
        // Of these one takes the focus, and arrow keys lead to the others.
        const roams =
          /^(tab|radio|option|menuitem)/.test(role) || control.closest('tbody')?.querySelector('[tabindex="0"]');
        if (control.tabIndex < 0 && !roams) return { kind: 'never', why: 'no key leads there' } as const;
        if (!control.isConnected || control.matches(':disabled, [aria-disabled=true]'))
          return { kind: 'later' } as const;
        control.focus();
        if (document.activeElement !== control) return { kind: 'later' } as const;
        return { kind: 'now', key: /^(radio|checkbox|switch)$/.test(role) ? 'Space' : 'Enter' } as const;
      })
      // It went while it was looked at.
      .catch(() => ({ kind: 'later' }) as const);
    if (turn.kind === 'now') return page.keyboard.press(turn.key);
    if (turn.kind === 'never' || Date.now() > end)
      throw new Error(
        `${typeof what === 'string' ? what : 'What was found'}: ${turn.kind === 'never' ? turn.why : 'it cannot be used'}.`,
      );
  }
}

/** Types into a field, once it is there: some come to the page after it. */
export async function typeIn(page: Page, selector: string, text: string): Promise<void> {
  await page.waitForSelector(selector, { timeout: PATIENCE_MS });
  await page.type(selector, text);
}

/** Types over what stands in a field. */
export async function typeOver(page: Page, selector: string, text: string): Promise<void> {
  const field = await page.waitForSelector(selector, { visible: true });
  await field?.focus();
  await field?.evaluate((input) => (input as HTMLInputElement).select());
  await page.keyboard.press('Backspace');
  await page.keyboard.type(text);
}
