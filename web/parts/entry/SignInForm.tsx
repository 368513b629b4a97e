'use client';
import { useState, type ReactNode } from 'react';
import { TextField } from '~/web/parts/form/fields/TextField';
import { send } from '~/web/parts/form/send';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useLooseSheet } from '~/web/parts/form/sheet/useLooseSheet';

export function SignInForm({ from }: { readonly from: string }): ReactNode {
  const [asksCode, setAsksCode] = useState(false);
  const sheet = useLooseSheet({
    start: { email: '', password: '', code: '' },
    then: 'sent',
    does: async ({ email, password, code }) => {
      const sent = asksCode ? await sendCode(code) : await send('POST', '/api/auth/sign-in/email', { email, password });
      if (sent.kind === 'done') {
        if (sent.answer['twoFactorRedirect'] === true) setAsksCode(true);
        else window.location.assign(from);
        return null;
      }
      const wrong = asksCode
        ? 'That is not the code of this moment, nor one of those on paper.'
        : 'That e-mail address and password do not belong together.';
      return /invalid/i.test(sent.sentence) ? wrong : sent.sentence;
    },
  });
  return (
    <Sheet of={sheet} sends="Sign in">
      {asksCode ? (
        <TextField
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
          <TextField label="E-mail" name="email" type="email" autoComplete="username" required autoFocus />
          <TextField label="Password" name="password" type="password" autoComplete="current-password" required />
        </>
      )}
    </Sheet>
  );
}

/** Six digits are the phone's; anything else is one of those on paper. */
function sendCode(given: string) {
  const code = given.replace(/\s/g, '');
  return send('POST', `/api/auth/two-factor/${/^\d{6}$/.test(code) ? 'verify-totp' : 'verify-backup-code'}`, { code });
}
