'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { filled } from '~/web/parts/form/filled';
import { NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import type { ShownWatch } from '~/service/watch/watchOperations';

interface Props {
  readonly id: string;
  readonly name: string;
  /** As it is asked now; `null` where nobody does yet. */
  readonly watch: ShownWatch | null;
  /** Its address as it is on record. */
  readonly known: string | null;
  readonly onDone: () => void;
}

/** Where and how often a unit is asked how it is. */
export function WatchForm({ id, name, watch, known, onDone }: Props): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: {
      address: watch?.address ?? (known === null || known === '' ? '' : `https://${known}`),
      user: watch?.user ?? '',
      password: '',
      everySeconds: String(watch?.everySeconds ?? 60),
    },
    sends: 'PUT /units/{id}/watch',
    asks: (values) => ({
      id,
      body: {
        address: values.address.trim(),
        user: values.user.trim(),
        ...filled(values, 'password'),
        everySeconds: Number(values.everySeconds),
      },
    }),
    done: ({ watch: set }) => {
      tell(set?.trouble ? `${name} is watched, and gives no answer yet.` : `${name} is watched.`);
      onDone();
      router.refresh();
    },
  });
  return (
    <Sheet of={sheet} sends={watch ? 'Ask it there' : 'Watch it'} onCancel={onDone} className="max-w-[560px]">
      <TextField
        label="Its address"
        name="address"
        required
        placeholder="https://10.4.2.20"
        hint="A name or number of your own network, with its port where it has one. The unit must speak Redfish."
      />
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField
          label="User"
          name="user"
          required
          hint="One that may read is enough; for the light, one that may operate."
        />
        <TextField
          label="Password"
          name="password"
          type="password"
          autoComplete="new-password"
          required={!watch}
          hint={watch ? 'Left empty, the one that is kept goes on.' : 'Kept sealed; nobody is shown it again.'}
        />
      </div>
      <NumberField label="Ask it every" name="everySeconds" unit="seconds" min={10} max={86400} required />
    </Sheet>
  );
}
