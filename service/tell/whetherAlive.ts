import { heartbeat } from '../../store/heartbeat';
import type { App } from '../app';
import { tellEverybody } from './tellAll';

/** After so long without a sign of life, what listens and tells is taken for silent. */
export const SILENT_MS = 180_000;

/** Whether what listens and tells has been silent too long; since when. */
export async function silentSince(app: App): Promise<string | null> {
  const [{ beatAt }, now] = await Promise.all([heartbeat(app.db), app.clock.now()]);
  return now.getTime() - Date.parse(beatAt) > SILENT_MS ? beatAt : null;
}

/**
 * Something that looks whether what listens is alive, for a process beside it: once it is silent at two looks in a row, everybody
 * is told, once. A machine that has slept finds it silent at the first, and alive at the next. Each look gives the lines for the
 * log.
 */
export function whetherAlive(app: App): () => Promise<readonly string[]> {
  let [isTold, looks] = [false, 0];
  return async () => {
    const since = await silentSince(app);
    if (since === null) {
      [isTold, looks] = [false, 0];
      return [];
    }
    if (isTold || ++looks < 2) return [];
    isTold = true;
    const title = 'The watch itself is silent';
    const reason = `Since ${since.slice(0, 16).replace('T', ' ')} UTC no unit was listened to, and nobody is told of anything. Look at the log of the worker on the machine the shelf runs on.`;
    const refused = await tellEverybody(app, {
      id: 'watch-itself',
      kind: 'cause',
      unit: '',
      unitName: '',
      site: '',
      severity: 'margin',
      title,
      reason,
      others: 0,
      changedAt: since,
      seenAt: null,
    });
    return [`${title}. ${reason}`, ...refused];
  };
}
