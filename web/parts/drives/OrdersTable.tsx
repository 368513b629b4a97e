import type { ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { DriveOrder } from '~/service/drives/readDrives';
import { DataTable, type Column, type ListAddress } from '~/web/parts/table/DataTable';
import { Moment } from '~/web/parts/unit/Moment';
import { CloseOrder } from './OrderButtons';

const COLUMNS: readonly Column<DriveOrder>[] = [
  {
    id: 'what',
    head: 'What',
    value: ({ drive }) => drive.bytes,
    cell: whatWords,
    words: whatWords,
  },
  { id: 'supplier', head: 'From', value: ({ supplier }) => supplier },
  {
    id: 'ordered',
    head: 'Ordered',
    value: ({ orderedAt }) => orderedAt,
    cell: ({ orderedAt }) => <Moment at={orderedAt} />,
  },
  {
    id: 'come',
    head: 'Come',
    value: ({ received, count }) => received / count,
    cell: ({ received, count }) => `${String(received)} of ${String(count)}`,
    words: () => '',
  },
  { id: 'expected', head: 'Expected', value: ({ expectedOn }) => expectedOn },
  { id: 'closed', head: 'Closed', value: ({ closed }) => closed },
];

const CLOSING: Column<DriveOrder> = {
  id: 'closing',
  head: 'Nothing more of it',
  value: () => null,
  words: () => '',
  cell: ({ id, supplier, closed, received, count }) =>
    closed === null && received < count ? <CloseOrder id={id} supplier={supplier} /> : null,
};

function whatWords({ count, drive }: DriveOrder): string {
  return [`${String(count)} × ${formatBytes(drive.bytes)}`, drive.model].filter(Boolean).join(' ');
}

/** What was ordered, what has come of it, and what is closed. */
export function OrdersTable({
  orders,
  mayRecord,
  ...list
}: ListAddress & { readonly orders: readonly DriveOrder[]; readonly mayRecord: boolean }): ReactNode {
  return orders.length === 0 ? (
    <p className="text-muted">Nothing is on order.</p>
  ) : (
    <DataTable
      label="Orders"
      columns={mayRecord ? [...COLUMNS, CLOSING] : COLUMNS}
      rows={orders}
      keyOf={({ id }) => id}
      {...list}
    />
  );
}
