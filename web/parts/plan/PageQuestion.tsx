'use client';
import { useState, type ReactNode } from 'react';
import type { Interlock } from '~/core/plan/engine/interlock';
import type { StepEvidence } from '~/core/plan/plan';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';

type Says = Extract<StepEvidence, { kind: 'page' }>['says'];

const ANSWERS: readonly (readonly [Says, string])[] = [
  ['working', 'Still at work'],
  ['done', 'Done, or healthy'],
  ['stopped', 'Stopped, or failed'],
  ['other', 'Something else'],
];
const THEN: Readonly<Record<Says, string>> = {
  working: 'Leave it alone, and look again later. Its percent is entered above.',
  done: 'Say it once more, after a second look: does the page itself say done, and no other line of a rebuild? The plan goes on as if there were a second copy.',
  stopped: 'It is written down that the work has stopped. Pull nothing: the drives that stand carry everything. The plan stays at this step.',
  other: 'Write down what it says, word for word.',
};
const DO: Readonly<Record<Says, string>> = { working: 'Keep that answer', done: 'Its page says done', stopped: 'Write that down', other: 'Write that down' };

interface Props {
  readonly interlock: Interlock;
  readonly busy: boolean;
  readonly onEvidence: (evidence: StepEvidence) => void;
}

/** A wait that would end early: what the unit's own page says, and only a "done" that is said twice goes on. */
export function PageQuestion({ interlock, busy, onEvidence }: Props): ReactNode {
  const [says, setSays] = useState<Says | null>(null);
  const [note, setNote] = useState('');
  const words = note.trim() === '' ? {} : { note: note.trim() };
  return (
    <form
      role="alert"
      data-stopped="too-early"
      className="grid gap-3 border-2 border-thinned bg-thinned-ground p-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (says !== null) onEvidence({ kind: 'page', says, ...(says === 'done' ? { again: true } : {}), ...words });
      }}
    >
      <p className="text-lg font-semibold">{interlock.sentence}</p>
      <p className="text-lg">{interlock.back}</p>
      <fieldset className="grid gap-1">
        <legend className="mb-1 font-semibold">What does its page say now?</legend>
        {ANSWERS.map(([id, answer]) => (
          <label key={id} className="flex min-h-9 items-center gap-3 max-sm:min-h-11">
            <input type="radio" name="page-says" checked={says === id} onChange={() => setSays(id)} />
            {answer}
          </label>
        ))}
      </fieldset>
      {says !== null && <p>{THEN[says]}</p>}
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
          <Button look={says === 'done' ? 'grave' : 'main'} type="submit" className="min-h-11" disabled={busy || (says === 'other' && note.trim() === '')}>
            {DO[says]}
          </Button>
        </div>
      )}
    </form>
  );
}
