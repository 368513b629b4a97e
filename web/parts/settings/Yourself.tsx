'use client';
import { useEffect, useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Radios } from '~/web/parts/form/Radios';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread } from '~/web/parts/form/sheet/useSheet';
import { useLooseSheet } from '~/web/parts/form/sheet/useLooseSheet';
import { send } from '~/web/parts/form/send';
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
  { value: '', words: 'as the system' },
  { value: 'light', words: 'light' },
  { value: 'dark', words: 'dark, for a dim machine room' },
];

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
        {hasPassword ? (
          <Password />
        ) : (
          <p className="text-muted">
            You came in by a link and have no password. An owner can make a link for you to choose one.
          </p>
        )}
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
  const [chosen, setChosen] = useState(theme === 'light' || theme === 'dark' ? theme : '');
  return (
    <Radios
      legend="Theme"
      name="theme"
      value={chosen}
      options={THEMES}
      onValue={(value) => {
        setChosen(value);
        applyTheme(value);
      }}
    />
  );
}

function Password(): ReactNode {
  const sheet = useLooseSheet({
    start: { current: '', new: '' },
    checks: (values) => (values.new.length < 10 ? unread({ new: 'At least ten characters.' }) : null),
    does: async (values) => {
      const sent = await send('POST', '/api/auth/change-password', {
        currentPassword: values.current,
        newPassword: values.new,
        revokeOtherSessions: true,
      });
      return sent.kind === 'refused' ? sent.sentence : null;
    },
    done: () => tell('The password is changed; all other sessions are ended.'),
  });
  return (
    <Sheet of={sheet} sends="Change the password" look="plain" label="Password">
      <TextField label="Current password" name="current" type="password" autoComplete="current-password" required />
      <TextField label="New password" name="new" type="password" autoComplete="new-password" required />
    </Sheet>
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
