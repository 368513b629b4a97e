'use client';
import { useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import { ComboField } from '~/web/parts/form/fields/ComboField';
import { TextField } from '~/web/parts/form/fields/TextField';

export interface KnownPlace {
  readonly site: string;
  readonly room: string;
}

/** The same text once, in the order it came. */
const once = (texts: readonly string[]): readonly string[] => [...new Set(texts)];

/** A site and a room, with those known to choose from. */
export function SiteAndRoom({ places }: { readonly places: readonly KnownPlace[] }): ReactNode {
  const site = String(useWatch({ name: 'site' }) ?? '');
  return (
    <>
      <ComboField name="site" label="Site" maxLength={60} known={once(places.map((place) => place.site))} />
      <ComboField
        name="room"
        label="Room"
        maxLength={60}
        known={once(places.filter((place) => place.site === site).map(({ room }) => room))}
      />
    </>
  );
}

/** Site, room and drawer. */
export function PlaceFields({ places }: { readonly places: readonly KnownPlace[] }): ReactNode {
  return (
    <div className="grid gap-4 sm:grid-cols-3">
      <SiteAndRoom places={places} />
      <TextField name="drawer" label="Drawer" maxLength={60} />
    </div>
  );
}
