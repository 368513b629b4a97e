import type { Dialog } from 'puppeteer-core';
import { seriousFaults } from './axe';
import { key, press, typeOver } from './browser';
import { openDemo } from './demo';

/** What was asked when a half-filled form was left, and how it is answered. */
const asked: string[] = [];
let mayLeave = true;
const { shelf, page, says } = await openDemo({
  openAs: async (browser) => {
    const page = await (await browser.createBrowserContext()).newPage();
    page.on('dialog', (dialog: Dialog) => {
      asked.push(dialog.type());
      void (mayLeave ? dialog.accept() : dialog.dismiss());
    });
    return page;
  },
});

/** What has the focus, as it is called. */
const here = (): Promise<string> =>
  page.evaluate(() => {
    const at = document.activeElement as HTMLElement & { labels?: NodeListOf<HTMLElement> };
    return at.getAttribute('aria-label') ?? at.labels?.[0]?.innerText ?? at.innerText;
  });
const tabTo = async (name: string): Promise<void> => {
  for (let i = 0; i < 60 && !(await here()).startsWith(name); i++) await page.keyboard.press('Tab');
  expect(await here()).toMatch(new RegExp(`^${name}`));
};
const valueOf = (name: string): Promise<string> =>
  page.$eval(`input[name="${name}"]`, (input) => (input as HTMLInputElement).value);
const writes: string[] = [];

it('says what is wrong at its field, by the server’s own schema, before anything is sent', async () => {
  page.on('request', (request) => {
    if (request.method() !== 'GET' && request.url().includes('/api/v1/'))
      writes.push(`${request.method()} ${new URL(request.url()).pathname}`);
  });
  await page.goto(`${shelf.base}/units/new`);
  await page.type('input[name=name]', 'Redshank');
  await typeOver(page, 'input[name="boxes.0.bays"]', '0');
  await press(page, 'Register it');
  await says('Site must not be empty.');
  await says('Bays must be >= 1.');
  // The first of them has the focus, and is told with its fault.
  expect(await here()).toBe('Site');
  expect(
    await page.$eval('input[name=site]', (input) => [
      input.getAttribute('aria-invalid'),
      document.getElementById(input.getAttribute('aria-describedby') ?? '')?.innerText,
    ]),
  ).toEqual(['true', 'Site must not be empty.']);
  expect(await valueOf('name')).toBe('Redshank');
  expect(writes).toEqual([]);
  expect(await seriousFaults(page)).toEqual([]);
});

it('keeps what is typed over a reload, and asks before it is left', async () => {
  await page.type('input[name=site]', 'Main office');
  mayLeave = false;
  const before = page.url();
  await key(page, 'nav[aria-label=Places] a[href="/drives"]');
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.keyboard.press('d');
  expect(asked).toEqual(['confirm', 'confirm']);
  expect(page.url()).toBe(before);
  mayLeave = true;
  await page.reload();
  expect(asked.at(-1)).toBe('beforeunload');
  await says('Your draft of');
  expect([await valueOf('name'), await valueOf('site'), await valueOf('boxes.0.bays')]).toEqual([
    'Redshank',
    'Main office',
    '0',
  ]);
  await press(page, 'Begin anew');
  expect([await valueOf('name'), await valueOf('site')]).toEqual(['', '']);
  await page.reload();
  await page.waitForSelector('input[name=name]');
  expect(await valueOf('name')).toBe('');
});

it('is filled in and sent by the keyboard alone, over a network that goes and comes back', async () => {
  await page.waitForSelector('input[name=name]');
  await tabTo('Name');
  await page.keyboard.type('Redshank');
  await tabTo('Family');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[role=listbox]');
  await page.waitForSelector('[role=option][data-highlighted]');
  // First letters find it.
  await page.keyboard.type('Salt');
  await page.waitForFunction(
    () => document.querySelector('[role=option][data-highlighted]')?.textContent?.startsWith('Saltern') === true,
  );
  await page.keyboard.press('Enter');
  await says('wastes little');
  await tabTo('Site');
  await page.keyboard.type('Pack');
  await page.waitForSelector('[role=option]');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  expect(await valueOf('site')).toBe('Packing house');
  await tabTo('Room');
  // What is typed is what is meant, though something known begins alike.
  await page.keyboard.type('comms');
  await page.waitForSelector('[role=option]');
  await page.setOfflineMode(true);
  await page.keyboard.press('Enter');
  await says('The server does not answer. Nothing was stored');
  expect([await valueOf('name'), await valueOf('room')]).toEqual(['Redshank', 'comms']);
  await page.setOfflineMode(false);
  await tabTo('Register it');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => /\/units\/[0-9a-f-]{36}$/.test(location.pathname));
  await says('Packing house, comms · Saltern');
  expect(writes.filter((write) => write.startsWith('POST /api/v1/units'))).toHaveLength(2);
  // Sent is sent: nothing of it is kept.
  expect(await page.evaluate(() => Object.keys(sessionStorage).filter((key) => key.startsWith('form ')))).toEqual([]);
});

it('takes back what was just recorded', async () => {
  await page.goto(`${shelf.base}/drives?place=in-hand`);
  await key(page, 'main table tbody a');
  await page.waitForFunction(() => location.pathname.startsWith('/drives/'));
  await press(page, 'Tested…');
  await page.waitForSelector('[role=dialog] [role=radio]');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Record it');
  await says('Recorded of', '[data-sonner-toaster]');
  await says('Tested', '[aria-label="Its life"]');
  await press(page, 'Take back');
  await says('Taken back', '[data-sonner-toaster]');
});

it('writes down an order, takes it back at once, and lists both', async () => {
  await page.goto(`${shelf.base}/drives?place=orders`);
  await press(page, 'Write down an order…');
  await page.waitForSelector('[role=dialog] input[name=supplier]');
  await page.type('input[name=supplier]', 'Fenside Supply');
  await typeOver(page, 'input[name=count]', '3');
  await page.type('input[name=size]', '8 TB');
  await press(page, 'Write it down');
  await says('The order is written down.');
  await says('3 × 8 TB', 'table');
  const open = await page.$$eval('table tr', (rows) => rows.filter((row) => row.textContent.includes('Close…')).length);
  expect(open).toBeGreaterThan(0);
  await press(page, 'Take back');
  await says('Taken back: the order stays written down as closed.');
  await says('taken back at once', 'table');
  await page.waitForFunction(
    (before) =>
      [...document.querySelectorAll('table tr')].filter((row) => row.textContent.includes('Close…')).length ===
      before - 1,
    {},
    open,
  );
  await page.goto(`${shelf.base}/drives?place=orders&sort=-what&without=ordered`);
  expect(await page.$eval('table thead', (head) => head.textContent)).not.toContain('Ordered');
  expect(await seriousFaults(page)).toEqual([]);
});

it('finds entries of a ledger by words, in another order, and takes one back from there', async () => {
  await page.goto(`${shelf.base}/drives?place=bays&q=coot`);
  await key(page, 'main table:not(details *) tbody a[href^="/drives/"]');
  await page.waitForFunction(() => location.pathname.startsWith('/drives/'));
  await key(page, 'section[aria-label="Its life"] a[href^="/units/"]');
  await page.waitForFunction(() => location.pathname.startsWith('/units/'));
  await page.waitForSelector('[aria-label=Entries] tbody tr');
  await page.type('input[aria-label="Find in entries"]', 'signs');
  await page.waitForFunction(() => location.search.includes('q=signs'));
  await page.waitForFunction(() =>
    [...document.querySelectorAll('[aria-label=Entries] tbody tr')].every((row) => /signs/i.test(row.textContent)),
  );
  expect((await page.$$('[aria-label=Entries] tbody tr')).length).toBeGreaterThan(0);
  expect(await seriousFaults(page)).toEqual([]);
  await typeOver(page, 'input[aria-label="Find in entries"]', 'no such words anywhere');
  await says('Nothing here has “no such words anywhere” in it.');
  await page.goto(`${page.url().split('?')[0] ?? ''}?sort=when`);
  const times = await page.$$eval('[aria-label=Entries] tbody time', (all) =>
    all.map((time) => time.getAttribute('datetime') ?? ''),
  );
  expect(times[0]?.localeCompare(times.at(-1) ?? '')).toBe(-1);
  await key(page, '[aria-label=Entries] tbody tr:last-child button');
  await page.waitForSelector('[role=dialog] input[name=reason]');
});

it('sorts, searches and leaves out columns of a long list, all of it in the address; on a phone it is cards', async () => {
  await page.goto(`${shelf.base}/drives`);
  const column = (nth: number): Promise<string[]> =>
    // The list, and not how often drives fail.
    page.$$eval(`main table:not(details *) tbody td:nth-child(${String(nth)})`, (cells) =>
      cells.map((cell) => (cell as HTMLElement).innerText.trim()),
    );
  await key(page, 'main table th:nth-child(3) a');
  await page.waitForFunction(() => location.search === '?sort=size');
  await page.waitForSelector('th[aria-sort=ascending]');
  const sizes = (await column(3)).map(parseFloat);
  expect(sizes).toEqual([...sizes].sort((a, b) => a - b));
  expect(new Set(sizes).size).toBeGreaterThan(2);
  await page.type('input[type=search]', 'plover');
  await page.waitForFunction(() => location.search.includes('q=plover'));
  await page.waitForFunction(() =>
    [...document.querySelectorAll('main table:not(details *) tbody tr')].every((row) =>
      row.textContent?.includes('Plover'),
    ),
  );
  const found = (await column(1)).length;
  expect(found).toBeGreaterThan(5);
  await says(`${String(found)} of them`);
  await key(page, 'main details summary');
  await key(page, 'main details a[href*="without=model"]');
  await page.waitForFunction(() => location.search.includes('without=model'));
  await page.waitForFunction(() => !(document.querySelector('thead') as HTMLElement).innerText.includes('Model'));
  // The address is the whole choice.
  const address = page.url();
  await page.goto('about:blank');
  await page.goto(address);
  expect(await column(1)).toHaveLength(found);
  expect(await page.$eval('thead', (head) => head.innerText)).not.toContain('Model');
  expect(await seriousFaults(page)).toEqual([]);
  await page.setViewport({ width: 390, height: 844 });
  expect(
    await page.$$eval(
      '[aria-label=Drives] tbody tr',
      (cards) => cards.filter((card) => card.getBoundingClientRect().height > 0).length,
    ),
  ).toBe(found);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(await seriousFaults(page)).toEqual([]);
});
