import type { FromSchema } from 'json-schema-to-ts';
import { waysToMove, type WayToMove } from '../../core/move/waysToMove';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { moveSchema } from '../../schemas/moveRequest';
import { usedOf } from '../../store/readings';
import type { App } from '../app';
import { operationTaking } from '../door/operation';
import { findUnit } from '../units/unitOperations';

/** How one unit can be moved to another, with what is in use as it was last read. */
export async function readWaysToMove(app: App, from: string, to: string): Promise<readonly WayToMove[] | Refusal> {
  const [old, newer] = [await findUnit(app, from), await findUnit(app, to)];
  if (isRefusal(old)) return { ...old, pointer: '/from' };
  if (isRefusal(newer)) return { ...newer, pointer: '/to' };
  if (old.id === newer.id) return refusal('same-unit', 'A unit is not moved to itself: name the other.', '/to');
  const pools = [...Object.keys(old.state.pools), ...Object.keys(newer.state.pools)];
  return waysToMove(old.state, newer.state, await usedOf(app.db, pools));
}

const ways = operationTaking<FromSchema<typeof moveSchema>>(moveSchema)({
  method: 'POST',
  path: '/plans/move',
  summary:
    'How an old unit can be moved to a newer one: what is possible, why not, how long, and where there is no way back',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, body }) => {
    const found = await readWaysToMove(app, body.from, body.to);
    if (isRefusal(found)) return found;
    const asked = found.filter(({ way }) => body.way === undefined || body.way === way);
    return { ways: asked.map(({ kind: _kind, ...one }) => one) };
  },
});

export const moving = [ways];
