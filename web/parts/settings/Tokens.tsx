'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { SCOPES } from '~/schemas/access';
import type { StoredToken } from '~/service/settings/readSettings';
import { Button } from '~/web/parts/form/Button';
import { TicksField } from '~/web/parts/form/fields/SelectField';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { api } from '~/web/parts/form/api';
import { Moment } from '~/web/parts/unit/Moment';
import { ShownOnce } from './ShownOnce';
import type { Scope } from '~/schemas/access';
import { tell, tellFault } from '~/web/parts/tell/tell';

const WHAT = {
  read: 'look and compute',
  write: 'record and change',
  metrics: 'read the figures at /metrics, for monitoring',
} as const;

/** One's own bearer tokens for programs: scoped, shown once, revocable. A token never may more than its holder. */
export function Tokens({ tokens }: { readonly tokens: readonly StoredToken[] }): ReactNode {
  const router = useRouter();
  const [fresh, setFresh] = useState<string | null>(null);
  const sheet = useSheet({
    start: { name: '', scopes: ['read'] as Scope[] },
    sends: 'POST /tokens',
    asks: ({ name, scopes }) =>
      scopes.length === 0
        ? unread({ scopes: 'Choose what the token may do.' })
        : { body: { name: name.trim(), scopes } },
    done: ({ token }) => {
      setFresh(token);
      router.refresh();
    },
  });
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
        For programs that use the interface under <code className="font-mono">/api/v1</code>. What it offers is written
        down at{' '}
        <a className="text-action underline" href="/api/v1/openapi.json">
          /api/v1/openapi.json
        </a>
        .
      </p>
      {tokens.length > 0 && (
        <ul className="border border-line bg-surface">
          {tokens.map((token) => (
            <li
              key={token.id}
              className="flex flex-wrap items-center justify-between gap-3 border-t border-line px-3 py-2 first:border-0"
            >
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
      {fresh !== null && (
        <ShownOnce
          title="This is the token. It is not shown again; only its hash is kept."
          text={fresh}
          onDone={() => setFresh(null)}
        />
      )}
      <Sheet of={sheet} sends="Make a token" label="A new token" className="border border-line bg-surface p-4">
        <TextField label="Token for" name="name" required maxLength={60} placeholder="e.g. monitoring script" />
        <TicksField
          label="It may"
          name="scopes"
          options={SCOPES.map((scope) => ({ value: scope, words: `${scope}: ${WHAT[scope]}` }))}
        />
      </Sheet>
    </section>
  );
}
