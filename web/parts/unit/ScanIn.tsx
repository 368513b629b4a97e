'use client';
import { bayName } from '~/core/unit/bayName';
import { useRouter } from 'next/navigation';
import { useCallback, useMemo, useRef, useState, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { sizeFacts } from '~/core/plan/engine/driveFacts';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { StatedUnitEvent } from '~/schemas/unitEvent';
import { baysOf, cacheSlotsOf, driveInBay, type UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import type { DriveDescription } from '~/schemas/driveEvent';
import type { ScanJudgement, ScanKnown } from '~/core/scan/judgeScan';
import { freeBayList, type ScansRead } from '~/core/scan/scanList';
import { ScanAnswer } from '~/web/parts/scan/ScanAnswer';
import { useScans } from '~/web/parts/scan/useScans';
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

/** The record is asked of each; without a network nothing is put in here. */
const NONE_KNOWN: readonly ScanKnown[] = [];

/** Drives go in one after another: scan, Enter, next bay. What a drawer knows of a drive comes along; nothing is stored until the end. */
export function ScanIn({ id, version, unit, from, onDone }: Props): ReactNode {
  const router = useRouter();
  const [serial, setSerial] = useState('');
  const [size, setSize] = useState('');
  const [scanned, setScanned] = useState<readonly Scanned[]>([]);
  /** The same at this moment: scans come faster than pages are drawn. */
  const inHand = useRef<readonly Scanned[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // From the bay that was chosen on, then from the first.
  const slots = cacheSlotsOf(unit);
  const all = slots.includes(from) ? slots : baysOf(unit);
  const next = [...all.slice(all.indexOf(from)), ...all].find(
    (bay) => !driveInBay(unit, bay) && !scanned.some((one) => one.bay === bay),
  );

  const readNow = useCallback(
    (): ScansRead => Object.fromEntries(inHand.current.map(({ bay, serial: of }) => [bay, of])),
    [],
  );
  const keep = (list: readonly Scanned[]): void => {
    inHand.current = list;
    setScanned(list);
  };
  const taken = useCallback(
    async ({ serial: of }: ScanJudgement, bay: string): Promise<boolean> => {
      const known = await api('GET /drives/{serial}', { serial: of });
      const life = known.kind === 'done' ? known.answer.life : null;
      let drive = life?.drive;
      if (!drive) {
        const read = readSize(size);
        if (isRefusal(read)) {
          setFault(`Nobody knows ${of} yet. ${read.sentence} Then read it again.`);
          return false;
        }
        drive = sizeFacts(read);
      }
      keep([...inHand.current, { bay, serial: of, drive, isKnown: life !== null }]);
      return true;
    },
    [size],
  );
  const scans = useScans({
    of: useMemo(() => ({ unit: id }), [id]),
    list: useMemo(() => freeBayList(unit, from), [unit, from]),
    aimed: next ?? null,
    readNow,
    loose: NONE_KNOWN,
    onTaken: taken,
  });
  const add = (typed: string): void => {
    setFault(null);
    setSerial('');
    scans.scan(typed);
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
        if (serial.trim() !== '') add(serial);
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
          hint="Scan it or type it off the drive itself, then Enter; wait for the answer before you push it in. Earth yourself; hold drives by the sides."
          onSeveral={add}
          onSerial={setSerial}
          onScanned={add}
        />
      )}
      {scans.fault !== null && <Notice grave>{scans.fault}</Notice>}
      {scans.answer && (
        <ScanAnswer
          of={scans.answer}
          unit={unit}
          waiting={scans.waiting}
          isHeld={scans.isHeld}
          onAside={scans.putAside}
          onTake={scans.take}
          onIs={scans.isOne}
          overrideWords="Put it in all the same"
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
                    onClick={() => keep(scanned.filter(({ serial: of }) => of !== one.serial))}
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
        <Button look="main" disabled={busy || scanned.length === 0 || scans.isHeld} onClick={() => void store()}>
          Put {scanned.length === 1 ? 'one drive' : `${String(scanned.length)} drives`} in
        </Button>
      </div>
    </form>
  );
}
