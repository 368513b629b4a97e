'use client';
import { bayName } from '~/core/unit/bayName';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { StatedUnitEvent } from '~/schemas/unitEvent';
import { baysOf, driveInBay, type UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import type { DriveDescription } from '~/schemas/driveEvent';
import { isSameSerial } from '~/core/drive/serial';
import { Button } from '~/web/parts/form/Button';
import { SerialField } from '~/web/parts/form/SerialField';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { api } from '~/web/parts/form/api';
import { tell } from '~/web/parts/tell/tell';
import { Serial } from './Serial';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly from: string;
  readonly onDone: () => void;
}

interface Scanned {
  readonly bay: string;
  readonly serial: string;
  readonly drive: DriveDescription;
  readonly isKnown: boolean;
}

/** Drives go in one after another: scan, Enter, next bay. What a drawer knows of a drive comes along; nothing is stored until the end. */
export function ScanIn({ id, version, unit, from, onDone }: Props): ReactNode {
  const router = useRouter();
  const [serial, setSerial] = useState('');
  const [size, setSize] = useState('');
  const [scanned, setScanned] = useState<readonly Scanned[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // From the bay that was chosen on, then from the first.
  const all = baysOf(unit);
  const next = [...all.slice(all.indexOf(from)), ...all].find(
    (bay) => !driveInBay(unit, bay) && !scanned.some((one) => one.bay === bay),
  );

  const add = async (typed: string): Promise<void> => {
    const wanted = typed.trim();
    if (wanted === '' || next === undefined) return;
    setFault(null);
    if (scanned.some((one) => isSameSerial(one.serial, wanted))) return setFault(`${wanted} is in the list already.`);
    setBusy(true);
    const known = await api('GET /drives/{serial}', { serial: wanted });
    setBusy(false);
    const life = known.kind === 'done' ? known.answer.life : null;
    if (life?.where.kind === 'bay')
      return setFault(
        `${wanted} stands in ${life.where.place ?? `bay ${life.where.bay}`} of ${life.where.unitName}. A drive is in one place.`,
      );
    let drive = life?.drive;
    if (!drive) {
      const read = readSize(size);
      if (isRefusal(read)) return setFault(`Nobody knows ${wanted} yet. ${read.sentence}`);
      drive = { bytes: read.bytes, basis: read.basis, ...(read.label === undefined ? {} : { label: read.label }) };
    }
    setScanned([...scanned, { bay: next, serial: wanted, drive, isKnown: life !== null }]);
    setSerial('');
    return undefined;
  };

  const store = async (): Promise<void> => {
    setBusy(true);
    const events = scanned.map(({ bay, serial: of, drive }): StatedUnitEvent => ({
      kind: 'drive-inserted',
      bay,
      drive: { serial: of, ...drive },
    }));
    const sent = await api('POST /units/{id}/entries', { id, body: { expectedVersion: version, events } });
    setBusy(false);
    if (sent.kind === 'refused') return setFault(sent.sentence);
    tell(`${scanned.length === 1 ? 'One drive is' : `${String(scanned.length)} drives are`} in ${unit.name}.`);
    router.refresh();
    onDone();
    return undefined;
  };

  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void add(serial);
      }}
    >
      <Field
        label="Size of drives nobody knows yet"
        value={size}
        placeholder="12 TB, or exact bytes"
        autoComplete="off"
        onChange={(event) => setSize(event.target.value)}
      />
      {next === undefined ? (
        <p className="text-muted">Every bay is taken.</p>
      ) : (
        <SerialField
          label={`Serial for ${bayName(unit, next)}`}
          value={serial}
          autoFocus
          hint="Scan it or type it off the drive itself, then Enter. Earth yourself; hold drives by the sides."
          onSerial={setSerial}
          onScanned={(read) => void add(read)}
        />
      )}
      {fault !== null && <Notice grave>{fault}</Notice>}
      {scanned.length > 0 && (
        <table className="w-full border border-line">
          <tbody>
            {scanned.map((one) => (
              <tr key={one.serial} className="border-t border-line first:border-0">
                <td className="px-2 py-1">{bayName(unit, one.bay)}</td>
                <td className="px-2 py-1">
                  <Serial of={one.serial} />
                </td>
                <td className="figures px-2 py-1">{formatBytes(one.drive.bytes)}</td>
                <td className="px-2 py-1 text-sm text-muted">{one.isKnown ? 'known here' : 'new'}</td>
                <td className="px-2 py-1 text-right">
                  <button
                    type="button"
                    className="text-action underline"
                    onClick={() => setScanned(scanned.filter(({ serial: of }) => of !== one.serial))}
                  >
                    Leave out<span className="sr-only"> {one.serial}</span>
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="flex justify-end gap-2">
        <Button type="submit" disabled={busy || next === undefined || serial.trim() === ''}>
          Next
        </Button>
        <Button look="main" disabled={busy || scanned.length === 0} onClick={() => void store()}>
          Put {scanned.length === 1 ? 'one drive' : `${String(scanned.length)} drives`} in
        </Button>
      </div>
    </form>
  );
}
