/** A whole replacement at the shelf, on a phone: a wrong serial, a network drop, a restart, a hand-over; and the bad day. */
import type { ElementHandle, Page } from 'puppeteer-core';
import { seriousFaults } from './axe';
import { choose, key, named, openPage, press, typeOver, typeIn } from './browser';
import { openDemo } from './demo';
import { readDrives, readSize, sayCopy, stepIsThere } from './workPlan';

const PHONE = { width: 390, height: 844 };
const OLD = 'QH8-04417-77PX';
const NEW = 'QH8-05102-V3KE';
const WORKING = 'QH8-04422-4KH9';

const { shelf, browser, page, troubles, stop, start } = await openDemo({
  openAs: async (browser) => {
    const page = await openPage(browser);
    await page.setViewport(PHONE);
    return page;
  },
});
let plan = '';

interface Unit {
  readonly id: string;
  readonly version: number;
  readonly margin: number;
  readonly standing: string;
  readonly state: {
    readonly name: string;
    readonly drives: Record<string, { bay: string | null }>;
    readonly jobs: Record<string, { percent: number; onto: string }>;
    readonly plans: Record<string, object>;
  };
}

const ask = <T>(of: Page, method: string, path: string, body?: object): Promise<T> =>
  of.evaluate(
    (how, to, text) =>
      fetch(`/api/v1${to}`, {
        method: how,
        ...(text === '' ? {} : { headers: { 'content-type': 'application/json' }, body: text }),
      }).then((response) => response.json() as Promise<T>),
    method,
    path,
    body === undefined ? '' : JSON.stringify(body),
  );
const unitNamed = async (name: string, of = page): Promise<Unit> => {
  const { units } = await ask<{ units: Unit[] }>(of, 'GET', '/units');
  return units.find(({ state }) => state.name === name) as Unit;
};
interface Run {
  readonly refused: number;
  readonly ended?: { readonly how: string };
  readonly done: Record<string, { readonly at: string }>;
}
/** Every plan of a unit, those under way first, then the newest. */
const runsOf = async (name: string): Promise<Run[]> => {
  const { plans } = await ask<{ plans: { unitName: string; run: Run }[] }>(page, 'GET', '/plans');
  return plans.flatMap(({ unitName, run }) => (unitName === name ? [run] : []));
};
const says = (words: string, selector = 'main', of = page) =>
  of.waitForFunction(
    (at: string, text: string) => (document.querySelector(at) as HTMLElement | null)?.innerText.includes(text),
    { polling: 50 },
    selector,
    words,
  );
const textOf = (selector: string, of = page): Promise<string> =>
  of.$eval(selector, (element) => (element as HTMLElement).innerText);
const at = (step: string, of = page) => of.waitForSelector(`[data-step="${step}"]`);
const scan = async (serial: string, of = page): Promise<void> => {
  const input = (await of.waitForSelector('[data-scan]')) as ElementHandle<HTMLInputElement>;
  await input.evaluate((element) => element.select());
  // A scanner types the serial and Enter.
  await input.type(serial);
  await readSize(of);
  await of.keyboard.press('Enter');
};
/** Cuts the network once nothing is on its way: what is cut in the middle makes a browser ask for the whole page again. */
const goOffline = async (): Promise<void> => {
  await page.waitForNetworkIdle({ idleTime: 500, concurrency: 2, timeout: 5000 }).catch(() => undefined);
  await page.setOfflineMode(true);
};
const link = (name: string, of = page): Promise<void> => key(of, named(name, 'link'));

it('begins at the failure, and holds every drive at hand against the bay to the byte', async () => {
  await page.waitForSelector('[aria-label="Needs hands"]');
  await link('Plan its replacement');
  await page.waitForSelector('[data-way=in-place] svg');
  expect(await page.$eval('[name=old], [data-value]', (list) => (list as HTMLElement).dataset['value'])).toBe(OLD);
  const drives = await textOf('[data-new-drive]');
  expect(drives).toContain('fits, byte for byte');
  expect(drives).toContain('2 in drawers do not fit');
  expect(await textOf('main')).toContain('Plan the second replacement after this one, never together');
  expect(await textOf('[data-way=in-place]')).toMatch(/Thinner than at its best: \d+ h/);
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Begin the plan');
  await at('copy');
  plan = page.url();
  expect(await textOf('[data-step]')).toMatch(/last ran \d{4}-\d\d-\d\d, restore tried \d{4}-\d\d-\d\d/);
  expect(await seriousFaults(page)).toEqual([]);
});

it('refuses the serial of a working member, names its bay, logs it, and leaves the record true', async () => {
  await press(page, 'Done');
  await at('serial');
  await press(page, 'Done');
  await at('new-drive');
  await scan(NEW);
  await at('told');
  await press(page, 'Leave out…');
  await (await page.waitForSelector(named('Why', 'textbox')))?.type('nobody is in the house');
  await press(page, 'Leave it out');
  await at('locate');
  await press(page, 'Done');
  await at('pull');
  const before = await unitNamed('Heron');

  await scan(WORKING.toLowerCase());
  await page.waitForSelector('[data-stopped="wrong-serial"]');
  const words = await textOf('[data-stopped]');
  expect(words).toContain(
    'That is bay 3, a working member of Accounts and orders. With it out besides QH8-04417-77PX, Accounts and orders stops.',
  );
  expect(words).toContain(`put it back now, and say so here. Then take bay 2, ${OLD}.`);
  expect(await seriousFaults(page)).toEqual([]);
  const after = await unitNamed('Heron');
  expect(after.version).toBe(before.version + 1);
  expect([after.margin, after.state.drives[WORKING]?.bay, after.state.drives[OLD]?.bay]).toEqual([0, '3', '2']);
  expect((await runsOf('Heron'))[0]?.refused).toBe(1);
  const plan = page.url();
  // It was out after all, and is back: what its page says decides what comes next, and both are recorded.
  await press(page, 'It is out of its bay');
  await page.waitForSelector('[data-wrong-out]');
  expect(await textOf('[data-wrong-out]')).toContain('back into bay 3 now, and push until it clicks');
  await key(page, '::-p-text(It asks to erase, initialise or repair)');
  await says('Answer no, or close the question', '[data-wrong-out]');
  await key(page, '::-p-text(Healthy, or as it was before)');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Record both, and say what comes now');
  await page.waitForSelector('[data-after-wrong=as-before]');
  await at('pull');
  const back = await unitNamed('Heron');
  expect([back.margin, back.state.drives[WORKING]?.bay]).toEqual([0, '3']);
  await press(page, 'I have read that');
  await page.waitForSelector('[data-after-wrong]', { hidden: true });
  await at('pull');
  await page.goto(`${shelf.base}/units/${after.id}`);
  await says('A step was stopped, “Pull bay 2 and read its serial”: That is bay 3');
  await page.goto(plan);
  await at('pull');
});

it('goes on through a network drop: stopped here as there, kept as not yet sent, sent in order afterwards', async () => {
  await page.goto(plan);
  await at('pull');
  await goOffline();
  await scan(WORKING);
  await page.waitForSelector('[data-stopped="wrong-serial"]');
  await scan(OLD);
  await at('fit');
  await page.waitForSelector('[data-not-yet-sent="1"]');
  await scan(NEW);
  await at('seen');
  await page.waitForSelector('[data-not-yet-sent="2"]');
  await page.waitForFunction(() => document.querySelectorAll('nav[aria-label=Steps] li span.block').length === 2);
  await page.setOfflineMode(false);
  await page.waitForFunction(() => document.querySelector('[data-not-yet-sent]') === null);
  const heron = await unitNamed('Heron');
  expect([heron.state.drives[OLD]?.bay, heron.state.drives[NEW]?.bay]).toEqual([null, '2']);
});

it('shows what somebody else recorded meanwhile, and lets a person decide', async () => {
  const other = await newcomer('Reed Otter', 'otter@marrowfen.example');
  await goOffline();
  await press(page, 'Done');
  await at('wait');
  await page.waitForSelector('[data-not-yet-sent="1"]');
  const { id, version } = await unitNamed('Heron', other);
  await ask(other, 'POST', `/units/${id}/events`, {
    expectedVersion: version,
    event: { kind: 'noted', note: 'the beeper was muted' },
  });
  await other.close();
  await page.setOfflineMode(false);
  await page.waitForSelector('[data-conflict]');
  expect(await textOf('[data-conflict]')).toContain('the beeper was muted');
  await press(page, 'Both are true: send mine after it');
  await page.waitForFunction(() => document.querySelector('[data-not-yet-sent]') === null);
  expect(Object.values((await unitNamed('Heron')).state.jobs)).toMatchObject([{ onto: NEW, percent: 0 }]);
});

/** Somebody new in a browser of their own, by the entry link the owner gave. */
async function newcomer(name: string, email: string): Promise<Page> {
  const { link: key } = await ask<{ link: string }>(page, 'POST', '/people', { name, email, role: 'keeper' });
  const other = await openPage(browser);
  await other.goto(key);
  await other.waitForSelector('input[name=password]');
  await other.type('input[name=password]', 'a long enough phrase');
  await press(other, 'Set the password and enter');
  await other.waitForFunction(() => location.pathname === '/', { polling: 50 });
  return other;
}

it('shows a step that the server does not take as what it is, and not as one to send again', async () => {
  // Done here without a network, while the very drive was put somewhere else.
  const other = await newcomer('Water Rail', 'rail@marrowfen.example');
  const unit = await ask<{ id: string; version: number }>(other, 'POST', '/units', {
    name: 'Dabchick',
    place: { site: 'Main office', room: 'rack' },
    profile: 'reedbank',
    bays: 4,
    drives: ['1', '2', '3'].map((bay) => ({
      bay,
      serial: `QH8-09900-DB0${bay}`,
      bytes: 8001563222016,
      basis: 'exact',
    })),
    pool: { scheme: 'parity-1' },
  });
  const { plan: dabchick } = await ask<{ plan: string }>(other, 'POST', `/units/${unit.id}/plans`, {
    expectedVersion: unit.version,
    job: 'replace',
    wish: { serial: 'QH8-09900-DB02', way: 'in-place', drive: { bytes: 8001563222016, basis: 'exact' } },
  });
  await page.goto(`${shelf.base}/units/${unit.id}/plans/${dabchick}`);
  await at('copy');
  // "None" alone stops here, and says what can be done; with a reason it goes on, and that is what is recorded.
  await key(page, '[data-copy-fields] [role=radio][value=none]');
  await press(page, 'Confirm');
  await page.waitForSelector('[data-stopped=no-copy]');
  expect(await textOf('[data-stopped]')).toMatch(/There is no other copy of[^]*Arrange one first/);
  await typeIn(page, '[data-copy-fields] input:not([type=radio])', 'it is a test of the rack');
  await press(page, 'Confirm');
  await at('serial');
  await press(page, 'Done');
  await at('new-drive');
  await goOffline();
  await scan('QH8-09900-DB09');
  await at('told');
  await page.waitForSelector('[data-not-yet-sent="1"]');
  await ask(other, 'POST', '/units', {
    name: 'Moorhen',
    place: { site: 'Main office', room: 'rack' },
    profile: 'reedbank',
    bays: 2,
    drives: [{ bay: '1', serial: 'QH8-09900-DB09', bytes: 8001563222016, basis: 'exact' }],
  });
  await other.close();
  await page.setOfflineMode(false);
  await page.waitForSelector('[data-conflict=refused]');
  const words = await textOf('[data-conflict]');
  expect(words).toContain('was done here, and cannot stand as it was');
  expect(words).toContain('QH8-09900-DB09 stands in bay 1 of Moorhen by the record');
  expect(words).not.toContain('send mine after it');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Drop what is not sent from here');
  await at('new-drive');
});

it('changes both old drives of a two-bay unit, the clicking one first, and the good one never out beside it', async () => {
  await page.goto(shelf.base);
  const drives = ['1', '2'].map((bay) => ({
    bay,
    serial: `QH4-0210${bay}-OLD${bay}`,
    bytes: 4000787030016,
    basis: 'exact',
    boughtOn: '2019-05-02',
  }));
  const unit = await ask<{ id: string; version: number }>(page, 'POST', '/units', {
    name: 'Water Pipit',
    place: { site: 'Field station', room: 'hut' },
    profile: 'reedbank',
    bays: 2,
    drives,
    pool: { scheme: 'mirror' },
  });
  await ask(page, 'POST', `/units/${unit.id}/events`, {
    expectedVersion: unit.version,
    event: { kind: 'drive-suspected', serial: 'QH4-02102-OLD2', note: 'clicks' },
  });
  await page.goto(`${shelf.base}/units/${unit.id}/larger`);
  await page.type('input[name=size]', '8 TB');
  await says('Pull bay 2', '[data-plan-preview]');
  const preview = await textOf('[data-plan-preview]');
  expect(preview.indexOf('Pull bay 2')).toBeLessThan(preview.indexOf('Pull bay 1'));
  await press(page, 'Begin the plan');
  await at('copy');
  await sayCopy(page);
  await at('told');
  await press(page, 'Done');
  await at('new-drives');
  // Read where a wrong one costs nothing: a smaller one is stopped there, with what it would mean.
  const [first, second] = ['QH8-06100-WPA1', 'QH8-06100-WPA2'];
  await typeIn(page, '[data-scan]', first);
  await page.type('input[name=size]', '4 TB');
  await key(page, '[data-evidence] button[type=submit]');
  await page.waitForSelector('[data-drives="1"]');
  await typeIn(page, '[data-scan]', second);
  await typeOver(page, 'input[name=size]', '8 TB');
  await key(page, '[data-evidence] button[type=submit]');
  await page.waitForSelector('[data-drives="0"]');
  await key(page, '[data-evidence] button[type=submit]');
  await page.waitForSelector('[data-stopped="too-small"]');
  expect(await textOf('[data-stopped]')).toMatch(
    /With QH8-06100-WPA1 \(4 TB\) .+ not the .+ that were planned: it gains nothing/,
  );
  await press(page, `Again, ${first}`);
  await page.waitForSelector('[data-drives="1"]');
  await readDrives(page, [first]);
  await at('out-1');
  await typeIn(page, '[data-scan]', 'QH4-02101-OLD1');
  await key(page, '[data-evidence] button[type=submit]');
  await page.waitForSelector('[data-stopped="wrong-serial"]');
  expect(await textOf('[data-stopped]')).toContain('That is bay 1, a working member');
  const { state, margin } = await unitNamed('Water Pipit');
  expect([margin, Object.keys(state.jobs)]).toEqual([1, []]);
});

it('waits through a restart of the server, with a span that narrows', async () => {
  await page.goto(plan);
  await page.waitForSelector('[data-wait]');
  const enterPercent = async (percent: string): Promise<void> => {
    await page.type('[data-percent]', percent);
    await press(page, 'Enter it');
    await says(`${percent} % · done about`, '[data-wait]');
  };
  await enterPercent('1');
  await stop();
  await start();
  await page.goto(plan);
  await says('1 % · done about', '[data-wait]');
  expect(await textOf('[data-wait]')).toMatch(/Four times out of five between .+ and .+; from 1 reading\./);
  await enterPercent('2');
  // On a phone the most urgent stands there, the others come on a tap.
  await press(page, '2 more');
  expect(await textOf('[aria-label=Waiting]')).toMatch(/Heron · rebuilding bay 2\s+2 % · done about .+ \(.+–.+\)/);
  // The strip leads back to the plan that waits.
  const there = await page.$$eval('[aria-label=Waiting] a', (links) => links.map((of) => of.getAttribute('href')));
  expect(there).toContain(new URL(plan).pathname);
});

it('is handed over by its address, with words, and finished by somebody else', async () => {
  await press(page, 'Hand over, or let it rest');
  await (
    await page.waitForSelector('::-p-aria([name="Words for whoever goes on"])')
  )?.type('the old drive lies on the desk');
  await press(page, 'Leave these words and copy its address');
  await says('It rests, with these words');

  const other = await newcomer('Bog Myrtle', 'myrtle@marrowfen.example');
  await other.setViewport(PHONE);
  await other.goto(plan);
  await says('the old drive lies on the desk', '[data-step]', other);
  await press(other, 'It is done');
  // At 2 % that is early: what its page says is asked, and "done" is said twice.
  await other.waitForSelector('[data-stopped=too-early]');
  expect(await textOf('[data-stopped=too-early]', other)).toContain('At the last reading it stood at 2 %');
  await key(other, '::-p-text(Still at work)');
  await press(other, 'Keep that answer');
  await at('wait', other);
  await press(other, 'It is done');
  await other.waitForSelector('[data-stopped=too-early]');
  await key(other, '::-p-text(Done, or healthy)');
  await press(other, 'Its page says done');
  await at('verified', other);
  const heron = await unitNamed('Heron', other);
  expect([heron.margin, heron.standing]).toEqual([1, 'well']);
  // Looked at again, its page is still at work: the end that was said too early is taken back.
  await key(other, '::-p-text(Still at work)');
  await press(other, 'Keep that answer');
  await at('wait', other);
  expect((await unitNamed('Heron', other)).margin).toBe(0);
  await press(other, 'It is done');
  await other.waitForSelector('[data-stopped=too-early]');
  await key(other, '::-p-text(Done, or healthy)');
  await press(other, 'Its page says done');
  await at('verified', other);
  await key(other, '::-p-text(Done, or healthy)');
  await press(other, 'Its page says done');
  await at('fate', other);
  // What was decided is done by its own form, and stands in the drive's own ledger.
  await stepIsThere(other);
  await key(other, '[data-evidence] [role=radio][value=drawer]');
  await other.type('[data-evidence] input[name=drawer]', 'returns');
  await press(other, 'Write it down');
  await at('next-spare', other);
  expect((await ask<{ life: { where: object } }>(other, 'GET', `/drives/${OLD}`)).life.where).toMatchObject({
    kind: 'drawer',
    drawer: 'returns',
  });
  await (await other.waitForSelector('[data-step] form input'))?.type('ordered, two days');
  await press(other, 'Confirm');
  await at('age-mates', other);
  await press(other, 'Done');
  await press(other, 'Finish the plan');
  await says('finished', 'nav[aria-label=Steps]', other);
  await other.close();
  expect((await runsOf('Heron'))[0]).toMatchObject({ ended: { how: 'finished' }, refused: 5 });
});

it('replaces through a free bay with both ways side by side, and enters a sheet filled by hand', async () => {
  await page.setViewport({ width: 1280, height: 800 });
  const coot = await unitNamed('Coot');
  await page.goto(`${shelf.base}/units/${coot.id}/replace`);
  await page.waitForFunction(() => document.querySelectorAll('[data-way] svg:not(.lucide)').length === 2);
  expect(await textOf('[data-way=free-bay]')).toMatch(/Thinner than at its best: never/);
  await key(page, '[data-way=free-bay] [role=radio]');
  await says('Fit the new drive in bay 5', '[data-plan-preview]');
  await press(page, 'Begin the plan');
  await at('copy');
  await link('Enter a sheet filled by hand');
  await page.waitForSelector('[data-sheet-row=copy]');
  const fill = async (step: string, written?: string): Promise<void> => {
    await key(page, `[data-sheet-row="${step}"] [role=checkbox]`);
    await page.$eval(
      `[data-sheet-row="${step}"] input[type=datetime-local]`,
      (input, value) => {
        // As a person's browser sets it: React listens to the input event.
        Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(input, value);
        input.dispatchEvent(new Event('input', { bubbles: true }));
      },
      localMinute(),
    );
    if (written !== undefined) await page.type(`[data-sheet-row="${step}"] td:last-child input`, written);
  };
  for (const step of ['copy', 'serial']) await fill(step);
  await fill('new-drive', 'QH6-01904-19TF');
  await press(page, 'Enter 3 steps');
  await says('That is bay 4, a working member');
  await says('Nothing was entered.');
  await typeOver(page, '[data-sheet-row="new-drive"] td:last-child input', 'QH12-06110-A7D9');
  await press(page, 'Enter 3 steps');
  await at('move-off');
  expect(Object.keys((await runsOf('Coot'))[0]?.done ?? {})).toEqual(['copy', 'serial', 'new-drive']);
});

it('lets the owner go on where a serial cannot be read, with the serial typed and a reason', async () => {
  await page.setViewport({ width: 1280, height: 800 });
  for (const step of ['move-off', 'told']) {
    await at(step);
    await press(page, 'Leave out…');
    await (await page.waitForSelector(named('Why', 'textbox')))?.type('not now');
    await press(page, 'Leave it out');
  }
  await at('fit');
  await press(page, 'I cannot read the label');
  await page.type('[data-step] form input', 'scratched off; only one drive lay in the drawer');
  await press(page, 'Say so');
  await page.waitForSelector('[data-stopped="serial-unread"]');
  await press(page, 'I am the owner, and go on all the same…');
  const [serial, why] = await page.$$('[data-stopped] input');
  await serial?.type('QH12-06110-A7D8');
  await why?.type('the invoice names it');
  expect(
    await page.$eval('[data-stopped] button[type=submit]', (button) => (button as HTMLButtonElement).disabled),
  ).toBe(true);
  await page.keyboard.press('Tab');
  await serial?.evaluate((input) => (input as HTMLInputElement).select());
  await serial?.type('QH12-06110-A7D9');
  await press(page, 'Go on against the record');
  await at('seen');
  expect((await unitNamed('Coot')).state.drives['QH12-06110-A7D9']?.bay).toBe('5');
});

function localMinute(): string {
  const now = new Date(Date.now() - new Date().getTimezoneOffset() * 60_000);
  return now.toISOString().slice(0, 16);
}

it('plans larger drives with the space after each, and stops half-way with what is half done', async () => {
  const heron = await unitNamed('Heron');
  await page.goto(`${shelf.base}/units/${heron.id}/larger`);
  await page.type('input[name=size]', '6 TB');
  await says('No member of Accounts and orders is smaller than 6 TB', '[data-plan-preview]');
  await typeOver(page, 'input[name=size]', '16 TB');
  await says('48 TB usable after “Expand Accounts and orders', '[data-plan-preview]');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Begin the plan');
  await at('copy');
  await press(page, 'Done');
  await at('told');
  await press(page, 'Done');
  await at('new-drives');
  await press(page, 'Stop the plan here');
  await says('steps are left, the next “Lay out 4 drives of 16 TB, and read each”', '[role=dialog]');
  await press(page, 'Stop it');
  await says('stopped', 'nav[aria-label=Steps]');
  expect((await runsOf('Heron')).find(({ ended }) => ended?.how === 'stopped')).toBeDefined();
});

it('takes back a drive that came back, believed once and watched', async () => {
  const { id, version } = await unitNamed('Heron');
  await ask(page, 'POST', `/units/${id}/events`, {
    expectedVersion: version,
    event: { kind: 'drive-failed', serial: WORKING, note: 'gone from the page' },
  });
  await page.goto(`${shelf.base}/units/${id}/replace`);
  await page.waitForSelector('::-p-aria([name="What is done"])');
  await choose(page, 'What is done', 'It is there again, and the unit took it back whole');
  await says('See that bay 3 shows QH8-04422-4KH9 again', '[data-plan-preview]');
  await press(page, 'Begin the plan');
  for (const step of ['copy', 'log', 'seen-again', 'whole', 'verified', 'watch']) {
    await at(step);
    if (step === 'log') await typeIn(page, '[data-evidence] input', 'a loose tray, 21:04');
    if (step === 'seen-again') await typeIn(page, '[data-scan]', WORKING);
    if (step === 'verified') {
      await key(page, '::-p-text(Done, or healthy)');
      await press(page, 'Its page says done');
    } else await key(page, '[data-evidence] button[type=submit]');
  }
  await press(page, 'Finish the plan');
  await says('finished', 'nav[aria-label=Steps]');
  expect((await unitNamed('Heron')).margin).toBe(1);
});

it('has stopped when two members are pulled mid-rebuild, is not called lost, and opens the rescue desk', async () => {
  await page.goto(shelf.base);
  const wren = await unitNamed('Wren');
  for (const bay of ['1', '2']) {
    await page.goto(`${shelf.base}/units/${wren.id}?bay=${bay}`);
    await key(page, `button[data-bay="${bay}"]`);
    await press(page, 'Taken out');
    const four = await page.waitForSelector('[data-last-four]');
    await four?.type(bay === '1' ? 'M55T' : 'M58R');
    await press(page, 'Record it');
    await page.waitForSelector('[data-last-four]', { hidden: true });
  }
  expect((await unitNamed('Wren')).standing).toBe('stopped');
  // The plan that was under way says what not to do, and nothing of what came next in it.
  const [running] = Object.keys((await unitNamed('Wren')).state.plans);
  await page.goto(`${shelf.base}/units/${wren.id}/plans/${String(running)}`);
  await page.waitForSelector('[data-frozen=pool-lost]');
  expect(await textOf('[data-step]')).toMatch(
    /has stopped: this plan waits until it is back\. Nothing is proven lost\.\s+Pull nothing, fit nothing/,
  );
  expect(await page.$$('[data-step] form')).toHaveLength(0);
  expect(await seriousFaults(page)).toEqual([]);
  await page.goto(`${shelf.base}/units/${wren.id}`);
  await link('Open the rescue desk');
  await page.waitForSelector('[data-rescue]');
  const desk = await textOf('[data-rescue]');
  expect(desk).toContain('is missing 2 of 2 members');
  expect(desk).toMatch(
    /1\s+QH4-03016-M55T · out of bay 1 since .+, in hand, not put anywhere yet; .+\s+Nothing was written without it/,
  );
  expect(desk).toMatch(/–\s+QH4-03016-M57W/);
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Go through it step by step');
  await at('hands-off');
  await says('Do not answer yes to anything that erases');
});

it('ran without an error in the browser', () => {
  expect(troubles).toEqual([]);
});
