import type { WorkKnown } from '../../core/rebuild/workKnown';
import type { UnitState } from '../../core/unit/state';
import type { Database } from '../../store/database';
import { organisation } from '../../store/organisation';
import { pacesOf } from '../../store/paces';

/** Where the application runs: where people work, while nobody said otherwise. */
const zoneHere = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The time zone people work in. */
export async function zoneOf(db: Database): Promise<string> {
  return (await organisation(db)).timeZone ?? zoneHere();
}

/** What is known beside these units of how long their work takes. */
export async function readWorkKnown(
  db: Database,
  units: readonly UnitState[],
  used: WorkKnown['used'],
): Promise<WorkKnown> {
  const families = [...new Set(units.map(({ profile }) => profile.id))];
  return { used, taught: await pacesOf(db, families), zone: await zoneOf(db) };
}
