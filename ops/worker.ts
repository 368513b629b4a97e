import { setTimeout as wait } from 'node:timers/promises';
import { openApp } from '../service/app';
import { HELD_SECONDS, look } from '../service/watch/look';
import { takeDue } from '../store/watches';
import { ROOT } from './folders';
import { logLines } from './log.mjs';

/** How often it looks whether a unit is due, and how many it asks at the same time. */
const EVERY_MS = 500;
const AT_ONCE = 24;
/** What is under way gets so long to end, when this ends. */
const GRACE_MS = 3000;

/**
 * The process that listens to units: takes those that are due, and asks each. Any number of these may run against one
 * database; one that dies leaves nothing half done, and the units it held are free again a minute later.
 */
logLines();
const app = openApp({
  databaseUrl: setting('SHELF_DATABASE_URL'),
  secret: setting('SHELF_SECRET'),
  baseUrl: setting('SHELF_BASE_URL'),
  root: ROOT,
});
const asking = new Set<Promise<unknown>>();
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

function stop(): void {
  if (stopping) return;
  stopping = true;
  void Promise.race([Promise.allSettled(asking), wait(GRACE_MS)]).finally(() => process.exit(0));
}
process.on('SIGTERM', stop);
// Whoever started it is gone, and Ctrl-C at a terminal is theirs to answer.
process.on('disconnect', stop);
process.on('SIGINT', () => undefined);
await work();
