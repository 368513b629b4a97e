'use client';
import type { ReactNode } from 'react';
import type { Drawer } from '~/core/driveLife/life';
import { Field } from '~/web/parts/form/Field';

interface Props {
  readonly sites: readonly { readonly site: string; readonly room: string }[];
  readonly value: Drawer;
  readonly onChange: (value: Drawer) => void;
}

/** Site, room and drawer, with those known to choose from. */
export function PlaceFields({ sites, value, onChange }: Props): ReactNode {
  return (
    <div className="grid gap-4 sm:grid-cols-3">
      <Field
        label="Site"
        value={value.site}
        maxLength={60}
        list="drawer-sites"
        autoComplete="off"
        onChange={(event) => onChange({ ...value, site: event.target.value })}
      />
      <Field
        label="Room"
        value={value.room}
        maxLength={60}
        list="drawer-rooms"
        autoComplete="off"
        onChange={(event) => onChange({ ...value, room: event.target.value })}
      />
      <Field label="Drawer" value={value.drawer} maxLength={60} autoComplete="off" onChange={(event) => onChange({ ...value, drawer: event.target.value })} />
      <datalist id="drawer-sites">
        {[...new Set(sites.map(({ site }) => site))].map((site) => (
          <option key={site} value={site} />
        ))}
      </datalist>
      <datalist id="drawer-rooms">
        {[...new Set(sites.filter(({ site }) => site === value.site).map(({ room }) => room))].map((room) => (
          <option key={room} value={room} />
        ))}
      </datalist>
    </div>
  );
}
