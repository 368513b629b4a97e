import type { NeedForHands } from '../core/upkeep/needsHands';
import { drawerDrives } from '../store/driveLives';
import { readingsNow } from '../store/readings';
import { cardsFrom, needsNow, sitesOf, waitsNow, type PlaceCount, type StoredCard, type StoredWait } from '../store/shelf';
import type { App } from './app';

export interface CardOnShelf extends StoredCard {
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
}

export interface Shelf {
  readonly units: readonly CardOnShelf[];
  readonly sites: readonly PlaceCount[];
  readonly needs: readonly NeedForHands[];
  /** How many need hands in all. */
  readonly needsTotal: number;
}

/** A page of units with their latest fill, and what needs hands most. */
export async function readShelf(app: App, now: Date, site: string | undefined, from: number, most: number, mostNeeds: number): Promise<Shelf> {
  const [cards, sites, { needs, total }] = await Promise.all([cardsFrom(app.db, site, from, most), sitesOf(app.db), readNeeds(app, now, mostNeeds)]);
  const readings = await readingsNow(
    app.db,
    'used-bytes',
    cards.map(({ id }) => id),
  );
  const used = new Map<string, Record<string, number>>();
  for (const { unit, subject, value } of readings) used.set(unit, { ...used.get(unit), [subject]: value });
  return { units: cards.map((card) => ({ ...card, used: used.get(card.id) ?? {} })), sites, needs, needsTotal: total };
}

/** What needs hands now, held against the drawers. */
export async function readNeeds(app: App, now: Date, most: number, unit?: string): Promise<{ readonly needs: NeedForHands[]; readonly total: number }> {
  return needsNow(app.db, await drawerDrives(app.db), now.toISOString(), most, unit);
}

export type Wait = StoredWait;

/** Waits shown at the foot of every page. */
const MOST_WAITS = 8;

/** What is being waited for, over all units. */
export function readWaits(app: App): Promise<Wait[]> {
  return waitsNow(app.db, MOST_WAITS);
}
