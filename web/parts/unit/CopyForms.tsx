'use client';
import type { ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { poolsOf, type DataSet, type UnitState } from '~/core/unit/state';
import { freeName } from '~/core/unit/freeName';
import { isRefusal } from '~/core/value/refusal';
import { RadioField, SelectField, TickField } from '~/web/parts/form/fields/SelectField';
import { NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread } from '~/web/parts/form/sheet/useSheet';
import { useEventSheet, type Say } from '~/web/parts/record/useEventSheet';

interface Of {
  readonly unit: string;
  readonly version: number;
  readonly onSay: Say;
}

/** Something that is kept on the unit and has, or needs, a copy elsewhere. */
export function DataSetForm({ unit, version, state, onSay }: Of & { readonly state: UnitState }): ReactNode {
  const pools = poolsOf(state);
  const sheet = useEventSheet({
    unit,
    version,
    start: { name: '', pool: pools[0]?.id ?? '' },
    keep: `data set ${unit}`,
    event: ({ name, pool }) => ({
      kind: 'data-set-described',
      dataSet: freeName(state.dataSets, 'data'),
      name: name.trim(),
      ...(pool === '' ? {} : { pool }),
    }),
    says: ({ name }) => `data set ${name.trim()}`,
    onSay,
  });
  return (
    <Sheet of={sheet} sends="Write it down">
      <TextField
        label="What it is"
        name="name"
        required
        maxLength={60}
        autoFocus
        hint="Accounts, survey pictures, a volume of machines…"
      />
      <SelectField
        label="Where it lies"
        name="pool"
        options={[...pools.map(({ id, name }) => ({ value: id, words: name })), { value: '', words: 'the whole unit' }]}
      />
    </Sheet>
  );
}

/** Where a data set is kept once more. */
export function CopyForm({ unit, version, set, onSay }: Of & { readonly set: DataSet }): ReactNode {
  const sheet = useEventSheet({
    unit,
    version,
    start: { where: '', keeps: 'versions', offSite: false, days: '7', free: '' },
    keep: `copy ${unit} ${set.id}`,
    at: { days: '/everyDays', free: '/freeBytes' },
    event: ({ where, keeps, offSite, days, free }) => {
      const size = free.trim() === '' ? null : readSize(free);
      if (size !== null && isRefusal(size)) return unread({ free: size.sentence });
      return {
        kind: 'copy-described',
        dataSet: set.id,
        copy: freeName(set.copies, 'copy'),
        where: where.trim(),
        keeps: keeps === 'mirror' ? 'mirror' : 'versions',
        offSite,
        ...(days.trim() === '' ? {} : { everyDays: Number(days) }),
        ...(size === null ? {} : { freeBytes: size.bytes }),
      };
    },
    says: ({ where }) => `copy of ${set.name} at ${where.trim()}`,
    onSay,
  });
  return (
    <Sheet of={sheet} sends="Write it down">
      <TextField
        label="Where it is"
        name="where"
        required
        maxLength={120}
        autoFocus
        hint="Another unit, a rented store, a drive in the bank"
      />
      <RadioField
        label="What it keeps"
        name="keeps"
        options={[
          { value: 'versions', words: 'versions', detail: 'What was deleted can be fetched back.' },
          { value: 'mirror', words: 'a mirror', detail: 'It repeats deletions, and is no backup.' },
        ]}
      />
      <TickField name="offSite" words="off site" />
      <div className="grid grid-cols-2 gap-4">
        <NumberField label="Runs every" name="days" min={1} max={3650} unit="days" />
        <TextField label="Free there" name="free" placeholder="4.2 TiB" />
      </div>
    </Sheet>
  );
}
