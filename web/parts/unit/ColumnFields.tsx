'use client';
import { useFormContext, useWatch } from 'react-hook-form';
import { useEffect, type ReactNode } from 'react';
import {
  PAGE_COLUMNS,
  usualColumns,
  type PageColumn,
  type PageColumns,
  type PageTable,
} from '~/core/observe/pageTable';
import { SelectField } from '~/web/parts/form/fields/SelectField';

/** No heading stands over it. */
export const NO_COLUMN = '\u0000none';

export const COLUMN_LABELS: Readonly<Record<PageColumn, string>> = {
  bay: 'Bay',
  enclosure: 'Enclosure',
  serial: 'Serial',
  size: 'Size',
  status: 'Condition',
};

export type ColumnValues = Readonly<Record<PageColumn, string>>;

/** Nothing chosen yet. */
export const NO_COLUMNS = Object.fromEntries(PAGE_COLUMNS.map((column) => [column, NO_COLUMN])) as ColumnValues;

/** Which column of a list is what: as it was kept, else as its headings say by themselves. */
export function ColumnFields({
  table,
  kept,
}: {
  readonly table: PageTable;
  readonly kept: PageColumns | null;
}): ReactNode {
  const { setValue, getValues } = useFormContext();
  const heads = table.head.filter((name) => name !== '');
  const known = heads.join('\t');
  useEffect(() => {
    const head = known.split('\t');
    const usual = usualColumns({ head });
    for (const column of PAGE_COLUMNS) {
      // What was chosen before the page was opened again stays chosen.
      if (head.includes(String(getValues(column)))) continue;
      const [was, says] = [kept?.[column], usual[column]];
      setValue(column, was !== undefined && head.includes(was) ? was : kept ? NO_COLUMN : (says ?? NO_COLUMN));
    }
  }, [known, kept, setValue, getValues]);
  const chosen = useWatch({ name: [...PAGE_COLUMNS] }) as readonly string[];
  return (
    <fieldset className="grid gap-3 border border-line bg-surface p-3">
      <legend className="px-1 font-semibold">Which column is what</legend>
      <div className="grid gap-3 sm:grid-cols-5">
        {PAGE_COLUMNS.map((column) => (
          <SelectField
            key={column}
            name={column}
            label={COLUMN_LABELS[column]}
            options={[{ value: NO_COLUMN, words: 'none' }, ...heads.map((name) => ({ value: name, words: name }))]}
          />
        ))}
      </div>
      <p className="text-sm text-muted">
        {!heads.includes(chosen[0] ?? '')
          ? 'Read line by line, as it stands, until it is said under which heading the bay is.'
          : heads.every((name) => chosen.includes(name))
            ? 'Every column is read.'
            : `Not read: ${heads.filter((name) => !chosen.includes(name)).join(', ')}.`}
      </p>
    </fieldset>
  );
}
