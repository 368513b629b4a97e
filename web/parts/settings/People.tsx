'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { ROLES } from '~/schemas/access';
import type { Person } from '~/service/settings/readSettings';
import { ListHere } from '~/web/parts/table/ListHere';
import type { Column } from '~/web/parts/table/DataTable';
import { Button } from '~/web/parts/form/Button';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Select } from '~/web/parts/form/Select';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { api } from '~/web/parts/form/api';
import { type Sent } from '~/web/parts/form/send';
import { ShownOnce } from './ShownOnce';
import type { Role } from '~/schemas/access';
import { tell, tellFault } from '~/web/parts/tell/tell';

const MAY: Record<(typeof ROLES)[number], string> = {
  owner: 'does everything, and decides who comes in',
  keeper: 'records and changes',
  reader: 'looks',
};

/** Everybody who may come in; the owner adds them, changes what they may do, and shows them out. */
export function People({ people, me }: { readonly people: readonly Person[]; readonly me: string }): ReactNode {
  const router = useRouter();
  const [link, setLink] = useState<{ readonly for: string; readonly text: string } | null>(null);

  const act = async <A,>(sending: Promise<Sent<A>>, said: string): Promise<Sent<A>> => {
    const sent = await sending;
    if (sent.kind === 'refused') tellFault(sent.sentence);
    else {
      tell(said);
      router.refresh();
    }
    return sent;
  };
  const sheet = useSheet({
    start: { name: '', email: '', role: 'keeper' },
    keep: 'new person',
    sends: 'POST /people',
    asks: (values) => ({ body: { name: values.name.trim(), email: values.email.trim(), role: values.role as Role } }),
    done: (answer, { name }) => {
      setLink({ for: name, text: answer.link });
      router.refresh();
    },
  });
  const again = async (person: Person): Promise<void> => {
    const sent = await act(api('POST /people/{id}/link', { id: person.id }), `A new link for ${person.name} is ready.`);
    if (sent.kind === 'done') setLink({ for: person.name, text: sent.answer.link });
  };

  const columns: readonly Column<Person>[] = [
    {
      id: 'name',
      head: 'Name',
      value: ({ name }) => name,
      words: ({ name, email }) => `${name} ${email}`,
      cell: ({ id, name, email }) => (
        <>
          {name}
          {id === me && ' (you)'}
          <span className="block text-sm text-muted">{email}</span>
        </>
      ),
    },
    {
      id: 'role',
      head: 'Role',
      value: ({ role }) => role,
      cell: (person) => (
        <Select
          label={`Role of ${person.name}`}
          value={person.role}
          className="w-32"
          options={ROLES.map((role) => ({ value: role, words: role }))}
          onValue={(role) =>
            void act(
              api('PUT /people/{id}', { id: person.id, body: { role: role as Role } }),
              `${person.name} is ${role} now.`,
            )
          }
        />
      ),
    },
    {
      id: 'sessions',
      head: 'Sessions',
      value: ({ sessions }) => sessions,
      cell: (person) => (
        <>
          {person.sessions === 0
            ? person.hasPassword
              ? 'none open'
              : 'has not come in yet'
            : `${String(person.sessions)} open`}
          {person.sessions > 0 && (
            <Button
              className="ml-3"
              onClick={() =>
                void act(
                  api('DELETE /people/{id}/sessions', { id: person.id }),
                  `All sessions of ${person.name} are ended.`,
                )
              }
            >
              End them
            </Button>
          )}
        </>
      ),
    },
    {
      id: 'actions',
      head: 'Actions',
      isBare: true,
      value: () => null,
      cell: (person) => (
        <span className="whitespace-nowrap">
          <Button onClick={() => void again(person)}>New entry link</Button>{' '}
          {person.id !== me && (
            <Remove
              person={person}
              onRemove={() => void act(api('DELETE /people/{id}', { id: person.id }), `${person.name} is removed.`)}
            />
          )}
        </span>
      ),
    },
  ];

  return (
    <section aria-label="People" className="grid grid-cols-[minmax(0,1fr)] gap-3">
      <h2 className="text-lg">People</h2>
      <ListHere name="people-" label="People" columns={columns} rows={people} keyOf={({ id }) => id} />
      {link && (
        <ShownOnce
          title={`Hand this link to ${link.for}. It works once, within two days, and is not shown again.`}
          text={link.text}
          onDone={() => setLink(null)}
        />
      )}
      <Sheet of={sheet} sends="Add" label="Add a person" className="border border-line bg-surface p-4">
        <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 sm:grid-cols-3">
          <TextField label="Name" name="name" required maxLength={80} />
          <TextField label="E-mail" name="email" type="email" required />
          <SelectField
            label="Role"
            name="role"
            options={ROLES.map((role) => ({ value: role, words: role, detail: MAY[role] }))}
          />
        </div>
      </Sheet>
    </section>
  );
}

/** Asked once more in place: removing takes all sessions and tokens along. */
function Remove({ person, onRemove }: { readonly person: Person; readonly onRemove: () => void }): ReactNode {
  const [isAsking, setIsAsking] = useState(false);
  if (!isAsking) return <Button onClick={() => setIsAsking(true)}>Remove</Button>;
  return (
    <>
      <Button
        look="grave"
        autoFocus
        onClick={onRemove}
        aria-label={`Remove ${person.name}, with all sessions and tokens`}
      >
        Remove for good
      </Button>{' '}
      <Button onClick={() => setIsAsking(false)}>Keep</Button>
    </>
  );
}
