'use client';
import { useRouter } from 'next/navigation';
import { useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import type { DriveLife } from '~/core/driveLife/life';
import { isRefusal } from '~/core/value/refusal';
import type { StatedDriveEvent } from '~/schemas/driveEvent';
import { filled } from '~/web/parts/form/filled';
import { ScanField } from '~/web/parts/form/fields/ScanField';
import { RadioField, SelectField, TickField } from '~/web/parts/form/fields/SelectField';
import { SizeField } from '~/web/parts/form/fields/SizeField';
import { DateField, momentTyped, TextField, WhenField } from '~/web/parts/form/fields/TextField';
import { Notice } from '~/web/parts/form/Notice';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet, type Unread } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import { PlaceFields, type KnownPlace } from './PlaceFields';

export type Doing = 'drawer' | 'tested' | 'warranty' | 'settled' | 'wiped' | 'away' | 'described';

export interface DriveActionProps {
  readonly doing: Doing;
  readonly serial: string;
  readonly version: number;
  readonly life: DriveLife;
  readonly places: readonly KnownPlace[];
  /** Papers kept with it, to name one as proof. */
  readonly papers: readonly { readonly id: string; readonly name: string }[];
  readonly onDone: () => void;
}

const START = {
  site: '',
  room: '',
  drawer: '',
  result: 'well',
  to: '',
  claim: '',
  replacement: '',
  method: 'purge',
  how: '',
  by: '',
  checked: false,
  size: '',
  model: '',
  lot: '',
  boughtOn: '',
  warrantyUntil: '',
  note: '',
  paper: '',
  when: '',
};
type Values = typeof START;

/** Where what is typed stands in the body. */
const AT = {
  ...Object.fromEntries(
    ['to', 'claim', 'replacement', 'method', 'how', 'by', 'checked', 'result', 'note', 'paper'].map((name) => [
      name,
      `/event/${name}`,
    ]),
  ),
  ...Object.fromEntries(['site', 'room', 'drawer'].map((name) => [name, `/event/drawer/${name}`])),
  ...Object.fromEntries(['model', 'lot', 'boughtOn', 'warrantyUntil'].map((name) => [name, `/event/drive/${name}`])),
  size: '/event/drive/bytes',
  when: '/happenedAt',
};

/** What is recorded of a drive by each of the things that can be done with one. */
function eventOf(doing: Doing, values: Values, { drive }: DriveLife): StatedDriveEvent | Unread {
  switch (doing) {
    case 'drawer':
      return { kind: 'put-in-drawer', drawer: { site: values.site, room: values.room, drawer: values.drawer } };
    case 'tested':
      return { kind: 'tested', result: values.result === 'sick' ? 'sick' : 'well', ...filled(values, 'note', 'paper') };
    case 'warranty':
      return { kind: 'sent-under-warranty', to: values.to.trim(), ...filled(values, 'claim', 'note', 'paper') };
    case 'settled':
      return { kind: 'warranty-settled', ...filled(values, 'replacement', 'note', 'paper') };
    case 'wiped':
      return {
        kind: 'wiped',
        method: values.method as 'clear' | 'purge' | 'destroy',
        how: values.how.trim(),
        by: values.by.trim(),
        checked: values.checked,
        ...filled(values, 'paper'),
      };
    case 'away':
      return { kind: 'sent-away', to: values.to.trim(), ...filled(values, 'note', 'paper') };
    case 'described': {
      const size = values.size.trim() === '' ? drive : readSize(values.size);
      if (isRefusal(size)) return unread({ size: size.sentence });
      return {
        kind: 'described',
        drive: { bytes: size.bytes, basis: size.basis, ...filled(values, 'model', 'lot', 'boughtOn', 'warrantyUntil') },
      };
    }
  }
}

/** The form of one thing that can be done with a drive that is in no unit. */
export function DriveActionForm({ doing, serial, version, life, places, papers, onDone }: DriveActionProps): ReactNode {
  const router = useRouter();
  const { where, drive, wiped } = life;
  const sheet = useSheet({
    start: {
      ...START,
      ...(where.kind === 'drawer'
        ? { site: where.site, room: where.room, drawer: where.drawer }
        : { site: places[0]?.site ?? '', room: places[0]?.room ?? '' }),
      model: drive.model ?? '',
      lot: drive.lot ?? '',
      boughtOn: drive.boughtOn ?? '',
      warrantyUntil: drive.warrantyUntil ?? '',
    },
    // What was begun on an older state is not put over what somebody else wrote since.
    keep: `drive ${serial} ${String(version)} ${doing}`,
    sends: 'POST /drives/{serial}/events',
    at: AT,
    asks: (values) => {
      const event = eventOf(doing, values, life);
      return event.kind === 'unread'
        ? event
        : { serial, body: { expectedVersion: version, event, ...momentTyped(values.when) } };
    },
    done: ({ act }) => {
      tell(`Recorded of ${serial}.`, { act });
      onDone();
      router.refresh();
    },
  });
  return (
    <Sheet of={sheet} sends="Record it">
      {doing === 'drawer' && <PlaceFields places={places} />}
      {doing === 'tested' && (
        <RadioField
          name="result"
          label="Result"
          options={[
            { value: 'well', words: 'well' },
            { value: 'sick', words: 'sick', detail: 'It is no longer counted as a spare.' },
          ]}
        />
      )}
      {(doing === 'warranty' || doing === 'away') && (
        <TextField label="To" name="to" required maxLength={120} autoFocus />
      )}
      {doing === 'warranty' && (
        <>
          <Notice>
            <p>Wipe it first where you can, and say so on the paper: what is on it leaves the house with it.</p>
          </Notice>
          <TextField label="Number of the claim" name="claim" maxLength={60} />
        </>
      )}
      {doing === 'settled' && <ScanField label="Serial that came for it" name="replacement" autoFocus />}
      {doing === 'wiped' && <WipeFields />}
      {doing === 'away' && wiped === null && (
        <Notice grave title="No wipe is recorded">
          <p>What is on it leaves the house with it. Wipe it first, or shred it, and keep the record.</p>
        </Notice>
      )}
      {doing === 'described' && (
        <div className="grid gap-4 sm:grid-cols-2">
          <SizeField label="Size" name="size" placeholder={`${String(drive.bytes)} B`} />
          <TextField label="Model" name="model" maxLength={64} />
          <TextField label="Lot" name="lot" maxLength={40} />
          <DateField label="Bought on" name="boughtOn" />
          <DateField label="Warranty until" name="warrantyUntil" />
        </div>
      )}
      {(doing === 'tested' || doing === 'warranty' || doing === 'settled' || doing === 'away') && (
        <TextField label="Note" name="note" maxLength={400} />
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <WhenField />
        {papers.length > 0 && doing !== 'drawer' && doing !== 'described' && (
          <SelectField
            name="paper"
            label="Paper that proves it"
            options={[{ value: '', words: 'none' }, ...papers.map(({ id, name }) => ({ value: id, words: name }))]}
          />
        )}
      </div>
    </Sheet>
  );
}

function WipeFields(): ReactNode {
  const method = String(useWatch({ name: 'method' }));
  return (
    <>
      <RadioField
        name="method"
        label="How thoroughly (NIST SP 800-88)"
        options={[
          { value: 'clear', words: 'clear', detail: 'Overwritten through its usual commands.' },
          { value: 'purge', words: 'purge', detail: 'Its own secure erase, beyond a laboratory’s reach.' },
          { value: 'destroy', words: 'destroy', detail: 'Shredded or melted, and used no more.' },
        ]}
      />
      <TextField
        label="With what"
        name="how"
        required
        maxLength={200}
        hint="The command or the machine, and its version"
      />
      <TextField label="By whom" name="by" required maxLength={120} />
      <TickField name="checked" words={method === 'destroy' ? 'seen destroyed' : 'checked afterwards by reading it'} />
    </>
  );
}
