import { bayName } from '../../unit/bayName';
import type { UnitEvent } from '../../unit/event';
import { eventsOfPoolSaid } from '../../unit/poolSaid';
import { membersOf, poolOfDrive, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import type { StepEvidence } from '../plan';
import { driveFacts, serialMeant } from './knownDrive';

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
