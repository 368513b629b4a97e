'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent, type ReactNode } from 'react';
import { factsOf, SCHEMES } from '~/core/layout/scheme';
import type { Profile } from '~/core/platform/profile';
import { GB, TB } from '~/core/quantity/bytes';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { api } from '~/web/parts/form/api';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
import { tell } from '~/web/parts/tell/tell';

const KINDS = ['3.5-inch', '2.5-inch', 'm2'] as const;

/** Describes a unit no profile fits: its bays, their kinds, its limits. What is not asked here is taken from the family chosen now. */
export function DescribeUnit({ like, onDescribed }: { readonly like: Profile; readonly onDescribed: (id: string) => void }): ReactNode {
  const router = useRouter();
  const [isOpen, setIsOpen] = useState(false);
  const [fault, setFault] = useState<{ readonly sentence: string; readonly fields: Readonly<Record<string, string>> } | null>(null);

  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const name = String(form.get('name')).trim();
    const number = (field: string): number => Number(String(form.get(field)).replace(',', '.'));
    const largest = number('largest');
    const { largestDriveBytes: _, ...bays } = like.bays;
    const profile = {
      ...like,
      id: `own-${name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`.slice(0, 40).replace(/-$/, ''),
      name,
      bays: {
        ...bays,
        choices: [number('bays')],
        kinds: form.getAll('kinds') as Profile['bays']['kinds'],
        ...(largest > 0 ? { largestDriveBytes: Math.round(largest * TB) } : {}),
      },
      schemes: Object.fromEntries(form.getAll('schemes').map((scheme) => [scheme, like.schemes[scheme as keyof Profile['schemes']] ?? {}])),
      space: { ...like.space, systemAreaBytes: Math.round(number('system') * GB) },
    };
    const sent = await api('PUT /profiles/{id}', { id: profile.id, body: profile });
    if (sent.kind === 'refused') setFault(sent);
    else {
      setIsOpen(false);
      setFault(null);
      tell(`${name} is described. Settings has it as JSON, with everything that was not asked here.`);
      onDescribed(profile.id);
      router.refresh();
    }
  };

  return (
    <>
      <Button className="no-print" onClick={() => setIsOpen(true)}>
        Describe one…
      </Button>
      <Dialog open={isOpen} onOpenChange={setIsOpen} title="Describe a unit">
        <form method="post" onSubmit={(event) => void submit(event)} className="grid gap-4">
          <p className="text-muted">For a unit that no family here fits. Everything not asked is taken from {like.name}.</p>
          {fault && (
            <Notice grave>
              {Object.keys(fault.fields).length === 0
                ? fault.sentence
                : Object.entries(fault.fields)
                    .map(([field, detail]) => `${field.replaceAll('/', ' ')} ${detail}`)
                    .join(' ')}
            </Notice>
          )}
          <Field label="What to call it" name="name" required maxLength={60} autoFocus autoComplete="off" pattern=".*[A-Za-z0-9].*" />
          <div className="grid grid-cols-3 gap-3">
            <Field label="Bays" name="bays" type="number" min={1} max={1000} required defaultValue={like.bays.choices[0]} />
            <Field
              label="Largest drive, TB"
              name="largest"
              type="number"
              min={0}
              step="any"
              placeholder="any"
              defaultValue={like.bays.largestDriveBytes === undefined ? '' : Math.floor(like.bays.largestDriveBytes / TB)}
            />
            <Field
              label="Own area a drive, GB"
              name="system"
              type="number"
              min={0}
              step="any"
              required
              defaultValue={Number((like.space.systemAreaBytes / GB).toFixed(1))}
            />
          </div>
          <fieldset className="flex flex-wrap gap-4">
            <legend className="mb-1 font-semibold">Kinds of bay</legend>
            {KINDS.map((kind) => (
              <label key={kind} className="flex items-center gap-2">
                <input type="checkbox" name="kinds" value={kind} defaultChecked={like.bays.kinds.includes(kind)} className="size-4" />{' '}
                {kind === 'm2' ? 'M.2' : kind}
              </label>
            ))}
          </fieldset>
          <fieldset className="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
            <legend className="mb-1 font-semibold">Layouts it offers</legend>
            {SCHEMES.map((scheme) => (
              <label key={scheme} className="flex items-center gap-2 text-sm">
                <input type="checkbox" name="schemes" value={scheme} defaultChecked={like.schemes[scheme] !== undefined} className="size-4" />{' '}
                {factsOf(scheme).name}
              </label>
            ))}
          </fieldset>
          <SubmitButton className="justify-self-end">Plan for it</SubmitButton>
        </form>
      </Dialog>
    </>
  );
}
