import { seriousFaults } from './axe';
import { COMPARED, PROVEN } from '../core/plan/engine/copying';
import { choose, press } from './browser';
import { openDemo } from './demo';
import { give, stepShown, workTo, type Given } from './workPlan';

const { shelf, page, says, textOf } = await openDemo();

it('says which way an old unit can go to another, and why not the others, at the desk and on the phone', async () => {
  const { units } = (await page.evaluate(async () => (await fetch('/api/v1/units')).json())) as {
    units: { id: string; state: { name: string } }[];
  };
  const idOf = (name: string): string => units.find(({ state }) => state.name === name)?.id ?? '';
  await page.goto(`${shelf.base}/units/${idOf('Teal')}`);
  await page.goto(`${shelf.base}/units/${idOf('Teal')}/move`);
  await choose(page, 'To', 'Heron');
  await page.waitForSelector('[data-ways]');
  expect(new URL(page.url()).searchParams.get('to')).toBe(idOf('Heron'));
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
  await page.locator('::-p-aria([name="At night only, 10 hours"][role="link"])').click();
  await page.waitForFunction(
    (before) => document.querySelector<HTMLElement>('[data-way=copy] [data-passes]')?.innerText !== before,
    {},
    always,
  );
  await page.locator('::-p-aria([name="register it"][role="link"])').click();
  await page.waitForSelector('form');
  expect(await textOf('main')).toContain('Causeway');
  const bays = await page.$$eval('input', (inputs) =>
    inputs.map(({ value }) => value).filter((value) => value === '12'),
  );
  expect(bays).toHaveLength(2);

  await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
  await page.goto(`${shelf.base}/units/${idOf('Teal')}/move?to=${idOf('Heron')}`);
  await says('Copy over the network');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(await seriousFaults(page)).toEqual([]);
});

interface UnitRead {
  readonly id: string;
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
  await page.locator('[data-way=copy] a').click();
  await page.waitForSelector('[data-move-plan=copy]');
  await choose(page, 'The old drive, at the very end', 'becomes the second');
  await says('Give up what stands on', '[data-move-plan]');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Begin the move');
  await page.waitForFunction(() => location.pathname.includes('/plans/'));
  await page.waitForSelector('[data-step=manual]');
  // Users before the shares: it says what comes first, and asks for nothing.
  await page.locator('::-p-text(Bring users and groups over)').click();
  await page.waitForSelector('[data-step=people]');
  expect(await textOf('[data-step]')).toMatch(/Not the whole configuration[^]*First:[^]*Make the shares on Snipe anew/);
  expect(await page.$('[data-evidence]')).toBeNull();
  await page.locator('::-p-text(Make the shares on Snipe anew)').click();
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
