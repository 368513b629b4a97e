'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { DriveOrder } from '~/service/drives/readDrives';
import { Button } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import { Moment } from '~/web/parts/unit/Moment';

const OrderForm = dynamic(() => import('./OrderForms').then((part) => part.OrderForm), { ssr: false });
const CloseOrderForm = dynamic(() => import('./OrderForms').then((part) => part.CloseOrderForm), { ssr: false });

/** What was ordered, what has come of it, and what is closed. */
export function Orders({
  orders,
  mayRecord,
}: {
  readonly orders: readonly DriveOrder[];
  readonly mayRecord: boolean;
}): ReactNode {
  const [doing, setDoing] = useState<'order' | DriveOrder | null>(null);
  const close = (): void => setDoing(null);
  return (
    <div className="grid gap-4">
      {orders.length === 0 && <p className="text-muted">Nothing is on order.</p>}
      {orders.length > 0 && (
        <table className="w-full border border-line bg-surface">
          <thead className="text-left text-sm text-muted">
            <tr>
              {['Ordered', 'From', 'What', 'Come', 'Expected', ''].map((head) => (
                <th key={head} scope="col" className="px-3 py-1.5 font-normal">
                  {head || <span className="sr-only">Close</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {orders.map((one) => (
              <tr key={one.id} className="border-t border-line">
                <td className="px-3 py-1.5 whitespace-nowrap">
                  <Moment at={one.orderedAt} />
                </td>
                <td className="px-3 py-1.5">{one.supplier}</td>
                <td className="px-3 py-1.5">
                  {one.count} × {formatBytes(one.drive.bytes)} {one.drive.model}
                </td>
                <td className="px-3 py-1.5">
                  {one.received} of {one.count}
                </td>
                <td className="px-3 py-1.5">{one.closed ?? one.expectedOn ?? ''}</td>
                <td className="px-3 py-1.5 text-right">
                  {mayRecord && one.closed === null && one.received < one.count && (
                    <button type="button" className="text-action underline" onClick={() => setDoing(one)}>
                      Close…<span className="sr-only"> the order from {one.supplier}</span>
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {mayRecord && (
        <div>
          <Button onClick={() => setDoing('order')}>Write down an order…</Button>
        </div>
      )}
      {doing !== null && (
        <FormDialog title={doing === 'order' ? 'Drives ordered' : 'Expect nothing more of it'} onClose={close}>
          {doing === 'order' ? <OrderForm onDone={close} /> : <CloseOrderForm id={doing.id} onDone={close} />}
        </FormDialog>
      )}
    </div>
  );
}
