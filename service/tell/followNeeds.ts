import { followCauses } from '../../core/tell/followCauses';
import { causesOf } from '../../core/upkeep/causes';
import { addCauses, changeCause, keptCauses, takeFollowing } from '../../store/causes';
import { needsNow } from '../../store/shelf';
import type { App } from '../app';
import { inTransaction } from '../ledgers/inTransaction';

/** All there is: what is left out of a count would be taken for settled. */
const ALL = 1_000_000;

/** Holds the causes that are kept against what needs hands now. Any number of processes may ask for it at once. */
export async function followNeeds(app: App): Promise<void> {
  await inTransaction(app.db, async (tx) => {
    if (!(await takeFollowing(tx))) return undefined;
    const now = (await app.clock.now()).toISOString();
    const { needs } = await needsNow(tx, now, ALL);
    const { begun, changed } = followCauses(await keptCauses(tx), causesOf(needs), now);
    await addCauses(tx, begun);
    for (const one of changed) await changeCause(tx, one);
    return undefined;
  });
}
