import { formatBytes } from '../quantity/formatBytes';
import type { DriveEvent } from './event';
import type { Whereabouts } from './life';

/** What an entry of a drive's own ledger says, in a sentence. */
export function driveEventWords(event: DriveEvent): string {
  const note = (text: string | undefined): string => (text === undefined || text === '' ? '' : `: ${text}`);
  switch (event.kind) {
    case 'described':
      return `Described: ${formatBytes(event.drive.bytes)}${event.drive.model === undefined ? '' : `, ${event.drive.model}`}.`;
    case 'received':
      return `Received${note(event.note)}.`;
    case 'put-in-drawer':
      return `Put into ${event.drawer.drawer}, ${event.drawer.site}, ${event.drawer.room}.`;
    case 'fitted':
      return `Fitted in ${event.place ?? `bay ${event.bay}`} of ${event.unitName}.`;
    case 'taken-out':
      return 'Taken out.';
    case 'tested':
      return `Tested: ${event.result}${note(event.note)}.`;
    case 'sent-under-warranty':
      return `Sent to ${event.to} under warranty${event.claim === undefined ? '' : `, claim ${event.claim}`}${note(event.note)}.`;
    case 'warranty-settled':
      return `Warranty settled${event.replacement === undefined ? '' : `, ${event.replacement} came for it`}${note(event.note)}.`;
    case 'wiped':
      return `Wiped (${event.method}) by ${event.by}: ${event.how}${event.checked === true ? ', checked' : ''}.`;
    case 'sent-away':
      return `Sent away to ${event.to}${note(event.note)}.`;
    case 'noted':
      return event.note;
    case 'taken-back':
      return `Taken back: ${event.reason}.`;
  }
}

/** The bay a drive stands in, as its unit counts it. */
export function inBay({ bay, place }: Extract<Whereabouts, { kind: 'bay' }>): string {
  return place ?? `bay ${bay}`;
}

/** Where a drive is, in a few words. */
export function whereWords(where: Whereabouts): string {
  switch (where.kind) {
    case 'in-hand':
      return 'in hand, not put anywhere yet';
    case 'drawer':
      return `${where.drawer}, ${where.site}, ${where.room}`;
    case 'bay':
      return `${where.unitName}, ${inBay(where)}`;
    case 'under-warranty':
      return `with ${where.to}, under warranty`;
    case 'gone':
      return `gone to ${where.to}`;
  }
}
