import bwip from 'bwip-js/node';
import { join } from 'node:path';
import { seriousFaults } from './axe';
import { key, openBrowser, openPage, press, typeIn } from './browser';
import { readSize, stepIsThere } from './workPlan';
import { openDemo } from './demo';
import { filmOf } from './film';

const OLD = 'QH8-04417-77PX';
const NEW = 'QH8-05100-NW01';
/** Nothing of it is needed here: it only stands beside the serials on a label. */
const MODEL = 'Q8C-TB8-2026';
const PHONE = { width: 390, height: 844 };

/** What the camera sees all the while: the labels of both drives, in two kinds of code, with the model beside. */
async function labels(folder: string): Promise<string> {
  const maker = await openBrowser();
  const drawn = [
    bwip.toSVG({ bcid: 'code128', text: OLD, scale: 2, height: 12 }),
    bwip.toSVG({ bcid: 'datamatrix', text: NEW, scale: 4 }),
    bwip.toSVG({ bcid: 'qrcode', text: MODEL, scale: 3 }),
  ];
  const path = join(folder, 'labels.y4m');
  await filmOf(await openPage(maker), drawn, path);
  await maker.close();
  return path;
}

const demo = await openDemo({
  filmIn: labels,
  openAs: async (browser) => {
    const page = await openPage(browser);
    await page.setViewport(PHONE);
    return page;
  },
});
const { shelf, page, textOf, troubles, stop, start } = demo;
const says = (words: string, within = 'main'): Promise<unknown> => demo.says(words, within);
const at = (step: string): Promise<unknown> => page.waitForSelector(`[data-step="${step}"]`);
const unitNamed = (name: string) =>
  page.evaluate(
    (of) =>
      fetch('/api/v1/units')
        .then(
          (response) =>
            response.json() as Promise<{
              units: {
                id: string;
                version: number;
                margin: number;
                state: { name: string; drives: Record<string, { bay: string | null }> };
              }[];
            }>,
        )
        .then(({ units }) => units.find(({ state }) => state.name === of)),
    name,
  );
/** Opens the camera; what it reads is put where it was asked, and sent. */
async function scan(): Promise<void> {
  await press(page, 'Scan with the camera');
  await page.waitForFunction(() => (document.querySelector<HTMLInputElement>('[data-scan]')?.value ?? '') !== '', {
    polling: 50,
  });
  await page.waitForSelector('[data-scanning]', { hidden: true });
  await readSize(page);
  await key(page, '[data-evidence] button[type=submit]');
}
const kept = (part: string): Promise<unknown> =>
  page.waitForFunction(
    async (words) => {
      for (const name of await caches.keys())
        if (name.startsWith('shelf-pages-'))
          for (const { url } of await (await caches.open(name)).keys()) if (url.includes(words)) return true;
      return false;
    },
    { polling: 200 },
    part,
  );

it('shows what needs hands first, then the shelf, with the most urgent wait at the foot and the places at the thumb', async () => {
  const tops = await page.evaluate(() => {
    const top = (selector: string): number => document.querySelector(selector)?.getBoundingClientRect().top ?? NaN;
    return {
      needs: top('[aria-label="Needs hands"]'),
      board: top('[aria-label="Packing house, comms cupboard"]'),
      waiting: top('[aria-label=Waiting]'),
      places: top('nav[aria-label=Places]'),
    };
  });
  expect(tops.needs).toBeLessThan(tops.board);
  expect(tops.waiting).toBeLessThan(tops.places);
  expect(tops.places).toBeGreaterThan(PHONE.height * 0.9);
  // A pool that is thin comes before a check; the other on a tap.
  expect(await textOf('[aria-label=Waiting]')).toMatch(/^(Waiting\s+)?Wren · rebuilding/);
  expect(await textOf('[aria-label=Waiting]')).not.toContain('Plover');
  await press(page, '1 more');
  await says('Plover · checking', '[aria-label=Waiting]');
  // One cause is one row; what else comes from it, and all of them, on a tap.
  const rows = await page.$$('[aria-label="Needs hands"] > ul > li');
  expect(rows).toHaveLength(8);
  await page.locator('::-p-text(Show all)').click();
  await page.waitForFunction(
    (before) =>
      document.querySelectorAll('[aria-label="Needs hands"] > ul > li').length > before ||
      location.search.includes('needs=all'),
    { polling: 50 },
    8,
  );
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
});

it('lists drives as cards, each serial on one line', async () => {
  await page.goto(`${shelf.base}/drives`);
  const heights = await page.$$eval('[aria-label=Drives] tbody a .font-mono', (serials) =>
    serials.map((serial) => new Set([...serial.getClientRects()].map(({ top }) => Math.round(top))).size),
  );
  expect(heights.length).toBeGreaterThan(10);
  expect(Math.max(...heights)).toBe(1);
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
});

it('replaces a drive with the camera, in a plan that was opened without a network, and sends it when there is one', async () => {
  const heron = await unitNamed('Heron');
  const unit = String(heron?.id);
  const begun = await page.evaluate(
    (id, expectedVersion, old, fresh) =>
      fetch(`/api/v1/units/${id}/plans`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          expectedVersion,
          job: 'replace',
          wish: { serial: old, way: 'in-place', drive: { serial: fresh, bytes: 8001563222016, basis: 'exact' } },
        }),
      }).then((response) => response.json() as Promise<{ plan: string }>),
    unit,
    Number(heron?.version),
    OLD,
    NEW,
  );
  const plan = `/units/${unit}/plans/${begun.plan}`;
  // Whoever has the shelf open has the plans under way with it, and the lamps of their units; nobody opened them.
  await page.goto(shelf.base);
  await Promise.all([kept(plan), kept(`/units/${unit}/lamps`)]);
  await stop();

  await page.goto(`${shelf.base}/units/${unit}/lamps`);
  await says('The server is not reached. This is how it was', 'body');
  await press(page, 'Two falling tones every twenty seconds');
  await says('Expected. Thinned, not broken.');
  await page.goto(`${shelf.base}/upkeep`);
  await says('No network, and this page was not kept here', 'body');
  await page.goto(shelf.base + plan);
  await page.waitForSelector('[data-away]');
  expect(await seriousFaults(page)).toEqual([]);
  await at('copy');
  await press(page, 'Done');
  await at('serial');
  await press(page, 'Done');
  await at('new-drive');
  // Three codes before the camera: the one that is meant is taken.
  await scan();
  await at('told');
  await press(page, 'Done');
  await at('locate');
  await press(page, 'Done');
  await at('pull');
  await scan();
  await at('fit');
  await scan();
  await at('seen');
  await page.waitForSelector('[data-not-yet-sent="7"]');
  // A reload without a network loses nothing of it.
  await page.goto(shelf.base + plan);
  await page.waitForSelector('[data-not-yet-sent="7"]');
  await at('seen');

  await start();
  await says('Sent: everything that was done here is recorded.', 'body');
  await page.waitForSelector('[data-away]', { hidden: true });
  const after = await unitNamed('Heron');
  expect([after?.state.drives[OLD]?.bay, after?.state.drives[NEW]?.bay]).toEqual([null, '2']);
  await at('seen');
  // The list of steps has followed.
  expect(
    await page.$eval('nav[aria-label=Steps] [aria-current=step]', (step) => {
      const [box, one] = [step.closest('ol')?.getBoundingClientRect(), step.getBoundingClientRect()];
      return box !== undefined && one.top >= box.top && one.bottom <= box.bottom;
    }),
  ).toBe(true);
});

it('commissions a head of 16 with four extensions of 16 by one list a box, each drive by its serial', async () => {
  const boxes = ['Head', 'Extension 1', 'Extension 2', 'Extension 3', 'Extension 4'];
  const post = (
    path: string,
    body: object,
  ): Promise<{ id: string; version: number; plan: string; state: { enclosures: { bays: string[] }[] } }> =>
    page.evaluate(
      (to, text) =>
        fetch(`/api/v1${to}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: text }).then(
          (response) => response.json(),
        ),
      path,
      JSON.stringify(body),
    ) as never;
  const unit = await post('/units', {
    name: 'Greylag',
    place: { site: 'Main office', room: 'rack' },
    profile: 'causeway',
    enclosures: boxes.map((name, i) => ({ name, bays: 16, ...(i === 0 ? {} : { dial: i }) })),
  });
  const bays = unit.state.enclosures.flatMap((box) => box.bays);
  expect(bays).toHaveLength(80);
  const wish = {
    drives: bays.map((bay) => ({ bay, bytes: 16000900661248, basis: 'exact' })),
    pool: { name: 'Surveys', scheme: 'parity-2-groups', groupWidth: 10 },
  };
  const { plan } = await post(`/units/${unit.id}/plans`, { expectedVersion: unit.version, job: 'commission', wish });
  const address = `${shelf.base}/units/${unit.id}/plans/${plan}`;
  await page.goto(address);
  const steps: string[] = [];
  for (let list = 0; list < 5;) {
    const step = await page.$eval('[data-step]', (of) => (of as HTMLElement).dataset['step'] ?? '');
    steps.push(step);
    if (/^fit-/.test(step)) {
      await page.waitForSelector('[data-scans="16"]');
      for (let i = 0; i < 16; i++) {
        if (list === 2 && i === 7) {
          // Read twice by a slip: said at once. A reload in the middle loses none of the list.
          await typeIn(page, '[data-scan]', `QH16-02-06\n`);
          await says('QH16-02-06 was read already', '[data-said]');
          await page.$eval('[data-scan]', (input) => (input as HTMLInputElement).select());
          await page.goto(address);
          await page.waitForSelector('[data-scans="9"]');
        }
        await readSize(page);
        await typeIn(page, '[data-scan]', `QH16-${String(list).padStart(2, '0')}-${String(i).padStart(2, '0')}\n`);
        await page.waitForSelector(`[data-scans="${String(15 - i)}"]`);
      }
      list++;
    } else {
      await stepIsThere(page);
      const input = await page.$('[data-evidence]:not([data-items]) input');
      await input?.type('as written');
    }
    await key(page, '[data-evidence] button[type=submit]');
    await page.waitForFunction(
      (before) => document.querySelector<HTMLElement>('[data-step]')?.dataset['step'] !== before,
      { polling: 50 },
      step,
    );
  }
  expect(steps.filter((step) => /^fit-/.test(step))).toEqual(['fit-1', 'fit-2', 'fit-3', 'fit-4', 'fit-5']);
  const { state } = (await unitNamed('Greylag')) as { state: { drives: Record<string, { bay: string | null }> } };
  expect(Object.keys(state.drives)).toHaveLength(80);
  expect(state.drives['QH16-02-06']?.bay).toBe(unit.state.enclosures[2]?.bays[6]);
  expect(await seriousFaults(page)).toEqual([]);
});

it('asks which of several codes is the serial where none is meant', async () => {
  await page.goto(`${shelf.base}/drives`);
  await press(page, 'Take drives in');
  await press(page, 'Scan with the camera');
  await says('Which is the serial, as it is printed?', 'body');
  await page.locator(`::-p-aria([name="${NEW}"][role="button"])`).click();
  await says(NEW, '[role=dialog]');
});

it('forgets on this device what it kept, with whoever signs out', async () => {
  await page.goto(`${shelf.base}/settings`);
  await press(page, 'Sign out');
  await page.waitForFunction(() => location.pathname === '/sign-in', { polling: 50 });
  await page.waitForFunction(
    async () => {
      let count = 0;
      for (const name of await caches.keys())
        if (name.startsWith('shelf-pages-')) count += (await (await caches.open(name)).keys()).length;
      return count === 0;
    },
    { polling: 200 },
  );
  await stop();
  await page.goto(shelf.base);
  await says('No network, and this page was not kept here', 'body');
});

it('ran without an error in the browser', () => {
  expect(troubles).toEqual([]);
});
