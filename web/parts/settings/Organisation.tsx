'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent, type ReactNode } from 'react';
import type { Organisation as Values } from '~/service/settings/readSettings';
import { Field } from '~/web/parts/form/Field';
import { api } from '~/web/parts/form/api';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
import { tell, tellFault } from '~/web/parts/tell/tell';

export function Organisation({ values }: { readonly values: Values }): ReactNode {
  const router = useRouter();
  const [fields, setFields] = useState<Readonly<Record<string, string>>>({});
  const save = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const sent = await api('PUT /organisation', { body: { name: String(form.get('name')), currency: String(form.get('currency')).toUpperCase() } });
    setFields(sent.kind === 'refused' ? sent.fields : {});
    if (sent.kind === 'refused') tellFault(sent.sentence);
    else {
      tell('Saved.');
      router.refresh();
    }
  };
  return (
    <section aria-label="Organisation">
      <h2 className="mb-3 text-lg">Organisation</h2>
      <form
        method="post"
        onSubmit={(event) => void save(event)}
        className="grid items-start gap-4 border border-line bg-surface p-4 sm:grid-cols-[1fr_120px_auto]"
      >
        <Field label="Name" name="name" defaultValue={values.name} required maxLength={80} fault={fields['name']} />
        <Field label="Currency" name="currency" defaultValue={values.currency} required pattern="[A-Za-z]{3}" maxLength={3} fault={fields['currency']} />
        <SubmitButton look="plain" className="sm:mt-[27px]">
          Save
        </SubmitButton>
      </form>
    </section>
  );
}
