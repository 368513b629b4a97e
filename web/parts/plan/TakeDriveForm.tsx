'use client';
import { useRef, useState, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { whichSerial } from '~/core/drive/whichSerial';
import { sizeFacts, type DriveFacts } from '~/core/plan/engine/driveFacts';
import type { StepEvidence } from '~/core/plan/plan';
import { formatBytes } from '~/core/quantity/formatBytes';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { SerialField } from '~/web/parts/form/SerialField';
import { Serial } from '~/web/parts/unit/Serial';

interface Props {
  /** The size that was planned, as a person says it. */
  readonly planned: string;
  /** The drive that is meant, where one is. */
  readonly expects: string | undefined;
  /** Drives that may be the one and whose sizes are known: on record, or read in this plan. */
  readonly known: readonly (Pick<DriveFacts, 'bytes' | 'label'> & { readonly serial: string })[];
  readonly busy: boolean;
  readonly onUnread: (() => void) | undefined;
  readonly onSkip: (() => void) | undefined;
  readonly onEvidence: (evidence: Extract<StepEvidence, { kind: 'serial' }>) => void;
}

/** The new drive taken in hand, or put in: its serial, and the size that is printed on it where the record does not know the drive. */
export function TakeDriveForm({
  planned,
  expects,
  known: sized,
  busy,
  onUnread,
  onSkip,
  onEvidence,
}: Props): ReactNode {
  const [serial, setSerial] = useState('');
  const [size, setSize] = useState('');
  const [fault, setFault] = useState<string | undefined>();
  const sizeField = useRef<HTMLInputElement>(null);
  const meant = whichSerial(
    serial,
    sized.map((one) => one.serial),
  );
  const known = sized.find((one) => one.serial === meant);
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
        return onEvidence({ kind: 'serial', serial: typed, drive: sizeFacts(read) });
      }}
    >
      {expects !== undefined && (
        <p className="text-[22px]">
          <Serial of={expects} />
        </p>
      )}
      <SerialField
        label="Serial, read off the drive itself"
        value={serial}
        autoFocus
        hint="Scan it, or type it. Hold the drive by its sides."
        expects={expects === undefined ? [] : [expects]}
        onSerial={setSerial}
      />
      {known ? (
        <p data-known-size>It is {known.label ?? formatBytes(known.bytes)}.</p>
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
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy || serial.trim() === ''} className="min-h-11 min-w-[160px]">
          Confirm
        </Button>
        {onUnread && (
          <Button className="min-h-11" onClick={onUnread}>
            I cannot read the label
          </Button>
        )}
        {onSkip && (
          <Button className="min-h-11" onClick={onSkip}>
            Leave out…
          </Button>
        )}
      </div>
    </form>
  );
}
