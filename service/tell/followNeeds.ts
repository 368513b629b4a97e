import { followCauses } from '../../core/tell/followCauses';
import { causesOf } from '../../core/upkeep/causes';
import { addCauses, changeCause, keptCauses, takeFollowing } from '../../store/causes';
import { markOfNeeds, needsNow } from '../../store/shelf';
import type { App } from '../app';
import { inTransaction } from '../ledgers/inTransaction';

/** All there is: what is left out of a count would be taken for settled. */
const ALL = 1_000_000;

/** What was followed last, by database: of what has not changed since nothing is read. */
const followed = new WeakMap<App['db'], { readonly mark: string; readonly at: number }>();
/** Causes are held against it anew after so long all the same: another process may have followed something else since. */
const ANEW_MS = 30_000;

/** Holds the causes that are kept against what needs hands now. Any number of processes may ask for it at once. */
export async function followNeeds(app: App): Promise<void> {
  const now = await app.clock.now();
  const mark = await markOfNeeds(app.db, now.toISOString());
  const last = followed.get(app.db);
  if (last?.mark === mark && now.getTime() - last.at < ANEW_MS) return;
  await inTransaction(app.db, async (tx) => {
    if (!(await takeFollowing(tx))) return undefined;
    const { needs } = await needsNow(tx, now.toISOString(), ALL);
    const { begun, changed } = followCauses(await keptCauses(tx), causesOf(needs), now.toISOString());
    await addCauses(tx, begun);
    for (const one of changed) await changeCause(tx, one);
    followed.set(app.db, { mark, at: now.getTime() });
    return undefined;
  });
}
