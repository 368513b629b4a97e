'use client';
import type { ReactNode } from 'react';
import type { Comparison } from '~/service/bench/comparisons';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';

interface Props {
  /** The comparison as it is now, under a name. */
  readonly now: (name: string) => Comparison;
  readonly onDone: () => void;
}

/** Keeps a comparison under a name; the address leads to it from then on. */
export function KeepForm({ now, onDone }: Props): ReactNode {
  const sheet = useSheet({
    start: { name: '' },
    sends: 'POST /comparisons',
    asks: ({ name }) => ({ body: now(name.trim()) }),
    done: ({ id }, { name }) => {
      const query = new URLSearchParams(window.location.search);
      query.set('kept', id);
      window.history.replaceState(null, '', `/bench?${query.toString()}`);
      tell(`Kept as “${name.trim()}”. The address can be sent.`);
      onDone();
    },
  });
  return (
    <Sheet of={sheet} sends="Keep it">
      <TextField
        label="Name"
        name="name"
        required
        maxLength={80}
        autoFocus
        hint="Whoever may come in can open it by its address; the drives and the choices go along."
      />
    </Sheet>
  );
}
