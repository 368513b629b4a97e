'use client';
import { useEffect, useRef, type ReactNode } from 'react';
import type { PlanRun } from '~/core/planRun/planRun';
import { Sentence } from '~/web/parts/frame/Sentence';

interface Props {
  readonly run: PlanRun;
  readonly chosen: string;
  readonly next: string | undefined;
  /** Steps done here that the server has not got yet. */
  readonly notYetSent: ReadonlySet<string>;
  readonly onChoose: (step: string) => void;
}

/** The steps of a plan in order, done and to do. */
export function RunSteps({ run: { plan, done }, chosen, next, notYetSent, onChoose }: Props): ReactNode {
  const list = useRef<HTMLOListElement>(null);
  // The list follows the step, and leaves the page where it is.
  useEffect(() => {
    const [box, step] = [list.current, list.current?.querySelector<HTMLElement>('[aria-current=step]')];
    if (box && step) box.scrollTop = step.offsetTop - box.clientHeight / 3;
  }, [chosen]);
  return (
    <ol ref={list} className="relative mt-2 min-h-0 flex-1 overflow-y-auto max-lg:max-h-[40vh]">
      {plan.steps.map((one, i) => {
        const state = done[one.id];
        const mark = state?.skipped !== undefined ? '–' : state ? '✓' : one.id === next ? '▸' : '';
        return (
          <li key={one.id}>
            {one.part !== plan.steps[i - 1]?.part && (
              <h2 className="mt-3 mb-0.5 text-sm font-semibold text-muted">{one.part}</h2>
            )}
            <button
              type="button"
              aria-current={one.id === chosen ? 'step' : undefined}
              className={`flex min-h-8 w-full gap-2 px-2 py-1 text-left max-sm:min-h-11 ${one.id === chosen ? 'bg-chosen font-semibold' : 'hover:bg-chosen'} ${state ? 'text-muted' : ''}`}
              onClick={() => onChoose(one.id)}
            >
              <span className="w-3 shrink-0" aria-hidden>
                {mark}
              </span>
              <span className="sr-only">{state ? (state.skipped === undefined ? 'done: ' : 'left out: ') : ''}</span>
              <span className="min-w-0">
                <Sentence of={one.title} />
                {notYetSent.has(one.id) && <span className="block text-sm font-semibold text-watch">not yet sent</span>}
              </span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}
