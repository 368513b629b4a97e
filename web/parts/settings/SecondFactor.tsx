'use client';
import { useRouter } from 'next/navigation';
import { toDataURL } from 'qrcode';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { send } from '~/web/parts/form/send';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
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
  const [fault, setFault] = useState<string | null>(null);
  const [setup, setSetup] = useState<Setup | null>(null);
  const [codes, setCodes] = useState<readonly string[] | null>(null);

  const submit = (work: (values: FormData) => Promise<string | null>) => async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    const sentence = await work(new FormData(form));
    setFault(sentence);
    if (sentence === null) form.reset();
  };
  const begin = submit(async (values) => {
    const sent = await send<{ totpURI: string; backupCodes: string[] }>('POST', '/api/auth/two-factor/enable', {
      password: values.get('password'),
      method: 'totp',
    });
    if (sent.kind === 'refused') return wrongPassword(sent.sentence);
    const { totpURI, backupCodes } = sent.answer;
    setSetup({ picture: await toDataURL(totpURI, { margin: 2, width: 200 }), secret: new URL(totpURI).searchParams.get('secret') ?? '', codes: backupCodes });
    return null;
  });
  const finish = submit(async (values) => {
    const sent = await send('POST', '/api/auth/two-factor/verify-totp', { code: String(values.get('code')).replace(/\s/g, '') });
    if (sent.kind === 'refused') return /invalid/i.test(sent.sentence) ? 'That is not the code of this moment: look at the phone again.' : sent.sentence;
    setCodes(setup?.codes ?? []);
    setSetup(null);
    router.refresh();
    return null;
  });
  const end = submit(async (values) => {
    const sent = await send('POST', '/api/auth/two-factor/disable', { password: values.get('password') });
    if (sent.kind === 'refused') return wrongPassword(sent.sentence);
    tell('The second factor is off: the password alone opens this account.');
    router.refresh();
    return null;
  });

  return (
    <div className="grid content-start gap-2" data-second-factor>
      <h3>Second factor</h3>
      {fault !== null && <Notice grave>{fault}</Notice>}
      {codes !== null && (
        <ShownOnce
          title="It is on. Keep these codes on paper: each opens the account once, without the phone."
          text={codes.join('\n')}
          onDone={() => setCodes(null)}
        />
      )}
      {codes !== null ? null : setup !== null ? (
        <form method="post" onSubmit={(event) => void finish(event)} className="grid gap-2">
          {/* eslint-disable-next-line @next/next/no-img-element -- made here, for this moment */}
          <img src={setup.picture} alt="Code to scan with an app that makes one-time codes" width={200} height={200} className="bg-white" />
          <p className="text-sm text-muted">
            Scan it with an app that makes one-time codes, or type <code className="font-mono break-all text-ink">{setup.secret}</code>.
          </p>
          <Field label="The six digits it shows now" name="code" inputMode="numeric" autoComplete="one-time-code" required autoFocus />
          <SubmitButton look="plain">Switch it on</SubmitButton>
        </form>
      ) : (
        <form method="post" onSubmit={(event) => void (isOn ? end : begin)(event)} className="grid gap-2">
          <p className="text-sm text-muted">
            {isOn ? 'On: signing in asks for a code of your phone.' : 'Off. A code of your phone beside the password keeps a guessed password out.'}
          </p>
          <Field label="Your password" name="password" type="password" autoComplete="current-password" required />
          <SubmitButton look="plain">{isOn ? 'Switch it off' : 'Set it up'}</SubmitButton>
        </form>
      )}
    </div>
  );
}

function wrongPassword(sentence: string): string {
  return /invalid/i.test(sentence) ? 'That is not your password.' : sentence;
}
