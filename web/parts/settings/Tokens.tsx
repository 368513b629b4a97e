'use client';
import { useRouter } from 'next/navigation';
import { useRef, useState, type FormEvent, type ReactNode } from 'react';
import { SCOPES } from '~/schemas/access';
import type { StoredToken } from '~/service/settings/readSettings';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { api } from '~/web/parts/form/api';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
import { Moment } from '~/web/parts/unit/Moment';
import { ShownOnce } from './ShownOnce';
import type { Scope } from '~/schemas/access';
import { tell, tellFault } from '~/web/parts/tell/tell';

const WHAT = { read: 'look and compute', write: 'record and change' } as const;

/** One's own bearer tokens for programs: scoped, shown once, revocable. A token never may more than its holder. */
export function Tokens({ tokens }: { readonly tokens: readonly StoredToken[] }): ReactNode {
  const router = useRouter();
  const form = useRef<HTMLFormElement>(null);
  const [fresh, setFresh] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const create = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const values = new FormData(event.currentTarget);
    const sent = await api('POST /tokens', { body: { name: String(values.get('name')), scopes: values.getAll('scopes') as Scope[] } });
    if (sent.kind === 'refused') setFault(values.getAll('scopes').length === 0 ? 'Choose what the token may do.' : sent.sentence);
    else {
      setFault(null);
      setFresh(sent.answer.token);
      form.current?.reset();
      router.refresh();
    }
  };
  const revoke = async ({ id, name }: StoredToken): Promise<void> => {
    const sent = await api('DELETE /tokens/{id}', { id });
    if (sent.kind === 'refused') tellFault(sent.sentence);
    else tell(`“${name}” is revoked.`);
    router.refresh();
  };
  return (
    <section aria-label="Tokens" className="grid grid-cols-[minmax(0,1fr)] gap-3">
      <h2 className="text-lg">Your tokens</h2>
      <p className="text-muted">
        For programs that use the interface under <code className="font-mono">/api/v1</code>. What it offers is written down at{' '}
        <a className="text-action underline" href="/api/v1/openapi.json">
          /api/v1/openapi.json
        </a>
        .
      </p>
      {tokens.length > 0 && (
        <ul className="border border-line bg-surface">
          {tokens.map((token) => (
            <li key={token.id} className="flex flex-wrap items-center justify-between gap-3 border-t border-line px-3 py-2 first:border-0">
              <span>
                <strong>{token.name}</strong>: {token.scopes.join(', ')}
                <span className="block text-sm text-muted">
                  made <Moment at={token.createdAt} />,{' '}
                  {token.lastUsedAt === null ? (
                    'never used'
                  ) : (
                    <>
                      last used <Moment at={token.lastUsedAt} relative />
                    </>
                  )}
                </span>
              </span>
              <Button look="grave" onClick={() => void revoke(token)} aria-label={`Revoke ${token.name}`}>
                Revoke
              </Button>
            </li>
          ))}
        </ul>
      )}
      {fresh !== null && <ShownOnce title="This is the token. It is not shown again; only its hash is kept." text={fresh} onDone={() => setFresh(null)} />}
      <form method="post" ref={form} onSubmit={(event) => void create(event)} className="flex flex-wrap items-end gap-4 border border-line bg-surface p-4">
        <div className="min-w-40 flex-1">
          <Field label="Token for" name="name" required maxLength={60} autoComplete="off" placeholder="e.g. monitoring script" />
        </div>
        <fieldset className="flex flex-wrap gap-4 pb-2">
          <legend className="sr-only">It may</legend>
          {SCOPES.map((scope) => (
            <label key={scope} className="flex items-center gap-2">
              <input type="checkbox" name="scopes" value={scope} defaultChecked={scope === 'read'} className="size-4" /> {scope}: {WHAT[scope]}
            </label>
          ))}
        </fieldset>
        <SubmitButton>Make a token</SubmitButton>
        {fault !== null && <Notice grave>{fault}</Notice>}
      </form>
    </section>
  );
}
