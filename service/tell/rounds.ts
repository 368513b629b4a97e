import { saveCalled, takeCall } from '../../store/heartbeat';
import { organisation } from '../../store/organisation';
import type { App } from '../app';
import { tellOverdue } from '../upkeep/messages';
import { followNeeds } from './followNeeds';
import { call } from './outDoor';
import { tellAll, type ToldAll } from './tellAll';
import { silentSince } from './whetherAlive';

/** The address outside is called so often. */
const CALL_EVERY_SECONDS = 60;

/** One round of telling: what is overdue, what has begun and what is over, who has to know of it. */
export async function tellRound(app: App): Promise<ToldAll> {
  await tellOverdue(app.db, await app.clock.now());
  await followNeeds(app);
  return tellAll(app);
}

/** Calls the address outside, if any, once a minute: as long as people are told. */
export async function callOutside(app: App): Promise<void> {
  if ((await silentSince(app)) !== null) return;
  const address = await takeCall(app.db, CALL_EVERY_SECONDS);
  if (address === null) return;
  const { isDemo } = await organisation(app.db);
  await saveCalled(app.db, await call(address, isDemo));
}
