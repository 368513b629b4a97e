'use client';
import dynamic from 'next/dynamic';
import { useRef, useState, type ReactNode } from 'react';
import { fitting } from '~/core/plan/engine/fitting';
import type { DriveFacts } from '~/core/plan/engine/driveFacts';
import type { PlanStep, StepEvidence } from '~/core/plan/plan';
import type { ScanKnown } from '~/core/scan/judgeScan';
import type { StockLine } from '~/core/move/stock';
import type { UnitState } from '~/core/unit/state';
import { Coming } from '~/web/parts/frame/Coming';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Button } from '~/web/parts/form/Button';
import { Radios } from '~/web/parts/form/Radios';
import { Field } from '~/web/parts/form/Field';
import { FileInput } from '~/web/parts/form/FileInput';
import { SerialField } from '~/web/parts/form/SerialField';
import { Notice } from '~/web/parts/form/Notice';
import { api } from '~/web/parts/form/api';
import { base64Of } from '~/web/parts/unit/Papers';
import { Serial } from '~/web/parts/unit/Serial';
import { copyGivenOf, NOTHING_TYPED, type CopyTyped } from './copyTyped';
import { PageQuestion } from './PageQuestion';

/** With what judges scans: only where drives are read in. */
const ScansForm = dynamic(() => import('./ScansForm').then((part) => part.ScansForm), { ssr: false, loading: Coming });
const CopyFields = dynamic(() => import('./CopyFields').then((part) => part.CopyFields), {
  ssr: false,
  loading: Coming,
});
const DrivesForm = dynamic(() => import('./DrivesForm').then((part) => part.DrivesForm), {
  ssr: false,
  loading: Coming,
});
const FatesForm = dynamic(() => import('./FatesForm').then((part) => part.FatesForm), { ssr: false, loading: Coming });
const ItemsForm = dynamic(() => import('./ItemsForm').then((part) => part.ItemsForm), { ssr: false, loading: Coming });
const TakeDriveForm = dynamic(() => import('./TakeDriveForm').then((part) => part.TakeDriveForm), {
  ssr: false,
  loading: Coming,
});
/** With the reader of sheets: only where a stock is taken. */
const StockForm = dynamic(() => import('./StockForm').then((part) => part.StockForm), { ssr: false, loading: Coming });

interface Props {
  readonly step: PlanStep;
  readonly unitId: string;
  readonly unit: UnitState;
  /** Every unit the plan acts on. */
  readonly units: Readonly<Record<string, UnitState>>;
  /** What is recorded of the drives that may be taken in hand. */
  readonly loose: readonly ScanKnown[];
  /** Drives whose sizes are known: on record, or read in this plan. */
  readonly sized: readonly (DriveFacts & { readonly serial: string })[];
  readonly plan: string;
  readonly busy: boolean;
  /** The serial it is about, as far as that is known by now. */
  readonly expects: string | undefined;
  /** The stock it is compared with. */
  readonly before?: readonly StockLine[] | undefined;
  readonly onEvidence: (evidence: StepEvidence) => void;
  readonly onSkip: (() => void) | undefined;
}

/** Where copies are kept by the register, each place once. */
function copiesKnown({ dataSets }: UnitState): readonly string[] {
  return [...new Set(Object.values(dataSets).flatMap(({ copies }) => Object.values(copies).map(({ where }) => where)))];
}

/** Asks for what proves a step: a tick, a scanned serial, a few words, a number, two speeds, a picture. */
export function EvidenceForm({
  step,
  unitId,
  unit,
  units,
  loose,
  sized,
  plan,
  expects,
  busy,
  before,
  onEvidence,
  onSkip,
}: Props): ReactNode {
  const { asks } = step;
  const [text, setText] = useState('');
  const [second, setSecond] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [isUnread, setIsUnread] = useState(false);
  const [copy, setCopy] = useState<CopyTyped>(NOTHING_TYPED);
  const file = useRef<HTMLInputElement>(null);
  const number = (of: string): number => Number(of.replace(',', '.'));

  const submit = (): void => {
    if (asks.kind === 'tick') onEvidence({ kind: 'tick' });
    else if (asks.kind === 'serial') onEvidence({ kind: 'serial', serial: text.trim() });
    else if (asks.kind === 'text') onEvidence({ kind: 'text', text: text.trim() });
    else if (asks.kind === 'number') onEvidence({ kind: 'number', number: number(text) });
    else if (asks.kind === 'speed') onEvidence({ kind: 'speed', read: number(text), write: number(second) });
    else if (asks.kind === 'copy') {
      const given = copyGivenOf(copy);
      if (given) onEvidence(given);
    } else if (asks.kind === 'choice') onEvidence({ kind: 'choice', choice: text });
    else file.current?.click();
  };
  const keep = async (picked: File): Promise<void> => {
    const sent = await api('POST /units/{id}/papers', {
      id: unitId,
      body: { name: picked.name.slice(0, 120), base64: await base64Of(picked) },
    });
    if (sent.kind === 'refused') setFault(sent.sentence);
    else onEvidence({ kind: 'picture', paper: sent.answer.id });
  };
  // A serial is read off a drive where hands have one; otherwise off a page.
  const isInHand = step.does.some(({ kind }) => kind === 'pull-drive' || kind === 'fit-drive' || kind === 'take-drive');
  const isReady =
    asks.kind === 'tick' ||
    asks.kind === 'picture' ||
    (asks.kind === 'copy'
      ? copyGivenOf(copy) !== null
      : asks.kind === 'speed'
        ? number(text) >= 1 && number(second) >= 1
        : asks.kind === 'number'
          ? text.trim() !== '' && Number.isFinite(number(text))
          : text.trim() !== '');
  if (asks.kind === 'scans')
    return (
      <ScansForm
        plan={plan}
        step={step}
        unitId={unitId}
        unit={unit}
        units={units}
        loose={loose}
        busy={busy}
        onEvidence={onEvidence}
      />
    );
  if (asks.kind === 'stock')
    return <StockForm of={`${plan}:${step.id}`} before={before} busy={busy} onEvidence={onEvidence} />;
  if (asks.kind === 'drives') {
    const laid = step.does.find((one) => one.kind === 'lay-out');
    const planned = laid?.kind === 'lay-out' ? (laid.drive.label ?? formatBytes(laid.drive.bytes)) : '';
    return (
      <DrivesForm of={`${plan}:${step.id}`} count={asks.count} planned={planned} busy={busy} onEvidence={onEvidence} />
    );
  }
  const taken = fitting(step);
  if (asks.kind === 'serial' && taken && !isUnread)
    return (
      <TakeDriveForm
        planned={taken.drive.label ?? formatBytes(taken.drive.bytes)}
        expects={expects}
        known={sized}
        busy={busy}
        onUnread={asks.expects === undefined ? undefined : () => setIsUnread(true)}
        onSkip={onSkip}
        onEvidence={onEvidence}
      />
    );
  if (asks.kind === 'fates')
    return (
      <FatesForm
        of={`${plan}:${step.id}`}
        serials={asks.serials}
        place={unit.place}
        busy={busy}
        onEvidence={onEvidence}
      />
    );
  if (asks.kind === 'items') return <ItemsForm items={asks.items} busy={busy} onEvidence={onEvidence} />;
  if (asks.kind === 'page') return <PageQuestion of="check" busy={busy} onEvidence={onEvidence} />;
  if (isUnread)
    return (
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() !== '') onEvidence({ kind: 'unread', why: text.trim() });
        }}
      >
        <Field
          label="Why it cannot be read, and how you know the drive"
          value={text}
          maxLength={400}
          autoFocus
          autoComplete="off"
          onChange={(event) => setText(event.target.value)}
        />
        <div className="flex flex-wrap gap-2">
          <Button type="submit" disabled={busy || text.trim() === ''} className="min-h-11">
            Say so
          </Button>
          <Button className="min-h-11" onClick={() => (setIsUnread(false), setText(''))}>
            I can read it after all
          </Button>
        </div>
      </form>
    );
  return (
    <form
      data-evidence
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) submit();
      }}
    >
      {fault !== null && <Notice grave>{fault}</Notice>}
      {asks.kind === 'serial' && (
        <>
          {expects !== undefined && (
            <p className="text-[22px]">
              <Serial of={expects} />
            </p>
          )}
          <SerialField
            label={isInHand ? 'Serial, read off the drive itself' : 'Serial, as it is shown'}
            value={text}
            autoFocus
            hint={isInHand ? 'Scan it, or type it. Hold the drive by its sides.' : 'Type it as the page shows it.'}
            expects={expects === undefined ? [] : [expects]}
            onSerial={setText}
          />
        </>
      )}
      {asks.kind === 'copy' && <CopyFields of={copy} known={copiesKnown(unit)} onChange={setCopy} />}
      {asks.kind === 'choice' && (
        <Radios
          legend="What it is"
          name="choice"
          options={asks.options.map((option) => ({ value: option, words: option }))}
          value={text}
          onValue={setText}
        />
      )}
      {asks.kind === 'text' && (
        <Field
          label={asks.label}
          value={text}
          autoFocus
          autoComplete="off"
          maxLength={400}
          onChange={(event) => setText(event.target.value)}
        />
      )}
      {asks.kind === 'number' && (
        <Field
          label={`${asks.label}, ${asks.unit}`}
          value={text}
          autoFocus
          inputMode="decimal"
          autoComplete="off"
          onChange={(event) => setText(event.target.value)}
        />
      )}
      {asks.kind === 'speed' && (
        <div className="grid grid-cols-2 gap-4">
          <Field
            label="Reads, MB/s"
            value={text}
            autoFocus
            inputMode="decimal"
            autoComplete="off"
            onChange={(event) => setText(event.target.value)}
          />
          <Field
            label="Writes, MB/s"
            value={second}
            inputMode="decimal"
            autoComplete="off"
            onChange={(event) => setSecond(event.target.value)}
          />
        </div>
      )}
      {asks.kind === 'picture' && (
        <FileInput
          ref={file}
          label="Picture"
          accept="image/png,image/jpeg,image/webp"
          onFile={(picked) => void keep(picked)}
        />
      )}
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy || !isReady} className="min-h-11 min-w-[160px]">
          {asks.kind === 'tick'
            ? step.kind === 'wait'
              ? 'It is done'
              : 'Done'
            : asks.kind === 'picture'
              ? 'Take or choose the picture'
              : 'Confirm'}
        </Button>
        {asks.kind === 'serial' && asks.expects !== undefined && (
          <Button className="min-h-11" onClick={() => setIsUnread(true)}>
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
