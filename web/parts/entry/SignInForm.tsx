'use client';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { send } from '~/web/parts/form/send';
import { SubmitButton } from '~/web/parts/form/SubmitButton';

export function SignInForm({ from }: { readonly from: string }): ReactNode {
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    setBusy(true);
    const form = new FormData(event.currentTarget);
    const sent = await send('POST', '/api/auth/sign-in/email', { email: form.get('email'), password: form.get('password') });
    if (sent.kind === 'done') window.location.assign(from);
    else {
      setBusy(false);
      setFault(/invalid/i.test(sent.sentence) ? 'That e-mail address and password do not belong together.' : sent.sentence);
    }
  };
  return (
    <form method="post" onSubmit={(event) => void submit(event)} className="grid gap-4">
      {fault !== null && <Notice grave>{fault}</Notice>}
      <Field label="E-mail" name="email" type="email" autoComplete="username" required autoFocus />
      <Field label="Password" name="password" type="password" autoComplete="current-password" required />
      <SubmitButton busy={busy}>Sign in</SubmitButton>
    </form>
  );
}
