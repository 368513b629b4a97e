'use client';
import dynamic from 'next/dynamic';
import Link from '~/web/parts/frame/Link';
import { useRouter } from 'next/navigation';
import { useRef, type ReactNode } from 'react';
import type { Enclosure } from '~/core/unit/state';
import type { ShownLetter } from '~/service/letter/letterOperations';
import type { AnswerOf } from '~/web/parts/form/api';
import { Button } from '~/web/parts/form/Button';
import { FileInput } from '~/web/parts/form/FileInput';
import { Notice } from '~/web/parts/form/Notice';
import { Select } from '~/web/parts/form/Select';
import { AreaField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { Moment } from '~/web/parts/unit/Moment';

const Contradictions = dynamic(() => import('~/web/parts/unit/Contradictions').then((part) => part.Contradictions), {
  ssr: false,
});

/** A unit a mail can be about. */
export interface UnitOfLetters {
  readonly id: string;
  readonly name: string;
  readonly enclosures: readonly Enclosure[];
}

interface Props {
  readonly letters: readonly ShownLetter[];
  readonly units: readonly UnitOfLetters[];
  readonly mayRecord: boolean;
}

/** Mails that came, newest first: what units wrote waits for a person; the shelf's own, where it comes here, does not. */
export function Letters({ letters, units, mayRecord }: Props): ReactNode {
  const waiting = letters.filter(({ settledAt }) => settledAt === null);
  const others = letters.filter(({ settledAt }) => settledAt !== null);
  return (
    <div className="grid gap-5">
      {letters.length === 0 && <p className="text-muted">No mail has come.</p>}
      {waiting.length > 0 && (
        <section aria-label="Waits for you" className="grid gap-2" data-letters-waiting>
          <h2 className="text-lg">
            {waiting.length === 1 ? 'One mail waits' : `${String(waiting.length)} mails wait`}
          </h2>
          <ul className="grid gap-2">
            {waiting.map((letter) => (
              <li key={letter.id} className="border border-line bg-surface px-4 py-3">
                <Waiting letter={letter} units={units} mayRecord={mayRecord} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {others.length > 0 && (
        <section aria-label="Read" className="grid gap-2">
          <h2 className="text-lg">Read</h2>
          <ul className="border border-line bg-surface">
            {others.map((letter) => (
              <li key={letter.id} className="border-t border-line px-4 py-2 first:border-0">
                <details>
                  <summary className="min-h-9 cursor-pointer py-1.5 max-sm:min-h-11">
                    {letter.subject === '' ? 'No subject' : letter.subject}{' '}
                    <span className="text-sm text-muted">
                      {letter.isOurs ? `to ${letter.recipients.join(', ')}` : (letter.unitName ?? 'about no unit')},{' '}
                      <Moment at={letter.cameAt} relative />
                      {!letter.isOurs && letter.settledBy !== null && `, settled: ${letter.settledBy}`}
                    </span>
                  </summary>
                  <Words of={letter} />
                </details>
              </li>
            ))}
          </ul>
        </section>
      )}
      {mayRecord && <Bring />}
    </div>
  );
}

/** As it was written; never drawn as anything but words. */
function Words({ of: { words, unreadBecause } }: { readonly of: ShownLetter }): ReactNode {
  const height = unreadBecause === null ? '' : 'max-h-60 overflow-y-auto border border-line p-2';
  return (
    <pre
      // What scrolls is reached by keys.
      {...(unreadBecause === null ? {} : { tabIndex: 0 })}
      className={`my-2 overflow-x-auto font-mono text-sm whitespace-pre-wrap ${height}`}
    >
      {words}
    </pre>
  );
}

function Waiting({
  letter,
  units,
  mayRecord,
}: {
  readonly letter: ShownLetter;
  readonly units: readonly UnitOfLetters[];
  readonly mayRecord: boolean;
}): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const { id, subject, sender, cameAt, writtenAt, unit, unitName, version, found, unreadBecause } = letter;
  const of = units.find((one) => one.id === unit);
  const settle = async (): Promise<void> => {
    if (await run('POST /letters/{id}/settled', { id })) tell('Settled.');
    router.refresh();
  };
  return (
    <div className="grid gap-2">
      <h3 className="font-semibold">{subject === '' ? 'No subject' : subject}</h3>
      <p className="text-sm text-muted">
        {unreadBecause === null && `From ${sender === '' ? 'nobody named' : sender}, `}
        {writtenAt === null ? (
          <>
            came <Moment at={cameAt} />
          </>
        ) : (
          <>
            written <Moment at={writtenAt} />
          </>
        )}
        {unit !== null && (
          <>
            , about{' '}
            <Link href={`/units/${unit}`} className="text-action underline">
              {unitName}
            </Link>
          </>
        )}
      </p>
      {unreadBecause !== null && (
        <Notice>
          This mail could not be read. {unreadBecause} Below is how it begins, as it came: look at the unit it may be
          from.
        </Notice>
      )}
      <Words of={letter} />
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {mayRecord && unit === null && (
        <label className="grid max-w-[320px] gap-1">
          Which unit is it about?
          <Select
            label={`Which unit “${subject}” is about`}
            value=""
            options={units.map((one) => ({ value: one.id, words: one.name }))}
            onValue={(chosen) =>
              void run('PUT /letters/{id}', { id, body: { unit: chosen } }).then(() => router.refresh())
            }
          />
        </label>
      )}
      {unit !== null && unreadBecause === null && found.length === 0 && (
        <p className="text-muted">Nothing in it was understood as news. Read it, and look at the unit.</p>
      )}
      {mayRecord && of && version !== null && found.length > 0 && (
        <>
          <p className="text-sm text-muted">
            Anybody can write a mail: look at the unit’s own page before you take its word.
          </p>
          <Contradictions
            id={of.id}
            version={version}
            enclosures={of.enclosures}
            found={found}
            who="The mail"
            onSettled={() => void settle()}
          />
        </>
      )}
      {mayRecord && (
        <div className="no-print">
          <Button disabled={busy} onClick={() => void settle()} aria-label={`Read, nothing to record: ${subject}`}>
            Read, nothing to record
          </Button>
        </div>
      )}
    </div>
  );
}

/** A mail pasted with its head, or a file of mails. */
function Bring(): ReactNode {
  const router = useRouter();
  const { fault, run } = useSending();
  const file = useRef<HTMLInputElement>(null);
  const took = ({ taken, there, unread: odd }: AnswerOf<'POST /letters'>): void => {
    tell(
      `${taken.length === 1 ? 'One mail was' : `${String(taken.length)} mails were`} taken in${there > 0 ? `, ${String(there)} were here already` : ''}${odd > 0 ? `, ${String(odd)} could not be read and wait as they came` : ''}.`,
    );
    router.refresh();
  };
  const sheet = useSheet<{ readonly text: string }, 'POST /letters'>({
    start: { text: '' },
    keep: 'letter',
    sends: 'POST /letters',
    asks: ({ text }) => (text.trim() === '' ? unread({ text: 'Paste the mail, with its head.' }) : { body: { text } }),
    done: took,
  });
  return (
    <details className="no-print">
      <summary className="min-h-9 cursor-pointer py-1.5 text-action underline max-sm:min-h-11">Bring in a mail</summary>
      <div className="grid max-w-[640px] gap-3 pt-2">
        <Sheet of={sheet} sends="Bring it in" label="Bring in a mail">
          <AreaField
            name="text"
            label="The mail with its head, as “show source” of a mail program gives it"
            className="font-mono"
            rows={6}
            placeholder={'From: heron@example.org\nSubject: Heron: warning\n\nDisk 3 has failed.'}
          />
        </Sheet>
        {fault && <Notice grave>{fault.sentence}</Notice>}
        <div>
          <Button onClick={() => file.current?.click()}>From a file…</Button>
          <FileInput
            ref={file}
            label="A mail or a mailbox file"
            accept=".eml,.mbox,.txt,message/rfc822"
            // A whole mailbox is sent as it is: no field holds it.
            onFile={(one) =>
              void one
                .text()
                .then((text) => run('POST /letters', { body: { text } }))
                .then((answer) => answer && took(answer))
            }
          />
        </div>
      </div>
    </details>
  );
}
