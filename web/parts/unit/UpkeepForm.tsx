'use client';
import type { ReactNode } from 'react';
import { freeName } from '~/core/unit/freeName';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { DateField, NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useEventSheet, type Say } from '~/web/parts/record/useEventSheet';

const UNITS = ['day', 'week', 'month', 'year', 'once'] as const;
type Unit = (typeof UNITS)[number];

interface Props {
  readonly unit: string;
  readonly version: number;
  /** What is planned by now, by name. */
  readonly taken: Readonly<Record<string, unknown>>;
  readonly today: string;
  readonly onSay: Say;
}

/** Something to do to a unit again and again, or once. */
export function UpkeepForm({ unit, version, taken, today, onSay }: Props): ReactNode {
  const sheet = useEventSheet({
    unit,
    version,
    start: { title: '', every: '1', of: 'month', from: today },
    keep: `upkeep ${unit}`,
    at: { title: '/tasks/0/title', every: '/tasks/0/every', of: '/tasks/0/unit', from: '/tasks/0/from' },
    event: ({ title, every, of, from }) => ({
      kind: 'upkeep-planned',
      tasks: [{ id: freeName(taken, 'task'), title: title.trim(), every: Number(every), unit: of as Unit, from }],
    }),
    says: ({ title }) => title.trim(),
    onSay,
  });
  return (
    <Sheet of={sheet} sends="Plan it">
      <TextField label="What" name="title" required maxLength={60} autoFocus />
      <div className="grid grid-cols-3 gap-4">
        <NumberField label="Every" name="every" min={1} max={1000} required />
        <SelectField
          label="Unit"
          name="of"
          options={UNITS.map((of) => ({ value: of, words: of === 'once' ? 'once, on that day' : `${of}s` }))}
        />
        <DateField label="From, or on" name="from" required />
      </div>
    </Sheet>
  );
}
