import { timingSafeEqual } from 'node:crypto';
import { isUuid } from '../../core/value/isUuid';
import { nudge, saveSubscription, type Watch } from '../../store/watches';
import type { App } from '../app';
import { baseOf } from './baseOf';
import { UnitTrouble, type UnitDoor } from './unitDoor';

type Body = Readonly<Record<string, unknown>>;

/**
 * Has a unit tell us when something happens (DSP0266, eventing), where it can: it is asked then, at once. Nothing an event
 * says is believed; asking stays, for the event that is lost.
 */
export async function beTold(app: App, watch: Watch, door: UnitDoor): Promise<void> {
  if (watch.subscription === '') return;
  try {
    if (watch.subscription !== null && (await isThere(door, watch.subscription))) return;
    const root = bodyOf(await door.ask('GET', `${baseOf(watch.address)}/redfish/v1/`));
    const service = linkIn(root, 'EventService');
    const subscriptions = service === null ? null : linkIn(bodyOf(await door.ask('GET', service)), 'Subscriptions');
    if (subscriptions === null) return await saveSubscription(app.db, watch.unit, '');
    const made = bodyOf(
      await door.ask('POST', subscriptions, {
        Destination: tellingAddress(app, watch.unit),
        Protocol: 'Redfish',
        Context: 'Patient Shelf',
        EventFormatType: 'Event',
        SubscriptionType: 'RedfishEvent',
      }),
    );
    return await saveSubscription(app.db, watch.unit, text(made['@odata.id']) ?? '');
  } catch (error) {
    if (!(error instanceof UnitTrouble)) throw error;
    // It would not: it is asked as before, and not told to again until it is set anew.
    await saveSubscription(app.db, watch.unit, '');
  }
}

/** Ends it at the unit; one that does not answer forgets us by itself when it cannot reach us. */
export async function beToldNoMore(watch: Watch, door: UnitDoor): Promise<void> {
  if (watch.subscription === null || watch.subscription === '') return;
  await door.ask('DELETE', watch.subscription).catch(() => undefined);
}

/** Gone when the unit started anew. */
async function isThere(door: UnitDoor, subscription: string): Promise<boolean> {
  try {
    await door.ask('GET', subscription);
    return true;
  } catch (error) {
    if (error instanceof UnitTrouble && error.trouble.code === 'no-service') return false;
    throw error;
  }
}

/** Where a unit tells of events: an address nobody else can make. */
export function tellingAddress({ baseUrl, seal }: Pick<App, 'baseUrl' | 'seal'>, unit: string): string {
  return `${baseUrl}/told/${unit}.${seal.mark(unit)}`;
}

/** Told more often than this, it is only counted. */
const AT_MOST_EVERY_MS = 500;
const lately = new Map<string, { at: number; held: number }>();

/** An event has come to an address. Returns whether there is such an address. */
export async function told(app: App, secret: string, now = Date.now()): Promise<boolean> {
  const [unit = '', mark = ''] = secret.split('.');
  if (!isUuid(unit) || !isSame(mark, app.seal.mark(unit))) return false;
  const last = lately.get(unit);
  if (last && now - last.at < AT_MOST_EVERY_MS) {
    last.held++;
    return true;
  }
  lately.set(unit, { at: now, held: 0 });
  return nudge(app.db, unit, 1 + (last?.held ?? 0));
}

function isSame(a: string, b: string): boolean {
  return a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));
}

function bodyOf(of: unknown): Body {
  return typeof of === 'object' && of !== null ? (of as Body) : {};
}

function text(of: unknown): string | null {
  return typeof of === 'string' && of.startsWith('/') && of.length <= 400 ? of : null;
}

function linkIn(body: Body, name: string): string | null {
  return text(bodyOf(body[name])['@odata.id']);
}
