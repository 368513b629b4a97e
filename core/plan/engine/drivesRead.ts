import { serialKey } from '../../drive/serial';
import type { StepEvidence } from '../plan';
import { driveFacts, type DriveFacts } from './driveFacts';

/** What was given for the steps of a plan. */
export type Given = Readonly<Record<string, { readonly evidence?: StepEvidence | undefined }>>;

/** Every drive whose size was read off it in a plan, in the order in which they were read. */
export function drivesRead(done: Given): readonly (DriveFacts & { readonly serial: string })[] {
  return Object.values(done).flatMap(({ evidence }) => {
    if (evidence?.kind === 'drives')
      return evidence.drives.map((one) => ({ serial: serialKey(one.serial), ...driveFacts(one) }));
    const alone = evidence?.kind === 'serial' ? [evidence] : evidence?.kind === 'scans' ? evidence.scans : [];
    return alone.flatMap(({ serial, drive }) =>
      drive === undefined ? [] : { serial: serialKey(serial), ...driveFacts(drive) },
    );
  });
}
