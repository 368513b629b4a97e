import { scanKnown, type ScanKnown } from '../../core/scan/judgeScan';
import { listLives } from '../../store/driveLives';
import type { App } from '../app';

/** As many drives lie loose in a small business, and as many fit into a page. */
const MOST = 200;

/** What is recorded of every drive that may be taken in hand: at hand too where the network is not. */
export async function readKnownDrives({ db }: App): Promise<readonly ScanKnown[]> {
  const loose = await Promise.all((['drawer', 'in-hand'] as const).map((place) => listLives(db, place, 0, MOST)));
  return loose.flat().map(({ life }) => scanKnown(life, null));
}
