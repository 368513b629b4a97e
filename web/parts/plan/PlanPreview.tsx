import type { ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import { hoursWords } from '~/core/quantity/hoursWords';
import type { Tried } from './usePlanTried';
import { WayOnButton } from '~/web/parts/way/Refused';
import { wayOn } from '~/web/parts/way/wayOn';
import { Sentence } from '~/web/parts/frame/Sentence';

/** The plan as it would be: its steps, how long, and what would stop it. */
export function PlanPreview({
  unit,
  tried,
  waiting = 'Choose the drive that goes in: the plan is made as you choose.',
  withSpace = false,
}: {
  /** The unit it is asked for. */
  readonly unit: string;
  readonly tried: Tried;
  /** What is said while nothing is asked for yet. */
  readonly waiting?: string;
  readonly withSpace?: boolean;
}): ReactNode {
  const on = tried.kind === 'refused' ? wayOn(unit, tried.code) : null;
  if (tried.kind === 'waiting') return <p className="text-muted">{waiting}</p>;
  if (tried.kind === 'refused')
    return (
      <div data-refused={tried.code}>
        <p className="font-semibold text-thinned">
          <Sentence of={tried.sentence} />
        </p>
        <WayOnButton way={on} />
      </div>
    );
  const { plan, dryRun } = tried;
  const hours = plan.steps.reduce((sum, step) => sum + (step.hours ?? 0.05), 0);
  const waits = plan.steps.reduce((sum, step) => sum + (step.kind === 'wait' ? (step.hours ?? 0) : 0), 0);
  const stop = dryRun.find((step) => step.kind === 'dry-stop');
  const done = dryRun.filter((step) => step.kind === 'dry-step');
  const locks = done.flatMap(({ interlocks }) => interlocks);
  const space = done.filter(({ usableBytes }, i) => usableBytes !== (done[i - 1]?.usableBytes ?? usableBytes));
  return (
    <>
      {stop && <p className="mt-1 font-semibold text-thinned">{stop.refusal.sentence}</p>}
      {locks.map(({ sentence, back }) => (
        <p key={sentence} className="mt-1 font-semibold text-thinned">
          It would be stopped: {sentence} {back}
        </p>
      ))}
      <p className="text-muted">
        {plan.steps.length} steps, about {hoursWords(hours)} in all{waits > hours / 2 && ', most of it waiting'}.
      </p>
      {withSpace && (
        <p className="mt-1">
          {space.length === 0
            ? 'No space comes of it.'
            : space
                .map(
                  ({ step, usableBytes }) =>
                    `${formatBytes(usableBytes)} usable after “${plan.steps.find(({ id }) => id === step)?.title ?? ''}”${step === 'expand' ? '' : ` (step ${String(plan.steps.findIndex(({ id }) => id === step) + 1)})`}`,
                )
                .join('; ')}
        </p>
      )}
      <ol className="mt-2 max-h-[480px] overflow-y-auto" tabIndex={0} aria-label="Steps of the plan">
        {plan.steps.map((step, i) => (
          <li key={step.id}>
            {step.part !== plan.steps[i - 1]?.part && (
              <h3 className="mt-3 text-sm font-semibold text-muted">{step.part}</h3>
            )}
            <span className="block border-b border-line py-1">
              <Sentence of={step.title} />
              {step.hours !== undefined && step.hours >= 0.1 && (
                <span className="text-muted"> · {hoursWords(step.hours)}</span>
              )}
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}
