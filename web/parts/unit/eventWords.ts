import type { UnitEvent } from '~/core/unit/event';
import { formatBytes } from '~/core/quantity/formatBytes';
import { factsOf } from '~/core/layout/scheme';

/** What an entry of the ledger says, in a sentence. */
export function eventWords(event: UnitEvent): string {
  switch (event.kind) {
    case 'unit-registered':
      return `Put on the shelf as ${event.name}: ${event.place.site}, ${event.place.room}; ${event.profile.name}.`;
    case 'drive-inserted':
      return `${event.drive.serial} (${formatBytes(event.drive.bytes)}) put into bay ${event.bay}.`;
    case 'drive-removed':
      return `${event.serial} taken out.`;
    case 'drive-suspected':
      return `${event.serial} is showing signs: ${event.note}.`;
    case 'drive-failed':
      return `${event.serial} failed${event.note === undefined ? '' : `: ${event.note}`}.`;
    case 'drive-taken-out-of-service':
      return `${event.serial} taken out of service.`;
    case 'pool-created':
      return `${event.name} made: ${factsOf(event.scheme).name}, ${formatBytes(event.usableBytes)} usable.`;
    case 'job-started':
      return event.task === 'rebuild'
        ? `Rebuild started onto ${event.onto ?? 'the new drive'}.`
        : event.task === 'scrub'
          ? 'Check read started.'
          : 'First build started.';
    case 'job-progressed':
      return `${String(event.percent)} % done.`;
    case 'job-finished':
      return 'Finished.';
    case 'job-aborted':
      return 'Stopped before its end.';
  }
}
