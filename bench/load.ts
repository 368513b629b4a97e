import { availableParallelism } from 'node:os';
import { newDataFolder, startShelf } from '../e2e/startShelf';

/**
 * What others notice while somebody asks for a great deal: the 95th percentile of the Shelf's page, in turns without and
 * under each load. npm run bench:load
 */
const ROUNDS = 3;
const LOOKS = 60;
const AT_ONCE = 3;

const drives = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ bay: String(i + 1), bytes: [4000787030016, 8001563222016][i % 2] }));
const LOADS: Readonly<Record<string, { readonly times: number; readonly body: object }>> = {
  'two appraisals of 1,000 drives': { times: 2, body: { profile: 'plain', bays: 1000, drives: drives(1000) } },
  'a hundred of 80 drives, 24 of them spares': {
    times: 100,
    body: { profile: 'plain', bays: 80, spares: 24, drives: drives(80) },
  },
};

const data = newDataFolder();
const shelf = await startShelf({ data: data.path, env: { SHELF_ENTRY_KEY: 'load-key' } });
const entered = await fetch(`${shelf.base}/api/auth/entry`, {
  method: 'POST',
  headers: { 'content-type': 'application/json', origin: shelf.base },
  body: JSON.stringify({ key: 'load-key' }),
});
const cookie = (entered.headers.get('set-cookie') ?? '').split(';')[0] ?? '';

async function look(): Promise<number> {
  const from = performance.now();
  const page = await fetch(shelf.base, { headers: { cookie } });
  if (page.status !== 200 || !(await page.text()).includes('Heron'))
    throw new Error(`The Shelf answered ${String(page.status)}.`);
  return performance.now() - from;
}
async function looks(): Promise<number[]> {
  const times: number[] = [];
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      for (let i = 0; i < LOOKS / AT_ONCE; i++) {
        times.push(await look());
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    }),
  );
  return times;
}
const p95 = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? NaN;

/** Answers to the load, by their status. */
let answered: Record<number, number> = {};

/** Keeps a load up for as long as something else goes on. */
async function under<T>(
  { times, body }: { readonly times: number; readonly body: object },
  work: () => Promise<T>,
): Promise<T> {
  const ended = new AbortController();
  const text = JSON.stringify(body);
  const asking = Array.from({ length: times }, async () => {
    while (!ended.signal.aborted)
      try {
        const answer = await fetch(`${shelf.base}/api/v1/appraisals`, {
          method: 'POST',
          headers: { authorization: 'Bearer load-key', 'content-type': 'application/json' },
          body: text,
          signal: ended.signal,
        });
        await answer.arrayBuffer();
        answered[answer.status] = (answered[answer.status] ?? 0) + 1;
      } catch (error) {
        if (!ended.signal.aborted) throw error;
      }
  });
  await new Promise((resolve) => setTimeout(resolve, 500));
  try {
    return await work();
  } finally {
    ended.abort();
    await Promise.all(asking);
  }
}

try {
  for (let i = 0; i < 20; i++) await look();
  console.log(`${String(availableParallelism())} cores; ${String(AT_ONCE)} people looking at the Shelf, p95 in ms`);
  for (const [name, load] of Object.entries(LOADS)) {
    const [alone, loaded]: [number[], number[]] = [[], []];
    for (let round = 0; round < ROUNDS; round++) {
      alone.push(...(await looks()));
      loaded.push(...(await under(load, looks)));
    }
    console.log(`${name}: answered ${JSON.stringify(answered)}`);
    answered = {};
    const [a, b] = [p95(alone), p95(loaded)];
    console.log(`${name}: alone ${a.toFixed(0)}, under it ${b.toFixed(0)}, ratio ${(b / a).toFixed(2)}`);
  }
} finally {
  await shelf.stop();
  data.remove();
}
