import type { NeedForHands } from '../../core/upkeep/need';
import { causesOf, type Cause } from '../../core/upkeep/causes';
import { compareWaits } from '../../core/upkeep/waitOrder';
import { usedOf } from '../../store/readings';
import {
  cardsFrom,
  needsNow,
  retiredUnits,
  sitesOf,
  waitsNow,
  type PlaceCount,
  type StoredCard,
  type StoredWait,
} from '../../store/shelf';
import type { KeptCause } from '../../core/tell/followCauses';
import { openCauses } from '../../store/causes';
import type { Message } from '../../store/messages';
import { tellRules } from '../../store/tellRules';
import { silentSince } from '../tell/whetherAlive';
import type { App } from '../app';
import { readMessages } from '../upkeep/messages';

export interface CardOnShelf extends StoredCard {
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
}

/** A cause as people are told of it, and who has seen it. */
export type SeenCause = Pick<KeptCause, 'id' | 'changedAt' | 'seenAt' | 'seenBy'>;

export interface Shelf {
  readonly units: readonly CardOnShelf[];
  readonly sites: readonly PlaceCount[];
  /** What needs hands most, one row a cause. */
  readonly causes: readonly Cause[];
  /** Who looks after which of them, by `unit root`. */
  readonly seen: Readonly<Record<string, SeenCause>>;
  /** Somebody is told of what happens here, by mail or by a program. */
  readonly isAnybodyTold: boolean;
  /** Since when what listens and tells has been silent; `null` while it is not. */
  readonly silentSince: string | null;
  /** How much needs hands in all. */
  readonly needsTotal: number;
  /** What people were told lately, newest first. */
  readonly messages: readonly Message[];
  /** Units that are out of use. */
  readonly retired: readonly { readonly id: string; readonly name: string }[];
}

const MOST_MESSAGES = 4;

/** A page of units with their latest fill, and what needs hands most. */
export async function readShelf(
  app: App,
  now: Date,
  site: string | undefined,
  from: number,
  most: number,
  mostNeeds: number,
): Promise<Shelf> {
  const [cards, sites, { needs, total }, messages, retired, open, rules, silent] = await Promise.all([
    cardsFrom(app.db, site, from, most),
    sitesOf(app.db),
    readNeeds(app, now, mostNeeds),
    readMessages(app, now, MOST_MESSAGES),
    retiredUnits(app.db),
    openCauses(app.db),
    tellRules(app.db),
    silentSince(app),
  ]);
  const used = await usedOf(
    app.db,
    cards.flatMap(({ card }) => card.pools.map(({ id }) => id)),
  );
  const ofCard = ({ card }: StoredCard): Record<string, number> =>
    Object.fromEntries(card.pools.flatMap(({ id }) => (used[id] === undefined ? [] : [[id, used[id]]])));
  return {
    units: cards.map((card) => ({ ...card, used: ofCard(card) })),
    sites,
    causes: causesOf(needs),
    seen: Object.fromEntries(
      open.map(({ id, unit, root, changedAt, seenAt, seenBy }) => [
        `${unit} ${root}`,
        { id, changedAt, seenAt, seenBy },
      ]),
    ),
    isAnybodyTold: rules.some(({ isOn }) => isOn),
    silentSince: silent,
    needsTotal: total,
    messages,
    retired,
  };
}

/** What needs hands now. */
export function readNeeds(
  app: App,
  now: Date,
  most: number,
  unit?: string,
): Promise<{ readonly needs: NeedForHands[]; readonly total: number }> {
  return needsNow(app.db, now.toISOString(), most, unit);
}

export type Wait = StoredWait;

/** Waits shown at the foot of every page. */
const MOST_WAITS = 8;
/** As many are looked through for the most urgent. */
const MOST_RUNNING = 400;

/** What is being waited for, over all units; the most urgent first. */
export async function readWaits(app: App): Promise<Wait[]> {
  return (await waitsNow(app.db, MOST_RUNNING)).sort(compareWaits).slice(0, MOST_WAITS);
}
