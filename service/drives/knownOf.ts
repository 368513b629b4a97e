import { scanKnown, type ScanKnown } from '../../core/scan/judgeScan';
import { standsThere } from '../../core/unit/standsThere';
import { lifeMeant } from '../../store/driveLives';
import { unitById } from '../../store/units';
import type { App } from '../app';

/**
 * What is recorded of the drive a person means, with what another unit makes of it; `null` where nobody knows it.
 *
 * @param at the units it is read at: what they make of it stands in their own states
 */
export async function knownOf(app: App, typed: string, at: readonly string[]): Promise<ScanKnown | null> {
  const stored = await lifeMeant(app.db, typed);
  if (!stored) return null;
  const { life } = stored;
  const counts = life.where.kind === 'bay' ? life.where.unit : life.holds?.unit;
  if (counts === undefined || at.includes(counts)) return scanKnown(life, null);
  const there = await unitById(app.db, counts);
  return scanKnown(life, there ? standsThere(there.id, there.state, life.serial) : null);
}
