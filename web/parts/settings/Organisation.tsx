'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { Organisation as Values } from '~/service/settings/readSettings';
import { ComboField } from '~/web/parts/form/fields/ComboField';
import { filled } from '~/web/parts/form/filled';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';

export function Organisation({ values: { name, currency, timeZone } }: { readonly values: Values }): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: { name, currency, timeZone: timeZone ?? '' },
    then: 'sent',
    sends: 'PUT /organisation',
    asks: (values) => ({
      body: {
        name: values.name.trim(),
        currency: values.currency.trim().toUpperCase(),
        ...filled(values, 'timeZone'),
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
      <Sheet of={sheet} sends="Save" look="plain" className="border border-line bg-surface p-4">
        <div className="grid items-start gap-4 sm:grid-cols-[1fr_120px_240px]">
          <TextField label="Name" name="name" required maxLength={80} />
          <TextField label="Currency" name="currency" required maxLength={3} />
          <ComboField
            label="Time zone"
            name="timeZone"
            maxLength={64}
            known={Intl.supportedValuesOf('timeZone')}
            hint="Office hours slow work down: by the clocks there."
          />
        </div>
      </Sheet>
    </section>
  );
}
