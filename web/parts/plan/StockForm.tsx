'use client';
import { useState, type ReactNode } from 'react';
import { readStock } from '~/core/move/readStock';
import { STOCK_KINDS, stockWords, type StockLine } from '~/core/move/stock';
import type { StepEvidence } from '~/core/plan/plan';
import { Button } from '~/web/parts/form/Button';
import { keepText, useKept } from '~/web/parts/form/kept';
import { rowsOf } from '~/web/parts/form/rowsOf';
import { Tick } from '~/web/parts/form/Tick';

type Stock = Extract<StepEvidence, { kind: 'stock' }>;

interface Props {
  /** The plan and the step: what was typed is kept in this browser until it is confirmed. */
  readonly of: string;
  /** What was written down before, where it is gone through now. */
  readonly before: readonly StockLine[] | undefined;
  readonly busy: boolean;
  readonly onEvidence: (evidence: Stock) => void;
}

/** What a unit does for people: typed or pasted, a line each; afterwards gone through by ticks. */
export function StockForm({ of, before = [], busy, onEvidence }: Props): ReactNode {
  const key = `shelf-stock:${of}`;
  const text = useKept(key) ?? '';
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const typed = readStock(text, rowsOf);
  const lines = [...before.filter((_line, i) => ticked.has(i)), ...typed];
  return (
    <form
      data-evidence
      data-stock={lines.length}
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        onEvidence({ kind: 'stock', lines: lines.map((line) => ({ ...line })) });
      }}
    >
      {before.length > 0 && (
        <fieldset className="grid gap-1">
          <legend className="mb-1 font-semibold">There, and as it was before: tick what you have looked at</legend>
          {before.map((line, i) => (
            <Tick
              key={stockWords(line)}
              words={stockWords(line)}
              isOn={ticked.has(i)}
              onChange={(isOn) => {
                const next = new Set(ticked);
                if (isOn) next.add(i);
                else next.delete(i);
                setTicked(next);
              }}
            />
          ))}
        </fieldset>
      )}
      <label className="grid gap-1">
        <span className="font-semibold">{before.length > 0 ? 'What is otherwise, or new' : 'A line each'}</span>
        <textarea
          className="field h-40 w-full"
          name="stock"
          value={text}
          spellCheck={false}
          placeholder={'share: Accounts, 12 people may write\nuser: mara\nservice: cameras, starts by itself'}
          onChange={(event) => keepText(key, event.target.value)}
        />
        <span className="text-sm text-muted">
          {STOCK_KINDS.join(', ')}; or paste a sheet with what, name and detail. {String(typed.length)} read.
        </span>
      </label>
      <div>
        <Button look="main" type="submit" className="min-h-11 min-w-[160px]" disabled={busy}>
          {lines.length === 0 && before.length === 0 ? 'There is nothing of that kind' : 'That is all of it'}
        </Button>
      </div>
    </form>
  );
}
