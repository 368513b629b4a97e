import type { FromSchema } from 'json-schema-to-ts';
import { waysToMove, type WayToMove } from '../../core/move/waysToMove';
import { whyOldNotAdded } from '../../core/plan/makers/move/copyOver';
import type { Profile } from '../../core/platform/profile';
import { describedUnit } from '../../core/unit/describedUnit';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import { moveSchema } from '../../schemas/moveRequest';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { operationTaking } from '../door/operation';
import { planned, SAME_UNIT, shownRun, type PlanTried } from '../plans/planOperations';
import { readKnown } from '../plans/readKnown';
import { profileOf } from '../settings/profiles';
import { readUsed } from '../units/readUnit';
import { findUnit } from '../units/unitOperations';

type Way = WayToMove['way'];

export interface Move {
  readonly ways: readonly WayToMove[];
  /** The plan of the way that was asked for, where it is possible; or why it is not begun now, as while another runs. */
  readonly tried?: PlanTried | Refusal;
  /** Of a copy: why the old drive cannot become the second of the new pool; left out where it can. */
  readonly oldStays?: string;
}

/** How one unit can be moved to another, with what is in use as it was last read; and the plan of one way. */
export async function readMove(
  app: App,
  {
    from,
    to,
    way,
    addOld,
    hoursPerDay,
  }: {
    readonly from: string;
    readonly to: string | DescribedTo;
    readonly way?: Way | undefined;
    readonly addOld?: boolean | undefined;
    readonly hoursPerDay?: number | undefined;
  },
  now: Date,
): Promise<Move | Refusal> {
  const old = await findUnit(app, from);
  if (isRefusal(old)) return { ...old, pointer: '/from' };
  if (typeof to !== 'string') return waysToDescribed(app, old, to, hoursPerDay, now);
  const newer = await findUnit(app, to);
  if (isRefusal(newer)) return { ...newer, pointer: '/to' };
  if (old.id === newer.id) return SAME_UNIT;
  const known = await readKnown(app, [old, newer], now);
  const { used } = known;
  const ways = waysToMove(old.state, newer.state, used, hoursPerDay === undefined ? {} : { hoursPerDay });
  if (isRefusal(ways)) return ways;
  if (way === undefined || !ways.some((one) => one.way === way && one.possible)) return { ways };
  const plan = await planned(
    app,
    old,
    'move',
    { to: newer.id, way, ...(addOld === undefined ? {} : { addOld }) },
    newer,
  );
  const oldStays = whyOldNotAdded({ old: old.state, newer: newer.state, used });
  const stays = oldStays === undefined ? {} : { oldStays };
  return { ways, ...stays, tried: isRefusal(plan) ? plan : shownRun([old, newer], plan, now, known) };
}

/** A unit that is not on the shelf yet. */
export interface DescribedTo {
  /** A profile's id, or a whole one. */
  readonly profile: string | Profile;
  readonly bays: number;
  readonly name?: string;
}

async function waysToDescribed(
  app: App,
  old: StoredUnit,
  { profile: asked, bays, name = 'Newer unit' }: DescribedTo,
  hoursPerDay: number | undefined,
  now: Date,
): Promise<Move | Refusal> {
  const profile = await profileOf(app, asked);
  if (isRefusal(profile)) return { ...profile, pointer: '/to/profile' };
  const newer = describedUnit({ name, profile, bays }, now.toISOString());
  if (isRefusal(newer)) return { ...newer, pointer: '/to' };
  const ways = waysToMove(old.state, newer, await readUsed(app, old), {
    isOnShelf: false,
    ...(hoursPerDay === undefined ? {} : { hoursPerDay }),
  });
  return isRefusal(ways) ? ways : { ways };
}

const ways = operationTaking<FromSchema<typeof moveSchema>>(moveSchema)({
  method: 'POST',
  path: '/plans/move',
  summary:
    'How an old unit can be moved to a newer one: what is possible, why not, how long, and where there is no way back; and, where one way is asked for and possible, its plan, tried without recording anything',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, body, now }) => {
    const found = await readMove(app, body as typeof body & { readonly to: string | DescribedTo }, now);
    if (isRefusal(found)) return found;
    const { ways: all, tried } = found;
    if (tried && isRefusal(tried)) return tried;
    const asked = all.filter(({ way }) => body.way === undefined || way === body.way);
    return { ways: asked.map(({ kind: _kind, ...one }) => one), ...tried };
  },
});

export const moving = [ways];
