'use client';
import { useCallback, useRef, useState, type ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { isSameSerial } from '~/core/drive/serial';
import { sizeFacts } from '~/core/plan/engine/driveFacts';
import type { PlanStep, StepEvidence } from '~/core/plan/plan';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { ScanJudgement, ScanKnown } from '~/core/scan/judgeScan';
import { scanListOf, type ScanList, type ScansRead } from '~/core/scan/scanList';
import { bayName, bayShort } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { keepText, keptText, parseKept, useKept } from '~/web/parts/form/kept';
import { SerialField } from '~/web/parts/form/SerialField';
import { ScanAnswer } from '~/web/parts/scan/ScanAnswer';
import { useScans, type SizeRead } from '~/web/parts/scan/useScans';
import { Serial } from '~/web/parts/unit/Serial';
import { OneMissing } from './OneMissing';
import { scansKey } from './scansKept';

type Scans = Extract<StepEvidence, { kind: 'scans' }>;

interface Props {
  readonly plan: string;
  readonly step: PlanStep;
  readonly unitId: string;
  readonly unit: UnitState;
  /** Every unit the plan acts on. */
  readonly units: Readonly<Record<string, UnitState>>;
  /** What is recorded of the drives that may be taken in hand. */
  readonly loose: readonly ScanKnown[];
  readonly busy: boolean;
  readonly onEvidence: (evidence: Scans) => void;
}

/** What was read for a bay: a drive, in place of another where a person said so; or that the drive is missing. */
interface ReadFor {
  readonly serial: string;
  readonly drive?: SizeRead;
  readonly instead?: string;
  readonly isMissing?: true;
}
type ReadByBay = Readonly<Record<string, ReadFor>>;

/** Drives that go in one after another: each is judged as it is read, before a bay is named. What was read is kept in this browser until it is confirmed. */
export function ScansForm({ plan, step, unitId, unit, units, loose, busy, onEvidence }: Props): ReactNode {
  const list = scanListOf(unit, step, units) as ScanList;
  const { bays, anyOf, way } = list;
  const isOut = way === 'out';
  const key = scansKey(plan, step.id);
  const read = parseKept<ReadByBay>(useKept(key), {});
  const [text, setText] = useState('');
  // Of one kind as a rule: the last size stays, and is seen.
  const [size, setSize] = useState('');
  const [sizeFault, setSizeFault] = useState<string | undefined>();
  const sizeField = useRef<HTMLInputElement>(null);
  const fits = step.does.some(({ kind }) => kind === 'fit-drive');
  const [aimed, setAimed] = useState<string | null>(null);
  const [isMissing, setIsMissing] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const open = bays.filter(({ bay }) => read[bay] === undefined);
  const next = open.find(({ bay }) => bay === aimed) ?? open[0];
  const carried = step.does.flatMap((one) => (one.kind === 'carry-in' ? [one] : []));
  const from = carried[0] && units[carried[0].from];
  const gone = Object.values(read).filter((one) => one.isMissing === true);
  const unread = carried
    .map(({ serial }) => serial)
    .filter((one) => !Object.values(read).some(({ serial }) => isSameSerial(serial, one)));
  const sizeIn = (bay: string): string => {
    const fit = step.does.find((one) => one.kind === 'fit-drive' && one.drive.bay === bay);
    return fit?.kind === 'fit-drive' ? sizeSaid(fit.drive) : '';
  };
  const keep = useCallback(
    (change: (read: ReadByBay) => ReadByBay): void => {
      const after = change(parseKept<ReadByBay>(keptText(key), {}));
      keepText(key, Object.keys(after).length === 0 ? '' : JSON.stringify(after));
    },
    [key],
  );
  const scans = useScans({
    of: { unit: unitId, plan, step: step.id },
    list,
    aimed,
    readNow: useCallback(
      (): ScansRead =>
        Object.fromEntries(
          Object.entries(parseKept<ReadByBay>(keptText(key), {})).map(([bay, { serial }]) => [bay, serial]),
        ),
      [key],
    ),
    loose,
    onTaken: useCallback(
      ({ serial }: ScanJudgement, bay: string, how: Omit<ReadFor, 'serial'>): boolean => {
        keep((before) => ({ ...before, [bay]: { serial, ...how } }));
        setAimed(null);
        return true;
      },
      [keep],
    ),
  });
  const scan = (typed: string): void => {
    const said = fits ? readSize(size) : undefined;
    if (said && isRefusal(said)) {
      setText(typed);
      setSizeFault(`Before the first goes in: what stands on it? ${said.sentence}`);
      sizeField.current?.focus();
      return;
    }
    setText('');
    scans.scan(typed, said && sizeFacts(said));
  };
  const again = (bay: string): void => {
    keep(({ [bay]: _again, ...rest }) => rest);
    setAimed(bay);
    scans.forget();
    field.current?.focus();
  };
  const missing = (serial: string): void => {
    const bay =
      bays.find(({ expects }) => expects !== undefined && isSameSerial(expects, serial))?.bay ?? open.at(-1)?.bay;
    if (bay !== undefined) keep((before) => ({ ...before, [bay]: { serial, isMissing: true } }));
    setIsMissing(false);
  };
  return (
    <form
      data-evidence
      data-scans={open.length}
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== '') return scan(text);
        if (open.length > 0 || scans.isHeld) return undefined;
        const rows = bays.flatMap(({ bay }) => (read[bay] ? [{ bay, ...read[bay] }] : []));
        const lacking = rows.filter((one) => one.isMissing === true).map(({ bay, serial }) => ({ bay, serial }));
        return onEvidence({
          kind: 'scans',
          scans: rows.flatMap(({ isMissing: lacks, ...one }) => (lacks === true ? [] : one)),
          ...(lacking.length === 0 ? {} : { missing: lacking }),
        });
      }}
    >
      {next && fits && (
        <Field
          label="Size printed on it"
          name="size"
          inputRef={sizeField}
          value={size}
          autoComplete="off"
          hint={`Planned: ${[...new Set(bays.map(({ bay }) => sizeIn(bay)))].join(', ')}. It stays for the next: look at each.`}
          data-planned={sizeIn(next.bay)}
          {...(sizeFault === undefined ? {} : { fault: sizeFault })}
          onChange={(event) => (setSize(event.target.value), setSizeFault(undefined))}
        />
      )}
      {next && (
        <SerialField
          label={
            anyOf.length > 0
              ? `Serial of the next drive, for ${bayName(unit, next.bay)}`
              : [`Serial for ${bayName(unit, next.bay)}`, sizeIn(next.bay)].filter(Boolean).join(', ')
          }
          value={text}
          inputRef={field}
          autoFocus
          hint={
            anyOf.length > 0 ? (
              'Any drive that was carried may go into any bay. Read it off the drive itself, then Enter.'
            ) : next.expects === undefined ? (
              'Scan it off the drive itself, then Enter; wait for the answer before you push it in.'
            ) : (
              <>
                {isOut ? 'By the record' : 'Planned here'}: <Serial of={next.expects} />. Wait for the answer before you{' '}
                {isOut ? 'read the next.' : 'push it in.'}
              </>
            )
          }
          onSeveral={scan}
          onSerial={setText}
          onScanned={scan}
          expects={anyOf.length > 0 ? anyOf : open.flatMap(({ expects }) => expects ?? [])}
        />
      )}
      {scans.fault !== null && <Notice grave>{scans.fault}</Notice>}
      {scans.answer && (
        <ScanAnswer
          of={scans.answer}
          unit={unit}
          waiting={scans.waiting}
          isHeld={scans.isHeld}
          onAside={() => (scans.putAside(), field.current?.focus())}
          onTake={(bay, instead) => (scans.take(bay, instead), field.current?.focus())}
          onIs={(serial) => (scans.isOne(serial), field.current?.focus())}
        />
      )}
      <ol className="grid gap-1 border border-line bg-surface p-2" aria-label="Bays of this list">
        {bays.map(({ bay, expects }) => {
          const one = read[bay];
          return (
            <li
              key={bay}
              className={`flex min-h-9 items-center gap-2 px-2 max-sm:min-h-11 ${next?.bay === bay ? 'bg-chosen' : ''}`}
            >
              <span className="w-12 shrink-0 font-semibold">{bayShort(unit, bay)}</span>
              {one !== undefined ? (
                <>
                  <span aria-hidden>{one.isMissing === true ? '–' : '✓'}</span>
                  <span className="min-w-0 flex-1 overflow-hidden whitespace-nowrap">
                    <Serial of={one.serial} />
                    {one.isMissing === true && ' is missing'}
                    {one.drive && <span className="text-sm"> {sizeSaid(one.drive)}</span>}
                    {one.instead !== undefined && <span className="text-sm text-muted"> instead of {one.instead}</span>}
                  </span>
                  <button
                    type="button"
                    className="min-h-9 text-sm text-action underline max-sm:min-h-11"
                    onClick={() => again(bay)}
                  >
                    Again<span className="sr-only">, {bayName(unit, bay)}</span>
                  </button>
                </>
              ) : (
                <button
                  type="button"
                  className="min-h-9 min-w-0 flex-1 truncate text-left text-muted max-sm:min-h-11"
                  onClick={() => (setAimed(bay), field.current?.focus())}
                >
                  {[sizeIn(bay), expects].filter(Boolean).join(', ')}
                  <span className="sr-only">, read this one next</span>
                </button>
              )}
            </li>
          );
        })}
      </ol>
      {isMissing && from && unread.length > 0 && (
        <OneMissing
          from={from}
          unread={unread}
          missing={gone.map(({ serial }) => serial)}
          onMissing={missing}
          onClose={() => setIsMissing(false)}
        />
      )}
      <div className="flex flex-wrap gap-2">
        <Button
          look="main"
          type="submit"
          className="min-h-11 min-w-[160px]"
          disabled={busy || (text.trim() === '' && (scans.isHeld || open.length > 0))}
        >
          {open.length > 0 || text.trim() !== ''
            ? `Next (${String(bays.length - open.length)} of ${String(bays.length)} read)`
            : `${allWords(bays.length, gone.length)} ${isOut ? 'out' : 'in'}`}
        </Button>
        {open.length > 0 && from && !isMissing && (
          <Button className="min-h-11" onClick={() => setIsMissing(true)}>
            One is missing…
          </Button>
        )}
      </div>
    </form>
  );
}

function sizeSaid({ bytes, label }: SizeRead): string {
  return label ?? formatBytes(bytes);
}

/** "It is", "All 12 are", "11 of 12 are". */
function allWords(count: number, missing: number): string {
  if (missing > 0) return `${String(count - missing)} of ${String(count)} are`;
  return count === 1 ? 'It is' : `All ${String(count)} are`;
}
