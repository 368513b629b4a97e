'use client';
import { useState, type ReactNode } from 'react';
import { isSameSerial } from '~/core/drive/serial';
import type { PlanStep, StepEvidence } from '~/core/plan/plan';
import { formatBytes } from '~/core/quantity/formatBytes';
import { bayName, bayShort } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { keepText, parseKept, useKept } from '~/web/parts/form/kept';
import { SerialField } from '~/web/parts/form/SerialField';
import { Serial } from '~/web/parts/unit/Serial';

type Scans = Extract<StepEvidence, { kind: 'scans' }>;

interface Props {
  readonly plan: string;
  readonly step: PlanStep;
  readonly unit: Pick<UnitState, 'enclosures'>;
  readonly busy: boolean;
  readonly onEvidence: (evidence: Scans) => void;
}

function keyOf(plan: string, step: string): string {
  return `shelf-scans:${plan}:${step}`;
}

/** Forgets what was read for a step: once it is confirmed; read anew when it is taken back. */
export function forgetScans(plan: string, step: string): void {
  keepText(keyOf(plan, step), '');
}

/** Drives that go in one after another: scan, Enter, push it in, the next. What was read is kept in this browser until it is confirmed. */
export function ScansForm({ plan, step, unit, busy, onEvidence }: Props): ReactNode {
  const bays = step.asks.kind === 'scans' ? step.asks.bays : [];
  const key = keyOf(plan, step.id);
  const read = parseKept<Readonly<Record<string, string>>>(useKept(key), {});
  const [text, setText] = useState('');
  const [aimed, setAimed] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const open = bays.filter(({ bay }) => read[bay] === undefined);
  const next = open.find(({ bay }) => bay === aimed) ?? open[0];
  const isOut = step.does.some(({ kind }) => kind === 'pull-drive');
  // Carried drives of which any may go into any bay.
  const carried = step.does.flatMap((one) => (one.kind === 'carry-in' ? [one.serial] : []));
  const sizeIn = (bay: string): string => {
    const fit = step.does.find((one) => one.kind === 'fit-drive' && one.drive.bay === bay);
    return fit?.kind === 'fit-drive' ? (fit.drive.label ?? formatBytes(fit.drive.bytes)) : '';
  };
  const keep = (scans: Readonly<Record<string, string>>): void =>
    keepText(key, Object.keys(scans).length === 0 ? '' : JSON.stringify(scans));
  const add = (typed: string): void => {
    const serial = typed.trim();
    if (serial === '' || !next) return;
    const twice = Object.entries(read).find(([, one]) => isSameSerial(one, serial));
    if (twice) return setSaid(`${serial} ${isOut ? 'was read for' : 'is in'} ${bayName(unit, twice[0])} already.`);
    // A drive that was planned for one bay goes there, whichever the list had come to.
    // One that nobody planned goes where none is named.
    const free =
      next.expects === undefined || next.bay === aimed
        ? next
        : (open.find(({ expects }) => expects === undefined) ?? next);
    const meant = open.find(({ expects }) => expects !== undefined && isSameSerial(expects, serial)) ?? free;
    keep({ ...read, [meant.bay]: serial });
    setSaid(
      isOut
        ? `${serial} out of ${bayName(unit, meant.bay)}: write ${bayShort(unit, meant.bay)} on it.`
        : meant.bay === next.bay
          ? `${serial} into ${bayName(unit, meant.bay)}: push until it clicks.`
          : `${serial} belongs into ${bayName(unit, meant.bay)}: put it there.`,
    );
    setText('');
    setAimed(null);
  };
  return (
    <form
      data-evidence
      data-scans={open.length}
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (open.length > 0) return add(text);
        onEvidence({ kind: 'scans', scans: bays.map(({ bay }) => ({ bay, serial: read[bay] ?? '' })) });
      }}
    >
      {next && (
        <SerialField
          label={[`Serial for ${bayName(unit, next.bay)}`, sizeIn(next.bay)].filter(Boolean).join(', ')}
          value={text}
          autoFocus
          hint={
            next.expects === undefined ? (
              'Scan it off the drive itself, then Enter.'
            ) : (
              <>
                {isOut ? 'By the record' : 'Planned here'}: {next.expects}. Any other of the list finds its own bay.
              </>
            )
          }
          onSerial={setText}
          onScanned={add}
          expects={carried.length > 0 ? carried : open.flatMap(({ expects }) => expects ?? [])}
        />
      )}
      <p role="status" className="min-h-6 font-semibold" data-said>
        {said ?? ''}
      </p>
      <ol className="grid gap-1 border border-line bg-surface p-2" aria-label="Bays of this list">
        {bays.map(({ bay, expects }) => {
          const serial = read[bay];
          return (
            <li
              key={bay}
              className={`flex min-h-9 items-center gap-2 px-2 max-sm:min-h-11 ${next?.bay === bay ? 'bg-chosen' : ''}`}
            >
              <span className="w-12 shrink-0 font-semibold">{bayShort(unit, bay)}</span>
              {serial !== undefined ? (
                <>
                  <span aria-hidden>✓</span>
                  <span className="min-w-0 flex-1 overflow-hidden whitespace-nowrap">
                    <Serial of={serial} />
                  </span>
                  <button
                    type="button"
                    className="min-h-9 text-sm text-action underline max-sm:min-h-11"
                    onClick={() => {
                      const { [bay]: _again, ...rest } = read;
                      keep(rest);
                      setAimed(bay);
                      setSaid(null);
                    }}
                  >
                    Again<span className="sr-only">, {bayName(unit, bay)}</span>
                  </button>
                </>
              ) : (
                <button
                  type="button"
                  className="min-h-9 min-w-0 flex-1 truncate text-left text-muted max-sm:min-h-11"
                  onClick={() => setAimed(bay)}
                >
                  {[sizeIn(bay), expects].filter(Boolean).join(', ')}
                  <span className="sr-only">, read this one next</span>
                </button>
              )}
            </li>
          );
        })}
      </ol>
      <div>
        <Button
          look="main"
          type="submit"
          className="min-h-11 min-w-[160px]"
          disabled={busy || (open.length > 0 && text.trim() === '')}
        >
          {open.length > 0
            ? `Next (${String(bays.length - open.length)} of ${String(bays.length)} read)`
            : `${bays.length === 1 ? 'It is' : `All ${String(bays.length)} are`} ${isOut ? 'out' : 'in'}`}
        </Button>
      </div>
    </form>
  );
}
