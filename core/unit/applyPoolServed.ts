import { factsOf } from '../layout/scheme';
import { marginOf } from '../survival/marginOf';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { noteSign } from './applyUnit';
import { poolUnknown, takenBack, withPool } from './applyPool';
import { bayName } from './bayName';
import type { Of } from './event';
import type { Pool, Told, UnitState } from './state';

/** Whether a unit serves a pool, in its own words: stopped, back, degraded, lost. Stopped is not lost. */

/** The unit does not serve it. Nothing is proven lost by that, and its drives stay where they are. */
export function stopPool(unit: UnitState, { pool: id, note }: Of<'pool-stopped'>, at: string): UnitState | Refusal {
  const pool = entryOf(unit.pools, id);
  return pool ? withPool(unit, { ...pool, stopped: told(at, note) }) : poolUnknown(unit, id);
}

/** Somebody states that its data is lost: what could be tried has been, or it was erased. */
export function giveUpPool(unit: UnitState, { pool: id, note }: Of<'pool-lost'>, at: string): UnitState | Refusal {
  const pool = entryOf(unit.pools, id);
  return pool ? withPool(unit, { ...pool, gone: told(at, note) }) : poolUnknown(unit, id);
}

/**
 * The unit serves it again, with the members it has taken back. Refused where more would still be missing than it survives,
 * and for "whole" while a member is missing: the record is put right first.
 */
export function bringPoolBack(unit: UnitState, event: Of<'pool-back'>, at: string): UnitState | Refusal {
  const { pool: id, how, serials, note } = event;
  const pool = entryOf(unit.pools, id);
  if (!pool) return poolUnknown(unit, id);
  const missing = pool.missing.filter((serial) => !serials.includes(serial));
  const isShort = factsOf(pool.scheme).loses === 'pool' && marginOf(pool.bands, new Set(missing)) < 0;
  if (missing.length > 0 && (isShort || how === 'whole'))
    return refusal(
      'still-missing',
      `By the record ${missing.map((serial) => whereIs(unit, serial)).join(', ')}: ${isShort ? `without that ${pool.name} is not served` : `${pool.name} is degraded so long, not whole`}. Record first where it is now.`,
      '/serials',
    );
  const back = takenBack(unit, pool, serials);
  if ('code' in back) return back;
  const { stopped: _stopped, gone: _gone, ...served } = entryOf(back.pools, id) as Pool;
  const after = withPool(back, served);
  const words = note === undefined || note === '' ? '' : `: ${note}`;
  if (how === 'damaged')
    return noteSign(
      after,
      { kind: 'sign-noted', note: `${pool.name} came back with files damaged${words}`.slice(0, 400) },
      at,
    );
  // It says that one is missing, and the record knows of none: somebody looks which.
  return how === 'degraded' && missing.length === 0
    ? noteSign(
        after,
        {
          kind: 'sign-noted',
          note: `Its page has ${pool.name} degraded, and the record has every member well${words}`.slice(0, 400),
        },
        at,
      )
    : after;
}

/** Missing members that may have been taken back: they stand in their bays, are not dead, and nothing is written onto another in their place. */
export function mayBeBack(unit: UnitState, pool: Pool): readonly string[] {
  return pool.missing.filter((serial) => {
    const drive = entryOf(unit.drives, serial);
    return (
      drive?.bay != null &&
      drive.condition !== 'failed' &&
      drive.condition !== 'out-of-service' &&
      !Object.values(unit.jobs).some(({ replaces }) => replaces === serial)
    );
  });
}

function told(at: string, note: string | undefined): Told {
  return { at, ...(note === undefined || note === '' ? {} : { note }) };
}

function whereIs(unit: UnitState, serial: string): string {
  const drive = entryOf(unit.drives, serial);
  if (drive?.bay == null) return `${serial} is out of the unit`;
  return `${bayName(unit, drive.bay)}, ${serial}, ${drive.condition === 'failed' ? 'has failed' : drive.condition === 'out-of-service' ? 'is out of service' : 'is missing'}`;
}
