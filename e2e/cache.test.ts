import { seriousFaults } from './axe';
import { key, press, typeIn } from './browser';
import { openDemo } from './demo';
import { stepIsThere, stepShown, workTo, type Given } from './workPlan';

/** Cache of writes: put in by a plan, one drive of it dead, and renewed: emptied before a drive comes out. */

const { shelf, page, says, textOf, troubles } = await openDemo();

interface Unit {
  readonly id: string;
  readonly state: {
    readonly name: string;
    readonly power: string;
    readonly cache: readonly string[];
    readonly cacheHolds?: string;
    readonly drives: Readonly<Record<string, { readonly bay: string | null }>>;
  };
}
const coot = async (): Promise<Unit> => {
  const { units } = (await page.evaluate(async () => (await fetch('/api/v1/units')).json())) as { units: Unit[] };
  return units.find(({ state }) => state.name === 'Coot') as Unit;
};
const ask = async (id: string): Promise<void> => {
  await page.goto(`${shelf.base}/units/${id}/cache`);
  await page.waitForSelector('[data-new-drive]');
};

it('is put in by its plan, with the unit off and both serials read', async () => {
  const { id } = await coot();
  await ask(id);
  // What it is to hold is asked, and taken from nobody.
  await key(page, '[role=radio][value=writes]');
  await typeIn(page, '[data-new-drive] input[name=size]', '1 TB');
  await page.waitForFunction(() => document.querySelector('[data-plan-preview]')?.textContent?.includes('steps'));
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Begin the plan');
  await page.waitForSelector('[data-step]');
  const given = (step: string): Given => ({ serial: step === 'fit-1' ? 'NV1-00001-AAAA' : 'NV1-00002-BBBB' });
  const walked = await workTo(page, null, given);
  expect(walked).toEqual(expect.arrayContaining(['power-down', 'unplug', 'fit-1', 'fit-2', 'power-up', 'choose']));
  await press(page, 'Finish the plan');
  await says('finished', 'nav[aria-label=Steps]');
  expect((await coot()).state).toMatchObject({
    power: 'on',
    cache: ['NV1-00001-AAAA', 'NV1-00002-BBBB'],
    cacheHolds: 'writes',
    drives: { 'NV1-00001-AAAA': { bay: 'M1' } },
  });
  await page.goto(`${shelf.base}/units/${id}?bay=M1`);
  await says('cache of the unit', 'main');
  expect(await textOf('[data-cache-slots]')).toContain('AAAA');
});

it('says what a dead drive of it means, and leads to its renewal, which stops while it is still emptying', async () => {
  const { id } = await coot();
  await press(page, 'Failed…');
  await page.waitForSelector('[role=dialog] input');
  await typeIn(page, '[role=dialog] input', 'gone from its page');
  await page.keyboard.press('Enter');
  await says('gone from its page', 'main');
  await page.goto(`${shelf.base}/`);
  await says('cache slot M1: a cache drive does not work', 'body');
  await ask(id);
  await says('is on one drive now', 'main');
  await typeIn(page, '[data-new-drive] input[name=size]', '1 TB');
  await page.waitForFunction(() => document.querySelector('[data-plan-preview]')?.textContent?.includes('steps'));
  await press(page, 'Begin the plan');
  await page.waitForSelector('[data-step]');
  const given = (step: string): Given => ({
    serial: {
      'pull-1': 'NV1-00001-AAAA',
      'pull-2': 'NV1-00002-BBBB',
      'fit-1': 'NV1-00003-CCCC',
      'fit-2': 'NV1-00004-DDDD',
    }[step] as string,
  });
  const walked = await workTo(page, 'emptied', given);
  expect(walked).toEqual(expect.arrayContaining(['pools-seen', 'cache-off']));
  await stepIsThere(page);
  const choices = await page.$$('[data-evidence] [role=radio]');
  await key(page, choices[1] as NonNullable<(typeof choices)[number]>);
  await key(page, '[data-evidence] button[type=submit]');
  await page.waitForSelector('[data-stopped]');
  expect(await textOf('[data-stopped]')).toContain('is nowhere else');
  expect(await stepShown(page)).toBe('emptied');
  expect((await coot()).state.cache).toHaveLength(2);
  await workTo(page, null, given);
  expect((await coot()).state).toMatchObject({
    cache: ['NV1-00003-CCCC', 'NV1-00004-DDDD'],
    drives: { 'NV1-00001-AAAA': { bay: null } },
  });
  expect(troubles).toEqual([]);
});
