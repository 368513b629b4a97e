'use client';
import { useState, type ReactNode } from 'react';
import type { Media } from '~/core/drive/media';
import { readSize } from '~/core/drive/readSize';
import type { Candidate } from '~/core/plan/makers/candidates';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import { formatBytes, formatExactBytes } from '~/core/quantity/formatBytes';
import { isRefusal } from '~/core/value/refusal';
import { SerialField } from '~/web/parts/form/SerialField';
import { Field } from '~/web/parts/form/Field';
import { PickLine } from '~/web/parts/form/PickLine';
import { Radios } from '~/web/parts/form/Radios';
import { Serial } from '~/web/parts/unit/Serial';

interface Props {
  readonly candidates: readonly Candidate[];
  /** `null` while what is written is no drive. */
  readonly onDrive: (drive: NewDrive | null) => void;
  readonly first: string | undefined;
  /** The kind that is bought where nobody says another. */
  readonly media?: Media;
}

const BOUGHT = 'bought';

/** What lies in a drawer, as the drive that goes in. */
export function fromDrawer({ bytes, basis, serial, media }: Candidate['drive']): NewDrive {
  return { bytes, basis, serial, ...(media === undefined ? {} : { media }) };
}

/** The drive that goes in: one that lies in a drawer, held against what the bay needs, or one that is bought. */
export function NewDriveChoice({ candidates, onDrive, first, media: usual = 'hard-disk' }: Props): ReactNode {
  const [chosen, setChosen] = useState(first ?? BOUGHT);
  const [bought, setBought] = useState({ size: '', serial: '', model: '', media: usual as string });
  const [wrong, setWrong] = useState<string>();

  const fitting = candidates.filter(({ fits }) => fits);
  const others = candidates.filter(({ fits }) => !fits);
  const choose = (serial: string): void => {
    setChosen(serial);
    const of = candidates.find((one) => one.serial === serial)?.drive;
    if (of) onDrive(fromDrawer(of));
    else write(bought);
  };
  const write = (next: typeof bought): void => {
    setBought(next);
    const size = next.size.trim() === '' ? null : readSize(next.size);
    setWrong(size !== null && isRefusal(size) ? size.sentence : undefined);
    if (size === null || isRefusal(size)) return onDrive(null);
    const text = (of: 'serial' | 'model'): object => (next[of].trim() === '' ? {} : { [of]: next[of].trim() });
    onDrive({
      bytes: size.bytes,
      basis: size.basis,
      ...(size.label === undefined ? {} : { label: size.label }),
      ...text('serial'),
      ...text('model'),
      media: next.media as NonNullable<NewDrive['media']>,
    });
  };
  return (
    <fieldset className="grid gap-2" data-new-drive>
      <legend className="mb-2 text-lg">The drive that goes in</legend>
      <Radios
        legend="Which one"
        name="new-drive"
        value={chosen}
        onValue={choose}
        options={[
          ...fitting.slice(0, 6).map(({ serial, drive, words }) => ({
            value: serial,
            words: (
              <>
                <strong>{formatBytes(drive.bytes)}</strong> <Serial of={serial} />
              </>
            ),
            detail: `${words} · ${formatExactBytes(drive.bytes)} bytes`,
          })),
          { value: BOUGHT, words: 'One that is bought, or not in a drawer yet' },
        ]}
      />
      {others.length > 0 && (
        <details className="text-sm text-muted">
          <summary className="min-h-9 cursor-pointer py-1.5">
            {others.length} in drawers {others.length === 1 ? 'does' : 'do'} not fit
          </summary>
          <ul>
            {others.slice(0, 20).map(({ serial, drive, words }) => (
              <li key={serial} className="py-1">
                {formatBytes(drive.bytes)} <Serial of={serial} />: {words}
              </li>
            ))}
          </ul>
        </details>
      )}
      {chosen === BOUGHT && (
        <div className="grid gap-3 sm:grid-cols-2">
          <Field
            label="Size"
            name="size"
            value={bought.size}
            placeholder="8 TB, or its exact bytes"
            autoComplete="off"
            fault={wrong}
            hint="The sector count or the bytes are surer than the label"
            onChange={(event) => write({ ...bought, size: event.target.value })}
          />
          <SerialField
            label="Serial, when you have it"
            value={bought.serial}
            onSerial={(serial) => write({ ...bought, serial })}
          />
          <Field
            label="Model"
            value={bought.model}
            autoComplete="off"
            maxLength={64}
            onChange={(event) => write({ ...bought, model: event.target.value })}
          />
          <PickLine
            label="Kind"
            value={bought.media}
            onValue={(media) => write({ ...bought, media })}
            options={[
              { value: 'hard-disk', words: 'hard disk' },
              { value: 'shingled', words: 'shingled hard disk' },
              { value: 'ssd', words: 'SSD' },
              { value: 'nvme', words: 'NVMe drive' },
            ]}
          />
        </div>
      )}
    </fieldset>
  );
}
