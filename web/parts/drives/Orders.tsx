'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { formatBytes } from '~/core/quantity/formatBytes';
import { isRefusal } from '~/core/value/refusal';
import type { DriveOrder } from '~/service/drives/readDrives';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { Moment } from '~/web/parts/unit/Moment';
import { tell } from '~/web/parts/tell/tell';

/** What was ordered, what has come of it, and what is closed. */
export function Orders({ orders, mayRecord }: { readonly orders: readonly DriveOrder[]; readonly mayRecord: boolean }): ReactNode {
  const router = useRouter();
  const { busy, fault, run, setFault } = useSending();
  const [doing, setDoing] = useState<'order' | DriveOrder | null>(null);
  const order = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const size = readSize(text('size'));
    if (isRefusal(size)) return setFault({ sentence: size.sentence, fields: { 'drive/bytes': size.sentence } });
    const price = text('price') === '' ? null : Math.round(Number(text('price').replace(',', '.')) * 100);
    const answer = await run('POST /drive-orders', {
      body: {
        supplier: text('supplier'),
        count: Number(text('count')),
        drive: {
          bytes: size.bytes,
          basis: size.basis,
          ...(size.label === undefined ? {} : { label: size.label }),
          ...(text('model') === '' ? {} : { model: text('model') }),
          ...(price !== null && Number.isFinite(price) ? { priceCents: price } : {}),
        },
        ...(text('expectedOn') === '' ? {} : { expectedOn: text('expectedOn') }),
      },
    });
    if (!answer) return undefined;
    tell('The order is written down.');
    setDoing(null);
    router.refresh();
    return undefined;
  };
  const close = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    if (doing === null || doing === 'order') return;
    const reason = String(new FormData(event.currentTarget).get('reason') ?? '').trim();
    if (!(await run('POST /drive-orders/{id}/close', { id: doing.id, body: { reason } }))) return;
    tell('Nothing more of it is expected.');
    setDoing(null);
    router.refresh();
  };
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
      <Dialog open={doing !== null} onOpenChange={(open) => !open && setDoing(null)} title={doing === 'order' ? 'Drives ordered' : 'Expect nothing more of it'}>
        {doing === 'order' ? (
          <form className="grid gap-4" onSubmit={(event) => void order(event)}>
            {fault && <Notice grave>{fault.sentence}</Notice>}
            <Field label="From" name="supplier" required maxLength={120} autoFocus autoComplete="off" />
            <div className="grid grid-cols-2 gap-4">
              <Field label="How many" name="count" type="number" min={1} max={1000} defaultValue={1} required />
              <Field label="Size of each" name="size" required placeholder="8 TB" autoComplete="off" fault={fault?.fields['drive/bytes']} />
              <Field label="Model" name="model" maxLength={64} autoComplete="off" />
              <Field label="Price of each" name="price" inputMode="decimal" autoComplete="off" />
              <Field label="Expected on" name="expectedOn" type="date" />
            </div>
            <div className="flex justify-end">
              <Button look="main" type="submit" disabled={busy}>
                Write it down
              </Button>
            </div>
          </form>
        ) : (
          <form className="grid gap-4" onSubmit={(event) => void close(event)}>
            {fault && <Notice grave>{fault.sentence}</Notice>}
            <Field label="Why" name="reason" required maxLength={400} autoFocus autoComplete="off" />
            <div className="flex justify-end">
              <Button look="main" type="submit" disabled={busy}>
                Close the order
              </Button>
            </div>
          </form>
        )}
      </Dialog>
    </div>
  );
}
