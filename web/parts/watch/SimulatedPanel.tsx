'use client';
import { useId, useState, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { bayName } from '~/core/unit/bayName';
import { baysOf, type UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { FAULTS, type Fault, type PanelDoing } from '~/schemas/panel';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Labelled } from '~/web/parts/form/Labelled';
import { Notice } from '~/web/parts/form/Notice';
import { Select } from '~/web/parts/form/Select';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';

const FAULT_WORDS: Readonly<Record<Fault, string>> = {
  none: 'nothing is wrong',
  slow: 'answers slowly',
  hang: 'takes questions and never answers',
  half: 'breaks off in the middle',
  error: 'answers with an error',
  huge: 'answers with ten megabytes',
  deep: 'answers with something nested without end',
  loop: 'leads in a circle',
  nonsense: 'says what cannot be',
  'wrong-time': 'has its clock set wrong',
  restart: 'starts anew',
  certificate: 'shows another certificate',
};

const PACES = [
  [1, 'as fast as here'],
  [60, 'a minute a second'],
  [3600, 'an hour a second'],
  [86_400, 'a day a second'],
  [604_800, 'a week a second'],
] as const;

/** The other side of a simulated unit: what happens to it. For the demo, where no hardware is. */
export function SimulatedPanel({
  id,
  unit,
  onDone,
}: {
  readonly id: string;
  readonly unit: UnitState;
  readonly onDone: () => void;
}): ReactNode {
  const { busy, fault, run, setFault } = useSending();
  const own = useId();
  const [bay, setBay] = useState(baysOf(unit)[0] ?? '');
  const [serial, setSerial] = useState('');
  const [size, setSize] = useState('8 TB');
  const [wrong, setWrong] = useState<Fault>('none');
  const act = async (body: PanelDoing, words: string): Promise<void> => {
    const done = await run('POST /units/{id}/watch/panel', { id, body });
    if (done) tell(`${unit.name}: ${words}.`);
    onDone();
  };
  const insert = (): void => {
    const read = readSize(size);
    if (isRefusal(read)) return setFault({ sentence: read.sentence, fields: {} });
    void act(
      { do: 'insert', bay, serial: serial.trim(), bytes: read.bytes },
      `${serial.trim()} is in ${bayName(unit, bay)}`,
    );
  };
  const where = bayName(unit, bay);
  return (
    <section aria-label="The simulated unit" className="grid gap-3 border border-dashed border-line p-4" data-simulated>
      <h2 className="text-lg">The simulated unit itself</h2>
      <p className="text-muted">
        No hardware stands behind this one: here is what happens to it. The watch finds out by asking, as with any
        other.
      </p>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      <div className="flex flex-wrap items-end gap-2">
        <Labelled id={`${own}-bay`} label="Bay">
          <Select
            id={`${own}-bay`}
            labelledBy={`${own}-bay-label`}
            value={bay}
            options={baysOf(unit).map((value) => ({ value, words: bayName(unit, value) }))}
            onValue={setBay}
          />
        </Labelled>
        <Button disabled={busy} onClick={() => void act({ do: 'sign', bay }, `the drive in ${where} shows signs`)}>
          Shows signs
        </Button>
        <Button disabled={busy} onClick={() => void act({ do: 'fail', bay }, `the drive in ${where} fails`)}>
          Fails
        </Button>
        <Button disabled={busy} onClick={() => void act({ do: 'pull', bay }, `the drive is out of ${where}`)}>
          Is pulled
        </Button>
      </div>
      <div className="flex flex-wrap items-end gap-2">
        <Field label="Serial" value={serial} autoComplete="off" onChange={(event) => setSerial(event.target.value)} />
        <Field label="Size" value={size} autoComplete="off" onChange={(event) => setSize(event.target.value)} />
        <Button disabled={busy || serial.trim() === ''} onClick={insert}>
          Is put into {where}
        </Button>
        <Button disabled={busy} onClick={() => void act({ do: 'rebuild', bay }, `it rebuilds onto ${where}`)}>
          Rebuild onto {where}
        </Button>
      </div>
      <div className="flex flex-wrap items-end gap-2">
        <Labelled id={`${own}-wrong`} label="What is wrong with it">
          <Select
            id={`${own}-wrong`}
            labelledBy={`${own}-wrong-label`}
            value={wrong}
            options={FAULTS.map((value) => ({ value, words: FAULT_WORDS[value] }))}
            onValue={(value) => {
              const chosen = value as Fault;
              setWrong(chosen);
              void act({ do: 'fault', fault: chosen }, FAULT_WORDS[chosen]);
            }}
          />
        </Labelled>
        <span className="flex flex-wrap gap-2" role="group" aria-label="Its time passes">
          {PACES.map(([pace, words]) => (
            <Button key={pace} disabled={busy} onClick={() => void act({ do: 'pace', pace }, `time passes ${words}`)}>
              {words}
            </Button>
          ))}
        </span>
      </div>
    </section>
  );
}
