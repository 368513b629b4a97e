'use client';
import type { FieldValues } from 'react-hook-form';
import { useSheet, type SheetState, type Unread } from '~/web/parts/form/sheet/useSheet';
import type { StatedUnitEvent } from '~/schemas/unitEvent';

/** Records an event: why not, where it was refused. */
export type Say = (event: StatedUnitEvent, sentence: string) => Promise<string | null>;

interface Given<V extends FieldValues> {
  readonly unit: string;
  /** The version the person looked at. */
  readonly version: number;
  readonly start: V;
  readonly keep: string;
  /** Where a field's value stands in the event, when not under its own name. */
  readonly at?: Readonly<Record<string, string>>;
  readonly event: (values: V) => StatedUnitEvent | Unread;
  readonly says: (values: V) => string;
  /** Records it: what it endangers is heard there first. */
  readonly onSay: Say;
}

/** A form that comes to one event of a unit: checked as the server would, then recorded as everything is. */
export function useEventSheet<V extends FieldValues>({
  unit,
  version,
  start,
  keep,
  at = {},
  event,
  says,
  onSay,
}: Given<V>): SheetState<V> {
  return useSheet({
    start,
    keep,
    then: 'sent',
    sends: 'POST /units/{id}/events',
    at: Object.fromEntries(Object.keys(start).map((name) => [name, `/event${at[name] ?? `/${name}`}`])),
    asks: (values) => {
      const made = event(values);
      return made.kind === 'unread' ? made : { id: unit, body: { expectedVersion: version, event: made } };
    },
    does: (_asked, values) => {
      const made = event(values);
      return made.kind === 'unread' ? Promise.resolve(null) : onSay(made, says(values));
    },
  });
}
