'use client';
import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { send } from '~/web/parts/form/send';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
import { SignOut } from '~/web/parts/frame/SignOut';
import { Moment } from '~/web/parts/unit/Moment';
import { tell, tellFault } from '~/web/parts/tell/tell';
import { SecondFactor } from './SecondFactor';

interface Session {
  readonly id: string;
  readonly token: string;
  readonly createdAt: string;
  readonly userAgent?: string | null;
}

const THEMES = [
  ['', 'as the system'],
  ['light', 'light'],
  ['dark', 'dark, for a dim machine room'],
] as const;

/** One's own theme, password and open sessions. */
export function Yourself({
  theme,
  hasPassword,
  hasSecondFactor,
}: {
  readonly theme: string;
  readonly hasPassword: boolean;
  readonly hasSecondFactor: boolean;
}): ReactNode {
  return (
    <section aria-label="Yourself" className="grid gap-3">
      <div className="flex items-center justify-between gap-3">
        <h2 className="text-lg">Yourself</h2>
        <SignOut />
      </div>
      <div className="grid gap-5 border border-line bg-surface p-4 md:grid-cols-2 xl:grid-cols-4">
        <Theme theme={theme} />
        {hasPassword ? <Password /> : <p className="text-muted">You came in by a link and have no password. An owner can make a link for you to choose one.</p>}
        {hasPassword && <SecondFactor isOn={hasSecondFactor} />}
        <Sessions />
      </div>
    </section>
  );
}

/** Kept in a cookie, so that the server draws the first page right. */
function applyTheme(value: string): void {
  document.cookie = `shelf-theme=${value}; path=/; max-age=${value === '' ? '0' : '31536000'}; samesite=lax`;
  if (value === '') delete document.documentElement.dataset['theme'];
  else document.documentElement.dataset['theme'] = value;
}

function Theme({ theme }: { readonly theme: string }): ReactNode {
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Theme</legend>
      {THEMES.map(([value, name]) => (
        <label key={value} className="flex min-h-8 items-center gap-2">
          <input type="radio" name="theme" value={value} defaultChecked={theme === value} onChange={() => applyTheme(value)} className="size-4" /> {name}
        </label>
      ))}
    </fieldset>
  );
}

function Password(): ReactNode {
  const [fault, setFault] = useState<string | null>(null);
  const change = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const values = new FormData(form);
    const sent = await send('POST', '/api/auth/change-password', {
      currentPassword: values.get('current'),
      newPassword: values.get('new'),
      revokeOtherSessions: true,
    });
    setFault(sent.kind === 'refused' ? sent.sentence : null);
    if (sent.kind === 'done') {
      form.reset();
      tell('The password is changed; all other sessions are ended.');
    }
  };
  return (
    <form method="post" onSubmit={(event) => void change(event)} className="grid content-start gap-2">
      <Field label="Current password" name="current" type="password" autoComplete="current-password" required />
      <Field label="New password" name="new" type="password" autoComplete="new-password" minLength={10} required />
      {fault !== null && <Notice grave>{fault}</Notice>}
      <SubmitButton look="plain">Change the password</SubmitButton>
    </form>
  );
}

function Sessions(): ReactNode {
  const [sessions, setSessions] = useState<readonly Session[] | null>(null);
  useEffect(() => {
    void fetch('/api/auth/list-sessions')
      .then((response) => response.json())
      .then((list: Session[]) => setSessions(list))
      .catch(() => setSessions([]));
  }, []);
  const endOthers = async (): Promise<void> => {
    const sent = await send('POST', '/api/auth/revoke-other-sessions', {});
    if (sent.kind === 'refused') tellFault(sent.sentence);
    else {
      tell('All other sessions are ended.');
      setSessions((list) => list?.slice(0, 1) ?? null);
    }
  };
  return (
    <div>
      <h3 className="mb-1">Open sessions</h3>
      {sessions === null ? (
        <p className="text-muted">Looking…</p>
      ) : (
        <ul className="mb-2 text-sm">
          {sessions.map(({ id, createdAt, userAgent }) => (
            <li key={id}>
              since <Moment at={createdAt} />, {/Mobile/.test(userAgent ?? '') ? 'a phone' : 'a computer'}
            </li>
          ))}
        </ul>
      )}
      {sessions !== null && sessions.length > 1 && <Button onClick={() => void endOthers()}>End all others</Button>}
    </div>
  );
}
