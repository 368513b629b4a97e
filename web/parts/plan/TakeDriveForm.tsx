'use client';
import { useRef, useState, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { whichSerial } from '~/core/drive/whichSerial';
import type { StepEvidence } from '~/core/plan/plan';
import { formatBytes } from '~/core/quantity/formatBytes';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { SerialField } from '~/web/parts/form/SerialField';

interface Props {
  /** The size that was planned, as a person says it. */
  readonly planned: string;
  /** Drives that are on record and may be the one: their sizes are known. */
  readonly loose: readonly {
    readonly serial: string;
    readonly facts: { readonly bytes: number; readonly label?: string };
  }[];
  readonly busy: boolean;
  readonly onEvidence: (evidence: Extract<StepEvidence, { kind: 'serial' }>) => void;
}

/** The new drive taken in hand: its serial, and the size that is printed on it where the record does not know the drive. */
export function TakeDriveForm({ planned, loose, busy, onEvidence }: Props): ReactNode {
  const [serial, setSerial] = useState('');
  const [size, setSize] = useState('');
  const [fault, setFault] = useState<string | undefined>();
  const sizeField = useRef<HTMLInputElement>(null);
  const meant = whichSerial(
    serial,
    loose.map((one) => one.serial),
  );
  const known = loose.find((one) => one.serial === meant);
  return (
    <form
      data-evidence
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        const typed = serial.trim();
        if (known) return onEvidence({ kind: 'serial', serial: typed });
        const read = readSize(size);
        if (isRefusal(read)) {
          sizeField.current?.focus();
          return setFault(read.sentence);
        }
        const { bytes, basis, label } = read;
        return onEvidence({
          kind: 'serial',
          serial: typed,
          drive: { bytes, basis, ...(label === undefined ? {} : { label }) },
        });
      }}
    >
      <SerialField
        label="Serial, read off the drive itself"
        value={serial}
        autoFocus
        hint="Scan it, or type it. Hold the drive by its sides."
        onSerial={setSerial}
      />
      {known ? (
        <p data-known-size>On record: {known.facts.label ?? formatBytes(known.facts.bytes)}.</p>
      ) : (
        <Field
          label="Size printed on it"
          name="size"
          inputRef={sizeField}
          value={size}
          autoComplete="off"
          hint={`Planned: ${planned}. Read it off this drive: “12 TB”, or its exact bytes.`}
          data-planned={planned}
          {...(fault === undefined ? {} : { fault })}
          onChange={(event) => (setSize(event.target.value), setFault(undefined))}
        />
      )}
      <div>
        <Button look="main" type="submit" disabled={busy || serial.trim() === ''} className="min-h-11 min-w-[160px]">
          Confirm
        </Button>
      </div>
    </form>
  );
}
