import type { Draft } from '../draftPlan';
import type { Commission } from './commission';

/** The step that arranges where the copy goes; of a pool that is named where there are several. */
export function backupArranged(pool?: string): Draft {
  return {
    id: 'backup',
    kind: 'record',
    title: 'Arrange the backup and write down where it goes',
    why: 'A pool is not a backup: fire, theft, deletion and overwriting take all members at once. One copy with versions, one off site.',
    asks: { kind: 'copy' },
    does: [{ kind: 'arrange-copy', ...(pool === undefined ? {} : { pool }) }],
  };
}

/** What is measured, labelled, backed up and written down while it is new. */
export function whileNew(
  { unit, draft: { add, under } }: Commission,
  { fits, volume, shares }: { readonly fits: readonly string[]; readonly volume: string; readonly shares: string },
): void {
  const { profile } = unit;
  const { software } = profile;
  under('While it is new');
  add({
    id: 'speed',
    kind: 'record',
    title: 'Measure its speed with one large file each way',
    why: 'To know later what slow is.',
    asks: { kind: 'speed' },
    does: [{ kind: 'measure-speed' }],
    after: [volume],
    maySkip: true,
  });
  add({
    id: 'labels',
    title: 'Print labels for unit, bays and drives and stick them on',
    why: 'The last four of a serial, read with the bay open and the lamp in the other hand.',
    does: [{ kind: 'confirm', check: 'labels-printed' }],
    after: fits,
    maySkip: true,
  });
  add({ ...backupArranged(), after: [shares] });
  if (software.configurationExport)
    add({
      id: 'configuration',
      title: 'Export the configuration and keep it elsewhere',
      why: 'It restores users and settings onto a unit that was reset.',
      after: [shares],
      maySkip: true,
    });
  if (profile.roaming.flashStick)
    add({
      id: 'flash-stick',
      kind: 'record',
      title: 'Copy the flash stick; photograph which drive has which role',
      asks: { kind: 'picture' },
      why: 'The system and its licence live on it. Without the stick and the roles the drives are a puzzle.',
      after: [shares],
    });
  add({
    id: 'call',
    kind: 'record',
    title: 'Write down who is called when it beeps',
    why: 'The person at the shelf is rarely the one who set it up.',
    asks: { kind: 'text', label: 'Name and number' },
    does: [{ kind: 'write-down', field: 'call' }],
    maySkip: true,
  });
}
