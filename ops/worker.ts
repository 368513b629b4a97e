import { setTimeout as wait } from 'node:timers/promises';
import { openApp } from '../service/app';
import { openLetterDoor } from '../service/letter/letterDoor';
import { openLetterBox } from '../service/letter/letterBox';
import { callOutside, tellRound } from '../service/tell/rounds';
import { clearOut } from '../store/clearOut';
import { beat } from '../store/heartbeat';
import { HELD_SECONDS, look } from '../service/watch/look';
import { takeDue } from '../store/watches';
import { ROOT } from './folders';
import { logLines } from './log.mjs';

/** How often it looks whether a unit is due, and how many it asks at the same time. */
const EVERY_MS = 500;
const AT_ONCE = 24;
/** How often it looks whether somebody is to be told of something. */
const TELL_EVERY_MS = 2000;
/** One telling that takes longer goes on by itself. */
const SLOW_MS = 5000;
/** How often it looks whether the address outside is to be called. */
const CALL_EVERY_MS = 5000;
/** How often what is long over is taken away. */
const CLEAR_EVERY_MS = 6 * 3_600_000;
/** A last line gets so long to be written. */
const LAST_LINE_MS = 100;
/** What is under way gets so long to end, when this ends. */
const GRACE_MS = 3000;

/**
 * The process that listens and tells: takes the units that are due and asks each, and hands out what people are told. Any number of these may run against one
 * database; one that dies leaves nothing half done, and the units it held are free again a minute later.
 */
logLines();
// What nobody expected ends it, as ever, but as a line of the log like any other; whoever started it begins another.
process.on('uncaughtException', (error) => {
  console.error(error);
  setTimeout(() => process.exit(1), LAST_LINE_MS);
});
const app = openApp({
  databaseUrl: setting('SHELF_DATABASE_URL'),
  secret: setting('SHELF_SECRET'),
  baseUrl: setting('SHELF_BASE_URL'),
  root: ROOT,
});
/** Where files of mail are put to be read, and where mail is handed in; neither where it is not said. */
const { SHELF_LETTER_BOX: letterBox = '', SHELF_LETTER_PORT: letterPort = '' } = process.env;
const letterDoor =
  letterPort === ''
    ? undefined
    : await openLetterDoor(app, Number(letterPort)).catch((error: unknown) => {
        console.error(`The door for mail could not be opened: ${(error as Error).message}. Everything else goes on.`);
        return undefined;
      });
const asking = new Set<Promise<unknown>>();
let round: Promise<unknown> = Promise.resolve();
let stopping = false;

function setting(name: string): string {
  const value = process.env[name];
  if (value === undefined || value === '') throw new Error(`${name} is not set.`);
  return value;
}

async function work(): Promise<void> {
  while (!stopping) {
    try {
      const due = await takeDue(app.db, AT_ONCE - asking.size, HELD_SECONDS);
      for (const watch of due) {
        const one = look(app, watch)
          .catch((error: unknown) => console.error(error))
          .finally(() => asking.delete(one));
        asking.add(one);
      }
    } catch (error) {
      // The database is away: it comes back, or whoever started this ends it.
      console.error(error);
      await wait(2000);
    }
    await (asking.size >= AT_ONCE ? Promise.race(asking) : wait(EVERY_MS));
  }
}

/** Does something again and again until it is stopped; what goes wrong once is tried again. */
async function again(everyMs: number, once: () => Promise<unknown>): Promise<void> {
  while (!stopping) {
    try {
      await once();
    } catch (error) {
      console.error(error);
    }
    await wait(everyMs);
  }
}

/** Tells whoever is to be told; one who is slow to take it keeps nobody else waiting. */
async function tell(): Promise<void> {
  const telling = tellRound(app).then(async ({ refused }) => {
    for (const why of refused) console.error(`Somebody was not told: ${why} It is tried again.`);
    await beat(app.db);
  });
  round = telling.catch((error: unknown) => console.error(error));
  await Promise.race([round, wait(SLOW_MS)]);
}

const letters = letterBox === '' ? () => Promise.resolve([]) : openLetterBox(app, letterBox);

function stop(): void {
  if (stopping) return;
  stopping = true;
  void Promise.race([Promise.allSettled([...asking, round, letterDoor?.stop()]), wait(GRACE_MS)]).finally(() =>
    process.exit(0),
  );
}
process.on('SIGTERM', stop);
// Whoever started it is gone, and Ctrl-C at a terminal is theirs to answer.
process.on('disconnect', stop);
process.on('SIGINT', () => undefined);
await Promise.all([
  work(),
  again(TELL_EVERY_MS, tell),
  again(TELL_EVERY_MS, async () => {
    for (const why of await letters()) console.error(why);
  }),
  again(CALL_EVERY_MS, () => callOutside(app)),
  again(CLEAR_EVERY_MS, () => clearOut(app.db)),
]);
