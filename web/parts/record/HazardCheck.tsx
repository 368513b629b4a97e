'use client';
import { useState, type ReactNode } from 'react';
import { whichSerial } from '~/core/drive/whichSerial';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { Serial } from '~/web/parts/unit/Serial';
import type { Recorder } from './useRecord';
import { Sentence } from '~/web/parts/frame/Sentence';

/** What must be heard before something is recorded: the hazards, and the serial typed rather than a "Yes". */
export function HazardCheck({ recorder }: { readonly recorder: Recorder }): ReactNode {
  const { pending, busy, store, cancel } = recorder;
  const [typed, setTyped] = useState('');
  if (!pending) return null;
  const serial = pending.hazards.flatMap(({ serials }) => serials)[0];
  const isRight = serial === undefined || whichSerial(typed, [serial]) !== null;
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isRight) void store(pending).then(() => setTyped(''));
      }}
    >
      <Notice grave title={pending.sentence}>
        {pending.hazards.map(({ sentence }) => (
          <p key={sentence}>
            <Sentence of={sentence} />
          </p>
        ))}
      </Notice>
      {serial !== undefined && (
        <label className="block">
          <span className="mb-1 block font-semibold">
            Type the last four of <Serial of={serial} />, off the unit’s page or the label on its tray: pull nothing to
            read it
          </span>
          <input
            className="field font-mono"
            value={typed}
            autoFocus
            autoComplete="off"
            onChange={(event) => setTyped(event.target.value)}
            data-last-four
          />
        </label>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={cancel}>It was not so</Button>
        <Button look="grave" type="submit" disabled={busy || !isRight}>
          Record it
        </Button>
      </div>
    </form>
  );
}
