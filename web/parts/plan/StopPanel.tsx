'use client';
import { useState, type ReactNode } from 'react';
import type { Interlock } from '~/core/plan/engine/interlock';
import { whichSerial } from '~/core/drive/whichSerial';
import type { Override } from '~/core/plan/plan';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Serial } from '~/web/parts/unit/Serial';
import { Sentence } from '~/web/parts/frame/Sentence';

interface Props {
  readonly interlocks: readonly Interlock[];
  readonly isOwner: boolean;
  readonly busy: boolean;
  readonly onOverride: (override: Override) => void;
  /** What else may be said on the spot. */
  readonly children: ReactNode;
}

/** A step was stopped: what would be lost, how to get back, and, for an owner, the way past it. */
export function StopPanel({ interlocks, isOwner, busy, onOverride, children }: Props): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const [serial, setSerial] = useState('');
  const [reason, setReason] = useState('');
  const about = interlocks[0]?.serial ?? '';
  const mayGoOn = isOwner && interlocks.every(({ mayOverride }) => mayOverride);
  return (
    <div
      role="alert"
      data-stopped={interlocks.map(({ code }) => code).join(' ')}
      className="border-2 border-thinned bg-thinned-ground p-4"
    >
      {interlocks.map(({ code, sentence, back }) => (
        <div key={code} className="mb-3 last:mb-0">
          <p className="text-lg font-semibold">
            <Sentence of={sentence} />
          </p>
          <p className="mt-1 text-lg">
            <Sentence of={back} />
          </p>
        </div>
      ))}
      {children}
      {mayGoOn && !isOpen && (
        <button
          type="button"
          className="mt-2 min-h-9 text-sm text-thinned underline max-sm:min-h-11"
          onClick={() => setIsOpen(true)}
        >
          I am the owner, and go on all the same…
        </button>
      )}
      {!mayGoOn && <p className="mt-2 text-sm">Nothing was changed. That it was tried stands in the ledger.</p>}
      {mayGoOn && isOpen && (
        <form
          className="mt-3 grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            onOverride({ serial: about, reason: reason.trim() });
          }}
        >
          <p>
            Type <Serial of={about} /> and why. It is recorded under your name.
          </p>
          <Field
            label="Its serial"
            value={serial}
            autoComplete="off"
            className="field font-mono"
            onChange={(event) => setSerial(event.target.value)}
          />
          <Field
            label="Why"
            value={reason}
            maxLength={400}
            autoComplete="off"
            onChange={(event) => setReason(event.target.value)}
          />
          <div className="flex justify-end">
            <Button
              look="grave"
              type="submit"
              disabled={busy || reason.trim() === '' || whichSerial(serial, [about]) === null}
            >
              Go on against the record
            </Button>
          </div>
        </form>
      )}
    </div>
  );
}
