'use client';
import type { ReactNode } from 'react';
import { leftOver } from '~/core/planRun/progress';
import type { PlanStep } from '~/core/plan/plan';
import type { PlanRun } from '~/core/planRun/planRun';
import { api } from '~/web/parts/form/api';
import { Dialog } from '~/web/parts/form/Dialog';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useLooseSheet } from '~/web/parts/form/sheet/useLooseSheet';
import { unread } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import type { useRun } from './useRun';

export type Leaving = 'skip' | 'stop' | 'hand-over';

interface Props {
  /** The unit, and the plan. */
  readonly of: { readonly id: string; readonly plan: string };
  readonly leaving: Leaving;
  readonly run: PlanRun;
  readonly step: PlanStep;
  readonly busy: boolean;
  readonly onClose: () => void;
  readonly onChange: Change;
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

type Change = ReturnType<typeof useRun>['change'];
type Way = (onChange: Change, of: Props['of'], step: PlanStep, note: string) => Promise<boolean>;

const WAYS: Readonly<Record<Leaving, Way>> = {
  skip: (onChange, of, step, reason) =>
    onChange(
      (expectedVersion) =>
        api('POST /units/{id}/plans/{plan}/skips', { ...of, body: { expectedVersion, step: step.id, reason } }),
      'Left out.',
    ),
  stop: (onChange, of, _step, note) =>
    onChange(
      (expectedVersion) =>
        api('POST /units/{id}/plans/{plan}/end', {
          ...of,
          body: { expectedVersion, how: 'stopped', ...(note === '' ? {} : { note }) },
        }),
      'The plan is stopped. What was done stays in the record.',
    ),
  'hand-over': async (onChange, of, _step, note) => {
    const told = await onChange(
      (expectedVersion) => api('POST /units/{id}/plans/{plan}/pause', { ...of, body: { expectedVersion, note } }),
      'It rests. Whoever may come in goes on from its address.',
    );
    if (told)
      void navigator.clipboard?.writeText(location.href).then(
        () => tell('Its address is copied.'),
        () => undefined,
      );
    return told;
  },
};
/** Why it was not, the plan's own page says. */
const NOT_SENT = 'Not sent: the page behind says why. What is typed here stays.';

/** Ways to leave a step or a plan: each says what it leaves behind. */
export function LeaveDialog({ of, leaving, run, step, busy, onClose, onChange }: Props): ReactNode {
  const open = leftOver(run);
  const changed = run.plan.steps.filter(({ id, does }) => Object.hasOwn(run.done, id) && does.length > 0);
  const sheet = useLooseSheet({
    start: { words: '' },
    checks: ({ words }) =>
      leaving === 'stop' || words.trim() !== '' ? null : unread({ words: 'Say it in a few words.' }),
    does: async ({ words }) => ((await WAYS[leaving](onChange, of, step, words.trim())) ? null : NOT_SENT),
    done: onClose,
  });
  return (
    <Dialog open onOpenChange={(isOpen) => !isOpen && onClose()} title={TITLES[leaving]}>
      <Sheet of={sheet} sends={DO[leaving]} look={leaving === 'stop' ? 'grave' : 'main'} isHeld={busy}>
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
        <TextField name="words" label={LABELS[leaving]} maxLength={400} autoFocus />
      </Sheet>
    </Dialog>
  );
}
