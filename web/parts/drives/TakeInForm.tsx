'use client';
import { useRouter } from 'next/navigation';
import { useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import { readMedia } from '~/core/drive/media';
import { readSize } from '~/core/drive/readSize';
import { formatBytes } from '~/core/quantity/formatBytes';
import { isRefusal } from '~/core/value/refusal';
import type { DriveDescription } from '~/schemas/driveEvent';
import { filled } from '~/web/parts/form/filled';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { SerialsField } from '~/web/parts/form/fields/SerialsField';
import { SizeField } from '~/web/parts/form/fields/SizeField';
import { DateField, momentTyped, TextField, WhenField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import { PlaceFields, type KnownPlace } from './PlaceFields';

interface OpenOrder {
  readonly id: string;
  readonly supplier: string;
  readonly left: number;
  readonly drive: DriveDescription;
}

export interface TakeInProps {
  readonly places: readonly KnownPlace[];
  readonly orders: readonly OpenOrder[];
  readonly onDone: () => void;
}

const KINDS = ['hard disk', 'shingled', 'SSD', 'NVMe'].map((words) => ({ value: words, words }));

/** Drives of one kind, scanned one after another, from an order or not, into a drawer. */
export function TakeInForm({ places, orders, onDone }: TakeInProps): ReactNode {
  const router = useRouter();
  const orderOf = (id: string): OpenOrder | undefined => orders.find((order) => order.id === id);
  const sheet = useSheet({
    start: {
      order: '',
      size: '',
      model: '',
      media: 'hard disk',
      lot: '',
      boughtOn: '',
      warrantyUntil: '',
      when: '',
      site: places[0]?.site ?? '',
      room: places[0]?.room ?? '',
      drawer: '',
      serials: [] as readonly string[],
    },
    keep: 'take drives in',
    sends: 'POST /drives',
    at: {
      serials: '/drives',
      ...Object.fromEntries(
        ['model', 'lot', 'boughtOn', 'warrantyUntil'].map((name) => [name, `/drives/0/drive/${name}`]),
      ),
      size: '/drives/0/drive/bytes',
      ...Object.fromEntries(['site', 'room', 'drawer'].map((name) => [name, `/drawer/${name}`])),
      when: '/happenedAt',
    },
    asks: (values) => {
      const ordered = orderOf(values.order)?.drive;
      const size = ordered && values.size.trim() === '' ? ordered : readSize(values.size);
      if (isRefusal(size)) return unread({ size: size.sentence });
      if (values.serials.length === 0) return unread({ serials: 'No serial is in the list yet.' });
      const media = readMedia(values.media);
      // The label of what was ordered is not that of a size that was typed instead.
      const { label: _ordered, ...like } = ordered ?? {};
      const drive = {
        ...like,
        bytes: size.bytes,
        basis: size.basis,
        ...(size.label === undefined ? {} : { label: size.label }),
        ...(media === null || media === 'hard-disk' ? {} : { media }),
        ...filled(values, 'model', 'lot', 'boughtOn', 'warrantyUntil'),
      };
      return {
        body: {
          drives: values.serials.map((serial) => ({ serial, drive })),
          ...(values.order === '' ? {} : { order: values.order }),
          ...momentTyped(values.when),
          ...(values.drawer.trim() === ''
            ? {}
            : { drawer: { site: values.site, room: values.room, drawer: values.drawer } }),
        },
      };
    },
    done: ({ act }, { serials }) => {
      tell(`${serials.length === 1 ? 'One drive is' : `${String(serials.length)} drives are`} taken in.`, { act });
      onDone();
      router.refresh();
    },
  });
  const { order, serials } = useWatch({ control: sheet.form.control });
  const chosen = orderOf(order ?? '');
  const count = serials?.length ?? 0;
  return (
    <Sheet of={sheet} sends={`Take ${count === 1 ? 'one' : String(count)} in`} isHeld={count === 0}>
      {orders.length > 0 && (
        <SelectField
          name="order"
          label="From an order"
          options={[
            { value: '', words: 'none' },
            ...orders.map(({ id, supplier, left, drive }) => ({
              value: id,
              words: `${supplier}: ${String(left)} of ${formatBytes(drive.bytes)}${drive.model === undefined ? '' : ` ${drive.model}`}`,
            })),
          ]}
        />
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <SizeField
          name="size"
          label="Size of each"
          placeholder={chosen ? formatBytes(chosen.drive.bytes) : '12 TB, or exact bytes'}
        />
        <TextField name="model" label="Model" maxLength={64} placeholder={chosen?.drive.model} />
        <SelectField name="media" label="Kind" options={KINDS} />
        <TextField
          name="lot"
          label="Lot"
          maxLength={40}
          hint="The batch on the label: one lot tends to fail together"
        />
        <DateField name="boughtOn" label="Bought on" />
        <DateField name="warrantyUntil" label="Warranty until" />
      </div>
      <WhenField label="Came on" />
      <PlaceFields places={places} />
      <SerialsField name="serials" label="Serials, one after another" />
    </Sheet>
  );
}
