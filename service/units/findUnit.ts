import type { Pool } from '../../core/unit/state';
import { poolUnknown } from '../../core/unit/applyPool';
import { entryOf } from '../../core/value/entryOf';
import { isUuid } from '../../core/value/isUuid';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { unitById, type StoredUnit } from '../../store/units';
import type { App } from '../app';
import { about } from '../door/about';
import type { Asked } from '../door/operation';

const noUnit = refusal('not-found', 'There is no unit at this address.');

/** A unit by its id; anything that is no id finds nothing. */
export async function findUnit(app: App, id: string | undefined): Promise<StoredUnit | Refusal> {
  return isUuid(id) ? ((await unitById(app.db, id)) ?? noUnit) : noUnit;
}

interface UnitPool {
  readonly unit: StoredUnit;
  readonly pool: Pool;
}

/** An operation about the unit of its path. */
export const aboutUnit = about(({ app, params }) => findUnit(app, params['id']));

/** An operation about the pool its body names, in the unit of its path. */
export const aboutPool = about(
  async ({ app, params, body }: Asked<{ readonly pool: string }>): Promise<UnitPool | Refusal> => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const pool = entryOf(unit.state.pools, body.pool);
    return pool ? { unit, pool } : poolUnknown(unit.state, body.pool);
  },
);
