import { inBay } from './driveEventWords';
import { frozen } from '../value/frozen';
import { refusal, type Refusal } from '../value/refusal';
import { serialKey } from '../drive/serial';
import type { DriveEvent, OfDrive } from './event';
import type { DriveLife, Whereabouts } from './life';

/**
 * What a drive's life is after something happened to it. Refuses only what cannot have happened: a drive in a bay is
 * not in a drawer, and a destroyed one goes nowhere any more.
 *
 * @param life `null` before its first entry, which says what drive it is
 */
export function applyToDrive(
  serial: string,
  life: DriveLife | null,
  event: DriveEvent,
  at: string,
): DriveLife | Refusal {
  if (life === null) return begin(serial, event, at);
  const to = (where: Whereabouts, change: Partial<DriveLife> = {}): DriveLife =>
    frozen({ ...life, ...change, where, whereSince: at });
  switch (event.kind) {
    case 'described':
      return frozen({ ...life, drive: { ...life.drive, ...event.drive } });
    case 'received':
      return (
        outside(life) ??
        to(
          { kind: 'in-hand' },
          { drive: { ...life.drive, ...event.drive }, ...(event.order === undefined ? {} : { order: event.order }) },
        )
      );
    case 'put-in-drawer':
      return outside(life) ?? to({ kind: 'drawer', ...event.drawer });
    case 'fitted':
      return whole(life) ?? elsewhere(life) ?? fit(life, event, at);
    case 'taken-out':
      return life.where.kind === 'bay' && life.where.unit === event.unit
        ? to({ kind: 'in-hand' }, leaving(life, event, at))
        : life;
    case 'tested':
      return frozen({
        ...life,
        tested: { result: event.result, at, ...(event.note === undefined ? {} : { note: event.note }) },
      });
    case 'sent-under-warranty':
      return outside(life) ?? to({ kind: 'under-warranty', to: event.to });
    case 'warranty-settled':
      return frozen({ ...life, ...(event.replacement === undefined ? {} : { replacement: event.replacement }) });
    case 'wiped': {
      const { method, how, by, checked = false } = event;
      return outside(life) ?? frozen({ ...life, holds: null, wiped: { method, how, by, checked, at } });
    }
    case 'sent-away':
      return outside(life) ?? to({ kind: 'gone', to: event.to });
    case 'noted':
    case 'taken-back':
      return life;
  }
}

function begin(serial: string, event: DriveEvent, at: string): DriveLife | Refusal {
  if (event.kind !== 'described' && event.kind !== 'received' && event.kind !== 'fitted')
    return refusal('drive-unknown', `Nothing is known of ${serial} yet: say first how large it is.`, '/kind');
  const life: DriveLife = {
    kind: 'drive-life',
    serial: serialKey(serial),
    drive: event.drive,
    where: { kind: 'in-hand' },
    whereSince: at,
    wiped: null,
    tested: null,
    sick: null,
  };
  if (event.kind === 'fitted') return fit(life, event, at);
  return frozen(event.kind === 'received' && event.order !== undefined ? { ...life, order: event.order } : life);
}

/** What goes along with a drive that comes out: what it had shown, and whose data it holds. */
function leaving(life: DriveLife, { unit, sick, note, holds }: OfDrive<'taken-out'>, at: string): Partial<DriveLife> {
  return {
    sick: sick === undefined ? life.sick : { what: sick, at, ...(note === undefined ? {} : { note }) },
    holds: holds === undefined ? (life.holds ?? null) : { ...holds, unit },
  };
}

function fit(
  life: DriveLife,
  { unit, unitName, bay, place, drive, carries }: OfDrive<'fitted'>,
  at: string,
): DriveLife {
  return frozen({
    ...life,
    drive: { ...life.drive, ...drive },
    where: { kind: 'bay', unit, unitName, bay, ...(place === undefined ? {} : { place }) },
    whereSince: at,
    wiped: null,
    // What another unit does with what is on it, nobody knows; unless it is carried there with its pool.
    ...(life.holds === undefined || life.holds === null || life.holds.unit === unit || carries?.pool === life.holds.pool
      ? {}
      : { holds: null }),
  });
}

function whole({ serial, wiped }: DriveLife): Refusal | undefined {
  return wiped?.method === 'destroy'
    ? refusal('drive-destroyed', `${serial} was destroyed on ${wiped.at.slice(0, 10)}.`, '/serial')
    : undefined;
}

/** A drive is in one place: it leaves one bay before it stands in another. */
function elsewhere({ serial, where }: DriveLife): Refusal | undefined {
  return where.kind === 'bay'
    ? refusal(
        'drive-elsewhere',
        `${serial} stands in ${inBay(where)} of ${where.unitName}. A drive is in one place.`,
        '/drive/serial',
      )
    : undefined;
}

function outside(life: DriveLife): Refusal | undefined {
  const { serial, where } = life;
  if (where.kind === 'bay')
    return refusal(
      'drive-in-bay',
      `${serial} stands in ${inBay(where)} of ${where.unitName}. Record first that it was taken out.`,
      '/kind',
    );
  return whole(life);
}
