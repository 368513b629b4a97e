'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { parseCents } from '~/web/parts/form/parseCents';
import { isRefusal } from '~/core/value/refusal';
import { filled } from '~/web/parts/form/filled';
import { SizeField } from '~/web/parts/form/fields/SizeField';
import { DateField, NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { api } from '~/web/parts/form/api';
import { tell } from '~/web/parts/tell/tell';

interface Props {
  readonly onDone: () => void;
  /** What is known of it already, as where a plan to grow asks for the drives. */
  readonly begin?: { readonly count: string; readonly size: string; readonly price: string };
}

/** Drives that were ordered. */
export function OrderForm({ onDone, begin }: Props): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: { supplier: '', count: '1', size: '', model: '', price: '', expectedOn: '', ...begin },
    ...(begin ? {} : { keep: 'drives ordered' }),
    sends: 'POST /drive-orders',
    at: { size: '/drive/bytes', model: '/drive/model', price: '/drive/priceCents' },
    asks: (values) => {
      const size = readSize(values.size);
      const price = values.price.trim() === '' ? undefined : parseCents(values.price);
      if (isRefusal(size)) return unread({ size: size.sentence });
      if (price === null) return unread({ price: `“${values.price}” is no price: write 189 or 189.90.` });
      return {
        body: {
          supplier: values.supplier.trim(),
          count: Number(values.count),
          drive: {
            bytes: size.bytes,
            basis: size.basis,
            ...(size.label === undefined ? {} : { label: size.label }),
            ...filled(values, 'model'),
            ...(price === undefined ? {} : { priceCents: price }),
          },
          ...filled(values, 'expectedOn'),
        },
      };
    },
    done: ({ id }) => {
      tell('The order is written down.', {
        takeBack: {
          send: () => api('POST /drive-orders/{id}/close', { id, body: { reason: 'taken back at once' } }),
          said: 'Taken back: the order stays written down as closed.',
        },
      });
      onDone();
      router.refresh();
    },
  });
  return (
    <Sheet of={sheet} sends="Write it down">
      <TextField name="supplier" label="From" required maxLength={120} autoFocus />
      <div className="grid grid-cols-2 gap-4">
        <NumberField name="count" label="How many" min={1} max={1000} required unit="drives" />
        <SizeField name="size" label="Size of each" required placeholder="8 TB" />
        <TextField name="model" label="Model" maxLength={64} />
        <TextField name="price" label="Price of each" inputMode="decimal" />
        <DateField name="expectedOn" label="Expected on" />
      </div>
    </Sheet>
  );
}

/** Nothing more of an order is expected. */
export function CloseOrderForm({ id, onDone }: { readonly id: string; readonly onDone: () => void }): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: { reason: '' },
    sends: 'POST /drive-orders/{id}/close',
    asks: ({ reason }) => ({ id, body: { reason: reason.trim() } }),
    done: () => {
      tell('Nothing more of it is expected.');
      onDone();
      router.refresh();
    },
  });
  return (
    <Sheet of={sheet} sends="Close the order">
      <TextField name="reason" label="Why" required maxLength={400} autoFocus />
    </Sheet>
  );
}
