import { seriousFaults } from './axe';
import { choose } from './browser';
import { openDemo } from './demo';

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
  await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
  await page.reload();
  await says('Copy over the network');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(await seriousFaults(page)).toEqual([]);
});
