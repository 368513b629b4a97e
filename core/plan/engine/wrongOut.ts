import { bayName } from '../../unit/bayName';
import type { UnitEvent } from '../../unit/event';
import { eventsOfPoolSaid } from '../../unit/poolSaid';
import { freeName } from '../../unit/freeName';
import { membersOf, poolOfDrive, poolsOf, type Pool, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import type { StepEvidence } from '../plan';
import { driveFacts } from './driveFacts';
import { serialMeant } from './knownDrive';

type WrongOut = Extract<StepEvidence, { kind: 'wrong-out' }>;

/**
 * What is recorded of a drive that was pulled by mistake and put back: that it was out, that it is in again, and what the
 * unit makes of it. A member that was out is missing until the unit's own page says that it took it back.
 *
 * @returns a refusal for a drive the record has in no bay, or while the unit is off and nothing is lost by it
 */
export function eventsOfWrongOut(
  unit: UnitState,
  { serial: typed, says, note }: WrongOut,
): readonly UnitEvent[] | Refusal {
  const serial = serialMeant(unit, typed);
  const drive = entryOf(unit.drives, serial);
  if (drive?.bay == null)
    return refusal('drive-not-here', `${serial} is in no bay of ${unit.name} by the record.`, '/evidence/serial');
  if (unit.power === 'off')
    return refusal(
      'unit-off',
      `${unit.name} is off: put ${serial} back into ${bayName(unit, drive.bay)}, and nothing has happened.`,
      '/evidence/kind',
    );
  const { bay } = drive;
  const events: UnitEvent[] = [
    { kind: 'drive-removed', serial },
    {
      kind: 'drive-inserted',
      bay,
      drive: { serial, ...driveFacts(drive) },
    },
  ];
  const pool = poolOfDrive(unit, serial);
  const wasWhole = pool !== undefined && membersOf(pool).includes(serial) && !pool.missing.includes(serial);
  if (says === 'as-before' && wasWhole) events.push({ kind: 'pool-restored', pool: pool.id, serials: [serial] });
  if (says === 'rebuilds') {
    // Put back into a thin pool some families write a drive at once: a member over itself, an idle one in place of what is missing.
    const thin = wasWhole ? pool : poolsOf(unit).find((one) => replacedIn(unit, one) !== undefined);
    const replaces = wasWhole ? serial : thin && replacedIn(unit, thin);
    if (!thin || replaces === undefined || (pool !== undefined && pool !== thin))
      return refusal(
        'nothing-to-rebuild',
        `By the record no pool of ${unit.name} misses a member that ${serial} could take over from. Look at its page again: what does it say of the pool?`,
        '/evidence/says',
      );
    events.push({
      kind: 'job-started',
      job: freeName(unit.jobs, 'rebuild'),
      task: 'rebuild',
      pool: thin.id,
      replaces,
      onto: serial,
    });
  }
  const words = note === undefined ? '' : `: ${note}`;
  const after = `after ${serial} was out of ${bayName(unit, bay)} by mistake`;
  if (says === 'stopped')
    events.push(
      ...(pool
        ? eventsOfPoolSaid(unit, pool, 'stopped', `${after}${words}`)
        : [
            {
              kind: 'sign-noted' as const,
              note: `Its page says that a pool has stopped, ${after}${words}`.slice(0, 400),
            },
          ]),
    );
  if (says === 'asks-to-erase')
    events.push({
      kind: 'sign-noted',
      note: `Its page asks to erase or initialise, ${after}; answered no${words}`.slice(0, 400),
    });
  return events;
}

/** The member of a pool that is missing, and that nothing is written for yet. */
function replacedIn({ jobs }: UnitState, { id, missing }: Pool): string | undefined {
  return missing.find((serial) => !Object.values(jobs).some((job) => job.pool === id && job.replaces === serial));
}
