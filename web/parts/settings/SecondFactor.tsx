'use client';
import { useRouter } from 'next/navigation';
import { toDataURL } from 'qrcode';
import { useState, type ReactNode } from 'react';
import { TextField } from '~/web/parts/form/fields/TextField';
import { send } from '~/web/parts/form/send';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useLooseSheet } from '~/web/parts/form/sheet/useLooseSheet';
import { tell } from '~/web/parts/tell/tell';
import { ShownOnce } from './ShownOnce';

/** What is being set up: to be read by a phone, or typed into it. */
interface Setup {
  readonly picture: string;
  readonly secret: string;
  readonly codes: readonly string[];
}

/** A code of one's phone beside the password (RFC 6238), for whoever wants it. */
export function SecondFactor({ isOn }: { readonly isOn: boolean }): ReactNode {
  const router = useRouter();
  const [setup, setSetup] = useState<Setup | null>(null);
  const [codes, setCodes] = useState<readonly string[] | null>(null);

  const byPassword = useLooseSheet({
    start: { password: '' },
    does: async ({ password }) => {
      const sent = isOn
        ? await send('POST', '/api/auth/two-factor/disable', { password })
        : await send<{ totpURI?: string; backupCodes?: string[] }>('POST', '/api/auth/two-factor/enable', {
            password,
            method: 'totp',
          });
      if (sent.kind === 'refused') return /invalid/i.test(sent.sentence) ? 'That is not your password.' : sent.sentence;
      const { totpURI, backupCodes = [] } = sent.answer as { totpURI?: string; backupCodes?: string[] };
      if (isOn || totpURI === undefined) {
        tell('The second factor is off: the password alone opens this account.');
        router.refresh();
        return null;
      }
      setSetup({
        picture: await toDataURL(totpURI, { margin: 2, width: 200 }),
        secret: new URL(totpURI).searchParams.get('secret') ?? '',
        codes: backupCodes,
      });
      return null;
    },
  });
  const byCode = useLooseSheet({
    start: { code: '' },
    does: async ({ code }) => {
      const sent = await send('POST', '/api/auth/two-factor/verify-totp', { code: code.replace(/\s/g, '') });
      if (sent.kind === 'refused')
        return /invalid/i.test(sent.sentence)
          ? 'That is not the code of this moment: look at the phone again.'
          : sent.sentence;
      setCodes(setup?.codes ?? []);
      setSetup(null);
      router.refresh();
      return null;
    },
  });

  return (
    <div className="grid content-start gap-2" data-second-factor>
      <h3>Second factor</h3>
      {codes !== null && (
        <ShownOnce
          title="It is on. Keep these codes on paper: each opens the account once, without the phone."
          text={codes.join('\n')}
          onDone={() => setCodes(null)}
        />
      )}
      {codes !== null ? null : setup !== null ? (
        <Sheet of={byCode} sends="Switch it on" look="plain">
          {/* eslint-disable-next-line @next/next/no-img-element -- made here, for this moment */}
          <img
            src={setup.picture}
            alt="Code to scan with an app that makes one-time codes"
            width={200}
            height={200}
            className="bg-white"
          />
          <p className="text-sm text-muted">
            Scan it with an app that makes one-time codes, or type{' '}
            <code className="font-mono break-all text-ink">{setup.secret}</code>.
          </p>
          <TextField
            label="The six digits it shows now"
            name="code"
            inputMode="numeric"
            autoComplete="one-time-code"
            required
            autoFocus
          />
        </Sheet>
      ) : (
        <Sheet of={byPassword} sends={isOn ? 'Switch it off' : 'Set it up'} look="plain">
          <p className="text-sm text-muted">
            {isOn
              ? 'On: signing in asks for a code of your phone.'
              : 'Off. A code of your phone beside the password keeps a guessed password out.'}
          </p>
          <TextField label="Your password" name="password" type="password" autoComplete="current-password" required />
        </Sheet>
      )}
    </div>
  );
}
