'use client';
import Link from '~/web/parts/frame/Link';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { StepEvidence } from '~/core/plan/plan';
import { bayName } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Radios } from '~/web/parts/form/Radios';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { Serial } from '~/web/parts/unit/Serial';

type WrongOut = Extract<StepEvidence, { kind: 'wrong-out' }>;
type Says = WrongOut['says'];

const ANSWERS: readonly (readonly [Says, string])[] = [
  ['as-before', 'Healthy, or as it was before'],
  ['thinner', 'Thinner: it misses this drive'],
  ['rebuilds', 'It has begun to rebuild onto this drive'],
  ['stopped', 'The pool has stopped, or is gone'],
  ['asks-to-erase', 'It asks to erase, initialise or repair'],
];

interface Props {
  readonly unit: UnitState;
  readonly serial: string;
  readonly busy: boolean;
  readonly onEvidence: (evidence: WrongOut) => void;
}

/** On the spot, after another drive than the one meant: is it out, what does the unit make of it, and what comes now. */
export function WrongDriveOut({ unit, serial, busy, onEvidence }: Props): ReactNode {
  const [isOut, setIsOut] = useState(false);
  const [says, setSays] = useState<Says | null>(null);
  const [note, setNote] = useState('');
  const bay = unit.drives[serial]?.bay;
  if (bay == null || unit.power === 'off') return null;
  if (!isOut)
    return (
      <p className="mt-3">
        <Button look="grave" className="min-h-11" onClick={() => setIsOut(true)}>
          It is out of its bay
        </Button>
      </p>
    );
  return (
    <form
      data-wrong-out
      className="mt-4 grid gap-3 border-t border-thinned pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (says !== null)
          onEvidence({ kind: 'wrong-out', serial, says, ...(note.trim() === '' ? {} : { note: note.trim() }) });
      }}
    >
      <p className="text-lg font-semibold">
        1. Put <Serial of={serial} /> back into {bayName(unit, bay)} now, and push until it clicks.
      </p>
      <p className="text-lg">2. Touch no other tray. Wait for its light, then open the unit’s own page.</p>
      <Radios
        legend="3. What does its page say now?"
        name="wrong-out"
        options={ANSWERS.map(([value, words]) => ({ value, words }))}
        value={says ?? ''}
        onValue={(value) => setSays(value as Says)}
      />
      {says === 'asks-to-erase' && (
        <p className="font-semibold">
          Answer no, or close the question. Whatever it offers, nothing is erased, initialised or repaired now.
        </p>
      )}
      <Field
        label="Its words, if they matter"
        value={note}
        maxLength={300}
        autoComplete="off"
        onChange={(event) => setNote(event.target.value)}
      />
      <div>
        <Button look="main" type="submit" className="min-h-11" disabled={busy || says === null}>
          Record both, and say what comes now
        </Button>
      </div>
    </form>
  );
}

/** What comes after each answer. */
export function AfterWrongDrive({
  unit,
  unitId,
  kept,
  onClose,
}: {
  readonly unit: UnitState;
  readonly unitId: string;
  readonly kept: WrongOut;
  readonly onClose: () => void;
}): ReactNode {
  const { serial, says } = kept;
  const box = useRef<HTMLDivElement>(null);
  // It comes where the question was, further down.
  useEffect(() => {
    box.current?.scrollIntoView({ block: 'start' });
  }, []);
  const bay = unit.drives[serial]?.bay;
  const where = bay == null ? serial : `${bayName(unit, bay)}, ${serial}`;
  const link = (href: string, words: string): ReactNode => (
    <Link href={href} className="text-action underline">
      {words}
    </Link>
  );
  return (
    <div ref={box} className="mb-4 max-w-[640px]" data-after-wrong={says}>
      <Notice grave={says !== 'as-before'} title={`Recorded: ${where} was out, and is back.`}>
        {says === 'as-before' && (
          <p className="text-lg">
            The unit took it back. Let it read everything once when this plan is through. Now go on with the step below:
            read the serial before a hand goes to the tray.
          </p>
        )}
        {says === 'thinner' && (
          <p className="text-lg">
            {where} is in its bay and no longer counts: pull nothing more, or a second drive is missing.{' '}
            {link(`/units/${unitId}/replace?serial=${encodeURIComponent(serial)}`, 'Plan how it comes back')}; this plan
            waits until it is done.
          </p>
        )}
        {says === 'rebuilds' && (
          <p className="text-lg">
            {where} is being written now: pull nothing, fit nothing, and let it run to its end. What its page shows is
            entered {link(`/units/${unitId}`, 'at the unit')}; until it says done, the pool is as thin as it was.
          </p>
        )}
        {says === 'stopped' && (
          <p className="text-lg">
            Stopped is not lost. Pull nothing, fit nothing, start no repair: every drive stays where it is now.{' '}
            {link(`/units/${unitId}/rescue`, 'Open the rescue desk')}: it says what is tried first, and once the unit
            serves the pool again you say so there; then this plan goes on.
          </p>
        )}
        {says === 'asks-to-erase' && (
          <p className="text-lg">
            The answer stays no, also when it asks again. Leave every drive where it is, and the unit switched on.{' '}
            {link(`/units/${unitId}/rescue`, 'Open the rescue desk')} before anything else.
          </p>
        )}
        <p className="mt-2">
          <Button className="min-h-11" onClick={onClose}>
            I have read that
          </Button>
        </p>
      </Notice>
    </div>
  );
}
