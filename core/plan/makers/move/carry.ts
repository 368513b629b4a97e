import { bayName } from '../../../unit/bayName';
import { roleWords } from '../../../unit/roleOf';
import { parityOf } from '../../../pool/dedicatedParity';
import { baysOf, cacheSlotsOf, placesIn, placesOf, poolsOf, type DriveInUnit } from '../../../unit/state';
import { ARRIVALS } from '../../engine/carrying';
import type { PlanStep } from '../../plan';
import { cacheOff } from '../cacheOff';
import { draftPlan, type PlanDraft } from '../draftPlan';
import { HOLD_IT } from '../handsOnDrive';
import { beforeMoving, servicesNoted } from './beforeMoving';
import type { BothUnits } from './bothUnits';

/** A drive, where it stands and where it goes. */
export interface CarriedDrive {
  readonly drive: DriveInUnit;
  readonly at: string;
  readonly into: string;
}

/** Drives carried over: shut down, taken out and read, fitted and read, and looked at before anything is written. */
export function carrySteps(both: BothUnits, way: 'carry-by-slot' | 'carry-by-serial'): PlanStep[] {
  const { old, newer, from, to } = both;
  const bySerial = way === 'carry-by-serial';
  const drives = carried(both, bySerial);
  const { flashStick } = old.profile.roaming;
  const draft = draftPlan();
  const { under, then } = draft;
  beforeMoving(both, draft);
  servicesNoted(both, draft);
  if (flashStick)
    then({
      id: 'stick-copied',
      kind: 'record',
      title: 'Copy the flash stick, and photograph which drive has which role',
      why: 'The system, its licence and the roles live on it. Without the stick the drives are a puzzle; one that is copied is not the only one.',
      asks: { kind: 'picture' },
    });
  cacheOff(draft, old);
  then({
    id: 'labels',
    title: 'Print the labels, and stick its number on every tray',
    why: bySerial
      ? 'Roles follow serials, so any bay will do; the way back is easier with numbers.'
      : 'Every drive goes into the bay of the number it had. A label is read when three of them lie on the table.',
    maySkip: true,
  });
  under(`Out of ${old.name}`);
  then({
    id: 'old-off',
    kind: 'act',
    title: `Shut ${old.name} down in its own page, and wait until it is off`,
    why: 'From here on its drives are on the way: nothing is missing as long as all of them are.',
    does: [
      { kind: 'switch-power', on: false },
      { kind: 'pack', to },
    ],
  });
  then({
    id: 'new-off',
    kind: newer.power === 'on' ? 'act' : 'check',
    title: `${newer.name} off as well, and both unplugged`,
    why: `Everything that goes into ${newer.name} is in before it is started: what it finds at its first start may decide what it makes of it.`,
    caution:
      'Unplug every supply. Do not open power supplies; fans have blades. Rack power and fixed wiring are for licensed people under local codes.',
    does: newer.power === 'on' ? [{ unit: to, kind: 'switch-power', on: false }] : [],
  });
  takenOut(draft, both, drives);
  if (flashStick)
    then({
      id: 'stick-out',
      title: `Take the flash stick out of ${old.name}, and lay it with the drives`,
      why: 'It goes along; its copy stays where it is.',
    });
  under(`Into ${newer.name}`);
  fitted(draft, both, drives, bySerial);
  if (flashStick)
    then({
      id: 'stick-in',
      title: `The flash stick into ${newer.name}`,
      why: 'And in the settings of its board: start from this stick, and from no drive.',
      caution: `Forgotten, ${newer.name} finds no roles and offers to assign drives by hand. Do not: switch off, put it in.`,
    });
  under('First start');
  started(draft, both);
  if (bySerial)
    then({
      id: 'roles',
      title: 'Before the array is started: compare every serial with its role',
      why: `${rolesOf(both)} No data drive in a parity role, nothing foreign assigned.`,
      caution: 'A data drive that is started as parity is written over. In doubt start nothing, and switch off.',
    });
  then({
    id: 'arrived',
    kind: 'act',
    title: `Look at the page of ${newer.name}: what does it show?`,
    why: `${poolsOf(old)
      .map(({ name }) => name)
      .join(
        ', ',
      )} with as many drives as before, nothing asked, no repair offered. Read sample files out of each before you say so.`,
    caution: 'If it asks to erase, to initialise or to set the drives up: answer no.',
    asks: { kind: 'choice', options: [...ARRIVALS] },
    does: [
      { kind: 'leave', to },
      { unit: to, kind: 'arrive', from },
    ],
  });
  under('When everything has arrived');
  afterCarrying(draft, both, bySerial);
  return draft.steps;
}

/** Every drive of the old unit with the bay it goes into: its own, or the next where serials decide. */
function carried({ old, newer }: BothUnits, bySerial: boolean): readonly CarriedDrive[] {
  const bays = baysOf(newer);
  const slots = new Set(cacheSlotsOf(old));
  return placesOf(old)
    .flatMap((at) => Object.values(old.drives).filter(({ bay }) => bay === at))
    .map((drive, i) => ({
      drive,
      at: drive.bay ?? '',
      into: bySerial && !slots.has(drive.bay ?? '') ? (bays[i] ?? '') : (drive.bay ?? ''),
    }));
}

/** Adds the steps that take every drive out and read it, box by box. */
function takenOut({ then }: PlanDraft, { old }: BothUnits, drives: readonly CarriedDrive[]): void {
  for (const [i, box] of old.enclosures.entries()) {
    const { name } = box;
    const places = placesIn(old, box);
    const here = drives.filter(({ at }) => places.includes(at));
    if (here.length === 0) continue;
    then({
      id: `out-${String(i + 1)}`,
      kind: 'act',
      title: `Take ${here.length === 1 ? 'the drive' : `the ${String(here.length)} drives`} out of ${old.enclosures.length === 1 ? old.name : name}, and read each`,
      why: 'One after the other: slide it out, read the serial off the drive itself, write the number of its bay on it. The unit is off: a drive in the hand loses nothing.',
      caution: HOLD_IT,
      asks: { kind: 'scans', bays: here.map(({ at, drive }) => ({ bay: at, expects: drive.serial })) },
      does: here.map(({ drive }) => ({ kind: 'pull-drive' as const, serial: drive.serial })),
    });
  }
}

/** Adds the steps that put every drive into its bay and read it, box by box. */
function fitted({ then }: PlanDraft, both: BothUnits, drives: readonly CarriedDrive[], bySerial: boolean): void {
  const { newer, from, to } = both;
  for (const [i, box] of newer.enclosures.entries()) {
    const { name } = box;
    const places = placesIn(newer, box);
    const here = drives.filter(({ into }) => places.includes(into));
    if (here.length === 0) continue;
    then({
      id: `in-${String(i + 1)}`,
      kind: 'act',
      title: `Put ${here.length === 1 ? 'the drive' : `the ${String(here.length)} drives`} into ${newer.enclosures.length === 1 ? newer.name : name}${bySerial ? '' : ', each into the bay of its number'}, and read each`,
      why: bySerial
        ? 'Any bay: roles follow the serials. Read each as it goes in, so that none is left on the table.'
        : 'Number to number. Read each as it goes in, and push until it clicks: slight resistance, never force.',
      caution: HOLD_IT,
      asks: {
        kind: 'scans',
        bays: here.map(({ into, drive }) => ({ bay: into, ...(bySerial ? {} : { expects: drive.serial }) })),
      },
      does: here.map(({ drive, into }) => ({
        unit: to,
        kind: 'carry-in' as const,
        bay: into,
        from,
        serial: drive.serial,
        ...(bySerial ? { anyBay: true } : {}),
      })),
    });
  }
}

function started({ then }: PlanDraft, { newer, to }: BothUnits): void {
  const boxes = newer.enclosures.length - 1;
  then({
    id: 'start',
    kind: 'act',
    title: `Plug every supply in, and switch ${newer.name} on${boxes > 0 ? ': its extensions first, the head last' : ''}`,
    why: 'A second look at every tray and plug before. Leave its button alone until the lamps say so; odd lamps for a while are normal.',
    caution:
      'If it asks to erase or to initialise anything: no. Switch it off, and the drives go back into the bays they had.',
    does: [{ unit: to, kind: 'switch-power', on: true }],
    hours: newer.profile.service.waits?.bootHours ?? 0.035,
  });
}

/** "Papers: parity 123, data 456." */
function rolesOf({ old }: BothUnits): string {
  return poolsOf(old)
    .map((pool) => {
      const { name, bands } = pool;
      const at = (serial: string): number => baysOf(old).indexOf(old.drives[serial]?.bay ?? '');
      const serials = [...new Set(bands.flatMap(({ members }) => members))].sort((a, b) => at(a) - at(b));
      const parity = parityOf(pool);
      const data = serials.filter((serial) => !parity.includes(serial));
      return `${name}: ${parity.length > 0 ? `parity ${parity.join(', ')}; data ` : ''}${data.join(', ')}.`;
    })
    .join(' ');
}

/** Adds what follows once everything is there: compared, then firmware, then the name, and the old unit kept for a while. */
function afterCarrying(draft: PlanDraft, both: BothUnits, bySerial: boolean): void {
  const { then } = draft;
  const { old, newer, to } = both;
  then({
    id: 'compared',
    kind: 'record',
    title: 'Take stock again: go through what was written down, line by line',
    why: `${whatCameAlong(both)} What is not there is put right before anybody works on it.`,
    asks: { kind: 'stock' },
    does: [{ unit: to, kind: 'take-stock', against: both.from }],
  });
  if (old.cache.length > 0)
    then({
      id: 'cache-on',
      kind: 'act',
      title: 'Switch the cache on again',
      why: `${old.cache.join(', ')} came along.`,
      does: [
        {
          unit: to,
          kind: 'set-cache',
          serials: [...old.cache],
          ...(old.cacheHolds === undefined ? {} : { holds: old.cacheHolds }),
        },
      ],
    });
  if (bySerial)
    then({
      id: 'workaround',
      title: 'What the new processor wants before it is restarted for the first time, from the maker’s notes',
      why: 'Then cores and memory of machines, cards and devices passed through, bindings to network and disks.',
      maySkip: true,
    });
  then({
    id: 'firmware',
    kind: 'record',
    title: `Only now firmware: update ${newer.name} until none is offered`,
    why: 'A newer firmware may change what is on the drives, so that the old unit does not read them any more. From here on the way back is by copy.',
    caution: 'Nothing is copied and nothing switched off while it runs.',
    asks: { kind: 'text', label: 'Version it ended with' },
    does: [{ unit: to, kind: 'update-firmware' }],
    maySkip: true,
  });
  then({
    id: 'address',
    kind: 'record',
    title: `Give ${newer.name} the name and address people know`,
    why: `${old.name} stays off: two of one address, and nobody reaches either.`,
    asks: { kind: 'text', label: 'Address, as it is reached from now on' },
    does: [{ unit: to, kind: 'write-down', field: 'address' }],
  });
  then({
    id: 'clients',
    title: bySerial
      ? 'Switch services on again one after the other, each with its start by itself, and try a real client'
      : 'Try a real client: open a file, save one, print one',
    why: 'The list you wrote down says which machines count on it.',
  });
  if (bySerial && poolsOf(old).some(({ bands }) => bands.some(({ kind }) => kind === 'dedicated')))
    then({
      id: 'parity-check',
      title: 'Start a parity check that only reads',
      why: 'It says whether parity agrees with the data, and changes nothing. It runs for hours; people can work meanwhile.',
      caution: 'One that corrects what it finds writes over parity by what may be the wrong drive.',
    });
  then({
    id: 'alarm-mail',
    title: `Set mail for warnings on ${newer.name} and send a test; point the backup at it and let it run once`,
    why: 'What watched and copied the old unit watches and copies nothing now.',
    does: [{ unit: to, kind: 'confirm', check: 'alarm-mail-tested' }],
  });
  then({
    id: 'old-kept',
    title: `Keep ${old.name} as it is for two weeks, switched off and empty`,
    why: 'It is the way back while the firmware of both still reads the same. Then it is retired by a plan of its own, from its page under “About”: its licence noted, its name and address freed.',
    maySkip: true,
  });
}

/** "2 pools, 1 idle drive; Papers: 4 drives." */
function whatCameAlong({ old }: BothUnits): string {
  const drives = Object.values(old.drives).filter(({ bay }) => bay !== null);
  const idle = drives.filter(({ serial }) => roleWords(old, serial) === 'no pool');
  const pools = poolsOf(old).map(
    ({ id, name }) =>
      `${name}: ${Object.values(old.volumes)
        .filter(({ pool }) => pool === id)
        .map((volume) => volume.name)
        .join(', ')}`,
  );
  return `${pools.map((one) => one.replace(/: $/, '')).join('; ')}${idle.length > 0 ? `; ${idle.map(({ bay }) => bayName(old, bay ?? '')).join(', ')} idle` : ''}.`;
}
