import { randomUUID } from 'node:crypto';
import reedbank from '../core/platform/profiles/reedbank.json';
import { seriousFaults } from './axe';
import { press, typeIn, typeOver } from './browser';
import { openDemo } from './demo';
import { readSize, workTo, type Given } from './workPlan';

/** Many drives read in on a phone, by a person who errs. */

const { shelf, page, says, textOf } = await openDemo();
await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });

interface UnitRead {
  readonly id: string;
  readonly version: number;
  readonly state: {
    readonly name: string;
    readonly enclosures: readonly { readonly bays: readonly string[] }[];
    readonly drives: Readonly<Record<string, { readonly serial: string; readonly bay: string | null }>>;
    readonly pools: Readonly<Record<string, { readonly missing: readonly string[]; readonly lost: readonly string[] }>>;
  };
}
const read = <T>(path: string): Promise<T> =>
  page.evaluate(async (of) => (await fetch(`/api/v1${of}`)).json(), path) as Promise<T>;
const send = <T>(path: string, body: object): Promise<T> =>
  page.evaluate(
    async (to, text) =>
      (
        await fetch(`/api/v1${to}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: text })
      ).json(),
    path,
    JSON.stringify(body),
  ) as Promise<T>;
const PLACE = { site: 'Packing house', room: 'comms cupboard' };
const BYTES = 4_000_787_030_016;
const scan = async (serial: string): Promise<void> => {
  await typeIn(page, '[data-scan]', serial);
  await page.keyboard.press('Enter');
};
const left = (count: number): Promise<unknown> => page.waitForSelector(`[data-scans="${String(count)}"]`);
const answered = (verdict: string): Promise<unknown> => page.waitForSelector(`[data-said][data-verdict="${verdict}"]`);
const bayOf = async (unit: string, serial: string): Promise<string | null | undefined> =>
  (await read<UnitRead>(`/units/${unit}`)).state.drives[serial]?.bay;
const fits = (): Promise<boolean> =>
  page.evaluate(() => document.documentElement.scrollWidth <= document.documentElement.clientWidth);

it('carries twelve over in order: two are swapped, one is read twice, one is missing', async () => {
  const twelve = {
    ...reedbank,
    id: 'reedbank-12',
    name: 'Reedbank of twelve',
    bays: { ...reedbank.bays, choices: [12] },
    roaming: { ...reedbank.roaming, families: ['reedbank-12'] },
  };
  const make = (name: string): Promise<UnitRead> => send('/units', { name, place: PLACE, profile: twelve, bays: 12 });
  const [{ id: from }, { id: to }] = [await make('Whimbrel'), await make('Godwit')];
  const serials = Array.from(
    { length: 12 },
    (_, i) => `QH4-03${String(140 + 7 * i)}-W${'ACEHKMPRTXYZ'.charAt(i)}${String(2 + i)}`,
  );
  for (const event of [
    ...serials.map((serial, i) => ({
      kind: 'drive-inserted',
      bay: String(i + 1),
      drive: { serial, bytes: BYTES, basis: 'exact' },
    })),
    {
      kind: 'pool-created',
      pool: randomUUID(),
      name: 'Surveys',
      scheme: 'parity-2',
      bands: [
        { kind: 'parity', fromBytes: 0, toBytes: BYTES, members: serials, redundancy: 2, usableBytes: 10 * BYTES },
      ],
      spares: [],
      usableBytes: 10 * BYTES,
      shownBytes: 10 * BYTES,
      fileSystemReserveBytes: 0,
    },
  ]) {
    const { version } = await read<UnitRead>(`/units/${from}`);
    await send(`/units/${from}/events`, { expectedVersion: version, event });
  }
  await page.goto(`${shelf.base}/units/${from}/move?to=${to}&way=carry-by-slot`);
  await page.waitForSelector('[data-move-plan]');
  await press(page, 'Begin the move');
  await page.waitForSelector('[data-step]');
  const given = (): Given => ({ serials, stock: 'share: Surveys, all may read\n' });
  await workTo(page, 'in-1', given);

  // Seven go in as they should; then the hand takes eight and nine for one another.
  for (const [i, serial] of serials.slice(0, 7).entries()) {
    await scan(serial);
    await left(11 - i);
  }
  await scan(serials[8] ?? '');
  await answered('other-bay');
  expect(await textOf('[data-said]')).toMatch(/Another bay: bay 9[^]*belongs into bay 9: put it there, not into bay 8/);
  await left(4);
  // The same again, by a scanner that fires twice; and the next before anybody has looked up.
  await scan(serials[8] ?? '');
  await answered('already-in');
  await left(4);
  await scan(serials[7] ?? '');
  await left(3);
  expect(await textOf('[data-said]')).toContain('into bay 8: push until it clicks');
  // Read with an O for a zero: asked, and nothing is named before it is answered; what was read after it waits.
  const misread = (serials[9] ?? '').replace('0', 'O');
  await scan(misread);
  await scan(serials[10] ?? '');
  await answered('alike');
  await says('One more was read after it and waits', '[data-said]');
  await left(3);
  expect(await fits()).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, `It is ${serials[9] ?? ''}`);
  await left(1);
  // The twelfth is not there.
  await press(page, 'One is missing…');
  await says('Surveys starts without it, thinned: it can lose 1 more.', '[data-missing]');
  await page.$eval('[data-missing]', (part) => part.scrollIntoView());
  expect(await fits()).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'Go on without it');
  await left(0);
  await press(page, '11 of 12 are in');
  await page.waitForSelector('[data-step=start]');
  await workTo(page, null, given);
  const { state } = await read<UnitRead>(`/units/${to}`);
  expect(Object.values(state.pools)).toMatchObject([{ missing: [serials[11]], lost: [] }]);
  for (const [i, serial] of serials.slice(0, 11).entries()) expect(state.drives[serial]?.bay).toBe(String(i + 1));
});

it('fits a box of sixteen with a drive of another unit among them, that holds it together', async () => {
  const { id } = await send<UnitRead>('/units', { name: 'Bittern Two', place: PLACE, profile: 'plain', bays: 16 });
  const { units } = await read<{ units: UnitRead[] }>('/units');
  // A member of a pool of the demo's.
  const heron = units.find(({ state }) => state.name === 'Heron');
  const member = Object.values(heron?.state.drives ?? {}).find(({ bay }) => bay === '1');
  const version = (await read<UnitRead>(`/units/${id}`)).version;
  const wish = {
    drives: Array.from({ length: 16 }, (_, i) => ({ bay: String(i + 1), bytes: BYTES, basis: 'exact' })),
    pool: { name: 'P', scheme: 'parity-2' },
  };
  const { plan } = await send<{ plan: string }>(`/units/${id}/plans`, {
    expectedVersion: version,
    job: 'commission',
    wish,
  });
  await page.goto(`${shelf.base}/units/${id}/plans/${plan}`);
  await page.waitForSelector('[data-step]');
  await workTo(page, 'fit-1', () => ({ serial: 'as written' }));
  const news = Array.from({ length: 16 }, (_, i) => `NK4-07${String(200 + i)}-BX${String(10 + i)}`);
  await readSize(page);
  for (const [i, serial] of news.slice(0, 5).entries()) {
    await scan(serial);
    await left(15 - i);
  }
  // One of the box is half as large: told with what it makes of the pool, before a bay is named.
  await typeOver(page, '[data-evidence] input[name=size]', '2 TB');
  await scan('NK2-09901-AX9');
  await says('Not this one', '[data-said]');
  expect(await textOf('[data-said]')).toMatch(
    /is 2 TB, not the 4 TB that was planned here: P would hold 28 TB, not 56/,
  );
  expect(await textOf('[data-said]')).not.toContain('click');
  await press(page, 'It is put aside');
  await left(11);
  await typeOver(page, '[data-evidence] input[name=size]', '4 TB');
  await scan(member?.serial ?? '');
  await scan(news[5] ?? '');
  await answered('other-unit');
  const said = await textOf('[data-said]');
  expect(said).toMatch(/Put it back into bay 1 of Heron now, before anything else/);
  expect(said).not.toContain('click');
  await left(11);
  expect(await fits()).toBe(true);
  expect(await seriousFaults(page)).toEqual([]);
  await press(page, 'It is back in its bay');
  await left(10);
  // The others are pasted, line by line, from a list: as many scans, none run together.
  await page.$eval(
    '[data-scan]',
    (input, text) => {
      const clipboard = new DataTransfer();
      clipboard.setData('text', text);
      input.dispatchEvent(new ClipboardEvent('paste', { clipboardData: clipboard, bubbles: true, cancelable: true }));
    },
    news.slice(6).join('\n'),
  );
  await left(0);
  await press(page, 'All 16 are in');
  await page.waitForFunction(() => document.querySelector('[data-step=fit-1]') === null, { polling: 50 });
  for (const [i, serial] of news.entries()) expect(await bayOf(id, serial)).toBe(String(i + 1));
  expect(await bayOf(heron?.id ?? '', member?.serial ?? '')).toBe('1');
});
