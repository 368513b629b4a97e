import { formatBytes } from '../../quantity/formatBytes';
import { bayName } from '../../unit/bayName';
import { entryOf } from '../../value/entryOf';
import { otherUnitWords } from '../../unit/standsThere';
import { poolOfDrive, type UnitState } from '../../unit/state';
import type { PlanStep, StepEvidence } from '../plan';
import { fitting } from './fitting';
import { wrongDrive, type Interlock } from './interlock';
import { serialMeant, type KnownDrive } from './knownDrive';
import { towardsOf } from './towardsPool';

/**
 * What is wrong with the drive in hand as the one that takes over: it stands in a bay, it is the one that goes, it is sick,
 * it is somewhere else by the record, or it holds what another pool lost. Each with what it is and where it belongs.
 */
export function interlocksOfHand(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  at: string,
  known?: KnownDrive,
): Interlock[] {
  const taking = fitting(step);
  const { asks } = step;
  if (!taking || evidence.kind !== 'serial' || asks.kind !== 'serial') return [];
  const serial = serialMeant(unit, evidence.serial, asks.expects, known);
  const stop = (code: Interlock['code'], sentence: string, back: string, mayOverride = true): Interlock[] => [
    { kind: 'interlock', code, sentence, back, serial, mayOverride },
  ];
  const here = entryOf(unit.drives, serial);
  const member = taking.for;
  // One that goes back to its own pool is judged by that pool.
  if (member === undefined && poolOfDrive(unit, serial)) return [];
  // Another than the planned one is told from it already.
  if (here?.bay != null)
    return asks.expects === undefined
      ? stop('wrong-serial', ...both(wrongDrive(unit, serial, asks.expects ?? 'the new drive', at)), false)
      : [];
  if (serial === member)
    return stop(
      'sick-drive',
      `${serial} is the drive that goes${here?.note === undefined ? '' : ` (${here.note})`}: it does not take over from itself.`,
      'Put it aside, write on it what it is, and take the new drive.',
    );
  const sick =
    here?.sick === undefined
      ? known?.sick
      : `${here.sick === 'failed' ? 'had failed' : 'showed signs'}${here.note === undefined ? '' : `: ${here.note}`}`;
  if (sick !== undefined)
    return stop(
      'sick-drive',
      `${serial} is no drive to ${member === undefined ? 'build on' : 'rebuild onto'}: it ${sick}.`,
      'Put it aside, and take another. It is a spare again once a test is recorded on its own page.',
    );
  // One that is out of its bay already is judged by what it holds.
  if (known?.there && (known.there.bay !== null || known.there.isCarried))
    return stop('wrong-serial', ...both(otherUnitWords(serial, known.there)), false);
  if (known?.elsewhere !== undefined)
    return stop(
      'wrong-serial',
      `${serial} is on record as ${known.elsewhere}.`,
      'Read the serial again. If it is right, record on the drive’s own page where it has been, and go on from there.',
      false,
    );
  const lost = here && poolOfDrive(unit, serial);
  if (lost)
    return stop(
      'holds-data',
      `${serial} is a member of ${lost.name} that is out: a rebuild erases what it still holds of it.`,
      `Put it aside, marked with its bay, ${bayName(unit, taking.drive.bay)} or another. Take the new drive.`,
    );
  const { holds } = known ?? {};
  if (holds !== undefined && (member === undefined || holds.pool !== poolOfDrive(unit, member)?.id))
    return stop(
      'holds-data',
      `${serial} still holds what it had as a member of ${holds.name} in ${holds.unitName}: ${member === undefined ? 'a new pool' : 'a rebuild'} erases it.`,
      `Take another drive. If nothing of it is needed, record on its own page that it was wiped.`,
    );
  const bytes = known?.facts.bytes ?? taking.drive.bytes;
  // Where it is known what it is for, that is told with what it makes of it.
  if (member === undefined && known?.isRead !== true && !towardsOf(step) && bytes < taking.drive.bytes)
    return stop(
      'too-small',
      `${serial} holds ${formatBytes(bytes)}; ${formatBytes(taking.drive.bytes)} was planned here, and a pool counts its smallest.`,
      'Take the drive that was planned; or stop this plan and make one with the drives that are there.',
    );
  return [];
}

function both({ sentence, back }: Pick<Interlock, 'sentence' | 'back'>): [string, string] {
  return [sentence, back];
}
