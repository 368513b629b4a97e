import type { FromSchema } from 'json-schema-to-ts';
import type { Media } from '../../core/drive/media';
import { mergeInto, type Merge } from '../../core/move/merge';
import { servesOthers, waysToMove, type WayToMove } from '../../core/move/waysToMove';
import { whyOldNotAdded } from '../../core/plan/makers/move/copyOver';
import { partsOf } from '../../core/plan/makers/move/splitOff';
import type { Profile } from '../../core/platform/profile';
import { slowestMedia } from '../../core/unit/slowestMedia';
import { describedUnit } from '../../core/unit/describedUnit';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import { mergeSchema, moveSchema } from '../../schemas/moveRequest';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { operationTaking } from '../door/operation';
import { planned, SAME_UNIT, shownRun, type PlanTried } from '../plans/planOperations';
import { readKnown } from '../plans/readKnown';
import { profileOf } from '../settings/profiles';
import { readUsed } from '../units/readUnit';
import { findUnit } from '../units/findUnit';

type Way = WayToMove['way'];

export interface Move {
  readonly ways: readonly WayToMove[];
  /** What the drives of both are. */
  readonly media: readonly [Media, Media];
  /** The plan of the way that was asked for, where it is possible; or why it is not begun now, as while another runs. */
  readonly tried?: PlanTried | Refusal;
  /** Of a copy: why the old drive cannot become the second of the new pool; left out where it can. */
  readonly oldStays?: string;
  /** What may be copied by itself. */
  readonly parts?: readonly { readonly id: string; readonly name: string }[];
  /** Of a copy: the newer one keeps its own name and address. */
  readonly joins?: boolean;
}

/** How one unit can be moved to another, with what is in use as it was last read; and the plan of one way. */
export async function readMove(
  app: App,
  {
    from,
    to,
    way,
    addOld,
    joins,
    dataSets,
    hoursPerDay,
  }: {
    readonly from: string;
    readonly to: string | DescribedTo;
    readonly way?: Way | undefined;
    readonly addOld?: boolean | undefined;
    readonly joins?: boolean | undefined;
    readonly dataSets?: readonly string[] | undefined;
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
  const ways = waysToMove(old.state, newer.state, used, {
    ...(hoursPerDay === undefined ? {} : { hoursPerDay }),
    ...(joins === undefined ? {} : { joins }),
  });
  if (isRefusal(ways)) return ways;
  const parts = partsOf(old.state).map(({ id, name }) => ({ id, name }));
  const media = [slowestMedia(old.state), slowestMedia(newer.state)] as const;
  if (way === undefined || (dataSets === undefined && !ways.some((one) => one.way === way && one.possible)))
    return { ways, media, parts };
  const plan = await planned(
    app,
    old,
    'move',
    {
      to: newer.id,
      way,
      ...(addOld === undefined ? {} : { addOld }),
      ...(joins === undefined ? {} : { joins }),
      ...(dataSets === undefined ? {} : { dataSets: [...dataSets] }),
    },
    newer,
  );
  const oldStays = whyOldNotAdded({ old: old.state, newer: newer.state, used });
  const stays = oldStays === undefined ? {} : { oldStays };
  const joined = joins ?? servesOthers(newer.state, used);
  return {
    ways,
    media,
    parts,
    ...stays,
    joins: joined,
    tried: isRefusal(plan) ? plan : shownRun([old, newer], plan, now, known),
  };
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
  return isRefusal(ways) ? ways : { ways, media: [slowestMedia(old.state), slowestMedia(newer)] };
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

/** Several units that are to be one: in which order they join it, whether there is room, and what stands in the way. */
export async function readMerge(
  app: App,
  { to, from }: FromSchema<typeof mergeSchema>,
): Promise<{ readonly merge: Merge; readonly to: StoredUnit } | Refusal> {
  const target = await findUnit(app, to);
  if (isRefusal(target)) return { ...target, pointer: '/to' };
  const units: StoredUnit[] = [];
  for (const [i, id] of from.entries()) {
    const unit = await findUnit(app, id);
    if (isRefusal(unit)) return { ...unit, pointer: `/from/${String(i)}` };
    units.push(unit);
  }
  const merge = mergeInto(target, units, await readUsed(app, target, ...units));
  return isRefusal(merge) ? merge : { merge, to: target };
}

const merging = operationTaking<FromSchema<typeof mergeSchema>>(mergeSchema)({
  method: 'POST',
  path: '/plans/merge',
  summary:
    'How several units become one: the order in which they join it, each by a plan of its own, room, hours, and names that are taken there',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, body }) => {
    const found = await readMerge(app, body);
    if (isRefusal(found)) return found;
    const { joining, hours } = found.merge;
    return { joining: [...joining], hours };
  },
});

export const moving = [ways, merging];
