'use client';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { send } from '~/web/parts/form/send';
import { SubmitButton } from '~/web/parts/form/SubmitButton';

export function SignInForm({ from }: { readonly from: string }): ReactNode {
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [asksCode, setAsksCode] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    setBusy(true);
    const form = new FormData(event.currentTarget);
    const sent = asksCode
      ? await sendCode(String(form.get('code')))
      : await send('POST', '/api/auth/sign-in/email', { email: form.get('email'), password: form.get('password') });
    if (sent.kind === 'done' && sent.answer['twoFactorRedirect'] !== true) return window.location.assign(from);
    setBusy(false);
    setAsksCode(asksCode || sent.kind === 'done');
    const wrong = asksCode ? 'That is not the code of this moment, nor one of those on paper.' : 'That e-mail address and password do not belong together.';
    setFault(sent.kind === 'done' ? null : /invalid/i.test(sent.sentence) ? wrong : sent.sentence);
  };
  return (
    <form method="post" onSubmit={(event) => void submit(event)} className="grid gap-4">
      {fault !== null && <Notice grave>{fault}</Notice>}
      {asksCode ? (
        <Field
          key="code"
          label="Code of your phone"
          name="code"
          autoComplete="one-time-code"
          hint="The six digits it shows now, or one of the codes you kept on paper. Neither at hand? An owner can make a link for you."
          required
          autoFocus
        />
      ) : (
        <>
          <Field label="E-mail" name="email" type="email" autoComplete="username" required autoFocus />
          <Field label="Password" name="password" type="password" autoComplete="current-password" required />
        </>
      )}
      <SubmitButton busy={busy}>Sign in</SubmitButton>
    </form>
  );
}

/** Six digits are the phone's; anything else is one of those on paper. */
function sendCode(given: string) {
  const code = given.replace(/\s/g, '');
  return send('POST', `/api/auth/two-factor/${/^\d{6}$/.test(code) ? 'verify-totp' : 'verify-backup-code'}`, { code });
}
