import type { Page } from 'puppeteer-core';
import { seriousFaults } from './axe';
import { openDemo } from './demo';

const troubles: string[] = [];
const { shelf, page } = await openDemo();

/** Where somebody may be, by unit where it is a unit's. */
const PLACES: readonly (readonly [path: string, unit?: string])[] = [
  ['/'],
  ['/bench'],
  ['/drives'],
  ['/drives?place=orders'],
  ['/plans'],
  ['/upkeep'],
  ['/upkeep?view=spares'],
  ['/round'],
  ['/messages'],
  ['/messages?view=letters'],
  ['/listings'],
  ['/labels'],
  ['/settings'],
  ['/units/new'],
  ['/units/:id', 'Heron'],
  ['/units/:id?view=ahead', 'Coot'],
  ['/units/:id?view=growing', 'Coot'],
  ['/units/:id?view=copies', 'Bittern'],
  ['/units/:id?view=upkeep', 'Bittern'],
  ['/units/:id?view=about', 'Plover'],
  ['/units/:id/replace?drive=:sick', 'Coot'],
  ['/units/:id/larger', 'Coot'],
  ['/units/:id/extend', 'Plover'],
  ['/units/:id/level', 'Coot'],
  ['/units/:id/move', 'Snipe'],
  ['/units/:id/merge', 'Plover'],
  ['/units/:id/lamps', 'Heron'],
  ['/units/:id/report', 'Bittern'],
  ['/units/:id/rescue', 'Heron'],
  ['/drives/:sick', 'Coot'],
];

interface OfUnit {
  readonly id: string;
  readonly state: { readonly name: string; readonly drives: Readonly<Record<string, { readonly bay: string | null }>> };
}

let units: readonly OfUnit[] = [];
const unitNamed = (name: string): OfUnit | undefined => units.find(({ state }) => state.name === name);

beforeAll(async () => {
  page.on('pageerror', (error) => troubles.push(String(error)));
  ({ units } = await page.evaluate(() =>
    fetch('/api/v1/units').then((answer) => answer.json() as Promise<{ units: OfUnit[] }>),
  ));
});

/** The address of a place: the unit's, and of the drive in its third bay. */
function addressOf(path: string, name = ''): string {
  const drives = Object.entries(unitNamed(name)?.state.drives ?? {});
  const [third = ''] = drives.find(([, { bay }]) => bay === '3') ?? [];
  return shelf.base + path.replace(':id', unitNamed(name)?.id ?? '').replace(':sick', third);
}

it.each(PLACES)(
  'is come to by Tab whole, and has no serious faults in either theme at either width: %s',
  async (path = '/', unit) => {
    await page.setViewport({ width: 1280, height: 800 });
    await page.goto(addressOf(path, unit));
    await page.waitForSelector('main h1, main h2');
    expect(await notReached(page)).toEqual([]);
    for (const [width, height] of [
      [1280, 800],
      [390, 844],
    ] as const)
      for (const theme of ['light', 'dark']) {
        await page.setViewport({ width, height });
        await page.evaluate((name) => (document.documentElement.dataset['theme'] = name), theme);
        expect([width, theme, await seriousFaults(page)]).toEqual([width, theme, []]);
      }
  },
);

it('ran without an error in the browser', () => expect(troubles).toEqual([]));

/** What can be used by a pointer and is not come to by Tab, or does not show that it has been; walks the whole page once. */
async function notReached(of: Page): Promise<string[]> {
  const count = await of.evaluate(() => {
    const all = [
      ...document.querySelectorAll<HTMLElement>('a[href], button, input, select, textarea, summary, [tabindex="0"]'),
    ].filter(
      (one) =>
        one.tabIndex >= 0 &&
        !one.matches(':disabled') &&
        one.closest('[inert], [aria-hidden=true]') === null &&
        one.checkVisibility({ visibilityProperty: true }) &&
        // A group of choices hands the focus on to the one that is chosen.
        !one.matches('[type=file], [role=radiogroup]'),
    );
    all.forEach((one, i) => (one.dataset['walk'] = String(i)));
    document.addEventListener('focusin', ({ target }) => {
      const at = target as HTMLElement;
      // In a drawing what is drawn says it.
      const { outlineStyle, stroke } = getComputedStyle((at instanceof SVGElement && at.querySelector('rect')) || at);
      if (at.dataset['walked'] !== undefined) document.body.dataset['around'] = 'yes';
      at.dataset['walked'] = outlineStyle !== 'none' || stroke !== 'none' ? 'seen' : 'unseen';
    });
    (document.activeElement as HTMLElement | null)?.blur();
    return all.length;
  });
  // Whatever scrolls takes the focus too, and is not counted.
  for (let i = 0; i < 3 * count; i++) {
    await of.keyboard.press('Tab');
    if (i >= count && (await of.evaluate(() => document.body.dataset['around'] === 'yes'))) break;
  }
  return of.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[data-walk]')]
      .filter(({ dataset }) => dataset['walked'] !== 'seen')
      .map((one) => `${one.dataset['walked'] ?? 'not reached'}: ${one.outerHTML.slice(0, 160)}`),
  );
}
