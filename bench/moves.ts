/**
 * How long a move inside the application takes, from the press to the new page drawn, beside the same page loaded anew:
 * what a person would wait without it. On the demo's shelf, in Chromium, from place to place and into a unit.
 *
 * Run: npm run bench:moves
 */
import { enter, openBrowser, openPage } from '../e2e/browser';
import { demoDataFolder, startShelf } from '../e2e/startShelf';

const ROUNDS = 12;
const PLACES = ['/drives', '/plans', '/upkeep', '/settings', '/'] as const;

const data = await demoDataFolder();
const shelf = await startShelf({ data: data.path });
const browser = await openBrowser();
const sorted = (times: readonly number[]): number[] => [...times].sort((a, b) => a - b);
const at = (times: readonly number[], share: number): number => sorted(times)[Math.floor(times.length * share)] ?? NaN;
try {
  const page = await openPage(browser);
  await enter(page, shelf.link);
  const unit = await page.$eval('a[href^="/units/"]', (link) => new URL((link as HTMLAnchorElement).href).pathname);
  console.log(`${'to'.padEnd(12)}  move, ms: median, 95th      loaded anew: median      ratio`);
  for (const path of [...PLACES, unit]) {
    const moves: number[] = [];
    const loads: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      await page.goto(shelf.base + (path === '/' ? '/drives' : '/'), { waitUntil: 'networkidle0' });
      moves.push(
        await page.evaluate(async (to) => {
          const link = document.querySelector<HTMLElement>(`a[href="${to}"]`);
          const before = document.querySelector('main h1');
          const from = performance.now();
          link?.click();
          while (location.pathname !== to || document.querySelector('main h1') === before)
            await new Promise((resolve) => requestAnimationFrame(resolve));
          return performance.now() - from;
        }, path),
      );
      const from = performance.now();
      await page.goto(shelf.base + path, { waitUntil: 'domcontentloaded' });
      await page.waitForSelector('main h1');
      loads.push(performance.now() - from);
    }
    // The first of each is not counted: the server's code is still cold.
    const [warm, anew] = [moves.slice(1), loads.slice(1)];
    const figures = [at(warm, 0.5), at(warm, 0.95), at(anew, 0.5)].map((ms) => ms.toFixed(0));
    console.log(
      `${(path === unit ? 'a unit' : path).padEnd(12)}  ${(figures[0] ?? '').padStart(16)}, ${figures[1] ?? ''}` +
        `${(figures[2] ?? '').padStart(24)}${(at(anew, 0.5) / at(warm, 0.5)).toFixed(1).padStart(14)}`,
    );
  }
} finally {
  await browser.close();
  await shelf.stop();
  data.remove();
}
process.exit(0);
