'use client';
import { useEffect, useRef, type ReactNode } from 'react';
import { filled } from '~/web/parts/form/filled';
import { TextField } from '~/web/parts/form/fields/TextField';
import { send } from '~/web/parts/form/send';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useLooseSheet } from '~/web/parts/form/sheet/useLooseSheet';

/**
 * Uses a one-time key up, by a request of its own: looking at the link, as mail programs and chat previews do, costs
 * nothing. A key that only signs in does so by itself once the page runs.
 */
export function EntryForm({
  entryKey,
  asks,
}: {
  readonly entryKey: string;
  readonly asks: 'nothing' | 'password' | 'owner';
}): ReactNode {
  const began = useRef(false);
  const sheet = useLooseSheet({
    start: { name: '', email: '', password: '' },
    then: 'sent',
    does: async (values) => {
      const sent = await send('POST', '/api/auth/entry', {
        key: entryKey,
        ...filled(values, 'name', 'email'),
        ...(values.password === '' ? {} : { password: values.password }),
      });
      if (sent.kind === 'refused') return sent.sentence;
      window.location.assign('/');
      return null;
    },
  });
  const { submit } = sheet;
  useEffect(() => {
    if (asks !== 'nothing' || began.current) return;
    began.current = true;
    void submit();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the page has started
  }, [asks]);

  return (
    <Sheet
      of={sheet}
      sends={asks === 'owner' ? 'Make this shelf mine' : asks === 'password' ? 'Set the password and enter' : 'Enter'}
    >
      {asks === 'owner' && (
        <TextField label="Your name" name="name" autoComplete="name" required autoFocus maxLength={80} />
      )}
      {asks === 'owner' && (
        <TextField
          label="E-mail"
          name="email"
          type="email"
          autoComplete="username"
          required
          hint="You sign in with it. Nothing is sent to it."
        />
      )}
      {asks !== 'nothing' && (
        <TextField
          label="Password"
          name="password"
          type="password"
          autoComplete="new-password"
          required
          hint="At least ten characters."
        />
      )}
    </Sheet>
  );
}
