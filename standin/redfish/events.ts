import type { Truth } from '../truth';
import { resourcesOf, type Body } from './resources';

/** Something a unit tells whoever asked to be told: a message of the standard's ResourceEvent registry. */
export interface Told {
  readonly messageId: string;
  readonly severity: 'OK' | 'Warning' | 'Critical';
  readonly message: string;
  readonly origin: string;
}

/** What has changed from one moment to another that a listener hears of: a status, a drive, work begun or ended. */
export function toldBetween(before: Truth, after: Truth): Told[] {
  if (before.unit === after.unit || isQuiet(before, after)) return [];
  const [was, is] = [resourcesOf(before, 0, 0), resourcesOf(after, 0, 0)];
  const told: Told[] = [];
  for (const [path, body] of is) {
    const old = was.get(path);
    const now = statusOf(body);
    if (old && statusOf(old).text !== now.text)
      told.push({
        messageId: `ResourceEvent.1.3.ResourceStatusChanged${now.health}`,
        severity: now.health,
        message: `The health of resource ${path} has changed to ${now.health}.`,
        origin: path,
      });
    else if (old && changes(old) !== changes(body))
      told.push({
        messageId: 'ResourceEvent.1.3.ResourceChanged',
        severity: 'OK',
        message: 'One or more resource properties have changed.',
        origin: path,
      });
  }
  return told;
}

/** Nothing but work going on. */
function isQuiet({ unit: a }: Truth, { unit: b }: Truth): boolean {
  return (
    a.drives === b.drives &&
    a.parts === b.parts &&
    a.away === b.away &&
    a.pools === b.pools &&
    Object.keys(a.jobs).join() === Object.keys(b.jobs).join()
  );
}

function statusOf(body: Body): { readonly text: string; readonly health: Told['severity'] } {
  const status = (body['Status'] ?? {}) as { State?: string; Health?: Told['severity'] };
  const isGone = status.State === 'Absent' || status.State === 'UnavailableOffline';
  return { text: JSON.stringify(status), health: status.Health ?? (isGone ? 'Warning' : 'OK') };
}

function changes({ SerialNumber: serial, Operations: operations }: Body): string {
  return JSON.stringify([serial, Array.isArray(operations) ? operations.length : 0]);
}

/** The event as it is posted (DSP0268, Event). */
export function eventBody(told: readonly Told[], id: string, context: string | null, at: string, base: string): Body {
  return {
    '@odata.type': '#Event.v1_10_1.Event',
    Id: id,
    Name: 'Events',
    ...(context === null ? {} : { Context: context }),
    Events: told.map(({ messageId, severity, message, origin }, i) => ({
      EventType: 'Alert',
      EventId: `${id}.${String(i)}`,
      MemberId: String(i),
      EventTimestamp: at,
      MessageId: messageId,
      Message: message,
      MessageSeverity: severity,
      OriginOfCondition: { '@odata.id': base + origin },
    })),
  };
}
