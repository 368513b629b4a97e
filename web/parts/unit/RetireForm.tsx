'use client';
import type { ReactNode } from 'react';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useEventSheet, type Say } from '~/web/parts/record/useEventSheet';

/** A unit goes out of use: what became of it and of its licence. */
export function RetireForm({
  unit,
  version,
  name,
  onSay,
}: {
  readonly unit: string;
  readonly version: number;
  readonly name: string;
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
