'use client';
import { useRouter } from 'next/navigation';
import { useRef, useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { api } from '~/web/parts/form/api';
import { FileInput } from '~/web/parts/form/FileInput';
import type { Profile } from '~/core/platform/profile';
import { tell, tellFault } from '~/web/parts/tell/tell';

interface Listed {
  readonly id: string;
  readonly name: string;
  readonly isOwn: boolean;
}

/** What families of units can do: taken away as JSON, changed or described anew, and brought back. */
export function Profiles({
  profiles,
  mayStore,
}: {
  readonly profiles: readonly Listed[];
  readonly mayStore: boolean;
}): ReactNode {
  const router = useRouter();
  const file = useRef<HTMLInputElement>(null);
  const [text, setText] = useState<string | null>(null);
  const [faults, setFaults] = useState<readonly string[]>([]);

  const edit = async (id: string): Promise<void> => {
    const sent = await api('GET /profiles/{id}', { id });
    if (sent.kind === 'refused') tellFault(sent.sentence);
    else {
      setFaults([]);
      setText(JSON.stringify(sent.answer, null, 2));
    }
  };
  const store = async (): Promise<void> => {
    let profile: Profile;
    try {
      profile = JSON.parse(text ?? '') as Profile;
    } catch (error) {
      setFaults([`This is not JSON: ${(error as Error).message}.`]);
      return;
    }
    const sent = await api('PUT /profiles/{id}', { id: String(profile.id), body: profile });
    if (sent.kind === 'refused')
      setFaults(
        Object.keys(sent.fields).length > 0
          ? Object.entries(sent.fields).map(
              ([field, detail]) => `${field === '#' ? 'the profile' : field.replaceAll('/', ' › ')} ${detail}`,
            )
          : [sent.sentence],
      );
    else {
      setText(null);
      setFaults([]);
      tell(`${String(profile.name)} is stored.`);
      router.refresh();
    }
  };
  const remove = async ({ id, name }: Listed): Promise<void> => {
    const sent = await api('DELETE /profiles/{id}', { id });
    if (sent.kind === 'refused') tellFault(sent.sentence);
    else tell(`${name} as you described it is removed.`);
    router.refresh();
  };

  return (
    <section aria-label="Platform profiles" className="grid grid-cols-[minmax(0,1fr)] gap-3">
      <h2 className="text-lg">Platform profiles</h2>
      <p className="text-muted">
        What families of units can do. To describe one of your own, start from one that is near, give it another id, and
        store it; the form is written down at{' '}
        <a className="text-action underline" href="/api/v1/schemas/profile">
          /api/v1/schemas/profile
        </a>
        .
      </p>
      <ul className="border border-line bg-surface">
        {profiles.map((profile) => (
          <li
            key={profile.id}
            className="flex flex-wrap items-center justify-between gap-3 border-t border-line px-3 py-1.5 first:border-0"
          >
            <span>
              {profile.name} <span className="font-mono text-sm text-muted">{profile.id}</span>
              {profile.isOwn && ' · your own'}
            </span>
            <span className="flex items-center gap-2">
              <a
                href={`/api/v1/profiles/${profile.id}`}
                download={`${profile.id}.json`}
                className="px-2 text-action underline"
              >
                Take away
              </a>
              <Button onClick={() => void edit(profile.id)} aria-label={`Open as JSON: ${profile.id}`}>
                Open as JSON
              </Button>
              {profile.isOwn && mayStore && (
                <Button look="grave" onClick={() => void remove(profile)} aria-label={`Remove ${profile.id}`}>
                  Remove
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {mayStore && text === null && (
        <div>
          <Button onClick={() => file.current?.click()}>Bring a profile as JSON…</Button>
          <FileInput
            ref={file}
            label="Profile as JSON"
            accept="application/json,.json"
            onFile={(chosen) => void chosen.text().then(setText)}
          />
        </div>
      )}
      {text !== null && (
        <div className="grid gap-2 border border-line bg-surface p-4">
          <label htmlFor="profile-json" className="font-semibold">
            The profile as JSON
          </label>
          <textarea
            id="profile-json"
            rows={16}
            value={text}
            spellCheck={false}
            className="field font-mono text-sm"
            onChange={(event) => setText(event.target.value)}
          />
          {faults.length > 0 && (
            <Notice grave title="It is not stored">
              <ul>
                {faults.map((fault) => (
                  <li key={fault}>{fault}</li>
                ))}
              </ul>
            </Notice>
          )}
          <div className="flex gap-2">
            {mayStore && (
              <Button look="main" onClick={() => void store()}>
                Store it
              </Button>
            )}
            <Button onClick={() => setText(null)}>Close</Button>
          </div>
        </div>
      )}
    </section>
  );
}
