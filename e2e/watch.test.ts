/** A unit that speaks: what happens to it is noticed, a swap is proven by it step by step, and record and truth agree. */
import type { Browser, Page } from 'puppeteer-core';
import { seriousFaults } from './axe';
import { choose, enter, key, named, openBrowser, openPage, press } from './browser';
import { newDataFolder, startShelf, type StartedShelf } from './startShelf';

const OLD = 'QH8-04417-77PX';
const NEW = 'QH8-05102-V3KE';

const data = newDataFolder();
const env = { PATIENT_SHELF_STANDIN: 'on' };
let shelf: StartedShelf;
let browser: Browser;
let page: Page;
let other: Page;
const troubles: string[] = [];

beforeAll(async () => {
  shelf = await startShelf({ data: data.path, env });
  browser = await openBrowser();
  page = await openPage(browser);
  page.on('pageerror', (error) => troubles.push((error as Error).message));
  await enter(page, shelf.link);
  // The other side of the units, in a second window of the same person.
  other = await page.browserContext().newPage();
  other.setDefaultTimeout(45_000);
});
afterAll(async () => {
  await browser.close();
  await shelf.stop();
  data.remove();
});

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- tests reach into answers of any shape
type Json = Record<string, any>;
const ask = (method: string, path: string, body?: object): Promise<Json> =>
  page.evaluate(
    (how, to, text) =>
      fetch(`/api/v1${to}`, {
        method: how,
        ...(text === '' ? {} : { headers: { 'content-type': 'application/json' }, body: text }),
      }).then((response) => response.json() as Promise<Json>),
    method,
    path,
    body === undefined ? '' : JSON.stringify(body),
  );
const unitNamed = async (name: string): Promise<Json> => {
  const { units } = await ask('GET', '/units');
  return (units as Json[]).find(({ state }) => state.name === name) as Json;
};
const says = (words: string, selector = 'main', of = page) =>
  of.waitForFunction(
    (at: string, text: string) => (document.querySelector(at) as HTMLElement | null)?.innerText.includes(text),
    { polling: 100 },
    selector,
    words,
  );
/** Asks again until it is so: the watch asks when it is due. */
const until = async (is: () => Promise<boolean>): Promise<void> => {
  for (let i = 0; i < 900; i++) {
    if (await is()) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error('It did not come about.');
};
/** Mails of the shelf about something, by what they say. */
const mailsOf = async (words: string, subject = ''): Promise<Json[]> =>
  ((await ask('GET', '/letters'))['letters'] as Json[]).filter(
    (one) =>
      one['isOurs'] === true &&
      String(one['subject']).includes(subject) &&
      `${String(one['subject'])} ${String(one['words'])}`.includes(words),
  );
const fill = async (name: string, text: string): Promise<void> => {
  await page.$eval(
    `::-p-aria([name="${name}"])`,
    (of, value) => {
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
      set?.call(of, value);
      of.dispatchEvent(new Event('input', { bubbles: true }));
    },
    text,
  );
};
const atPanel = async (name: string): Promise<void> => {
  const { id } = await unitNamed(name);
  await other.bringToFront();
  await other.goto(`${shelf.base}/units/${String(id)}?view=watch`);
  await other.waitForSelector('[data-simulated]');
};

it('notices a drive that fails, says it once, and follows the spare that steps in', async () => {
  await until(
    async () =>
      (await ask('GET', `/units/${(await unitNamed('Plover'))['id'] as string}/watch`))['watch']?.heardAt != null,
  );
  await atPanel('Plover');
  await choose(other, 'Bay', 'Head, tray 4');
  await press(other, 'Fails');
  await says('Head, tray 4 fails', 'body', other);
  await until(async () => JSON.stringify((await unitNamed('Plover'))['state']['drives']).includes('"failed"'));
  await page.bringToFront();
  await page.goto(`${shelf.base}/`);
  await says('Head, tray 4 has failed');
  const { events } = await ask('GET', `/units/${(await unitNamed('Plover'))['id'] as string}/events`);
  const by = (events as Json[])
    .filter(({ recordedBy }) => recordedBy === 'Watch')
    .map(({ event }) => event.kind as string);
  expect(by.filter((kind) => kind === 'drive-failed')).toHaveLength(1);
  await until(async () => Object.keys((await unitNamed('Plover'))['state']['jobs'] as object).length > 1);
  // One mail of it, though it failed, a spare stepped in and a rebuild began.
  await until(async () => (await mailsOf('Plover · Head, tray 4 has failed')).length > 0);
  await ask('POST', `/units/${(await unitNamed('Plover'))['id'] as string}/watch/looks`);
  await new Promise((resolve) => setTimeout(resolve, 5000));
  expect(await mailsOf('Plover')).toHaveLength(1);
});

it('lets somebody say that they look after it, and shows who does', async () => {
  await page.goto(`${shelf.base}/`);
  await press(page, 'I look after it: Heron · bay 2 has failed');
  await says('Seen by Demo owner', 'aside');
  await press(page, 'Not seen after all: Heron · bay 2 has failed');
  await page.waitForSelector(named('I look after it: Heron · bay 2 has failed', 'button'));
  await page.goto(`${shelf.base}/messages`);
  await says('Never seen to arrive');
  await press(page, 'Send a test');
  await until(async () => (await mailsOf('', 'Test: the shelf reaches you')).length === 1);
  await press(page, 'The test has arrived');
  await says('Seen to arrive');
  await press(page, 'Change…');
  await choose(page, 'Told of', 'everything: upkeep, age and room too');
  // Quiet hours without an end are none.
  await fill('Quiet until', '');
  await press(page, 'Change it');
  await says('Quiet hours have a beginning and an end.');
  await fill('Quiet from', '');
  await press(page, 'Change it');
  await says('Everywhere: everything');
  expect(await seriousFaults(page)).toEqual([]);
});

it('reads the mail of a unit without a voice, and records of it what a person accepts', async () => {
  await page.goto(`${shelf.base}/`);
  await says('Bittern · has written', 'aside');
  await page.setViewport({ width: 390, height: 844 });
  await page.goto(`${shelf.base}/messages?view=letters`);
  await press(page, 'The mail is right');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Record the one accepted');
  await until(async () => (await ask('GET', '/letters'))['letters'].every((one: Json) => one['settledAt'] !== null));
  const { state } = await unitNamed('Bittern');
  expect(Object.values(state.drives as Json).map(({ condition }) => condition as string)).toContain('suspected');
  await key(page, '::-p-text(Bring in a mail)');
  await (
    await page.waitForSelector('textarea')
  )?.type('From: x@marrowfen.example\nSubject: Snipe: test\n\nA test message of Snipe.');
  await press(page, 'Bring it in');
  await says('A test of Snipe’s alarm mail');
  await press(page, 'The mail is right');
  await press(page, 'Record the one accepted');
  await says('settled: Demo owner');
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
  expect(wide).toBeLessThanOrEqual(0);
  await page.setViewport({ width: 1280, height: 800 });
});

it('reads the list a unit writes out by the columns a person named, and remembers them', async () => {
  const { id } = await unitNamed('Snipe');
  const { state } = await unitNamed('Snipe');
  const [serial] = Object.keys(state.drives as Json);
  const paste = async (): Promise<void> => {
    await page.goto(`${shelf.base}/units/${String(id)}/report`);
    const text = await page.waitForSelector('textarea[name=text]');
    await text?.evaluate((area) => (area as HTMLTextAreaElement).select());
    await text?.type(`Place,Device,Lamp,Maker\n1,${String(serial)},Failed,Fenside`);
    await says('Which column is what');
  };
  await paste();
  await says('Read line by line, as it stands');
  await choose(page, 'Bay', 'Place');
  await choose(page, 'Serial', 'Device');
  await choose(page, 'Condition', 'Lamp');
  await says('Not read: Maker.');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Hold it against the record');
  await says('1 bay read', '[data-compared]');
  await says('its next list is read by the same columns', 'body');
  await paste();
  await says('bay under “Place”, serial under “Device”, condition under “Lamp”');
  await says('Not read: Maker.');
});

it('shows what a unit says of its bays, and switches the light of one', async () => {
  const { id } = await unitNamed('Plover');
  await page.goto(`${shelf.base}/units/${String(id)}?view=watch`);
  await says('What it says of its bays');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Light on, Head, tray 4');
  await page.waitForSelector(named('Light off, Head, tray 4', 'button'));
  // It stands at the bay itself, too.
  await page.goto(`${shelf.base}/units/${String(id)}?bay=4`);
  await press(page, 'Light off, Head, tray 4');
  await page.waitForSelector(named('Light on, Head, tray 4', 'button'));
  await page.goto(`${shelf.base}/units/${String(id)}?view=watch`);
  await says('What it says of its bays');
  await page.setViewport({ width: 390, height: 844 });
  expect(await seriousFaults(page)).toEqual([]);
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
  expect(wide).toBeLessThanOrEqual(0);
});

it('leads a swap on a phone with the unit as witness: out, in, written, whole', async () => {
  const { id } = await unitNamed('Heron');
  await page.goto(`${shelf.base}/units/${String(id)}/replace?serial=${OLD}`);
  await page.waitForSelector('[data-way=in-place] svg');
  await press(page, 'Begin the plan');
  await page.waitForSelector('[data-step="copy"]');
  await press(page, 'Done');
  await page.waitForSelector('[data-step="serial"]');
  await press(page, 'Done');
  await page.waitForSelector('[data-step="new-drive"]');
  const scan = await page.waitForSelector('[data-scan]');
  await scan?.type(NEW);
  await page.keyboard.press('Enter');
  await page.waitForSelector('[data-step="told"]');
  await press(page, 'Leave out…');
  await (await page.waitForSelector(named('Why', 'textbox')))?.type('nobody is in the house');
  await press(page, 'Leave it out');
  await page.waitForSelector('[data-step="locate"]');
  await press(page, 'Light on, bay 2');
  await page.waitForSelector(named('Light off, bay 2', 'button'));
  await press(page, 'Done');
  await page.waitForSelector('[data-step="pull"]');
  await says(`The unit still sees ${OLD}`);
  // It is still lit where the hand goes.
  await page.waitForSelector(named('Light off, bay 2', 'button'));
  expect(await seriousFaults(page)).toEqual([]);

  await atPanel('Heron');
  await choose(other, 'Bay', 'bay 2');
  await press(other, 'Is pulled');
  await page.bringToFront();
  await says('empty and every other drive in its place');
  await press(page, 'The unit has seen it: go on');
  await until(async () => (await unitNamed('Heron'))['state']['drives'][OLD]['bay'] === null);

  await other.bringToFront();
  await (await other.waitForSelector(named('Serial', 'textbox')))?.type(NEW);
  await press(other, 'Is put into bay 2');
  await page.bringToFront();
  // Each step that the unit can see is done on its word; the others by hand.
  const seen: string[] = [];
  for (let i = 0; i < 12; i++) {
    const step = (await page.$eval('[data-step]', (of) => (of as HTMLElement).dataset['step'])) ?? '';
    const { state } = await unitNamed('Heron');
    if (Object.keys(state.jobs as object).length > 0) break;
    await page.waitForSelector(`[data-unit-says=proof], ${named('Done', 'button')}`);
    const proof = await page.$('[data-unit-says=proof] button');
    if (proof) seen.push(step);
    await key(page, proof ?? named('Done', 'button'));
    await page.waitForFunction(
      (was) => document.querySelector<HTMLElement>('[data-step]')?.dataset['step'] !== was,
      {},
      step,
    );
  }
  expect(seen.length).toBeGreaterThan(0);

  await until(async () => Object.keys((await unitNamed('Heron'))['state']['jobs'] as object).length === 1);
  await other.bringToFront();
  await press(other, 'a day a second');
  await page.bringToFront();
  await says('is written, and the unit has it well');
  await other.bringToFront();
  await press(other, 'as fast as here');
  await page.bringToFront();
  await press(page, 'The unit has seen it: go on');
  await until(async () => (await unitNamed('Heron'))['margin'] === 1);
});

it('shows what was measured of a drive over its years beside its lot, when it is opened', async () => {
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${shelf.base}/drives/QH6-01904-19TD`);
  await page.waitForSelector('[data-trends=shut]');
  await press(page, 'Show it beside its lot');
  await says('The other of its lot', '[data-trends=open]');
  await page.waitForSelector('[data-trends=open] svg:not(.lucide) path');
  expect(await seriousFaults(page)).toEqual([]);
});

it('ends with record and truth the same, drive by drive, and after a restart as well', async () => {
  const compare = async (): Promise<void> => {
    for (const name of ['Heron', 'Coot', 'Plover']) {
      const { id, state } = await unitNamed(name);
      const { watch } = await ask('POST', `/units/${String(id)}/watch/looks`);
      expect([name, watch.trouble, watch.impossible]).toEqual([name, null, []]);
      const record = Object.values(state.drives as Json)
        .filter(({ bay }) => bay !== null)
        .map(({ bay, serial }) => `${String(bay)} ${String(serial)}`);
      const truth = (watch.bays as Json[]).flatMap(({ bay, serial }) =>
        serial === undefined ? [] : [`${String(bay)} ${String(serial)}`],
      );
      expect(truth.sort()).toEqual(record.sort());
    }
  };
  await compare();
  await shelf.stop();
  shelf = await startShelf({ data: data.path, port: shelf.port, env });
  await enter(page, shelf.link);
  await compare();
  expect(troubles).toEqual([]);
});
