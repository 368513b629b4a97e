import type { Browser, Page } from 'puppeteer-core';
import { seriousFaults } from './axe';
import { enter, key, openBrowser, openPage, press, typeOver } from './browser';
import { demoDataFolder, startShelf, type StartedShelf } from './startShelf';

const SHEET = [
  'Serial number;Capacity;Price;Tray',
  'LM4-7K2Q;12 TB;262,00;1',
  'LM4-7K2R;12000 GB;262,00;2',
  'LM4-9XA1;5,46 TiB;149,90;3',
  'LM4-9XA3;6001175126016;149,90;4',
  'LM4-0C7F;minus four;104,50;5',
  'LM4-0C7G;4 TB;104,50;6',
].join('\n');

const data = await demoDataFolder();
let shelf: StartedShelf;
let browser: Browser;
let page: Page;
const troubles: string[] = [];

beforeAll(async () => {
  shelf = await startShelf({ data: data.path });
  browser = await openBrowser();
  page = await openPage(browser);
  page.on('pageerror', (error) => troubles.push((error as Error).message));
  page.on('console', (message) => {
    if (message.type() === 'error') troubles.push(message.text());
  });
});
afterAll(async () => {
  await browser.close();
  await shelf.stop();
  data.remove();
});

const textOf = (selector: string): Promise<string> =>
  page.$eval(selector, (element) => (element as HTMLElement).innerText);
const setSheet = async (text: string): Promise<void> => {
  await page.waitForSelector('#sheet');
  await page.$eval(
    '#sheet',
    (element, value) => {
      Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value')?.set?.call(element, value);
      element.dispatchEvent(new Event('input', { bubbles: true }));
    },
    text,
  );
};

it('lands on the shelf with the demo’s units standing on it', async () => {
  await enter(page, shelf.link);
  const main = await textOf('main');
  for (const name of ['Heron', 'Coot', 'Plover', 'Wren', 'Bittern', 'Teal']) expect(main).toContain(name);
  expect(main).toContain('Heron · bay 2 has failed');
  expect(main).toContain('can lose 2 more in every group');
  expect(await textOf('[aria-label="Waiting"]')).toContain('Wren · rebuilding bay 2');
});

it('lets the link in once', async () => {
  const other = await openPage(browser);
  await other.goto(shelf.link);
  expect(await other.$eval('main', (main) => main.innerText)).toContain('This link is used up');
  await other.browserContext().close();
});

it('asks the server for no page that nobody went to', async () => {
  const asked: string[] = [];
  page.on('request', (request) => {
    const { pathname, search } = new URL(request.url());
    if (!pathname.startsWith('/_next/')) asked.push(pathname + search);
  });
  await page.goto(shelf.base, { waitUntil: 'networkidle0' });
  expect(await page.$$eval('main a[href]', (links) => links.length)).toBeGreaterThan(5);
  expect(asked.filter((path) => !/^\/(icon\.svg.*|api\/health)?$/.test(path))).toEqual([]);
  page.removeAllListeners('request');
});

it('reads a pasted sheet, names the wrong cell, and stores nothing', async () => {
  await page.keyboard.press('l');
  await page.waitForSelector('#sheet');
  // As a person pastes: through the clipboard's text into the field.
  await page.focus('#sheet');
  await page.evaluate((text) => document.execCommand('insertText', false, text), SHEET);
  await page.waitForSelector('[data-problems]');
  expect(await textOf('[data-problems]')).toBe(
    'Row 6, column “Capacity”: "minus four" is not a size. Write it as on the label, "12 TB", or in bytes.',
  );
  expect(await textOf('[aria-label="Drives as read"]')).toContain('Read as 5 drives. Nothing is stored yet.');
  const units = await page.evaluate(() =>
    fetch('/api/v1/units').then((response) => response.json() as Promise<{ units: unknown[] }>),
  );
  expect(units.units).toHaveLength(7);
});

it('compares every layout, and draws the map of the chosen one', async () => {
  await press(page, 'Use these 5 drives');
  await page.waitForSelector('button[data-layout="mixed-1"]');
  const table = await textOf('table');
  for (const name of [
    'Separate drives',
    'Mirror (level 1)',
    'Single parity (level 5)',
    'Double parity (level 6)',
    'Mixed-drive pool, survives two',
    'Separate drives + one parity drive',
  ])
    expect(table).toContain(name);
  expect(table).toContain('Needs an even number of drives; 5 are in.');
  await key(page, 'button[data-layout="parity-1"]');
  await page.waitForSelector('[aria-label^="Pool map of Single parity"]');
  await page.keyboard.press('ArrowDown');
  await page.waitForSelector('[aria-label^="Pool map of Double parity"]');
  expect(new URL(page.url()).searchParams.get('layout')).toBe('parity-2');
  await key(page, 'button[data-layout="mixed-1"]');
  await page.waitForSelector('[aria-label^="Pool map of Mixed-drive pool, survives one"]');
  expect(await page.$$('[aria-label^="Band "]')).toHaveLength(4);
});

it('keeps the sheet over a reload', async () => {
  await page.reload();
  await page.waitForSelector('[aria-label^="Pool map of Mixed-drive pool, survives one"]');
});

it('puts the chosen one on the shelf, at a place', async () => {
  await press(page, 'Put it on the shelf…');
  await page.waitForSelector('[role=dialog] input[name=name]');
  expect(await textOf('[role=dialog]')).toContain('erases every drive in it');
  await page.type('input[name=name]', 'Heron');
  await page.type('input[name=site]', 'Packing house');
  await page.type('input[name=room]', 'comms cupboard');
  await key(page, '[role=radio][value=runs]');
  await key(page, '[role=dialog] button[type=submit]');
  await page.waitForSelector('[role=dialog] [role=alert]');
  // The name is taken: said beside the field, and nothing that was typed is lost.
  expect(await textOf('[role=dialog]')).toContain('There is a unit called Heron already.');
  expect(await page.$eval('input[name=site]', (input) => (input as HTMLInputElement).value)).toBe('Packing house');
  await typeOver(page, 'input[name=name]', 'Sandpiper');
  await key(page, '[role=dialog] button[type=submit]');
  await page.waitForFunction(() => location.pathname.startsWith('/units/'));
  await page.waitForFunction(() => document.querySelector('h1')?.innerText.startsWith('Sandpiper'));
});

async function expectSandpiper(): Promise<void> {
  const main = await textOf('main');
  expect(main).toContain('Sandpiper');
  expect(main).toContain('Packing house, comms cupboard');
  expect(main).toContain('Mixed-drive pool, survives one · can lose 1 more');
  expect(await page.$$eval('button[data-bay] .sr-only', (bays) => bays.map((bay) => bay.textContent))).toEqual([
    'Bay 1, 12 TB, LM4-7K2Q, well',
    'Bay 2, 12 TB, LM4-7K2R, well',
    'Bay 3, 6 TB, LM4-9XA1, well',
    'Bay 4, 6 TB, LM4-9XA3, well',
    'Bay 5, empty',
    'Bay 6, 4 TB, LM4-0C7G, well',
  ]);
}

it('has it after a reload, and walks its bays with arrow keys', async () => {
  await page.reload();
  await page.waitForSelector('button[data-bay]');
  await expectSandpiper();
  await page.focus('button[data-bay="1"]');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await page.waitForSelector('section[aria-label="Bay 2"]');
});

it('finds a drive by the end of its serial, as a scanner types it', async () => {
  await page.keyboard.press('/');
  await page.keyboard.type('0c7g\n');
  await page.waitForFunction(() => location.search === '?bay=6');
  await page.waitForSelector('section[aria-label="Bay 6"]');
});

it('has everything after the application and the database were stopped and started', async () => {
  const at = page.url();
  expect(await shelf.stop()).toBe(0);
  shelf = await startShelf({ data: data.path, port: shelf.port });
  expect(shelf.output()).not.toMatch(/Building|Installing|Making/);
  // The session outlives the restart too.
  await page.goto(at);
  await page.waitForSelector('button[data-bay]');
  await expectSandpiper();
  await page.goto(`${shelf.base}/`);
  expect(await textOf('main')).toContain('Sandpiper');
});

it('loses nothing when application and database are killed', async () => {
  const { process: child } = shelf;
  child.kill('SIGKILL');
  await new Promise((resolve) => child.once('exit', resolve));
  shelf = await startShelf({ data: data.path, port: shelf.port });
  await page.goto(`${shelf.base}/`);
  expect(await textOf('main')).toContain('Sandpiper');
});

describe('hostile sheets', () => {
  const problems = async (): Promise<string> => {
    await page.waitForSelector('[data-problems]');
    return textOf('[data-problems]');
  };
  beforeAll(async () => {
    await page.goto(`${shelf.base}/bench`);
    await page.waitForSelector('#sheet');
  });

  it.each([
    ['a head and no drive', 'bay,size,serial', 'Row 1: There is a head row and no drive below it.'],
    [
      'no known column',
      'a,b\n1,2',
      'Row 1: The head row names no column for the size. Call one "size" (as on the label, "12 TB") or "bytes".',
    ],
    [
      'a binary file',
      'PK\u0003\u0004\u0000\u0001\n\u0000',
      'This is not a text file. Save the sheet as CSV (plain text, UTF-8) and try again.',
    ],
    [
      'a negative size',
      'bay,size\n1,-8 TB',
      'Row 2, column “size”: "-8 TB" is not a size: a drive holds more than nothing.',
    ],
    ['one bay twice', 'bay,size\n1,8 TB\n1,8 TB', 'Row 3, column “bay”: Bay 1 is already taken by row 2.'],
    ['one serial twice', 'size,serial\n8 TB,Q1\n8 TB,q1', 'Row 3, column “serial”: Serial q1 is already on row 2.'],
  ])('%s', async (_what, sheet, words) => {
    await setSheet('');
    await setSheet(sheet);
    expect(await problems()).toBe(words);
  });

  it('an empty file, and a formula', async () => {
    await setSheet('   \n');
    expect(await page.$('[data-problems]')).toBeNull();
    await setSheet('size,serial\n8 TB,"=cmd|\'/c calc\'!A1"');
    await page.waitForSelector('[aria-label="Drives as read"]');
    expect(await textOf('[aria-label="Drives as read"]')).toContain("=cmd|'/c calc'!A1");
  });

  it('ten thousand rows: all read, none planned, the page still answers', async () => {
    await setSheet(`bay,size\n${Array.from({ length: 10_000 }, (_, i) => `${String(i + 1)},8 TB`).join('\n')}`);
    await page.waitForFunction(() => document.body.innerText.includes('Read as 10,000 drives'));
    await press(page, 'Use these 10000 drives');
    await page.waitForFunction(() =>
      document.body.innerText.includes('A layout is planned for at most 1,000 at a time. They are all still there'),
    );
    await press(page, 'Change the drives');
    await page.waitForFunction(() => document.body.innerText.includes('Read as 10,000 drives'));
  });

  it('a dropped file is read like a pasted sheet', async () => {
    await setSheet('');
    await page.evaluate(() => {
      const transfer = new DataTransfer();
      transfer.items.add(new File(['bay;bytes\n1;8001563222016\n2;8001563222016'], 'drives.csv', { type: 'text/csv' }));
      document
        .querySelector('#sheet')
        ?.parentElement?.dispatchEvent(
          new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: transfer }),
        );
    });
    await page.waitForFunction(() => document.body.innerText.includes('Read as 2 drives'));
  });
});

it('asks at the shelf for serials that were not on the sheet', async () => {
  await press(page, 'Use these 2 drives');
  await press(page, 'Put it on the shelf…');
  await page.waitForSelector('[role=dialog] input[name=name]');
  await key(page, '[role=radio][value=runs]');
  await page.waitForSelector('[role=dialog] input[name=serial1]');
  await page.keyboard.press('Escape');
  await page.waitForFunction(() => document.querySelector('[role=dialog]') === null);
});

describe('for everybody', () => {
  it.each([
    ['the shelf', '/', 'main h2'],
    ['drives', '/drives', 'main table'],
    ['the bench', '/bench', 'button[data-layout]'],
    ['settings', '/settings', 'main form'],
  ])('axe finds nothing serious on %s, light or dark, wide or narrow', async (_name, path, selector) => {
    await page.goto(shelf.base + path);
    await page.waitForSelector(selector);
    for (const theme of ['light', 'dark']) {
      for (const width of [1280, 390]) {
        await page.setViewport({ width, height: 800 });
        await page.evaluate((name) => (document.documentElement.dataset['theme'] = name), theme);
        expect({ theme, width, faults: await seriousFaults(page) }).toEqual({ theme, width, faults: [] });
        expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
      }
    }
    await page.setViewport({ width: 1280, height: 800 });
  });

  it('axe finds nothing serious on units, whatever their state', async () => {
    const units = await page.evaluate(() =>
      fetch('/api/v1/units').then((response) => response.json() as Promise<{ units: { id: string }[] }>),
    );
    expect(units.units).toHaveLength(8);
    for (const { id } of units.units) {
      await page.goto(`${shelf.base}/units/${id}`);
      await page.waitForSelector('button[data-bay]');
      expect(await seriousFaults(page)).toEqual([]);
    }
  });

  it('shows its keys', async () => {
    await page.keyboard.press('?');
    await page.waitForSelector('[role=dialog]');
    expect(await textOf('[role=dialog]')).toContain('Go to Layout bench');
    expect(await seriousFaults(page)).toEqual([]);
    await page.keyboard.press('Escape');
  });

  it('says so when there is nothing at an address', async () => {
    const response = await page.goto(`${shelf.base}/units/nobody`);
    expect(response?.status()).toBe(404);
    expect(await textOf('main')).toContain('There is nothing at this address');
  });

  it('ran without an error in the browser', () => {
    // The refused name and the missing page are answers, and while the server was down nothing could be loaded.
    expect(
      troubles.filter(
        (text) =>
          !/status of (404|409)|ERR_(CONNECTION_REFUSED|CONNECTION_RESET|EMPTY_RESPONSE|INCOMPLETE_CHUNKED_ENCODING)/.test(
            text,
          ),
      ),
    ).toEqual([]);
  });
});
