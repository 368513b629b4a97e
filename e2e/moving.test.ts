import { seriousFaults } from './axe';
import { COMPARED, PROVEN } from '../core/plan/engine/copying';
import { choose, key, named, press, typeOver } from './browser';
import { openDemo } from './demo';
import { give, stepShown, workTo, type Given } from './workPlan';

const { shelf, page, says, textOf } = await openDemo();

const idNamed = async (name: string): Promise<string> => {
  const { units } = (await page.evaluate(async () => (await fetch('/api/v1/units')).json())) as {
    units: { id: string; state: { name: string } }[];
  };
  return units.find(({ state }) => state.name === name)?.id ?? '';
};

it('says which way an old unit can go to another, and why not the others, at the desk and on the phone', async () => {
  const [teal, heron] = [await idNamed('Teal'), await idNamed('Heron')];
  await page.goto(`${shelf.base}/units/${teal}/move`);
  await choose(page, 'To', 'Heron');
  await page.waitForSelector('[data-ways]');
  expect(new URL(page.url()).searchParams.get('to')).toBe(heron);
  // One bay does not move to more, and drives stand in the other already.
  expect(await textOf('[data-way=carry-by-slot]')).toMatch(/not possible[^]*one-bay[^]*does not move to a larger one/);
  const copy = await textOf('[data-way=copy]');
  expect(copy).toMatch(/Copy over the network/);
  expect(await seriousFaults(page)).toEqual([]);

  // One that nobody has bought yet: the same question, with no plan, and the way to write it down once it is there.
  await choose(page, 'To', 'One that is not on the shelf yet');
  await page.waitForSelector('::-p-aria([name="Its bays"])');
  await choose(page, 'Its family', 'Causeway');
  // The page says the same of the family before: it is this one once its bays are.
  await page.waitForFunction(
    () =>
      location.search.includes('family=causeway') &&
      [...document.querySelectorAll<HTMLElement>('[role=combobox]')].some((list) => list.innerText.trim() === '12'),
  );
  await says('It is commissioned first, with new drives and room for', '[data-way=copy]');
  expect(await page.$('[data-ways] a')).toBeNull();
  await choose(page, 'Its bays', '24');
  await page.waitForFunction(() => location.search.includes('bays=24'));
  expect(await seriousFaults(page)).toEqual([]);
  await says('everybody off for', '[data-way=copy] [data-passes]');
  const always = await textOf('[data-way=copy] [data-passes]');
  // Several shares: one after the other, and side by side.
  await key(page, '[data-share-by-share] summary');
  await page.type('[data-share-by-share] textarea', 'Maps, 1.2 TB, 400\nPapers, much');
  await says('Line 2: "much" is not a size', '[data-share-by-share]');
  await typeOver(page, '[data-share-by-share] textarea', 'Maps, 1.2 TB, 400\nPapers, 80 GB, 900000');
  await says('One after the other: ', '[data-share-by-share]');
  await says('The network between them holds it up most. Side by side wins', '[data-share-by-share]');
  await choose(page, 'Network', '10 Gbit/s');
  await says('The old unit’s drives hold it up most. Side by side wins next to nothing', '[data-share-by-share]');
  expect(await seriousFaults(page)).toEqual([]);
  await key(page, named('At night only, 10 hours', 'link'));
  await page.waitForFunction(
    (before) => document.querySelector<HTMLElement>('[data-way=copy] [data-passes]')?.innerText !== before,
    {},
    always,
  );
  await key(page, named('register it', 'link'));
  await page.waitForSelector('form');
  expect(await textOf('main')).toContain('Causeway');
  const bays = await page.$$eval('input', (inputs) =>
    inputs.map(({ value }) => value).filter((value) => value === '12'),
  );
  expect(bays).toHaveLength(2);

  await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
  await page.goto(`${shelf.base}/units/${teal}/move?to=${heron}`);
  await says('Copy over the network');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(await seriousFaults(page)).toEqual([]);
});

interface UnitRead {
  readonly id: string;
  readonly version: number;
  readonly state: {
    readonly name: string;
    readonly power: string;
    readonly pools: Readonly<Record<string, { readonly scheme: string; readonly missing: readonly string[] }>>;
    readonly dataSets: Readonly<
      Record<string, { readonly name: string; readonly copies: Readonly<Record<string, object>> }>
    >;
    readonly drives: Readonly<Record<string, { readonly bay: string | null }>>;
  };
}

it('joins several small units to one: in which order, whether there is room, and the plan of the first', async () => {
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${shelf.base}/units/${await idNamed('Plover')}`);
  await key(page, '[data-menu="More"] > summary');
  await key(page, 'a[href$="/merge"]');
  await says('Several small ones become one.');
  await key(page, '::-p-text(Coot, )');
  await says('1. Coot', '[data-joining]');
  await key(page, '::-p-text(Teal, )');
  // The least first.
  await says('2. Coot', '[data-joining]');
  expect(await textOf('[data-joining]')).toMatch(
    /1\. Teal[^]*can join[^]*They go to [^]*are left there then[^]*See its plan[^]*2\. Coot[^]*when the one before it is done/,
  );
  expect(await textOf('[data-merge-hours]')).toMatch(/All copies, one after the other/);
  expect(await seriousFaults(page)).toEqual([]);
  await key(page, named('See its plan', 'link'));
  await says('Point the people and machines that used Teal at Plover', '[data-move-plan=copy]');
  expect(await textOf('[data-move-plan=copy]')).not.toContain('Now give Plover the name and address');
  await choose(page, 'The name and address of Plover', 'become those of Teal');
  await says('Now give Plover the name and address of Teal', '[data-move-plan=copy]');
});

it('splits a part off: what is not ticked stays', async () => {
  const [coot, plover] = [await idNamed('Coot'), await idNamed('Plover')];
  await page.evaluate(async (id) => {
    const { version, state } = (await (await fetch(`/api/v1/units/${id}`)).json()) as UnitRead;
    const event = { kind: 'data-set-described', dataSet: 'films', name: 'Films', pool: Object.keys(state.pools)[0] };
    await fetch(`/api/v1/units/${id}/events`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ expectedVersion: version, event }),
    });
  }, coot);
  await page.goto(`${shelf.base}/units/${coot}/move?to=${plover}`);
  await key(page, named('choose what goes', 'link'));
  await says('What is not ticked stays in Coot', '[data-move-plan=copy]');
  // One of them goes at first, whichever; with the other it is everything.
  await key(page, '[data-move-plan=copy] [role=checkbox][data-state=unchecked]');
  await says('Shut Coot down', '[data-move-plan=copy]');
  await key(page, named('Films', 'checkbox'));
  await says('What is not ticked stays in Coot', '[data-move-plan=copy]');
  await page.waitForFunction(() => location.search.includes('only='));
  expect(await textOf('[data-move-plan=copy]')).toMatch(/Remove [^]* from Coot/);
  expect(await textOf('[data-move-plan=copy]')).not.toMatch(/Shut Coot down|name and address of/);
  expect(await seriousFaults(page)).toEqual([]);
});

it('copies the old one-bay unit over and cuts over: too early, different, and no other copy are stopped; its drive is the second at the end', async () => {
  await page.setViewport({ width: 1280, height: 800 });
  const read = <T>(path: string): Promise<T> =>
    page.evaluate(async (of) => (await fetch(`/api/v1${of}`)).json(), path) as Promise<T>;
  const { units } = await read<{ units: UnitRead[] }>('/units');
  const idOf = (name: string): string => units.find(({ state }) => state.name === name)?.id ?? '';
  const stateOf = async (id: string): Promise<UnitRead['state']> => (await read<UnitRead>(`/units/${id}`)).state;
  const [from, to] = [idOf('Teal'), idOf('Snipe')];
  const [serial] = Object.keys((await stateOf(from)).drives);

  await page.goto(`${shelf.base}/units/${from}/move?to=${to}`);
  expect(await textOf('[data-way=copy] [data-time-goes]')).toMatch(
    /Bytes [\d.]+ h.*, files .*: the .* holds? it up most/,
  );
  await key(page, '[data-way=copy] a');
  await page.waitForSelector('[data-move-plan=copy]');
  await choose(page, 'The old drive, at the very end', 'becomes the second');
  await says('Give up what stands on', '[data-move-plan]');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Begin the move');
  await page.waitForFunction(() => location.pathname.includes('/plans/'));
  await page.waitForSelector('[data-step=manual]');
  // Users before the shares: it says what comes first, and asks for nothing.
  await key(page, '::-p-text(Bring users and groups over)');
  await page.waitForSelector('[data-step=people]');
  expect(await textOf('[data-step]')).toMatch(/Not the whole configuration[^]*First:[^]*Make the shares on Snipe anew/);
  expect(await page.$('[data-evidence]')).toBeNull();
  await key(page, '::-p-text(Make the shares on Snipe anew)');
  await page.goto(page.url());
  await page.waitForSelector('[data-step=manual]');

  const given = (): Given => ({ serial: serial ?? '' });
  await workTo(page, 'compared', given);
  expect(await textOf('[data-where-data]')).toMatch(/Teal[^]*at home here[^]*a copy, proven[^]*No way back from/);
  await give(page, { choice: COMPARED[1] });
  await page.waitForSelector('[data-stopped=copies-differ]');
  expect(await textOf('[data-stopped]')).toMatch(/Copy those again, then compare again/);
  await workTo(page, 'address', given);
  expect((await stateOf(from)).power).toBe('off');

  // At the shelf, some days later.
  await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
  await workTo(page, 'another-copy', given);
  expect(Object.values((await stateOf(from)).dataSets)).toEqual([]);
  await give(page, { choice: PROVEN[1] });
  await page.waitForSelector('[data-stopped=last-copy]');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(await seriousFaults(page)).toEqual([]);
  expect(await stepShown(page)).toBe('another-copy');
  await workTo(page, null, given);
  await press(page, 'Finish the plan');
  await says('finished', 'nav[aria-label=Steps]');
  const now = await stateOf(to);
  expect(Object.values(now.pools)).toMatchObject([{ scheme: 'mirror', missing: [] }]);
  expect(now.drives[serial ?? '']).toMatchObject({ bay: '2' });
  expect(
    Object.values(now.dataSets)
      .map(({ name }) => name)
      .sort(),
  ).toEqual(['Field station', 'Weather station']);
  expect((await stateOf(from)).pools).toEqual({});
});
