import { bayName } from '../unit/bayName';
import { CHECK_WORDS } from '../upkeep/checks';
import { formatBytes } from '../quantity/formatBytes';
import { formatRate } from '../quantity/formatRate';
import { factsOf } from '../layout/scheme';
import type { Of, UnitEvent } from '../unit/event';
import type { UnitState } from '../unit/state';

/** The words of a running task: what is being waited for. */
export const TASK_WORDS = {
  'first-build': 'first build',
  rebuild: 'rebuild',
  replace: 'replacing through a free bay',
  scrub: 'reading everything to check it',
  expand: 'expanding',
  convert: 'converting',
  copy: 'copying',
  test: 'health test',
} as const;

/**
 * What an entry of a unit's ledger says, in a sentence.
 *
 * @param unit its boxes, by which a bay is named
 */
export function eventWords(event: UnitEvent, unit: Pick<UnitState, 'enclosures'>): string {
  switch (event.kind) {
    case 'unit-registered':
      return `Put on the shelf as ${event.name}: ${event.place.site}, ${event.place.room}; ${event.profile.name}.`;
    case 'unit-described':
      return `Described: ${[event.name ?? [], event.place ? `${event.place.site}, ${event.place.room}` : [], Object.keys(event.details ?? {}).map((field) => FIELD_WORDS[field] ?? field)].flat().join(', ')}.`;
    case 'drive-inserted':
      return `${event.drive.serial} (${formatBytes(event.drive.bytes)}) put into ${bayName(unit, event.bay)}.`;
    case 'unit-retired':
      return `Retired: out of use, its address free${because(event.note)}.`;
    case 'stock-taken':
      return `Stock taken: ${String(event.lines.length)} ${event.lines.length === 1 ? 'line' : 'lines'} of what it does for people.`;
    case 'drive-removed':
      return `${event.serial} taken out.`;
    case 'drive-suspected':
      return `${event.serial} is showing signs: ${event.note}.`;
    case 'drive-cleared':
      return `${event.serial} looked at and found well${because(event.note)}.`;
    case 'drive-failed':
      return `${event.serial} failed${because(event.note)}.`;
    case 'drive-returned':
      return `${event.serial} dropped out and is seen again${because(event.note)}.`;
    case 'drive-taken-out-of-service':
      return `${event.serial} taken out of service.`;
    case 'pool-created':
      return `${event.name} made: ${factsOf(event.scheme).name}, ${formatBytes(event.usableBytes)} usable.`;
    case 'pool-grown':
      return `Pool grown to ${formatBytes(event.usableBytes)} usable.`;
    case 'pool-converted':
      return `Pool converted to ${factsOf(event.scheme).name}, ${formatBytes(event.usableBytes)} usable.`;
    case 'pool-restored':
      return `The unit took ${event.serials.join(', ')} back with what is on ${event.serials.length === 1 ? 'it' : 'them'}${because(event.note)}.`;
    case 'pool-stopped':
      return `The pool has stopped${because(event.note)}.`;
    case 'pool-back':
      return `${POOL_BACK_WORDS[event.how]}${event.serials.length === 0 ? '' : `, with ${event.serials.join(', ')}`}${because(event.note)}.`;
    case 'pool-lost':
      return `The data of the pool is lost${because(event.note)}.`;
    case 'pool-left':
      return `A pool left whole${because(event.note)}.`;
    case 'pool-arrived':
      return `${event.name} ${event.from === null ? 'is there as it was found' : 'arrived whole'}: ${factsOf(event.scheme).name}, ${formatBytes(event.usableBytes)} usable.`;
    case 'pool-contents':
      return 'Its volumes and the register of its copies came along.';
    case 'data-handed-over':
      return event.dataSets === undefined
        ? 'Its data is at home in another unit from now on; what is left here is a copy.'
        : 'A part of its data is at home in another unit from now on; what is left of that here is a copy.';
    case 'data-arrived':
      return `${Object.values(event.dataSets as Record<string, { readonly name: string }>)
        .map(({ name }) => name)
        .join(', ')} is at home here from now on, with the register of its copies.`;
    case 'unit-packed':
      return 'Shut down and packed: its drives are carried to another unit.';
    case 'unit-unpacked':
      return 'Its drives are back: nothing of it is on the way any more.';
    case 'pool-destroyed':
      return 'Pool taken apart; what it held is gone.';
    case 'cache-set':
      return event.serials.length === 0
        ? 'No drive is cache any more.'
        : `${event.holds === undefined ? 'Cache of the unit' : event.holds === 'reads' ? 'Cache of the unit, for reads only' : 'Cache of the unit, for writes too'}: ${event.serials.join(', ')}.`;
    case 'spare-assigned':
      return `${event.serial} made a spare.`;
    case 'spare-released':
      return `${event.serial} is no spare any more.`;
    case 'spare-took-over':
      return `Spare ${event.spare} took over from ${event.replaces}.`;
    case 'volume-set':
      return `Volume ${event.name}: ${formatBytes(event.bytes, 'binary')}${event.thin ? ', thin' : ''}${event.fileSystem === undefined ? '' : `, ${event.fileSystem}`}.`;
    case 'volume-removed':
      return 'Volume removed.';
    case 'job-started':
      return event.task === 'rebuild' || event.task === 'replace'
        ? `Rebuild started onto ${event.onto ?? 'the new drive'}.`
        : `Started: ${TASK_WORDS[event.task]}.`;
    case 'job-progressed':
      return `${String(event.percent)} % done.`;
    case 'job-restarted':
      return `Began again from the start${because(event.note)}.`;
    case 'job-finished':
      return 'Finished.';
    case 'job-aborted':
      return 'Stopped before its end.';
    case 'power':
      return event.on ? 'Switched on.' : 'Switched off.';
    case 'part-lost':
      return `${capital(event.part)} ${event.name} is out${because(event.note)}.`;
    case 'part-back':
      return `${capital(event.part)} ${event.name} is back.`;
    case 'enclosure-added':
      return `${event.enclosure.name} added, ${String(event.enclosure.bays.length)} bays.`;
    case 'enclosure-lost':
      return `${event.enclosure} dropped out.`;
    case 'enclosure-back':
      return `${event.enclosure} is seen again.`;
    case 'firmware-updated':
      return `Firmware updated to ${event.version}.`;
    case 'sign-noted':
      return `Seen${event.bay === undefined ? '' : ` at ${bayName(unit, event.bay)}`}: ${event.note}.`;
    case 'signs-cleared':
      return `What was seen is settled${because(event.note)}.`;
    case 'noted':
      return event.note;
    case 'drives-counted':
      return `${String(event.seen)}${event.expected === undefined ? '' : ` of ${String(event.expected)}`} drives seen${event.enclosure === undefined ? '' : ` in ${event.enclosure}`}.`;
    case 'round-walked':
      return `Evening round: ${event.signs.length === 0 ? 'nothing out of the ordinary' : event.signs.join('; ')}${event.seen === undefined ? '' : `; ${String(event.seen)} drives seen`}${because(event.note)}.`;
    case 'check-confirmed':
      return `${CHECK_WORDS[event.check]}${because(event.note)}.`;
    case 'speed-measured':
      return `Speed ${event.isBaseline === true ? 'when new' : 'measured'}: reads ${formatRate(event.readBytesPerSecond)}, writes ${formatRate(event.writeBytesPerSecond)}.`;
    case 'data-set-described':
      return `Data set ${event.name} entered in the register of copies.`;
    case 'data-set-removed':
      return 'Data set taken out of the register of copies.';
    case 'copy-described':
      return `Copy kept at ${event.where}: ${event.keeps === 'versions' ? 'versions' : 'a mirror'}, ${event.offSite ? 'off site' : 'on site'}.`;
    case 'copy-removed':
      return 'Copy taken out of the register.';
    case 'copy-confirmed':
      return `${OUTCOME_WORDS[event.outcome]}${because(event.note)}.`;
    case 'upkeep-planned':
      return `Upkeep planned: ${event.tasks.map((task) => `${task.title} ${everyWords(task)}`).join('; ')}.`;
    case 'upkeep-dropped':
      return 'Upkeep dropped.';
    case 'upkeep-done':
      return `Upkeep done: ${event.task.replaceAll('-', ' ')}${because(event.note)}.`;
    case 'plan-began':
      return `Plan begun: ${event.title}.`;
    case 'plan-step':
      return stepWords(event);
    case 'plan-paused':
      return `The plan rests: “${event.note}”`;
    case 'plan-ended':
      return `Plan ${event.how}${because(event.note)}.`;
    case 'taken-back':
      return `Taken back: ${event.reason}.`;
  }
}

function stepWords({ how, title, note }: Of<'plan-step'>): string {
  if (how === 'refused') return `A step was stopped, “${title}”${because(note)}`;
  const done =
    how === 'skipped' ? 'Step left out' : how === 'overridden' ? 'Step done against the record' : 'Step done';
  return `${done}: ${title}${note === undefined || note === '' ? '' : `; ${note}`}.`;
}

const POOL_BACK_WORDS = {
  whole: 'The pool is back, whole',
  degraded: 'The pool is back, degraded',
  damaged: 'The pool is back, with files damaged',
} as const;

export const OUTCOME_WORDS = {
  ran: 'Backup ran',
  failed: 'Backup failed',
  'restore-worked': 'A restore was tried and worked',
  'restore-failed': 'A restore was tried and did not work',
  same: 'Compared with what it is a copy of: the same',
  differs: 'Compared with what it is a copy of: they differ',
} as const;

export const FIELD_WORDS: Readonly<Record<string, string>> = {
  serial: 'serial',
  address: 'address',
  hardwareAddress: 'hardware address',
  firmware: 'firmware',
  supplies: 'supplies',
  ports: 'network ports',
  call: 'who to call',
  notes: 'notes',
  boughtOn: 'bought on',
  warrantyUntil: 'warranty until',
  driveChange: 'how a drive is changed',
  locateLight: 'light at a bay',
};

/** "every month", "every 3 months", "once". */
export function everyWords({ every, unit }: { readonly every: number; readonly unit: string }): string {
  if (unit === 'once') return 'once';
  return every === 1 ? `every ${unit}` : `every ${String(every)} ${unit}s`;
}

function because(note: string | undefined): string {
  return note === undefined || note === '' ? '' : `: ${note}`;
}

function capital(word: string): string {
  return `${word[0]?.toUpperCase() ?? ''}${word.slice(1)}`;
}
