'use client';
import type { ReactNode } from 'react';
import { hoursWords } from '~/core/quantity/hoursWords';
import type { Tried } from '../usePlanTried';

/** The plan as it would be, step by step, and why not where it cannot. */
export function CommissionPreview({ tried }: { readonly tried: Tried }): ReactNode {
  const steps = tried.kind === 'tried' ? tried.plan.steps : [];
  const stop = tried.kind === 'tried' ? tried.dryRun.find((step) => step.kind === 'dry-stop') : undefined;
  const hours = steps.reduce((sum, step) => sum + (step.hours ?? 0.05), 0);
  return (
    <aside aria-label="The plan as it would be" className="border border-line bg-surface p-4" data-plan-preview>
      <h2 className="text-lg">The plan as it would be</h2>
      {tried.kind === 'waiting' && <p className="text-muted">Planning…</p>}
      {tried.kind === 'refused' && <p className="mt-1 font-semibold text-thinned">{tried.sentence}</p>}
      {stop && <p className="mt-1 font-semibold text-thinned">{stop.refusal?.sentence}</p>}
      {steps.length > 0 && (
        <>
          <p className="text-muted">
            {steps.length} steps, about {hoursWords(hours)} in all, most of it waiting.
          </p>
          <ol className="mt-2 max-h-[520px] overflow-y-auto">
            {steps.map((step, i) => (
              <li key={step.id}>
                {step.part !== steps[i - 1]?.part && (
                  <h3 className="mt-3 text-sm font-semibold text-muted">{step.part}</h3>
                )}
                <span className="block border-b border-line py-1">
                  {step.title}
                  {step.hours !== undefined && <span className="text-muted"> · {hoursWords(step.hours)}</span>}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
    </aside>
  );
}
