import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import jsQR from 'jsqr';
import type { ElementHandle } from 'puppeteer-core';
import { seriousFaults } from './axe';
import { goByMenu, key, named, press, typeIn } from './browser';
import { openDemo } from './demo';
import { readSize, sayCopy, stepIsThere } from './workPlan';

const { shelf, page, folder, textOf, troubles, stop, start, says: saysIn } = await openDemo();
const faults: string[] = [];
page.on('console', (message) => {
  // A refusal is an answer, which the browser writes down as an error of its own.
  if (message.type() === 'error' && !message.text().startsWith('Failed to load resource')) faults.push(message.text());
});
const says = (words: string, selector = 'main') => saysIn(words, selector);
/** The field with that label, as a person finds it. */
const field = async (label: string): Promise<ElementHandle> =>
  (await page.waitForSelector(`::-p-aria([name="${label}"])`)) as ElementHandle;
const fill = async (label: string, text: string): Promise<void> => {
  const element = await field(label);
  await element.evaluate((of) => (of as HTMLInputElement).select?.());
  await element.type(text);
};
const openUnit = async (name: string, rest = ''): Promise<void> => {
  const { units } = await page.evaluate(() =>
    fetch('/api/v1/units').then(
      (response) => response.json() as Promise<{ units: { id: string; state: { name: string } }[] }>,
    ),
  );
  await page.goto(`${shelf.base}/units/${units.find(({ state }) => state.name === name)?.id ?? ''}${rest}`);
  await page.waitForSelector('main h1');
};
const stateOf = (name: string) =>
  page.evaluate(
    (of) =>
      fetch('/api/v1/units')
        .then(
          (response) =>
            response.json() as Promise<{
              units: { version: number; margin: number; state: Record<string, never> & { name: string } }[];
            }>,
        )
        .then(({ units }) => units.find(({ state }) => state.name === of)),
    name,
  );

it('shows what needs hands, each with the way that settles it', async () => {
  const needs = await textOf('[aria-label="Needs hands"]');
  for (const words of [
    'Heron · bay 2 has failed',
    'Bittern · a restore is to be tried',
    'See its copies',
    'Bittern · no spare for',
  ])
    expect(needs).toContain(words);
});

it('registers a unit with its boxes and what its label says', async () => {
  await page.goto(`${shelf.base}/units/new`);
  await fill('Name', 'Sandpiper');
  await page.select('select[name=profile]', 'causeway');
  await fill('Site', 'Main office');
  await fill('Room', 'rack');
  await press(page, 'Add an extension');
  await key(page, 'summary');
  await fill('Serial of the unit', 'CW-77');
  await press(page, 'Register it');
  await says('No pool has been made here yet');
  expect(await textOf('main')).toContain('Extension 1');
  const unit = await stateOf('Sandpiper');
  expect(unit?.state).toMatchObject({
    enclosures: [{ bays: { length: 12 } }, { bays: { length: 12 }, dial: 1 }],
    details: { serial: 'CW-77' },
  });
});

it('commissions a unit by a plan that asks for what proves each step, and survives a restart', async () => {
  await page.goto(`${shelf.base}/units/new`);
  await fill('Name', 'Dunlin');
  await page.select('select[name=profile]', 'reedbank');
  await fill('Site', 'Packing house');
  await fill('Room', 'comms cupboard');
  await fill('Bays', '2');
  await press(page, 'Register it');
  await key(page, named('Commission it by a plan', 'link'));
  await page.waitForSelector('[data-plan-preview] li');
  await fill('The same in every empty bay', '8 TB');
  await press(page, 'Fill in');
  // This family builds by the count of drives: two are a mirror, and nothing is created or erased afterwards.
  await says('See that it has made mirror (level 1) of all 2, and call it Pool 1', '[data-plan-preview]');
  await fill('To copy in', 'a few files');
  await says('a few files', '[aria-label="Pool"]');
  await fill('To copy in', '9 TB');
  await says('9 TB do not fit', '[data-plan-preview]');
  await fill('To copy in', '1 TB');
  await says('Begin copying 1 TB in over gigabit Ethernet', '[data-plan-preview]');
  await press(page, 'Begin the plan');
  await page.waitForSelector('[data-step="attention"]');
  const plan = page.url();
  expect(await textOf('[aria-label="What this plan risks, and when"]')).toContain(
    'Creating Pool 1 erases every drive in it: bay 1, bay 2.',
  );

  // A step that waits for others says so, and cannot be done.
  await page.goto(`${plan}?step=fit-1`);
  await says('First:');
  await page.goto(plan);
  const stepNow = (): Promise<string> =>
    page.$eval('[data-step]', (element) => (element as HTMLElement).dataset['step'] ?? '');
  const isThrough = (before: string): boolean =>
    document.querySelector<HTMLElement>('[data-step]')?.dataset['step'] !== before ||
    document.body.innerText.includes('Every step is done');
  /** Sends what is given; pressed again, as a person does, when nothing comes of it, and what the page said is told. */
  const send = async (of: string): Promise<void> => {
    for (let times = 1; ; times++) {
      await key(page, '[data-evidence] button[type=submit]');
      const came = await page
        .waitForFunction(
          (before: string) =>
            document.querySelector<HTMLElement>('[data-step]')?.dataset['step'] !== before ||
            document.querySelector('[data-stopped]') !== null ||
            document.body.innerText.includes('Every step is done'),
          { polling: 50, timeout: 15_000 },
          of,
        )
        .catch(() => null);
      if (came) return;
      console.warn(`Pressed ${String(times)} times at ${of}, and nothing came of it: ${await textOf('main')}`);
      if (times === 3) throw new Error(`It stays at ${of}.`);
    }
  };
  for (let i = 0; i < 40 && (await textOf('main')).includes('Every step is done') === false; i++) {
    const step = await stepNow();
    if (step === 'start') {
      // Half-way the whole program stops and starts again; the plan is where it was.
      const key = await page.cookies();
      await stop();
      await start();
      await page.setCookie(...key);
      await page.goto(plan);
      await page.waitForSelector('[data-step="start"]');
    }
    await stepIsThere(page);
    // All of it is in the box: nothing is written there.
    const asked = await page.$('[data-evidence]:not([data-items]) input');
    if (step === 'fit-1') {
      // One list: a serial, Enter, the next bay; what stands on the first is said before it goes in, and stays.
      await typeIn(page, '[data-scan]', `QH8-00900-KFIT-1\n`);
      await says('Before the first goes in', '[data-evidence]');
      await readSize(page);
      for (const serial of ['QH8-00900-KFIT-1', 'QH8-00900-KFIT-2']) await typeIn(page, '[data-scan]', `${serial}\n`);
      await page.waitForSelector('[data-scans="0"]');
      expect(await seriousFaults(page)).toEqual([]);
    } else if (/^seen-/.test(step)) {
      // One that is not seen is not in the pool.
      await asked?.type('1');
      await key(page, '[data-evidence] button[type=submit]');
      await page.waitForSelector('[data-stopped="drives-missing"]');
      await page.$eval('[data-evidence] input', (input) => (input as HTMLInputElement).select());
      await asked?.type('2');
    } else if (await page.$('[data-copy-fields]')) {
      await sayCopy(page);
      await page.waitForFunction(
        (was) => document.querySelector<HTMLElement>('[data-step]')?.dataset['step'] !== was,
        { polling: 50 },
        step,
      );
      continue;
    } else if (asked) {
      const label = await asked.evaluate((input) => (input as HTMLInputElement).labels?.[0]?.innerText ?? '');
      await asked.type(/MB\/s/.test(label) ? '110' : 'as written');
      const second = (await page.$$('[data-evidence] input'))[1];
      await second?.type('95');
    }
    await send(step);
    if (step === 'copy') {
      // Nothing heard, and long before the plan reckoned: what came in so far is entered in bytes.
      await page.waitForSelector('[data-stopped=too-early]');
      await page.type('[data-percent]', '970 GB');
      await press(page, 'Enter it');
      await says('97 %', '[data-wait]');
    }
    if (step === 'first-build' || step === 'copy') {
      // Early, by what is known of such drives: the unit says itself that its first build is done.
      await page.waitForSelector('[data-stopped=too-early]');
      await key(page, '::-p-text(Done, or healthy)');
      await press(page, 'Its page says done');
    }
    await page.waitForFunction(isThrough, { polling: 50 }, step);
  }
  await press(page, 'Finish the plan');
  await says('finished', '[aria-label=Steps]');
  expect(await stateOf('Dunlin')).toMatchObject({
    margin: 1,
    state: {
      confirmed: { 'alarm-mail-tested': expect.any(String) },
      speed: { baseline: { readBytesPerSecond: 110e6 } },
    },
  });
  await page.goto(`${shelf.base}/plans`);
  expect(await textOf('main')).toContain('Commission Dunlin');
  expect(await seriousFaults(page)).toEqual([]);
});

it('records what happened in a few keys, asks for the serial when the margin falls, and takes it back', async () => {
  await openUnit('Dunlin');
  await page.keyboard.press('n');
  await page.waitForSelector('[data-say]');
  await page.type('[data-say]', 'bay 2 is clicking');
  await page.waitForSelector('[role=option]');
  await page.keyboard.press('Enter');
  await says('can lose 1 more, 1 showing signs');

  await page.keyboard.press('n');
  await page.waitForSelector('[data-say]');
  await page.type('[data-say]', 'bay 2 failed');
  await page.waitForSelector('[role=option]');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-last-four]');
  expect(await textOf('[role=dialog]')).toContain('Pool 1 can lose none more');
  const grave = '[role=dialog] button[type=submit]';
  expect(await page.$eval(grave, (button) => (button as HTMLButtonElement).disabled)).toBe(true);
  await page.type('[data-last-four]', 'it-2');
  await page.waitForFunction((at: string) => !document.querySelector<HTMLButtonElement>(at)?.disabled, {}, grave);
  await key(page, grave);
  await says('can lose none');
  expect((await stateOf('Dunlin'))?.margin).toBe(0);

  // It was the other unit: the entry is withdrawn, and both stay in the ledger.
  await page.waitForSelector('[aria-label=Ledger] tbody button');
  await key(page, '[aria-label=Ledger] tbody tr:first-child button');
  await fill('Why it was not so', 'it was Heron');
  await press(page, 'Withdraw it');
  await says('Taken back: it was Heron');
  expect((await stateOf('Dunlin'))?.margin).toBe(1);
  expect(await page.$$eval('[aria-label=Ledger] s', (struck) => struck.length)).toBe(1);
});

it('holds a pasted page against the record, each contradiction accepted or refused', async () => {
  await openUnit('Dunlin', '/report');
  await page.type(
    'textarea[name=text]',
    'Bay 1  QH8-00900-KFIT-1  7.3 TiB  Normal\nBay 2  QH8-00900-KFIT-2  7.3 TiB  Failed',
  );
  await press(page, 'Hold it against the record');
  await page.waitForSelector('[data-compared] li');
  expect(await textOf('[data-compared]')).toContain(
    'The page has bay 2 failed; the record has QH8-00900-KFIT-2 showing signs.',
  );
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'The page is right');
  await press(page, 'Record the one accepted');
  await says('can lose none');
});

it('reads a lamp as this unit means it now, and has it recorded', async () => {
  await openUnit('Dunlin', '/lamps');
  await press(page, 'Two falling tones every twenty seconds');
  await says('Thinned, not broken. It sounds until the rebuild is done or it is muted.');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Record that it is seen');
  await says('Seen and not settled yet');
  await page.goto(shelf.base);
  await says('Dunlin · Two falling tones every twenty seconds', '[aria-label="Needs hands"]');
});

it('walks the evening round on a phone, ten seconds a unit', async () => {
  await page.setViewport({ width: 390, height: 844 });
  await page.goto(`${shelf.base}/round?site=Field%20station`);
  await page.waitForSelector('form');
  expect(await textOf('main')).toContain('1 of 3');
  const targets = await page.$$eval('main form button', (buttons) =>
    buttons.map((button) => button.getBoundingClientRect().height),
  );
  expect(Math.min(...targets)).toBeGreaterThanOrEqual(44);
  await fill('Drives seen', '4');
  await fill('Cold-store logs, % full', '81');
  await press(page, 'Nothing lit, next');
  await says('Snipe');
  // What cannot be read is said at its field, and nothing is recorded.
  await fill('Drives seen', 'five');
  await press(page, 'Nothing lit, next');
  await says('A whole number of drives.');
  await fill('Drives seen', ' ');
  await press(page, 'Nothing lit, next');
  await says('Teal');
  await press(page, 'Nothing lit, next');
  await says('The round is done');
  const walked = await textOf('main');
  expect(walked).toContain('Bittern: 4 of 5 drives seen');
  // Nobody counted there, and nobody says so.
  expect(walked).toContain('Snipe: nothing lit\n');
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${shelf.base}/?needs=all`);
  await says('Bittern · 4 of 5 drives seen', '[aria-label="Needs hands"]');
  await says('Bittern · 81 % full', '[aria-label="Needs hands"]');
});

it('keeps the register of copies', async () => {
  await openUnit('Bittern', '?view=copies');
  await says('A restore of Cold-store logs was last tried on');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Restore tried, worked');
  await page.waitForFunction(
    () =>
      !(document.querySelector('main') as HTMLElement).innerText.includes(
        'A restore of Cold-store logs was last tried on',
      ),
    {
      polling: 50,
    },
  );
  await page.goto(`${shelf.base}/upkeep?view=copies`);
  expect(await textOf('main')).toContain('Cold-store logs');
  expect(await seriousFaults(page)).toEqual([]);
});

it('takes drives in, follows one over its life, and says which spare fits', async () => {
  await page.goto(`${shelf.base}/drives`);
  await press(page, 'Take drives in');
  await fill('Size of each', '8001563222016');
  await fill('Lot', '0900');
  await fill('Drawer', 'Drawer 7');
  await fill('Site', 'Field station');
  await fill('Room', 'hut');
  for (const serial of ['QH8-00900-SP1', 'QH8-00900-SP2']) {
    await (await field('Serials, one after another')).type(serial);
    await page.keyboard.press('Enter');
    await says(serial, '[role=dialog] ul');
  }
  await press(page, 'Take 2 in');
  await says('In drawers 6');
  await page.goto(`${shelf.base}/upkeep?view=spares`);
  await says('QH8-00900-SP1 in the room, Drawer 7');
  expect(await seriousFaults(page)).toEqual([]);
  // A scanner finds it wherever it is.
  await key(page, '[data-find]');
  await page.type('[data-find]', 'QH8-00900-SP1');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => location.pathname.startsWith('/drives/'));
  await says('Drawer 7, Field station, hut');
  await press(page, 'Wiped…');
  await fill('With what', 'its own secure erase');
  await fill('By whom', 'M. Sedge');
  await press(page, 'Record it');
  await says('Wiped (purge) by M. Sedge');
  expect(await textOf('[aria-label="Same lot"]')).toContain('QH8-00900-SP2');
  expect(await seriousFaults(page)).toEqual([]);
  const picture = join(folder, 'wipe.png');
  writeFileSync(
    picture,
    Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    ),
  );
  const input = (await page.$('input[type=file]')) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(picture);
  await says('wipe.png', '[aria-label=Papers]');
});

it('puts drives into bays by scanning them one after another', async () => {
  await openUnit('Sandpiper', '?bay=5');
  await press(page, 'Put drives in by their serials');
  await fill('Size of drives nobody knows yet', '16 TB');
  for (const serial of ['CW16-1', 'QH8-00900-SP2', 'CW16-3']) {
    await page.waitForSelector('[data-scan]');
    await typeIn(page, '[data-scan]', serial);
    await page.keyboard.press('Enter');
    await says(serial, '[role=dialog] table');
  }
  await press(page, 'Put 3 drives in');
  await page.waitForFunction(() => document.querySelector('[role=dialog]') === null);
  const unit = await stateOf('Sandpiper');
  expect(unit?.state).toMatchObject({
    drives: {
      'CW16-1': { bay: '5' },
      'QH8-00900-SP2': { bay: '6', bytes: 8001563222016, lot: '0900' },
      'CW16-3': { bay: '7' },
    },
  });
});

it('prints labels whose code leads back here', async () => {
  await openUnit('Heron');
  await goByMenu(page, 'More', 'Labels');
  await page.waitForSelector('[data-label=drive] svg');
  const label = (await page.$$('[data-label=drive]'))[1] as ElementHandle;
  expect(await label.evaluate((of) => (of as HTMLElement).innerText)).toContain('77PX');
  const pixels = await label.$eval('svg', async (svg) => {
    const image = new Image();
    image.src = `data:image/svg+xml,${encodeURIComponent(new XMLSerializer().serializeToString(svg))}`;
    await image.decode();
    const canvas = document.createElement('canvas');
    canvas.width = canvas.height = 400;
    const context = canvas.getContext('2d') as CanvasRenderingContext2D;
    context.fillStyle = 'white';
    context.fillRect(0, 0, 400, 400);
    context.drawImage(image, 40, 40, 320, 320);
    return [...context.getImageData(0, 0, 400, 400).data];
  });
  const read = jsQR as unknown as (typeof import('jsqr'))['default'];
  expect(read(Uint8ClampedArray.from(pixels), 400, 400)?.data).toBe(`${shelf.base}/drives/QH8-04417-77PX`);
  const pdf = Buffer.from(await page.pdf({ preferCSSPageSize: true })).toString('latin1');
  expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(1);
  expect(await seriousFaults(page)).toEqual([]);
});

it('prints the plan as a sheet with tick boxes', async () => {
  await page.goto(`${shelf.base}/plans`);
  await key(page, named('Commission Dunlin', 'link'));
  await page.waitForSelector('[data-step]');
  await page.emulateMediaType('print');
  const sheet = await page.$eval('article', (article) => article.innerText);
  expect(sheet).toContain('Commission Dunlin');
  expect(sheet).toContain('The maker’s manual, local codes and licensed practice come before this sheet.');
  expect(await page.$eval('article', (article) => article.getBoundingClientRect().height > 300)).toBe(true);
  // No bar to move is printed.
  const barred = await page.evaluate(() =>
    [...document.querySelectorAll('body *')]
      .filter((of) => of.getClientRects().length > 0)
      .filter((of) => /auto|scroll/.test(getComputedStyle(of).overflow))
      .map((of) => of.className),
  );
  expect(barred).toEqual([]);
  await page.emulateMediaType('screen');
});

it('takes everything away and brings it back: tried first, whole or not at all', async () => {
  await page.goto(`${shelf.base}/settings`);
  // Papers make it large: it comes back all the same.
  for (const name of ['one', 'two', 'three', 'four', 'five'])
    expect(
      await page.evaluate(async (called) => {
        const { units } = (await (await fetch('/api/v1/units')).json()) as { units: { id: string }[] };
        const body = JSON.stringify({ name: called, base64: btoa('wind '.repeat(590_000)) });
        return (
          await fetch(`/api/v1/units/${units[0]?.id ?? ''}/papers`, {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body,
          })
        ).status;
      }, name),
    ).toBe(201);
  const whole = await page.evaluate(() => fetch('/api/v1/export').then((response) => response.text()));
  expect(whole.length).toBeGreaterThan(19_000_000);
  const exported = JSON.parse(whole) as { acts: { entries: { event: { name?: string } }[] }[] };
  const forged = join(folder, 'forged.json');
  (exported.acts[0]?.entries[0]?.event ?? {}).name = 'Forged';
  writeFileSync(forged, JSON.stringify(exported));
  const same = join(folder, 'same.json');
  writeFileSync(same, whole);
  const input = (): Promise<ElementHandle<HTMLInputElement>> =>
    page.waitForSelector('[aria-label="A file taken away before"]') as Promise<ElementHandle<HTMLInputElement>>;
  await (await input()).uploadFile(forged);
  await says('1 refused', '[data-import]');
  expect(await textOf('[data-import]')).toContain('Nothing is brought back as long as a row is refused');
  await (await input()).uploadFile(same);
  await says('0 refused', '[data-import]');
  await press(page, 'Bring it back, all of it');
  await page.waitForFunction(() => window.document.querySelector('[data-import]') === null, { polling: 50 });
  expect(await seriousFaults(page)).toEqual([]);
});

it('keeps how much of its rated life a drive has left, and asks for hands where that is little', async () => {
  await openUnit('Snipe');
  await page.keyboard.press('n');
  await page.waitForSelector('[data-say]');
  await page.type('[data-say]', 'bay 1: 7 % of its rated life left');
  await page.waitForSelector('[role=option]');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-say]', { hidden: true });
  await openUnit('Snipe');
  await says('Bay 1: 7 % of its rated life left');
  const drives = (await stateOf('Snipe'))?.state['drives'] as unknown as Record<string, { bay: string }>;
  const [serial = ''] = Object.entries(drives).find(([, { bay }]) => bay === '1') ?? [];
  await page.goto(`${shelf.base}/drives/${serial}`);
  await says('Rated life left');
  expect(await seriousFaults(page)).toEqual([]);
});

it('ran without an error in the browser', () => expect([...troubles, ...faults]).toEqual([]));
