import { randomUUID } from 'node:crypto';
import { ARRIVALS } from '../core/plan/engine/carrying';
import { seriousFaults } from './axe';
import { choose, key, press, typeIn } from './browser';
import { openDemo } from './demo';
import { startShelf } from './startShelf';
import { give, stepShown, workTo, type Given } from './workPlan';

const { shelf, page, folder, says, textOf } = await openDemo();

interface DriveRead {
  readonly serial: string;
  readonly bay: string | null;
}
interface UnitRead {
  readonly id: string;
  readonly version: number;
  readonly state: {
    readonly name: string;
    readonly power: string;
    readonly packed?: object;
    readonly drives: Readonly<Record<string, DriveRead>>;
    readonly pools: Readonly<Record<string, { readonly name: string; readonly missing: readonly string[] }>>;
    readonly dataSets: Readonly<Record<string, { readonly name: string }>>;
  };
}

const read = <T>(path: string): Promise<T> =>
  page.evaluate(async (of) => (await fetch(`/api/v1${of}`)).json(), path) as Promise<T>;
const idOf = async (name: string): Promise<string> => {
  const { units } = await read<{ units: UnitRead[] }>('/units');
  return units.find(({ state }) => state.name === name)?.id ?? '';
};
const stateOf = async (id: string): Promise<UnitRead['state']> => (await read<UnitRead>(`/units/${id}`)).state;
const serialsIn = async (id: string): Promise<string[]> =>
  Object.values((await stateOf(id)).drives)
    .filter(({ bay }) => bay !== null)
    .sort((a, b) => Number(a.bay) - Number(b.bay))
    .map(({ serial }) => serial);
const send = <T>(path: string, body: object): Promise<T> =>
  page.evaluate(
    async (to, text) =>
      (
        await fetch(`/api/v1${to}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: text })
      ).json(),
    path,
    JSON.stringify(body),
  ) as Promise<T>;
/** A newer unit with nothing in it, put on the shelf. */
const newer = (name: string, profile: string, bays: number): Promise<{ id: string }> =>
  send('/units', { name, place: { site: 'Packing house', room: 'comms cupboard' }, profile, bays });

const BYTES = 4_000_787_030_016;
/** An old unit of a family that goes by bays: three drives, single parity, and what is on them. */
async function oldInOrder(): Promise<string> {
  const { id } = await newer('Crake', 'reedbank', 4);
  const pool = randomUUID();
  const members = ['1', '2', '3'].map((bay) => `QH4-0310${bay}-CRK${bay}`);
  const events = [
    ...members.map((serial, i) => ({
      kind: 'drive-inserted',
      bay: String(i + 1),
      drive: { serial, bytes: BYTES, basis: 'exact' },
    })),
    {
      kind: 'pool-created',
      pool,
      name: 'Orchard maps',
      scheme: 'parity-1',
      bands: [{ kind: 'parity', fromBytes: 0, toBytes: BYTES, members, redundancy: 1, usableBytes: 2 * BYTES }],
      spares: [],
      usableBytes: 2 * BYTES,
      shownBytes: 2 * BYTES,
      fileSystemReserveBytes: 0,
    },
    { kind: 'data-set-described', dataSet: 'maps', name: 'Maps', pool },
    { kind: 'copy-described', dataSet: 'maps', copy: 'store', where: 'Rented store', keeps: 'versions', offSite: true },
  ];
  for (const event of events) {
    const { version } = await read<UnitRead>(`/units/${id}`);
    await send(`/units/${id}/events`, { expectedVersion: version, event });
  }
  return id;
}
const begin = async (from: string, to: string, way: string): Promise<void> => {
  await page.goto(`${shelf.base}/units/${from}/move?to=${to}&way=${way}`);
  await page.waitForSelector('[data-move-plan]');
  await press(page, 'Begin the move');
  await opened();
};
const opened = async (): Promise<void> => {
  await page.waitForFunction(() => location.pathname.includes('/plans/'));
  await page.waitForSelector('[data-step]');
};

it('carries a unit over in order: a drive for another bay is told, a question to erase ends it, and it goes back as it was', async () => {
  const from = await oldInOrder();
  const serials = await serialsIn(from);
  const before = await stateOf(from);
  const { id: to } = await newer('Dotterel', 'reedbank', 5);
  await page.goto(`${shelf.base}/units/${from}/move`);
  await choose(page, 'To', 'Dotterel');
  await page.waitForSelector('[data-ways]');
  expect(await textOf('[data-way=carry-by-slot]')).toMatch(/possible[^]*each into the bay of the same number/);
  await key(page, '[data-way=carry-by-slot] a');
  await page.waitForSelector('[data-move-plan=carry-by-slot]');
  expect(await textOf('[data-move-plan]')).toMatch(/Out of Crake[^]*Into Dotterel[^]*Only now firmware/);
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Begin the move');
  await opened();

  const given = (): Given => ({ serials });
  await workTo(page, 'in-1', given);
  expect((await stateOf(from)).packed).toBeDefined();
  await page.waitForSelector('[data-both-fronts]');
  expect(await textOf('[data-in-hand]')).toBe(`${String(serials.length)} drives in hand`);
  // The third is read while the second is looked for: it is told where it belongs.
  await typeIn(page, '[data-scan]', serials[0] ?? '');
  await page.keyboard.press('Enter');
  await typeIn(page, '[data-scan]', serials[2] ?? '');
  await page.keyboard.press('Enter');
  await says('belongs into bay 3: put it there, not into bay 2.', '[data-said]');
  await give(page, { serials: serials.slice(1, 2) });
  await page.waitForSelector('[data-step=start]');
  await workTo(page, 'arrived', given);
  expect(await seriousFaults(page)).toEqual([]);

  await give(page, { choice: ARRIVALS[1] });
  await page.waitForSelector('[data-stopped=asks-to-erase]');
  expect(await textOf('[data-stopped]')).toMatch(/would erase what was carried[^]*Answer no/);
  expect((await stateOf(to)).pools).toEqual({});
  await press(page, 'Carry the drives back: lead me');
  await page.waitForSelector('[data-step=nothing-erased]');
  await workTo(page, null, given);
  await press(page, 'Finish the plan');
  await says('finished', 'nav[aria-label=Steps]');
  const after = await stateOf(from);
  expect(after.packed).toBeUndefined();
  expect(after.pools).toEqual(before.pools);
  expect(after.dataSets).toMatchObject(before.dataSets);
  expect(await serialsIn(from)).toEqual(serials);
  expect(await serialsIn(to)).toEqual([]);
});

it('carries it over on the phone to the end, with one step taken back on the way; both units are right afterwards', async () => {
  await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
  const [from, to] = [await idOf('Crake'), await idOf('Dotterel')];
  const serials = await serialsIn(from);
  const before = await stateOf(from);
  await begin(from, to, 'carry-by-slot');
  const given = (): Given => ({ serials, stock: 'share: Maps, all may read\nuser: mara\n' });
  await workTo(page, 'old-off', given);
  // What is switched off carried the network: every drive is read out of one and into the other without the shelf.
  // The page that is kept is the one of this step, and not of the last time it was opened.
  await page.waitForFunction(
    async (plan) => (await (await caches.match(plan, { ignoreVary: true }))?.text())?.includes('data-step="old-off"'),
    { polling: 200 },
    page.url(),
  );
  await shelf.stop();
  await page.goto(page.url());
  await page.waitForSelector('[data-away]');
  await workTo(page, 'start', given);
  await page.waitForSelector('[data-not-yet-sent]');
  expect(await textOf('[data-in-hand]')).not.toMatch(/drives in hand/);
  await startShelf({ data: folder, port: shelf.port });
  await says('Sent: everything that was done here is recorded.', 'body');
  expect((await stateOf(from)).packed).toBeDefined();
  expect(await serialsIn(to)).toEqual(serials);
  await workTo(page, 'compared', given);
  // One that was written down is not looked at: it is named, and nothing goes on.
  await page.waitForSelector('[data-stock] [role=checkbox]');
  await key(page, '[data-stock] [role=checkbox]');
  await key(page, '[data-stock] button[type=submit]');
  await page.waitForSelector('[data-stopped=stock-differs]');
  expect(await textOf('[data-stopped]')).toMatch(/One line is not as before: user mara: missing/);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect((await stateOf(from)).pools).toEqual({});
  // The arrival is taken back: the pool is on its way again; and it arrives once more.
  await press(page, 'Look at it, or take it back');
  await press(page, 'Take this step back');
  await page.waitForFunction(() => document.querySelector('[data-evidence] [role=radio]') !== null);
  expect(Object.keys((await stateOf(from)).pools)).toEqual(Object.keys(before.pools));
  expect((await stateOf(to)).pools).toEqual({});
  expect(await stepShown(page)).toBe('arrived');
  await workTo(page, null, given);
  await press(page, 'Finish the plan');
  await says('finished', 'nav[aria-label=Steps]');
  const [old, now] = [await stateOf(from), await stateOf(to)];
  expect(old).toMatchObject({ pools: {}, dataSets: {}, power: 'off' });
  expect(Object.values(now.pools)).toMatchObject(
    Object.values(before.pools).map(({ name }) => ({ name, missing: [] })),
  );
  expect(now.dataSets).toEqual(before.dataSets);
  expect(await serialsIn(to)).toEqual(serials);
  // Every drive knows where it is, and how it came there.
  const life = await read<{ life: { where: object } }>(`/drives/${serials[0] ?? ''}`);
  expect(life.life.where).toMatchObject({ kind: 'bay', unit: to, bay: '1' });
  await page.goto(`${shelf.base}/units/${to}`);
  await says('arrived whole');
  // Two weeks later the old one goes out of use.
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${shelf.base}/units/${from}?view=about`);
  await press(page, 'Retire it…');
  await page.waitForSelector('[role=dialog] input[name=note]');
  await page.type('[role=dialog] input[name=note]', 'To e-waste, licence noted');
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Retire it');
  await says('Crake retired');
  await page.goto(shelf.base);
  await page.waitForSelector('[data-retired]');
  expect(await textOf('[data-retired]')).toMatch(/^Retired: Crake \(retired \d{4}-\d\d-\d\d \d\d:\d\d\)$/);
});

it('carries a unit over by serials in any order; without its stick nothing is assigned, with it everything is there', async () => {
  await page.setViewport({ width: 1280, height: 800 });
  const from = await idOf('Bittern');
  const serials = await serialsIn(from);
  const before = await stateOf(from);
  const { id: to } = await newer('Godwit', 'tidemill', 12);
  await begin(from, to, 'carry-by-serial');
  await workTo(page, 'in-1', () => ({ serials }));
  const mixed = [...serials].reverse();
  await workTo(page, 'arrived', () => ({ serials: mixed }));
  // The stick was forgotten, whatever was ticked: it finds no roles.
  await give(page, { choice: ARRIVALS[2] });
  await page.waitForSelector('[data-stopped=not-as-it-was]');
  expect(await textOf('[data-stopped]')).toMatch(/assign no drive by hand[^]*the flash stick is in/);
  expect((await stateOf(to)).pools).toEqual({});
  await workTo(page, null, () => ({}));
  await press(page, 'Finish the plan');
  await says('finished', 'nav[aria-label=Steps]');
  const now = await stateOf(to);
  expect(await serialsIn(to)).toEqual(mixed);
  expect(Object.values(now.pools)).toMatchObject(
    Object.values(before.pools).map(({ name }) => ({ name, missing: [] })),
  );
  expect((await stateOf(from)).pools).toEqual({});
});
