import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { Copy } from '~/core/unit/state';
import { DataTable, type Column, type ListAddress } from '~/web/parts/table/DataTable';
import { Moment } from '~/web/parts/unit/Moment';

/** A data set and one of its copies; what is wrong with it stands at its first. */
export interface CopyRow {
  readonly unit: string;
  readonly unitName: string;
  readonly name: string;
  readonly copy: Copy | null;
  readonly troubles: readonly { readonly reason: string }[];
}

const COLUMNS: readonly Column<CopyRow>[] = [
  {
    id: 'set',
    head: 'Data set',
    value: ({ name }) => name,
    words: ({ name, troubles }) => `${name} ${troubles.map(({ reason }) => reason).join(' ')}`,
    cell: ({ name, troubles }) => (
      <>
        <strong>{name}</strong>
        {troubles.map(({ reason }) => (
          <span key={reason} className="block text-base text-watch">
            {reason}
          </span>
        ))}
      </>
    ),
  },
  {
    id: 'unit',
    head: 'Unit',
    value: ({ unitName }) => unitName,
    cell: ({ unit, unitName }) => (
      <Link href={`/units/${unit}?view=copies`} className="underline decoration-line">
        {unitName}
      </Link>
    ),
  },
  {
    id: 'copy',
    head: 'Copy',
    value: ({ copy }) => (copy ? `${copy.where}, ${copy.offSite ? 'off site' : 'on site'}` : 'none'),
  },
  { id: 'keeps', head: 'Keeps', value: ({ copy }) => copy?.keeps ?? null },
  {
    id: 'ran',
    head: 'Last ran',
    value: ({ copy }) => copy?.ranAt ?? null,
    cell: ({ copy }) => copy && (copy.ranAt === undefined ? 'never seen' : <Moment at={copy.ranAt} relative />),
  },
  {
    id: 'restored',
    head: 'Restore tried',
    value: ({ copy }) => copy?.restoreTriedAt ?? null,
    cell: ({ copy }) =>
      copy && (
        <>
          {copy.restoreTriedAt === undefined ? 'never' : <Moment at={copy.restoreTriedAt} relative />}
          {copy.restoreWorked === false && ', failed'}
        </>
      ),
  },
  {
    id: 'free',
    head: 'Free there',
    value: ({ copy }) => copy?.freeBytes ?? null,
    cell: ({ copy }) => (copy?.freeBytes === undefined ? '' : formatBytes(copy.freeBytes, 'binary')),
    isFigure: true,
  },
];

/** Every data set and where it is kept once more. */
export function CopiesTable({ rows, ...address }: { readonly rows: readonly CopyRow[] } & ListAddress): ReactNode {
  return (
    <DataTable
      label="Copies"
      columns={COLUMNS}
      rows={rows}
      keyOf={({ unit, name, copy }) => `${unit} ${name} ${copy?.id ?? ''}`}
      {...address}
    />
  );
}
