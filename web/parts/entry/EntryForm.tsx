'use client';
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { send } from '~/web/parts/form/send';
import { SubmitButton } from '~/web/parts/form/SubmitButton';

/**
 * Uses a one-time key up, by a request of its own: looking at the link, as mail programs and chat previews do, costs
 * nothing. A key that only signs in does so by itself once the page runs.
 */
export function EntryForm({ entryKey, asks }: { readonly entryKey: string; readonly asks: 'nothing' | 'password' | 'owner' }): ReactNode {
  const [fault, setFault] = useState<{ readonly sentence: string; readonly fields: Readonly<Record<string, string>> } | null>(null);
  const [busy, setBusy] = useState(false);
  const began = useRef(false);

  const enter = async (form?: FormData): Promise<void> => {
    setBusy(true);
    const of = (name: string): Record<string, unknown> => (form?.get(name) ? { [name]: form.get(name) } : {});
    const sent = await send('POST', '/api/auth/entry', { key: entryKey, ...of('name'), ...of('email'), ...of('password') });
    if (sent.kind === 'done') window.location.assign('/');
    else {
      setBusy(false);
      setFault(sent);
    }
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    void enter(new FormData(event.currentTarget));
  };

  useEffect(() => {
    if (asks !== 'nothing' || began.current) return;
    began.current = true;
    void enter();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the page has started
  }, [asks]);

  return (
    <form method="post" onSubmit={submit} className="grid gap-4">
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {asks === 'owner' && <Field label="Your name" name="name" autoComplete="name" required autoFocus maxLength={80} fault={fault?.fields['name']} />}
      {asks === 'owner' && (
        <Field
          label="E-mail"
          name="email"
          type="email"
          autoComplete="username"
          required
          fault={fault?.fields['email']}
          hint="You sign in with it. Nothing is sent to it."
        />
      )}
      {asks !== 'nothing' && (
        <Field
          label="Password"
          name="password"
          type="password"
          autoComplete="new-password"
          minLength={10}
          required
          fault={fault?.fields['password']}
          hint="At least ten characters."
        />
      )}
      <SubmitButton busy={busy}>{asks === 'owner' ? 'Make this shelf mine' : asks === 'password' ? 'Set the password and enter' : 'Enter'}</SubmitButton>
    </form>
  );
}
