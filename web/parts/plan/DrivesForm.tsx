'use client';
import { useRef, useState, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { isSameSerial } from '~/core/drive/serial';
import { sizeFacts } from '~/core/plan/engine/driveFacts';
import type { StepEvidence } from '~/core/plan/plan';
import { formatBytes } from '~/core/quantity/formatBytes';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { keepText, parseKept, useKept } from '~/web/parts/form/kept';
import { Notice } from '~/web/parts/form/Notice';
import { Radios } from '~/web/parts/form/Radios';
import { SerialField } from '~/web/parts/form/SerialField';
import { Serial } from '~/web/parts/unit/Serial';

type Drives = Extract<StepEvidence, { kind: 'drives' }>;
type Drive = Drives['drives'][number];

interface Props {
  /** The plan and the step: what was read is kept in this browser until it is confirmed. */
  readonly of: string;
  readonly count: number;
  /** The size that was planned, as a person says it. */
  readonly planned: string;
  readonly busy: boolean;
  readonly onEvidence: (evidence: Drives) => void;
}

const LOOKS: readonly { readonly value: Drive['looks']; readonly words: string; readonly detail?: string }[] = [
  { value: 'new', words: 'New, sealed' },
  { value: 'used', words: 'Used before', detail: 'What is on it will be erased.' },
  { value: 'damaged', words: 'Damaged: dropped, dented, wet' },
];

/** Drives that lie on the table, read one after another: serial, the size printed on it, and how it looks. */
export function DrivesForm({ of, count, planned, busy, onEvidence }: Props): ReactNode {
  const key = `shelf-drives:${of}`;
  const drives = parseKept<readonly Drive[]>(useKept(key), []);
  const [serial, setSerial] = useState('');
  // Of one kind as a rule: the last size stays, and is seen.
  const [size, setSize] = useState('');
  const [looks, setLooks] = useState<Drive['looks']>('new');
  const [fault, setFault] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const sizeField = useRef<HTMLInputElement>(null);
  const keep = (list: readonly Drive[]): void => keepText(key, list.length === 0 ? '' : JSON.stringify(list));
  const isAll = drives.length >= count;
  const add = (): void => {
    const read = readSize(size);
    const typed = serial.trim();
    if (typed === '') return setFault('Read the serial off the drive.');
    if (drives.some((one) => isSameSerial(one.serial, typed))) return setFault(`${typed} was read already.`);
    if (isRefusal(read)) {
      sizeField.current?.focus();
      return setFault(read.sentence);
    }
    keep([...drives, { serial: typed, ...sizeFacts(read), looks }]);
    setSerial('');
    setLooks('new');
    setFault(null);
    field.current?.focus();
    return undefined;
  };
  return (
    <form
      data-evidence
      data-drives={Math.max(0, count - drives.length)}
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (!isAll) add();
        else onEvidence({ kind: 'drives', drives: [...drives] });
      }}
    >
      {fault !== null && <Notice grave>{fault}</Notice>}
      {drives.length > 0 && (
        <ol className="grid gap-1 border border-line bg-surface p-2" aria-label="Drives that were read">
          {drives.map((one) => (
            <li key={one.serial} className="flex min-h-9 items-center gap-3 px-2 max-sm:min-h-11">
              <span aria-hidden>✓</span>
              <span className="min-w-0 flex-1 overflow-hidden">
                <Serial of={one.serial} /> · {one.label ?? formatBytes(one.bytes)}
                {one.looks !== 'new' && ` · ${one.looks}`}
              </span>
              <button
                type="button"
                className="min-h-9 text-sm text-action underline max-sm:min-h-11"
                onClick={() => keep(drives.filter((other) => other !== one))}
                aria-label={`Again, ${one.serial}`}
              >
                Again
              </button>
            </li>
          ))}
        </ol>
      )}
      {!isAll && (
        <>
          <SerialField
            label={
              count === 1 ? 'Serial of the drive' : `Serial of drive ${String(drives.length + 1)} of ${String(count)}`
            }
            value={serial}
            inputRef={field}
            autoFocus
            hint="Scan it off the drive itself, or type it."
            onSerial={setSerial}
          />
          <Field
            label="Size printed on it"
            name="size"
            inputRef={sizeField}
            value={size}
            autoComplete="off"
            hint={`Planned: ${planned}. Look at each: “12 TB”, or its exact bytes.`}
            data-planned={planned}
            onChange={(event) => setSize(event.target.value)}
          />
          <Radios
            legend="How it looks"
            name="looks"
            options={LOOKS}
            value={looks}
            onValue={(chosen) => setLooks(chosen as Drive['looks'])}
          />
        </>
      )}
      <div>
        <Button look="main" type="submit" className="min-h-11 min-w-[160px]" disabled={busy}>
          {isAll ? (count === 1 ? 'This is the one' : `These are the ${String(count)}`) : 'It is read: next'}
        </Button>
      </div>
    </form>
  );
}
