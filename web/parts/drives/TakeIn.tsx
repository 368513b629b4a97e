'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { readMedia } from '~/core/drive/media';
import { readSize } from '~/core/drive/readSize';
import { formatBytes } from '~/core/quantity/formatBytes';
import { isRefusal } from '~/core/value/refusal';
import type { DriveDescription } from '~/schemas/driveEvent';
import { isSameSerial } from '~/core/drive/serial';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { SerialField } from '~/web/parts/form/SerialField';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { Serial } from '~/web/parts/unit/Serial';
import { tell } from '~/web/parts/tell/tell';
import { PlaceFields } from './PlaceFields';

interface OpenOrder {
  readonly id: string;
  readonly supplier: string;
  readonly left: number;
  readonly drive: DriveDescription;
}

interface Props {
  readonly sites: readonly { readonly site: string; readonly room: string }[];
  readonly orders: readonly OpenOrder[];
}

/** Drives come in: of one kind, scanned one after another, from an order or not, into a drawer. */
export function TakeIn({ sites, orders }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run, setFault } = useSending();
  const [open, setOpen] = useState(false);
  const [order, setOrder] = useState('');
  const [kind, setKind] = useState({ size: '', model: '', media: 'hard disk', lot: '', boughtOn: '', warrantyUntil: '', when: '' });
  const [place, setPlace] = useState({ site: sites[0]?.site ?? '', room: sites[0]?.room ?? '', drawer: '' });
  const [serial, setSerial] = useState('');
  const [serials, setSerials] = useState<readonly string[]>([]);
  const chosen = orders.find(({ id }) => id === order);

  const add = (typed: string): void => {
    const wanted = typed.trim();
    if (wanted === '') return;
    if (serials.some((one) => isSameSerial(one, wanted))) return setFault({ sentence: `${wanted} is in the list already.`, fields: {} });
    setFault(null);
    setSerials([...serials, wanted]);
    setSerial('');
    return undefined;
  };
  const store = async (): Promise<void> => {
    const size = chosen && kind.size.trim() === '' ? chosen.drive : readSize(kind.size);
    if (isRefusal(size)) return setFault({ sentence: size.sentence, fields: {} });
    const media = readMedia(kind.media);
    const text = (name: 'model' | 'lot' | 'boughtOn' | 'warrantyUntil'): object => (kind[name].trim() === '' ? {} : { [name]: kind[name].trim() });
    // The label of what was ordered is not that of a size that was typed instead.
    const { label: _ordered, ...like } = chosen?.drive ?? {};
    const drive = {
      ...like,
      bytes: size.bytes,
      basis: size.basis,
      ...(size.label === undefined ? {} : { label: size.label }),
      ...(media === null || media === 'hard-disk' ? {} : { media }),
      ...text('model'),
      ...text('lot'),
      ...text('boughtOn'),
      ...text('warrantyUntil'),
    };
    const answer = await run('POST /drives', {
      body: {
        drives: serials.map((of) => ({ serial: of, drive })),
        ...(order === '' ? {} : { order }),
        ...(kind.when === '' ? {} : { happenedAt: new Date(kind.when).toISOString() }),
        ...(place.drawer.trim() === '' ? {} : { drawer: place }),
      },
    });
    if (!answer) return undefined;
    tell(`${serials.length === 1 ? 'One drive is' : `${String(serials.length)} drives are`} taken in.`);
    setSerials([]);
    setOpen(false);
    router.refresh();
    return undefined;
  };
  return (
    <>
      <Button look="main" onClick={() => setOpen(true)}>
        Take drives in
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title="Take drives in">
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            add(serial);
          }}
        >
          {orders.length > 0 && (
            <label className="block">
              <span className="mb-1 block font-semibold">From an order</span>
              <select className="field" value={order} onChange={(event) => setOrder(event.target.value)}>
                <option value="">none</option>
                {orders.map(({ id, supplier, left, drive }) => (
                  <option key={id} value={id}>
                    {supplier}: {left} of {formatBytes(drive.bytes)} {drive.model}
                  </option>
                ))}
              </select>
            </label>
          )}
          <div className="grid gap-4 sm:grid-cols-2">
            <Field
              label="Size of each"
              value={kind.size}
              placeholder={chosen ? formatBytes(chosen.drive.bytes) : '12 TB, or exact bytes'}
              hint="Exact bytes decide whether it fits"
              autoComplete="off"
              onChange={(event) => setKind({ ...kind, size: event.target.value })}
            />
            <Field
              label="Model"
              value={kind.model}
              placeholder={chosen?.drive.model}
              maxLength={64}
              autoComplete="off"
              onChange={(event) => setKind({ ...kind, model: event.target.value })}
            />
            <label className="block">
              <span className="mb-1 block font-semibold">Kind</span>
              <select className="field" value={kind.media} onChange={(event) => setKind({ ...kind, media: event.target.value })}>
                <option>hard disk</option>
                <option>shingled</option>
                <option>SSD</option>
                <option>NVMe</option>
              </select>
            </label>
            <Field
              label="Lot"
              value={kind.lot}
              hint="The batch on the label: one lot tends to fail together"
              maxLength={40}
              autoComplete="off"
              onChange={(event) => setKind({ ...kind, lot: event.target.value })}
            />
            <Field label="Bought on" type="date" value={kind.boughtOn} onChange={(event) => setKind({ ...kind, boughtOn: event.target.value })} />
            <Field
              label="Warranty until"
              type="date"
              value={kind.warrantyUntil}
              onChange={(event) => setKind({ ...kind, warrantyUntil: event.target.value })}
            />
          </div>
          <Field
            label="Came on"
            type="datetime-local"
            value={kind.when}
            hint="Left empty means now"
            onChange={(event) => setKind({ ...kind, when: event.target.value })}
          />
          <PlaceFields sites={sites} value={place} onChange={setPlace} />
          <SerialField label="Serials, one after another" value={serial} hint="Scan or type, then Enter" onSerial={setSerial} onScanned={add} />
          {serials.length > 0 && (
            <ul className="flex flex-wrap gap-2">
              {serials.map((of) => (
                <li key={of} className="border border-line px-2 py-1">
                  <Serial of={of} />
                  <button type="button" className="ml-2 text-action underline" onClick={() => setSerials(serials.filter((one) => one !== of))}>
                    Leave out<span className="sr-only"> {of}</span>
                  </button>
                </li>
              ))}
            </ul>
          )}
          {fault && <Notice grave>{fault.sentence}</Notice>}
          <div className="flex justify-end gap-2">
            <Button type="submit" disabled={serial.trim() === ''}>
              Next
            </Button>
            <Button look="main" disabled={busy || serials.length === 0} onClick={() => void store()}>
              Take {serials.length === 1 ? 'one' : serials.length} in
            </Button>
          </div>
        </form>
      </Dialog>
    </>
  );
}
