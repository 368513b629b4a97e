'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { Organisation as Values } from '~/service/settings/readSettings';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useReady } from '~/web/parts/form/useReady';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';

export function Organisation({ values: { name, currency, timeZone } }: { readonly values: Values }): ReactNode {
  const router = useRouter();
  const isReady = useReady();
  const sheet = useSheet({
    start: { name, currency, timeZone: timeZone ?? '' },
    then: 'sent',
    sends: 'PUT /organisation',
    asks: (values) => ({
      body: {
        name: values.name.trim(),
        currency: values.currency.trim().toUpperCase(),
        timeZone: values.timeZone.trim() === '' ? null : values.timeZone.trim(),
      },
    }),
    done: () => {
      tell('Saved.');
      router.refresh();
    },
  });
  return (
    <section aria-label="Organisation">
      <h2 className="mb-3 text-lg">Organisation</h2>
      <Sheet of={sheet} sends="Save the organisation" look="plain" className="border border-line bg-surface p-4">
        <div className="grid items-start gap-4 sm:grid-cols-[1fr_120px_240px]">
          <TextField label="Name" name="name" required maxLength={80} />
          <TextField label="Currency" name="currency" required maxLength={3} />
          <TextField
            label="Time zone"
            name="timeZone"
            maxLength={64}
            placeholder="that of this server"
            list="time-zones"
            hint="Office hours slow work down: by the clocks there."
          />
          {/* Which there are the browser knows. */}
          <datalist id="time-zones">
            {isReady && Intl.supportedValuesOf('timeZone').map((zone) => <option key={zone} value={zone} />)}
          </datalist>
        </div>
      </Sheet>
    </section>
  );
}
