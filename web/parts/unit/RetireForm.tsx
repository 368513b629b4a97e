'use client';
import type { ReactNode } from 'react';
import type { HoldingDrive } from '~/service/drives/readDrives';
import { Notice } from '~/web/parts/form/Notice';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { StillOn } from './StillOn';
import { useEventSheet, type Say } from '~/web/parts/record/useEventSheet';

/** A unit goes out of use: what became of it and of its licence. */
export function RetireForm({
  unit,
  version,
  name,
  holding,
  onSay,
}: {
  readonly unit: string;
  readonly version: number;
  readonly name: string;
  readonly holding: readonly HoldingDrive[];
  readonly onSay: Say;
}): ReactNode {
  const sheet = useEventSheet({
    unit,
    version,
    start: { note: '' },
    keep: `retire ${unit}`,
    event: ({ note }) => ({ kind: 'unit-retired', ...(note.trim() === '' ? {} : { note: note.trim() }) }),
    says: () => `${name} retired`,
    onSay,
  });
  return (
    <Sheet of={sheet} sends="Retire it">
      <p>
        It stands on the shelf no more; its ledger stays, and its address is free. Each drive that was in it says on its
        own page what became of it: wiped (clear, purge or destroy, by whom, how it was checked), kept, or in another
        unit.
      </p>
      {holding.length > 0 && (
        <Notice
          grave
          title={`${holding.length === 1 ? 'One drive still holds' : `${String(holding.length)} drives still hold`} data of ${name}`}
        >
          <StillOn holding={holding} />
          <p>
            Wiped first, or kept on purpose where nobody else comes by: what leaves the house unwiped takes it along.
          </p>
        </Notice>
      )}
      <TextField
        label="What became of it, and of its licence"
        name="note"
        maxLength={400}
        autoFocus
        hint="Given away, to e-waste; licence moved with the stick. Electronic waste is handed in by local rules."
      />
    </Sheet>
  );
}
