import { serviceOf } from '../../unit/serviceOf';
import { bayName } from '../../unit/bayName';
import { formatBytes } from '../../quantity/formatBytes';
import type { UnitState } from '../../unit/state';
import type { PlanDraft } from './draftPlan';
import { waitFor, type Reckoned } from './reckoned';
import type { Intention, PlanStep } from '../plan';

/** Steps where hands go to a drive: find it, power down where the family asks for it, pull one, fit one. */

export type NewDrive = Omit<Extract<Intention, { kind: 'fit-drive' }>['drive'], 'bay'>;

export interface AtBay {
  readonly serial: string;
  readonly bay: string;
  /** Ends every id of its steps, where a plan does this more than once. */
  readonly suffix?: string;
}

export const HOLD_IT =
  'Earth yourself before you touch a bare drive; hold it by its sides. The maker’s manual and your site’s rules come before this sheet.';

/** From out of service to the new drive in the bay. */
export function swap(draft: PlanDraft, unit: UnitState, old: AtBay, drive: NewDrive): void {
  outOfService(draft, unit, old);
  pull(draft, unit, old);
  fit(draft, unit, old, drive, old.serial);
  powerUp(draft, unit, old);
}

/** Adds the step that takes a drive out of service at the unit; none where it failed, is out already or stands in no bay. */
export function outOfService({ then }: PlanDraft, unit: UnitState, { serial, bay, suffix = '' }: AtBay): void {
  const drive = unit.drives[serial];
  if (drive?.condition === 'failed' || drive?.condition === 'out-of-service' || drive?.bay == null) return;
  then({
    id: `out${suffix}`,
    kind: 'act',
    title: `Take ${bayName(unit, bay)} out of service in the unit’s own page`,
    why: 'Choose it by its serial, not by its place in the list. An alarm sounds from now on: it means thinned, not broken. A unit that has no such command: confirm its serial here all the same, and pull it as the next step.',
    asks: { kind: 'serial', expects: serial },
    does: [{ kind: 'take-out-of-service', serial }],
    bay,
  });
}

/** Adds the steps that take a drive out of its bay, by its serial; on a cold family those that switch off come first. None where it stands in no bay. */
export function pull({ then }: PlanDraft, unit: UnitState, { serial, bay, suffix = '' }: AtBay): void {
  if (unit.drives[serial]?.bay == null) return;
  const service = serviceOf(unit);
  if (serviceOf(unit).isCold) {
    then({
      id: `power-down${suffix}`,
      kind: 'act',
      title: `Shut ${unit.name} down in its own page, and wait until it is off`,
      why: 'Drives of this family are not changed while it runs.',
      does: [{ kind: 'switch-power', on: false }],
    });
    then({
      id: `unplug${suffix}`,
      kind: 'check',
      title: service.opensCase ? 'Unplug every supply, then open the case' : 'Make sure that every lamp is dark',
      why: service.opensCase
        ? 'Inside a case the numbering may run from the top: look for the numbers on the board or on the cables.'
        : 'The next step is the pull.',
      caution:
        'Do not open power supplies. Fans have blades. Work on fixed wiring is for licensed people under local codes.',
    });
  } else {
    then({
      id: `locate${suffix}`,
      title: service.locateLight
        ? `Blink the light of ${bayName(unit, bay)}, and walk up to it`
        : `Find ${bayName(unit, bay)}: its lamp is the only one lit differently`,
      why: service.locateLight
        ? 'Choose the drive by its serial in the unit’s own page. Only one light may blink.'
        : `This family has no locate light. Count the bays by the numbers printed on the unit, and look at every lamp before you touch a tray.`,
      bay,
    });
  }
  then({
    id: `pull${suffix}`,
    kind: 'act',
    title: `Pull ${bayName(unit, bay)} and read its serial`,
    why: `Slide out one tray only. ${serviceOf(unit).isCold ? '' : 'Let it spin down half-way out, half a minute. '}Do not lay it aside, and touch no other, until the number on the drive itself has been read here.`,
    caution: HOLD_IT,
    asks: { kind: 'serial', expects: serial },
    does: [{ kind: 'pull-drive', serial }],
    bay,
  });
}

/** Adds the step that fits a new drive in a bay and reads its serial off it. */
export function fit(
  { then }: PlanDraft,
  unit: UnitState,
  { bay, suffix = '' }: Omit<AtBay, 'serial'>,
  drive: NewDrive,
  member?: string,
): void {
  then({
    id: `fit${suffix}`,
    kind: 'act',
    title: `Fit the new drive in ${bayName(unit, bay)} and read its serial`,
    why: `${drive.label ?? formatBytes(drive.bytes)}${drive.model === undefined ? '' : `, ${drive.model}`}. Read the serial off the drive, then push until it clicks: slight resistance, never force.${serviceOf(unit).opensCase ? ' Keep the screws: the ones supplied, hand-tight, may be dampers. A second look at both plugs before the cover goes on.' : ''}`,
    caution: HOLD_IT,
    asks: { kind: 'serial', ...(drive.serial === undefined ? {} : { expects: drive.serial }) },
    does: [{ kind: 'fit-drive', drive: { ...drive, bay }, ...(member === undefined ? {} : { for: member }) }],
    bay,
  });
}

/** Adds the step that switches off before a drive is fitted; none where the family swaps drives while it runs. */
export function powerDown({ then }: PlanDraft, unit: UnitState, suffix = ''): void {
  if (!serviceOf(unit).isCold) return;
  then({
    id: `power-down${suffix}`,
    kind: 'act',
    title: `Shut ${unit.name} down, and unplug every supply`,
    why: 'Drives of this family are not fitted while it runs.',
    does: [{ kind: 'switch-power', on: false }],
  });
}

/** Adds the step that switches on again; none where the family swaps drives while it runs. */
export function powerUp({ then }: PlanDraft, unit: UnitState, { suffix = '' }: Pick<AtBay, 'suffix'>): void {
  if (!serviceOf(unit).isCold) return;
  then({
    id: `power-up${suffix}`,
    kind: 'act',
    title: 'Close it, plug every supply in, and switch on',
    why: 'Leave its button alone until the lamps say so. Odd lamps for a while are normal.',
    does: [{ kind: 'switch-power', on: true }],
    hours: unit.profile.service.waits?.bootHours ?? 0.035,
  });
}

export interface Rebuilding {
  readonly pool: string;
  readonly replaces: string;
  readonly bay: string;
  readonly task: 'rebuild' | 'replace';
  readonly serial?: string;
  readonly reckoned: Reckoned;
  readonly suffix?: string;
  /** What else becomes true when it is done. */
  readonly and?: readonly Intention[];
}

/** The unit sees the new drive, the rebuild is started on the right one, and it is waited for. */
export function rebuild(
  { then }: PlanDraft,
  unit: UnitState,
  { pool, replaces, bay, task, serial, reckoned, suffix = '', and = [] }: Rebuilding,
): void {
  const startsAlone = task === 'rebuild' && unit.profile.rebuild.starts === 'by-itself';
  const start: PlanStep['does'] = [{ kind: 'start-rebuild', pool, replaces, bay, task }];
  then({
    id: `seen${suffix}`,
    title: startsAlone
      ? `See that the unit shows the drive in ${bayName(unit, bay)} and has begun to rebuild`
      : `See that the unit shows the drive in ${bayName(unit, bay)}`,
    why:
      task === 'rebuild'
        ? `Still thinned: that is expected, it beeps until the rebuild is done. ${startsAlone ? 'On this family it begins by itself. If it has not after some minutes, look in the unit’s page for a repair to confirm, and compare the serial it names.' : 'On this family nothing happens until the drive is chosen.'}`
        : 'Nothing is thinner: the old drive is still at work. On this family nothing happens until the new one is chosen.',
    does: startsAlone ? start : [],
    bay,
  });
  if (!startsAlone)
    then({
      id: `start${suffix}`,
      kind: 'act',
      title:
        task === 'rebuild'
          ? 'Start the repair: read the serial it asks to erase'
          : 'Start the replacement: read the serial it asks to erase',
      why: 'Choose the pool, then the new drive. It asks for the password again, and whether it may erase: type here the serial it names before you answer yes.',
      caution:
        serial === undefined ? 'Answer yes only to the serial of the new drive.' : `Answer yes only to ${serial}.`,
      asks: { kind: 'serial', ...(serial === undefined ? {} : { expects: serial }) },
      does: start,
      bay,
    });
  then({
    id: `wait${suffix}`,
    kind: 'wait',
    title: task === 'rebuild' ? 'Wait for the rebuild' : 'Wait for the replacement',
    ...waitFor(
      reckoned,
      `Enter what percent it shows whenever you pass by. Pull nothing, switch nothing off, restart nothing: the beep that began with the drive out means thinned. A new one is looked up under “Read a lamp”.`,
    ),
    caution: 'Tick when the unit says it is done, not when the time is up.',
    does: [{ kind: 'finish-rebuild', pool, replaces, bay, task }, ...and],
  });
}
