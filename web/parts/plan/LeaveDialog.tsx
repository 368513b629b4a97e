'use client';
import { useState, type ReactNode } from 'react';
import { leftOver } from '~/core/planRun/progress';
import type { PlanStep } from '~/core/plan/plan';
import type { PlanRun } from '~/core/planRun/planRun';
import { api } from '~/web/parts/form/api';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { tell } from '~/web/parts/tell/tell';
import type { useRun } from './useRun';

export type Leaving = 'skip' | 'stop' | 'hand-over';

interface Props {
  /** The unit, and the plan. */
  readonly of: { readonly id: string; readonly plan: string };
  readonly leaving: Leaving | null;
  readonly run: PlanRun;
  readonly step: PlanStep;
  readonly busy: boolean;
  readonly onClose: () => void;
  readonly onChange: ReturnType<typeof useRun>['change'];
}

const TITLES: Readonly<Record<Leaving, string>> = {
  skip: 'Leave this step out',
  stop: 'Stop the plan here',
  'hand-over': 'Hand over, or let it rest',
};
const LABELS: Readonly<Record<Leaving, string>> = {
  skip: 'Why',
  stop: 'Why, for whoever comes after',
  'hand-over': 'Words for whoever goes on',
};
const DO: Readonly<Record<Leaving, string>> = {
  skip: 'Leave it out',
  stop: 'Stop it',
  'hand-over': 'Leave these words and copy its address',
};

/** Ways to leave a step or a plan: each says what it leaves behind. */
export function LeaveDialog({ of, leaving, run, step, busy, onClose, onChange }: Props): ReactNode {
  const [words, setWords] = useState('');
  const open = leftOver(run);
  const changed = run.plan.steps.filter(({ id, does }) => Object.hasOwn(run.done, id) && does.length > 0);
  const note = words.trim();
  const send = async (): Promise<void> => {
    let told = false;
    if (leaving === 'skip')
      told = await onChange(
        (expectedVersion) =>
          api('POST /units/{id}/plans/{plan}/skips', { ...of, body: { expectedVersion, step: step.id, reason: note } }),
        'Left out.',
      );
    else if (leaving === 'stop')
      told = await onChange(
        (expectedVersion) =>
          api('POST /units/{id}/plans/{plan}/end', {
            ...of,
            body: { expectedVersion, how: 'stopped', ...(note === '' ? {} : { note }) },
          }),
        'The plan is stopped. What was done stays in the record.',
      );
    else {
      told = await onChange(
        (expectedVersion) => api('POST /units/{id}/plans/{plan}/pause', { ...of, body: { expectedVersion, note } }),
        'It rests. Whoever may come in goes on from its address.',
      );
      if (told)
        void navigator.clipboard?.writeText(location.href).then(
          () => tell('Its address is copied.'),
          () => undefined,
        );
    }
    if (!told) return;
    setWords('');
    onClose();
  };
  return (
    <Dialog
      open={leaving !== null}
      onOpenChange={(isOpen) => !isOpen && onClose()}
      title={leaving === null ? '' : TITLES[leaving]}
    >
      {leaving !== null && (
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            void send();
          }}
        >
          {leaving === 'stop' && (
            <>
              {changed.length > 0 && <p>Done, and it stays so: {changed.map(({ title }) => title).join('; ')}.</p>}
              <p>
                Half done: {String(open.length)} {open.length === 1 ? 'step is' : 'steps are'} left, the next “
                {open[0]?.title ?? ''}”. Running work goes on and is still waited for.
              </p>
            </>
          )}
          {leaving === 'hand-over' && (
            <p>
              The plan goes on from its address, on any computer or telephone, for whoever may record here. Next is “
              {open[0]?.title ?? ''}”. Say what they should know: where the new drive lies, what beeps.
            </p>
          )}
          <Field
            label={LABELS[leaving]}
            value={words}
            maxLength={400}
            autoFocus
            autoComplete="off"
            onChange={(event) => setWords(event.target.value)}
          />
          <div className="flex justify-end">
            <Button
              look={leaving === 'stop' ? 'grave' : 'main'}
              type="submit"
              disabled={busy || (leaving !== 'stop' && note === '')}
            >
              {DO[leaving]}
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
