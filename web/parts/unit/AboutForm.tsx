'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { UnitState } from '~/core/unit/state';
import { filled } from '~/web/parts/form/filled';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { AreaField, DateField, TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import { DIFFERING, DIFFERS, FIELDS, headOf, ofFamily, wordsOf } from './aboutWords';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly onDone: () => void;
}

const CHANGING = [...FIELDS, ...DIFFERING];
const DAYS: readonly string[] = ['boughtOn', 'warrantyUntil'];

/** Changes what is known of the unit as a box; only what differs is written down. */
export function AboutForm({ id, version, unit: { name, place, details, profile }, onDone }: Props): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: {
      name,
      site: place.site,
      room: place.room,
      shelf: place.shelf ?? '',
      ...(Object.fromEntries(CHANGING.map((field) => [field, details[field] ?? ''])) as Record<
        (typeof CHANGING)[number],
        string
      >),
    },
    // What was begun on an older state is not put over what somebody else wrote since.
    keep: `about ${id} ${String(version)}`,
    sends: 'POST /units/{id}/events',
    at: {
      name: '/event/name',
      ...Object.fromEntries(['site', 'room', 'shelf'].map((field) => [field, `/event/place/${field}`])),
      ...Object.fromEntries(CHANGING.map((field) => [field, `/event/details/${field}`])),
    },
    asks: (values) => {
      const changed = Object.fromEntries(
        CHANGING.filter((field) => values[field].trim() !== (details[field] ?? '')).map((field) => [
          field,
          values[field].trim() || null,
        ]),
      );
      const isElsewhere =
        values.site.trim() !== place.site ||
        values.room.trim() !== place.room ||
        values.shelf.trim() !== (place.shelf ?? '');
      const event = {
        kind: 'unit-described' as const,
        ...(values.name.trim() === name ? {} : { name: values.name.trim() }),
        ...(isElsewhere
          ? { place: { site: values.site.trim(), room: values.room.trim(), ...filled(values, 'shelf') } }
          : {}),
        ...(Object.keys(changed).length === 0 ? {} : { details: changed }),
      };
      if (Object.keys(event).length === 1) return unread({ root: 'Nothing here differs from what is known.' });
      return { id, body: { expectedVersion: version, event } };
    },
    done: ({ act }) => {
      tell('Written down.', { act });
      onDone();
      router.refresh();
    },
  });
  return (
    <Sheet of={sheet} sends="Write it down" onCancel={onDone} className="max-w-[640px]">
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField label="Name" name="name" required maxLength={60} />
        <TextField label="Site" name="site" required maxLength={60} />
        <TextField label="Room" name="room" required maxLength={60} />
        <TextField label="Shelf" name="shelf" maxLength={60} />
        {FIELDS.filter((field) => field !== 'notes').map((field) =>
          DAYS.includes(field) ? (
            <DateField key={field} label={headOf(field)} name={field} />
          ) : (
            <TextField key={field} label={headOf(field)} name={field} />
          ),
        )}
        {DIFFERING.map((field) => (
          <SelectField
            key={field}
            label={headOf(field)}
            name={field}
            options={[
              { value: '', words: `as its family: ${wordsOf(field, ofFamily({ profile })[field])}` },
              ...Object.entries(DIFFERS[field]).map(([value, words]) => ({ value, words })),
            ]}
          />
        ))}
      </div>
      <AreaField label="Notes" name="notes" rows={4} maxLength={2000} />
    </Sheet>
  );
}
