'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { NewMailServer } from '~/schemas/tell';
import type { ShownServer } from '~/service/tell/readTelling';
import { filled } from '~/web/parts/form/filled';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';

const SECURITY = [
  { value: 'starttls', words: 'STARTTLS (usually port 587)' },
  { value: 'tls', words: 'TLS from the start (usually port 465)' },
  { value: 'none', words: 'none: only on this machine' },
];

/** The mail server messages go out by. */
export function MailServer({ server }: { readonly server: ShownServer | null }): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: {
      host: server?.host ?? '',
      port: String(server?.port ?? 587),
      security: (server?.security ?? 'starttls') as string,
      user: server?.user ?? '',
      password: '',
      sender: server?.sender ?? '',
    },
    sends: 'PUT /mail-server',
    asks: (values) => ({
      body: {
        host: values.host.trim(),
        port: Number(values.port),
        security: values.security as NewMailServer['security'],
        user: values.user.trim(),
        ...filled(values, 'password'),
        sender: values.sender.trim(),
      },
    }),
    done: () => {
      tell('Saved. Send a test, and see it arrive.');
      router.refresh();
    },
  });
  return (
    <section aria-label="Mail server">
      <h2 className="mb-3 text-lg">Mail server</h2>
      <Sheet of={sheet} sends="Save the mail server" look="plain" className="border border-line bg-surface p-4">
        <div className="grid items-start gap-4 sm:grid-cols-[1fr_120px_1fr]">
          <TextField label="Server" name="host" required placeholder="mail.example" />
          <NumberField label="Port" name="port" min={1} max={65535} required />
          <SelectField label="Encryption" name="security" options={SECURITY} />
        </div>
        <div className="grid items-start gap-4 sm:grid-cols-3">
          <TextField label="User" name="user" hint="Empty where it asks for none." />
          <TextField
            label="Password"
            name="password"
            type="password"
            autoComplete="new-password"
            hint={
              server?.hasPassword ? 'Left empty, the one that is kept goes on.' : 'Kept sealed; nobody is shown it.'
            }
          />
          <TextField label="Sent from" name="sender" type="email" required placeholder="shelf@example.org" />
        </div>
        {server?.setBy === 'environment' && (
          <p className="text-sm text-muted">Set where the program is started; saved here, this is what counts.</p>
        )}
      </Sheet>
    </section>
  );
}
