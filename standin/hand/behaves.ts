import { mayBeBack } from '../../core/unit/applyPoolServed';
import { apply } from '../../core/unit/apply';
import type { UnitEvent } from '../../core/unit/event';
import { isDown } from '../../core/unit/margin';
import { eventsOfPoolSaid, type PoolSays } from '../../core/unit/poolSaid';
import { poolOfDrive, poolsOf, type Pool } from '../../core/unit/state';
import { frozen } from '../../core/value/frozen';
import { isRefusal } from '../../core/value/refusal';
import { done, type Truth } from '../truth';

/** What a unit does by itself when hands are at it: through the same model as everything, with no rule of its own. */

function happened(truth: Truth, event: UnitEvent): Truth {
  const unit = apply(truth.unit, event, new Date(truth.livedTo).toISOString());
  return isRefusal(unit) ? truth : frozen<Truth>({ ...truth, unit });
}

/** A tray is pulled; whatever stands in it is out. */
export function pulled(truth: Truth, bay: string): Truth {
  const after = done(truth, { do: 'pull', bay });
  return isRefusal(after) ? truth : after;
}

/**
 * A drive is pushed home. One of a pool that still runs is taken back whole by a unit that remembers what was written
 * meanwhile, and counted as missing by one that does not; a pool that has stopped stays so until the unit is restarted.
 */
export function pushed(truth: Truth, bay: string, serial: string, bytes: number, remembers: boolean): Truth {
  const after = done(truth, { do: 'insert', bay, serial, bytes });
  if (isRefusal(after)) return truth;
  const pool = poolOfDrive(after.unit, serial);
  return pool &&
    // Out and back while it is off, it never knew.
    (remembers || after.unit.power === 'off') &&
    !isDown(pool) &&
    pool.missing.includes(serial) &&
    mayBeBack(after.unit, pool).includes(serial)
    ? happened(after, { kind: 'pool-restored', pool: pool.id, serials: [serial] })
    : after;
}

/** It is switched off and on: pools that had stopped come back with what stands in their bays and works, if that is enough. */
export function restarted(truth: Truth): Truth {
  let now = truth;
  if (now.unit.power === 'on') now = happened(now, { kind: 'power', on: false });
  now = happened(now, { kind: 'power', on: true });
  for (const pool of poolsOf(now.unit)) {
    if (!isDown(pool)) continue;
    for (const event of eventsOfPoolSaid(now.unit, pool, 'healthy')) now = happened(now, event);
  }
  return now;
}

/** It is switched. On again it is as after a restart. */
export function switched(truth: Truth, on: boolean): Truth {
  return on ? restarted(truth) : happened(truth, { kind: 'power', on: false });
}

/** A command given in its page. */
export function told(truth: Truth, event: UnitEvent): Truth {
  return happened(truth, event);
}

/** What its page says of a pool. */
export function pageOf({ unit }: Truth, id: string): PoolSays {
  const pool = unit.pools[id] as Pool;
  if (isDown(pool)) return 'stopped';
  return pool.missing.length > 0 ? 'degraded' : 'healthy';
}
