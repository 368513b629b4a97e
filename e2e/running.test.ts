import type { ElementHandle } from 'puppeteer-core';
import { seriousFaults } from './axe';
import { choose, goByMenu, key, named, press } from './browser';
import { openDemo } from './demo';

const { shelf, page, says: saysIn } = await openDemo();
/** On the page itself: a window that asks before says what will be, too. */
const says = (words: string): Promise<unknown> => saysIn(words, 'main');

const field = (label: string, nth = 0): Promise<ElementHandle> =>
  page
    .waitForFunction((count: number) => document.querySelectorAll('[data-running] fieldset').length >= count, {}, nth)
    .then(async () => {
      const within =
        nth === 0 ? page : ((await page.$(`[data-running] fieldset:nth-of-type(${String(nth)})`)) as ElementHandle);
      return (await within.$(`::-p-aria([name="${label}"])`)) as ElementHandle;
    });
const fill = async (label: string, text: string, nth = 0): Promise<void> => {
  const element = await field(label, nth);
  await element.evaluate((of) => (of as HTMLInputElement).select());
  await element.type(text);
};
interface Unit {
  readonly id: string;
  readonly version: number;
  readonly state: {
    readonly pools: Record<
      string,
      {
        readonly name: string;
        readonly shownBytes: number;
        readonly bands: readonly { readonly members: readonly string[] }[];
        readonly spares: readonly string[];
      }
    >;
    readonly drives: Record<
      string,
      { readonly bay: string | null; readonly condition: string; readonly boughtOn?: string; readonly bytes: number }
    >;
    readonly volumes: Record<string, { readonly name: string; readonly thin: boolean; readonly bytes: number }>;
    readonly name: string;
    readonly enclosures: readonly object[];
    readonly cache: readonly string[];
  };
}
const unitNow = (name = 'Whimbrel'): Promise<Unit | undefined> =>
  page.evaluate(
    (wanted: string) =>
      fetch('/api/v1/units')
        .then((response) => response.json() as Promise<{ units: Unit[] }>)
        .then(({ units }) => units.find(({ state }) => state.name === wanted)),
    name,
  );

/** A page that counts the trays of each box from 1. */
const box = (name: string, letter: string, trays: number): string =>
  [
    name,
    ...Array.from(
      { length: trays },
      (_, i) => `Tray ${String(i + 1)}  CW12-${letter}${String(i + 1).padStart(2, '0')}-X  10.9 TiB  Normal`,
    ),
  ].join('\n');

it('takes over a unit that runs: a head and two extensions, two pools, a thin volume; nothing half', async () => {
  await page.goto(`${shelf.base}/units/new`);
  await fill('Name', 'Whimbrel');
  await page.select('select[name=profile]', 'causeway');
  await fill('Site', 'Main office');
  await fill('Room', 'rack');
  await press(page, 'Add an extension');
  await press(page, 'Add an extension');
  await key(page, '::-p-aria([name="It runs already: say what its page shows"])');
  await page.type(
    '[data-running] textarea',
    [box('Head', 'A', 12), box('Extension 1', 'B', 12), box('Extension 2', 'C', 6)].join('\n'),
  );
  await says('30 drives, Head, tray 1 to Extension 2, tray 6 read.');

  await fill('Bays of its cache drives', 'Extension 2 6');
  await press(page, 'Add a pool it has');
  await choose(page, 'Layout', 'Double parity', 0);
  await fill('Name of the pool', 'Office', 1);
  await fill('Bays of its drives', 'Head 1-11', 1);
  await fill('Bays of its spares', 'Head 13', 1);
  await fill('Space it shows', '95 TiB', 1);
  await fill('Space in use', '61.5 TiB', 1);
  await (await field('Its volumes', 1)).type('Projects 80 TiB thin');
  await press(page, 'Add a pool it has');
  await choose(page, 'Layout', 'Double parity', 1);
  await fill('Name of the pool', 'Archive', 2);
  await fill('Bays of its drives', 'Extension 1; Extension 2 2-5', 2);
  await says('16 drives, Extension 1, tray 1 to Extension 2, tray 5');
  expect(await seriousFaults(page)).toEqual([]);

  // A bay that is not there, then a page that promises more than the drives hold: said at the field, and nothing is stored.
  await press(page, 'Register it');
  await says('Head has no bay 13: it has 12.');
  await fill('Bays of its spares', 'Head 12', 1);
  await fill('Space it shows', '950 TiB', 1);
  await press(page, 'Register it');
  await says('They hold at most');
  await says('in this layout, you wrote 950 TiB: one of the two is another.');
  expect(await unitNow()).toBeUndefined();
  await fill('Space it shows', '95 TiB', 1);
  await press(page, 'Register it');
  await page.waitForFunction(() => /\/units\/[0-9a-f-]{36}$/.test(location.pathname));
  await says('Whimbrel');

  const unit = (await unitNow()) as Unit;
  const pools = Object.values(unit.state.pools).sort((a, b) => (a.name < b.name ? 1 : -1));
  expect(pools.map(({ name, bands, spares }) => [name, bands[0]?.members.length, spares])).toEqual([
    ['Office', 11, ['CW12-A12-X']],
    ['Archive', 16, []],
  ]);
  expect(pools[0]?.shownBytes).toBe(95 * 2 ** 40);
  expect(unit.state.cache).toEqual(['CW12-C06-X']);
  expect(Object.values(unit.state.volumes)).toMatchObject([{ name: 'Projects', thin: true, bytes: 80 * 2 ** 40 }]);
  // 12 TB by SFF-8447; a page that rounds to 10.9 TiB does not make it smaller.
  expect(unit.state.drives['CW12-C05-X']).toMatchObject({ bay: '29', bytes: 12_000_138_625_024 });
  await says('can lose 2 more');
});

it('hears “tray 5 of extension 2 blinks amber”, marks the right drive, and takes it back at once', async () => {
  await page.keyboard.press('n');
  await page.waitForSelector('[data-say]');
  await page.type('[data-say]', 'tray 5 of extension 2 blinks amber');
  await page.waitForSelector('[role=option]');
  expect(await page.$eval('[role=option]', (option) => (option as HTMLElement).innerText)).toContain(
    'Extension 2, tray 5',
  );
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-last-four]');
  await page.type('[data-last-four]', '05-X');
  const grave = '[role=dialog] button[type=submit]';
  await page.waitForFunction((at: string) => !document.querySelector<HTMLButtonElement>(at)?.disabled, {}, grave);
  await key(page, grave);
  await says('can lose 1 more');
  const marked = (await unitNow()) as Unit;
  expect(
    Object.entries(marked.state.drives).flatMap(([serial, { condition }]) =>
      condition === 'well' ? [] : [[serial, condition]],
    ),
  ).toEqual([['CW12-C05-X', 'failed']]);

  await key(page, '[aria-label=Ledger] tbody tr:first-child button');
  await page.waitForSelector('[role=dialog] input[name=reason]');
  await fill('Why it was not so', 'the lamp was the supply');
  await press(page, 'Withdraw it');
  await says('Taken back: the lamp was the supply');
  expect(Object.values(((await unitNow()) as Unit).state.drives).every(({ condition }) => condition === 'well')).toBe(
    true,
  );
});

it('says that the age of a drive taken over is not known', async () => {
  await page.goto(`${shelf.base}/drives/CW12-C05-X`);
  await says('age unknown');
});

it('goes to the bench with its boxes and their trays, and from there on the shelf as the same boxes', async () => {
  const unit = (await unitNow()) as Unit;
  const sheet = await page.evaluate(
    (id: string) => fetch(`/api/v1/units/${id}/drives.csv`).then((response) => response.text()),
    unit.id,
  );
  expect(sheet.split('\r\n')[29]).toMatch(/^"Extension 2, tray 5",29,/);

  await page.goto(`${shelf.base}/units/${unit.id}`);
  await key(page, named('Take its drives to the bench', 'link'));
  await says('these 30 drives');
  await says('6 of 36 bays stay free');
  await key(page, named('Map', 'tab'));
  await press(page, 'E2·5');
  await says('Without bay E2·5');

  await press(page, 'Change the drives');
  // Others of the same kind: a drive is in one place.
  const changed = (await page.$eval('#sheet', (area) => (area as HTMLTextAreaElement).value)).replaceAll(
    'CW12',
    'DN12',
  );
  await page.$eval(
    '#sheet',
    (area, text) => {
      Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value')?.set?.call(area, text);
      area.dispatchEvent(new Event('input', { bubbles: true }));
    },
    changed,
  );
  await press(page, 'Use these 30 drives');
  await press(page, 'Put it on the shelf…');
  await page.waitForSelector('[role=dialog] input[name=name]');
  await page.type('input[name=name]', 'Dunlin');
  await page.type('input[name=site]', 'Main office');
  await page.type('input[name=room]', 'rack');
  await key(page, '[role=radio][value=runs]');
  await key(page, '[role=dialog] button[type=submit]');
  await page.waitForFunction(() => /\/units\/[0-9a-f-]{36}$/.test(location.pathname));
  const second = (await unitNow('Dunlin')) as Unit;
  expect(second.state.enclosures).toEqual(unit.state.enclosures);
  expect(second.state.drives['DN12-C05-X']).toMatchObject({ bay: '29' });
});

it('writes down that a second drive was added to a single one: heard before, with its serial, and taken back', async () => {
  await page.goto(`${shelf.base}/units/new`);
  await fill('Name', 'Godwit');
  await page.select('select[name=profile]', 'reedbank');
  await fill('Site', 'Main office');
  await fill('Room', 'desk');
  await fill('Bays', '2');
  await key(page, '::-p-aria([name="It runs already: say what its page shows"])');
  await page.type(
    '[data-running] textarea',
    ['Bay 1  GW4-100-A  3.6 TiB  Normal', 'Bay 2  GW4-200-B  3.6 TiB  Normal'].join('\n'),
  );
  await press(page, 'Add a pool it has');
  await choose(page, 'Layout', 'Separate', 0);
  await fill('Bays of its drives', '1', 1);
  await press(page, 'Register it');
  await page.waitForFunction(() => /\/units\/[0-9a-f-]{36}$/.test(location.pathname));
  await says('Godwit');

  await goByMenu(page, 'More', 'Its pools changed');
  await page.waitForSelector('[data-pool-change]');
  await key(page, '::-p-aria([name="The layout of a pool was changed"])');
  await choose(page, 'What it is now', 'Mirror');
  await says('Needs');
  await fill('Bays of the drives that came in, if any', '2');
  await says('it can lose 1.');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Record it');
  await page.waitForSelector('[data-last-four]');
  expect(await page.$eval('[role=dialog]', (dialog) => (dialog as HTMLElement).innerText)).toContain(
    'Taking GW4-200-B into Pool 1 erases what is on it.',
  );
  await page.type('[data-last-four]', '00-B');
  await key(page, '[role=dialog] button[type=submit]');
  await page.waitForFunction(() => /\/units\/[0-9a-f-]{36}$/.test(location.pathname));
  await says('can lose 1 more');
  expect(Object.values(((await unitNow('Godwit')) as Unit).state.pools)).toMatchObject([
    { scheme: 'mirror', bands: [{ members: ['GW4-100-A', 'GW4-200-B'] }] },
  ]);
  await press(page, 'Take back');
  await says('can lose none');
  expect(Object.values(((await unitNow('Godwit')) as Unit).state.pools)).toMatchObject([
    { scheme: 'separate', bands: [{ members: ['GW4-100-A'] }] },
  ]);
});
