'use client';
import { useRouter } from 'next/navigation';
import { rowsOf } from '~/web/parts/form/rowsOf';
import { useState, type ReactNode } from 'react';
import { readStock } from '~/core/move/readStock';
import { fitting } from '~/core/plan/engine/fitting';
import type { PlanStep, StepEvidence } from '~/core/plan/plan';
import type { PlanRun } from '~/core/planRun/planRun';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { Select } from '~/web/parts/form/Select';
import { Tick } from '~/web/parts/form/Tick';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { CopyFields } from './CopyFields';
import { drivesTyped, driveTyped, itemsTyped } from './drivesTyped';
import { copyGivenOf, NOTHING_TYPED, type CopyTyped } from './copyTyped';
import { parseKept } from '~/web/parts/form/kept';
import { PAGE_ANSWERS } from './PageQuestion';

interface Row {
  readonly isDone: boolean;
  readonly when: string;
  readonly text: string;
}

const EMPTY: Row = { isDone: false, when: '', text: '' };

/** A sheet that was filled by hand, entered in one screen: what was done, when, and what was written down. */
export function SheetForm({
  id,
  version,
  plan,
  run: { plan: body, done },
}: {
  readonly id: string;
  readonly version: number;
  readonly plan: string;
  readonly run: PlanRun;
}): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const [rows, setRows] = useState<Readonly<Record<string, Row>>>({});
  const open = body.steps.filter((step) => !Object.hasOwn(done, step.id));
  const change = (step: string, part: Partial<Row>): void =>
    setRows({ ...rows, [step]: { ...(rows[step] ?? EMPTY), ...part } });
  const filled = open.filter(({ id: step }) => rows[step]?.isDone === true);
  const lacking = filled.find(
    (step) =>
      (rows[step.id]?.when ?? '') === '' || (step.asks.kind !== 'tick' && (rows[step.id]?.text ?? '').trim() === ''),
  );

  const enter = async (): Promise<void> => {
    const steps = filled.map((step) => ({
      step: step.id,
      evidence: evidenceOf(step, rows[step.id] ?? EMPTY),
      happenedAt: new Date(rows[step.id]?.when ?? '').toISOString(),
    }));
    const answer = await run('POST /units/{id}/plans/{plan}/sheet', {
      id,
      plan,
      body: { expectedVersion: version, steps },
    });
    if (!answer) return;
    tell(`${String(steps.length)} steps are entered.`);
    router.push(`/units/${id}/plans/${plan}`);
    router.refresh();
  };
  const atFault = Object.keys(fault?.fields ?? {}).flatMap((pointer) => /^steps\/(\d+)/.exec(pointer)?.[1] ?? [])[0];
  const faulty = atFault === undefined ? undefined : filled[Number(atFault)]?.id;

  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (filled.length > 0 && !lacking) void enter();
      }}
    >
      {fault && <Notice grave>{fault.sentence} Nothing was entered.</Notice>}
      <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label="Steps">
        <table className="w-full border border-line bg-surface">
          <thead className="text-left text-sm text-muted">
            <tr>
              {['Done', 'Step', 'When', 'Written on the sheet'].map((head) => (
                <th key={head} scope="col" className="px-3 py-1.5 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {open.map((step) => {
              const row = rows[step.id] ?? EMPTY;
              return (
                <tr
                  key={step.id}
                  className={`border-t border-line align-top ${faulty === step.id ? 'bg-thinned-ground' : ''}`}
                  data-sheet-row={step.id}
                >
                  <td className="px-3 py-1.5">
                    <Tick
                      words={<span className="sr-only">Done: {step.title}</span>}
                      isOn={row.isDone}
                      onChange={(isDone) =>
                        change(step.id, { isDone, ...(row.when === '' ? { when: lastWhen(open, rows) } : {}) })
                      }
                    />
                  </td>
                  <td className="px-3 py-1.5">{step.title}</td>
                  <td className="px-3 py-1.5">
                    <input
                      type="datetime-local"
                      className="field w-52"
                      aria-label={`When: ${step.title}`}
                      value={row.when}
                      onChange={(event) => change(step.id, { when: event.target.value, isDone: true })}
                    />
                  </td>
                  <td className="px-3 py-1.5">
                    <Written step={step} row={row} onText={(text) => change(step.id, { text, isDone: true })} />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <div className="flex flex-wrap items-center gap-4">
        <Button look="main" type="submit" disabled={busy || filled.length === 0 || lacking !== undefined}>
          Enter {filled.length} {filled.length === 1 ? 'step' : 'steps'}
        </Button>
        {lacking && <span className="text-muted">“{lacking.title}” still lacks its time or what was written.</span>}
      </div>
    </form>
  );
}

/** A person fills the sheet from the top: the next time is about the last one. */
function lastWhen(steps: readonly PlanStep[], rows: Readonly<Record<string, Row>>): string {
  return steps.map(({ id }) => rows[id]?.when ?? '').findLast((when) => when !== '') ?? '';
}

function Written({
  step,
  row,
  onText,
}: {
  readonly step: PlanStep;
  readonly row: Row;
  readonly onText: (text: string) => void;
}): ReactNode {
  const { asks, title } = step;
  if (asks.kind === 'tick') return null;
  if (asks.kind === 'picture') return <span className="text-muted">a picture is added in the plan itself</span>;
  if (asks.kind === 'choice')
    return (
      <Select
        label={`Written: ${title}`}
        value={row.text}
        onValue={onText}
        options={asks.options.map((option) => ({ value: option, words: option }))}
      />
    );
  if (asks.kind === 'copy')
    return <CopyFields of={copyTyped(row.text)} known={[]} onChange={(typed) => onText(JSON.stringify(typed))} />;
  if (asks.kind === 'scans')
    return (
      <textarea
        className="field w-64 font-mono"
        rows={Math.min(8, asks.bays.length)}
        aria-label={`Written: ${title}`}
        placeholder={`One serial a line${fitting(step) ? ', with its size: QH8-0090, 8 TB' : ''}; bays in the order of the sheet: ${asks.bays.map(({ bay }) => bay).join(', ')}`}
        value={row.text}
        onChange={(event) => onText(event.target.value)}
      />
    );
  if (asks.kind === 'fates')
    return <span className="text-muted">what becomes of drives is said in the plan itself</span>;
  if (asks.kind === 'drives' || asks.kind === 'items')
    return (
      <textarea
        className="field w-64"
        rows={4}
        aria-label={`Written: ${title}`}
        placeholder={
          asks.kind === 'drives'
            ? 'A line each: serial, 8 TB, new'
            : `What is missing, a line each: 1 ${asks.items[0]?.what ?? ''}; or none`
        }
        value={row.text}
        onChange={(event) => onText(event.target.value)}
      />
    );
  if (asks.kind === 'stock')
    return (
      <textarea
        className="field w-64"
        rows={4}
        aria-label={`Written: ${title}`}
        placeholder="A line each: share: Accounts, 12 people"
        value={row.text}
        onChange={(event) => onText(event.target.value)}
      />
    );
  if (asks.kind === 'page')
    return (
      <Select
        label={`Written: ${title}`}
        value={row.text}
        onValue={onText}
        options={PAGE_ANSWERS.map(([value, words]) => ({ value, words }))}
      />
    );
  const hint =
    asks.kind === 'serial'
      ? `${asks.expects ?? 'serial'}${fitting(step) ? ', 8 TB' : ''}`
      : asks.kind === 'speed'
        ? 'reads / writes, MB/s'
        : asks.label;
  return (
    <input
      className={`field w-64 ${asks.kind === 'serial' ? 'font-mono' : ''}`}
      aria-label={`Written: ${title}`}
      placeholder={hint}
      value={row.text}
      autoComplete="off"
      onChange={(event) => onText(event.target.value)}
    />
  );
}

/** What was entered of a copy, kept as the text of its row. */
function copyTyped(text: string): CopyTyped {
  return parseKept<CopyTyped>(text.trim(), NOTHING_TYPED);
}

function evidenceOf(step: PlanStep, { text }: Row): StepEvidence {
  const { asks } = step;
  const written = text.trim();
  switch (asks.kind) {
    case 'serial':
      return { kind: 'serial', ...(fitting(step) ? driveTyped(written) : { serial: written }) };
    case 'text':
      return { kind: 'text', text: written };
    case 'number':
      return { kind: 'number', number: Number(written.replace(',', '.')) };
    case 'choice':
      return { kind: 'choice', choice: written };
    case 'speed': {
      const [read = NaN, write = NaN] = written.split(/[/;, ]+/).map(Number);
      return { kind: 'speed', read, write };
    }
    case 'scans': {
      const serials = written.split(/\s*\n\s*/);
      return {
        kind: 'scans',
        scans: asks.bays.flatMap(({ bay }, i) =>
          serials[i] === undefined || serials[i] === ''
            ? []
            : { bay, ...(fitting(step) ? driveTyped(serials[i]) : { serial: serials[i] }) },
        ),
      };
    }
    case 'drives':
      return drivesTyped(written);
    case 'items':
      return itemsTyped(written);
    case 'copy':
      return copyGivenOf(copyTyped(written)) ?? { kind: 'copy' };
    case 'stock':
      return { kind: 'stock', lines: readStock(written, rowsOf) };
    case 'page':
      return { kind: 'page', says: written as (typeof PAGE_ANSWERS)[number][0], again: true };
    case 'tick':
    case 'fates':
    case 'picture':
      return { kind: 'tick' };
  }
}
