import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seriousFaults } from './axe';
import { press } from './browser';
import { openDemo } from './demo';

const { shelf, page, says, textOf } = await openDemo();
const folder = mkdtempSync(join(tmpdir(), 'shelf-lists-'));
afterAll(() => rmSync(folder, { recursive: true }));

it('holds two lists against each other: what is missing, different and moved; and says when nothing is', async () => {
  await page.goto(`${shelf.base}/listings`);
  const [left, right] = await page.$$('textarea');
  await left?.type('path,size\nmaps/a.tif,5\nmaps/b.tif,6\npapers/c.pdf,7\nmaps/Thumbs.db,1\n');
  await right?.type('5 1700000000 ./maps/a.tif\n9 1700000000 ./maps/b.tif\n7 1700000000 ./old/c.pdf\n');
  await press(page, 'Compare');
  await page.waitForSelector('[data-compared=differs]');
  const text = await textOf('[data-compared]');
  expect(text).toMatch(/They differ: 1 different, 1 in another place; 1 is the same, by path and size/);
  expect(text).toMatch(/papers\/c\.pdf → old\/c\.pdf/);
  expect(text).toMatch(/1 left out/);
  expect(await seriousFaults(page)).toEqual([]);
  await right?.evaluate((area) => area.select());
  await right?.type('path,size\nmaps/a.tif,5\nmaps/b.tif,6\npapers/c.pdf,7\n');
  await press(page, 'Compare');
  await page.waitForSelector('[data-compared=same]');
  await says('Nothing is missing and nothing differs: 3 files are the same');
  await page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(await seriousFaults(page)).toEqual([]);
});

it('takes files of hundreds of thousands of lines off the page’s thread, and stops when it is told to', async () => {
  await page.setViewport({ width: 1280, height: 800 });
  const lines = (drop: number): string =>
    Array.from({ length: 400_000 }, (_, i) =>
      i % drop === 0 && i > 0
        ? ''
        : `${i.toString(16).padStart(64, '0')}  share${String(i % 7)}/folder ${String(i % 900)}/file ${String(i)}.dat\n`,
    ).join('');
  writeFileSync(join(folder, 'old.sha256'), lines(10 ** 9));
  writeFileSync(join(folder, 'newer.sha256'), lines(100_000));
  await page.goto(`${shelf.base}/listings`);
  const inputs = await page.$$('input[type=file]');
  for (const [i, name] of ['old.sha256', 'newer.sha256'].entries())
    await (inputs[i] as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(join(folder, name));
  await says('old.sha256');
  await press(page, 'Compare');
  await page.waitForSelector('[role=progressbar][aria-label=Compared]');
  await press(page, 'Stop');
  await page.waitForFunction(() => !document.querySelector('[role=progressbar][aria-label=Compared]'));
  expect(await page.$('[data-compared]')).toBeNull();
  await press(page, 'Compare');
  await page.waitForSelector('[data-compared=differs]');
  expect(await textOf('[data-compared]')).toMatch(
    /They differ: 3 missing; 399,997 are the same, by path, size and checksum/,
  );
});
