import { openThreads, type Threads } from './threads';
import { readProfiles } from '../app';
import { isRefusal } from '../../core/value/refusal';
import type { Profile } from '../../core/platform/profile';

const plain = readProfiles('core/platform/profiles').get('plain') as Profile;
const drives = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ bay: String(i + 1), bytes: 8001563222016 }));
const few = { profile: 'plain', drives: drives(4) };
const many = { profile: 'plain', bays: 1000, drives: drives(1000) };
const waits = new AbortController().signal;

let threads: Threads;
beforeAll(() => {
  threads = openThreads(process.cwd());
});
afterAll(() => threads.end());
const reckon = (body: object, person = 'Ann', signal = waits) =>
  threads.reckon('layouts', body as never, plain, { for: person, signal });

it('reckons in a thread what is reckoned here, and refuses what is refused here', async () => {
  const { layoutsOf } = await import('./reckoning');
  const made = await reckon(few);
  expect(isRefusal(made) ? made : JSON.parse(made.json)).toEqual(
    JSON.parse(JSON.stringify(layoutsOf(few as never, plain))),
  );
  expect(await reckon({ ...few, drives: [...drives(2), { bay: '2', bytes: 1 }] })).toMatchObject({
    code: 'bay-twice',
    pointer: '/drives/2/bay',
  });
});

it('leaves this thread free meanwhile', async () => {
  let turns = 0;
  const timer = setInterval(() => turns++, 1);
  await threads.reckon('appraisals', { ...many, drives: drives(200), bays: 200 } as never, plain, {
    for: 'Ann',
    signal: waits,
  });
  clearInterval(timer);
  // Reckoned here, not one would have come.
  expect(turns).toBeGreaterThan(3);
});

it('ends when nobody waits for it any more, in the middle of it too, and goes on with the next', async () => {
  const gone = new AbortController();
  const asked = threads.reckon('appraisals', many as never, plain, { for: 'Ann', signal: gone.signal });
  const next = reckon(few);
  setTimeout(() => gone.abort(), 300);
  expect(await asked).toMatchObject({ code: 'nobody-waits' });
  expect(await next).toMatchObject({ kind: 'made-answer' });
});

it('takes turns: whoever asks for one thing does not wait for all that another asked for', async () => {
  const order: string[] = [];
  const asked = [
    ...Array.from({ length: 12 }, () => reckon(few, 'Ann').then(() => order.push('Ann'))),
    reckon(few, 'Bea').then(() => order.push('Bea')),
  ];
  await Promise.all(asked);
  expect(order.indexOf('Bea')).toBeLessThan(4);
});

it('lets one person have only so much waiting', async () => {
  const answers = await Promise.all(Array.from({ length: 125 }, () => reckon(few, 'Cid')));
  const refused = answers.filter(isRefusal);
  expect(refused.map(({ code }) => code)).toEqual(Array.from({ length: 5 }, () => 'too-much-at-once'));
  // Once it is quiet there is room again.
  expect(await reckon(few, 'Cid')).toMatchObject({ kind: 'made-answer' });
});
