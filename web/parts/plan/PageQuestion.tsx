'use client';
import { useState, type ReactNode } from 'react';
import type { StepEvidence } from '~/core/plan/plan';
import { Button } from '~/web/parts/form/Button';
import { Radios } from '~/web/parts/form/Radios';
import { Field } from '~/web/parts/form/Field';

type Page = Extract<StepEvidence, { kind: 'page' }>;
type Says = Page['says'];

export const PAGE_ANSWERS: readonly (readonly [Says, string])[] = [
  ['working', 'Still at work'],
  ['done', 'Done, or healthy'],
  ['stopped', 'Stopped, or failed'],
  ['other', 'Something else'],
];
const THEN = {
  /** What comes after each answer while work is waited for. */
  wait: {
    working: 'Leave it alone, and look again later. Its percent is entered above.',
    done: 'Say it once more, after a second look: does the page itself say done, and no other line of a rebuild? The plan goes on as if there were a second copy.',
    stopped:
      'It is written down that the work has stopped. Pull nothing: the drives that stand carry everything. The plan stays at this step.',
    other: 'Write down what it says, word for word.',
  },
  /** The same of a copy: what it is made from is as it was. */
  copy: {
    working: 'Leave it alone, and look again later. Its percent is entered above.',
    done: 'Say it once more, after a second look: does it say done, with no file left out? Both ends are compared next.',
    stopped:
      'It is written down that the copy has stopped. Erase nothing of what it is made from. The plan stays at this step.',
    other: 'Write down what it says, word for word.',
  },
  /** The same where the work had stopped: it begins anew, or it has ended while nobody looked. */
  again: {
    working: 'It is written down that it has begun again, from nothing. The wait goes on.',
    done: 'Say it once more, after a second look: does the page itself say done, and no other line of a rebuild? The plan goes on as if there were a second copy.',
    stopped: 'It is written down. Pull nothing: the drives that stand carry everything.',
    other: 'Write down what it says, word for word.',
  },
  /** The same where the record has the work done already. */
  check: {
    working: 'Then it was ended here too early: its end is taken back, and pull nothing meanwhile.',
    done: 'Look twice: does the page itself say healthy, and no other line of a rebuild?',
    stopped:
      'Then it was ended here too early: its end is taken back. Pull nothing: the drives that stand carry everything.',
    other: 'Write down what it says, word for word. The plan stays at this step.',
  },
} as const satisfies Readonly<Record<string, Readonly<Record<Says, string>>>>;
const DO: Readonly<Record<Says, string>> = {
  working: 'Keep that answer',
  done: 'Its page says done',
  stopped: 'Write that down',
  other: 'Write that down',
};

interface Props {
  readonly of: keyof typeof THEN;
  readonly busy: boolean;
  readonly onEvidence: (evidence: Page) => void;
}

/** What the unit's own page says; only a "done" that is said twice goes on. */
export function PageQuestion({ of, busy, onEvidence }: Props): ReactNode {
  const [says, setSays] = useState<Says | null>(null);
  const [note, setNote] = useState('');
  const words = note.trim() === '' ? {} : { note: note.trim() };
  return (
    <form
      data-page-question
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (says !== null) onEvidence({ kind: 'page', says, ...(says === 'done' ? { again: true } : {}), ...words });
      }}
    >
      <Radios
        legend="What does its page say now?"
        name="page-says"
        options={PAGE_ANSWERS.map(([value, words]) => ({ value, words }))}
        value={says ?? ''}
        onValue={(value) => setSays(value as Says)}
      />
      {says !== null && <p>{THEN[of][says]}</p>}
      {says !== null && says !== 'done' && (
        <Field
          label={says === 'other' ? 'What it says' : 'Its words, if they matter'}
          value={note}
          required={says === 'other'}
          maxLength={300}
          autoComplete="off"
          onChange={(event) => setNote(event.target.value)}
        />
      )}
      {says !== null && (
        <div>
          <Button
            look={says === 'done' && of !== 'check' ? 'grave' : 'main'}
            type="submit"
            className="min-h-11"
            disabled={busy || (says === 'other' && note.trim() === '')}
          >
            {DO[says]}
          </Button>
        </div>
      )}
    </form>
  );
}
