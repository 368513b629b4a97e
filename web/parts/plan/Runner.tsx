'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { dryRun } from '~/core/plan/dryRun';
import { nextStep, waitsFor } from '~/core/plan/progress';
import type { PlanStep, StepEvidence } from '~/core/plan/plan';
import type { PlanRun, UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { Moment } from '~/web/parts/unit/Moment';
import { EvidenceForm } from './EvidenceForm';
import { hoursWords } from './hoursWords';
import { PlanAhead } from './PlanAhead';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly run: PlanRun;
  readonly initial: string | undefined;
  readonly mayRecord: boolean;
  readonly now: string;
}

const KIND_WORDS = { check: 'Check', act: 'Do', wait: 'Wait', record: 'Write down' } as const;

/** A plan as it is worked through: steps on the left, one large in the middle, on the right what is ahead. */
export function Runner({ id, version, unit, run, initial, mayRecord, now }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run: ask, setFault } = useSending();
  const { plan, done, ended } = run;
  const next = nextStep(run);
  const [chosen, setChosen] = useState(initial ?? next?.id ?? plan.steps.at(-1)?.id ?? '');
  const [leaving, setLeaving] = useState<'skip' | 'stop' | null>(null);
  const [words, setWords] = useState('');
  const step = plan.steps.find((one) => one.id === chosen) ?? (plan.steps[0] as PlanStep);
  const isDone = Object.hasOwn(done, step.id);
  const waiting = waitsFor(run, step);
  const address = `/api/v1/units/${id}/plans/${run.id}`;
  const count = Object.keys(done).length;
  // What is left of the plan, folded onto the state as it is.
  const ahead = ended ? [] : dryRun(unit, { ...plan, steps: plan.steps.filter((one) => !Object.hasOwn(done, one.id)) }, now);

  const go = async (path: string, body: object, said: string): Promise<void> => {
    const answer = await ask('POST', address + path, { expectedVersion: version, ...body });
    if (!answer) return;
    toast(said);
    setLeaving(null);
    router.replace(`/units/${id}/plans/${run.id}`);
    router.refresh();
  };
  const confirm = (evidence: StepEvidence): void => void go('/steps', { step: step.id, evidence }, `Done: ${step.title}`);

  return (
    <div className="flex min-h-full max-lg:flex-col lg:h-full print:hidden">
      <nav aria-label="Steps" className="shrink-0 overflow-y-auto border-line bg-surface p-4 max-lg:order-2 max-lg:border-t lg:w-[300px] lg:border-r">
        <h1 className="text-lg">{plan.title}</h1>
        <p className="text-sm text-muted">
          {count} of {plan.steps.length} done
          {ended && (
            <>
              , {ended.how} <Moment at={ended.at} />
            </>
          )}
        </p>
        <div
          className="mt-1 h-1.5 bg-line"
          role="progressbar"
          aria-label="Steps done"
          aria-valuenow={count}
          aria-valuemin={0}
          aria-valuemax={plan.steps.length}
        >
          <div className="board h-full" style={{ width: `${String((count / plan.steps.length) * 100)}%` }} />
        </div>
        <ol className="mt-2">
          {plan.steps.map((one, i) => {
            const state = done[one.id];
            const mark = state?.skipped !== undefined ? '–' : state ? '✓' : one.id === next?.id ? '▸' : '';
            return (
              <li key={one.id}>
                {one.part !== plan.steps[i - 1]?.part && <h2 className="mt-3 mb-0.5 text-sm font-semibold text-muted">{one.part}</h2>}
                <button
                  type="button"
                  aria-current={one.id === step.id ? 'step' : undefined}
                  className={`flex min-h-8 w-full gap-2 px-2 py-1 text-left max-sm:min-h-11 ${one.id === step.id ? 'bg-chosen font-semibold' : 'hover:bg-chosen'} ${state ? 'text-muted' : ''}`}
                  onClick={() => {
                    setChosen(one.id);
                    setFault(null);
                  }}
                >
                  <span className="w-3 shrink-0" aria-hidden>
                    {mark}
                  </span>
                  <span className="sr-only">{state ? (state.skipped === undefined ? 'done: ' : 'left out: ') : ''}</span>
                  <span className="min-w-0">{one.title}</span>
                </button>
              </li>
            );
          })}
        </ol>
      </nav>
      <section aria-label="Step" className="min-w-0 flex-1 overflow-y-auto p-6 max-sm:p-4" data-step={step.id}>
        <p className="mb-3 text-sm font-semibold text-muted lg:hidden">
          {plan.title}, step {plan.steps.indexOf(step) + 1} of {plan.steps.length}
        </p>
        <p className="text-muted">
          {KIND_WORDS[step.kind]}
          {step.hours !== undefined && ` · about ${hoursWords(step.hours)}`}
        </p>
        <h2 className="mb-3 text-[24px] leading-tight font-semibold max-sm:text-xl">{step.title}</h2>
        <p className="max-w-[640px] text-lg">{step.why}</p>
        {step.caution !== undefined && (
          <div className="mt-4 max-w-[640px]">
            <Notice grave title="Take care">
              <p>{step.caution}</p>
            </Notice>
          </div>
        )}
        <div className="mt-6 max-w-[640px]">
          {fault && (
            <div className="mb-4">
              <Notice grave>{fault.sentence}</Notice>
            </div>
          )}
          {isDone ? (
            <div className="grid gap-3">
              <p className="text-lg">
                {done[step.id]?.skipped === undefined ? 'Done' : `Left out: ${done[step.id]?.skipped ?? ''}`} <Moment at={done[step.id]?.at ?? ''} />
                <EvidenceWords of={done[step.id]?.evidence} />
              </p>
              {mayRecord && !ended && (
                <div className="flex flex-wrap gap-2">
                  {next && (
                    <Button look="main" onClick={() => setChosen(next.id)}>
                      Go to the next step
                    </Button>
                  )}
                  <Button disabled={busy} onClick={() => void go('/back', { step: step.id }, 'Taken back. What it changed is withdrawn.')}>
                    Take this step back
                  </Button>
                </div>
              )}
            </div>
          ) : waiting.length > 0 ? (
            <div className="text-lg">
              <p>First:</p>
              <ul className="mt-1 grid gap-1">
                {waiting.map((one) => (
                  <li key={one.id}>
                    <button type="button" className="min-h-9 text-left text-action underline max-sm:min-h-11" onClick={() => setChosen(one.id)}>
                      {one.title}
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          ) : mayRecord && !ended ? (
            <EvidenceForm
              key={step.id}
              step={step}
              unitId={id}
              busy={busy}
              onEvidence={confirm}
              onSkip={step.maySkip === true ? () => setLeaving('skip') : undefined}
            />
          ) : (
            <p className="text-muted">Not done yet.</p>
          )}
        </div>
        {!next && !ended && mayRecord && (
          <div className="mt-6 max-w-[640px]">
            <Notice title="Every step is done">
              <Button look="main" className="mt-2" disabled={busy} onClick={() => void go('/end', { how: 'finished' }, 'The plan is finished.')}>
                Finish the plan
              </Button>
            </Notice>
          </div>
        )}
        <p className="mt-8 flex flex-wrap gap-x-5 gap-y-2 text-sm">
          <Link href={`/units/${id}`} className="text-action underline">
            {unit.name}
          </Link>
          <button type="button" className="text-action underline" onClick={() => window.print()}>
            Print the sheet
          </button>
          <button
            type="button"
            className="text-action underline"
            onClick={() =>
              void navigator.clipboard.writeText(location.href).then(() => toast('Its address is copied. Whoever may come in can go on from here.'))
            }
          >
            Hand over by its address
          </button>
          {mayRecord && !ended && (
            <button type="button" className="text-thinned underline" onClick={() => setLeaving('stop')}>
              Stop the plan here
            </button>
          )}
        </p>
        <p className="mt-3 max-w-[640px] text-sm text-muted">The maker’s manual, local codes and licensed practice come before this plan.</p>
      </section>
      <PlanAhead plan={plan} ahead={ahead} />
      <Dialog
        open={leaving !== null}
        onOpenChange={(open) => !open && setLeaving(null)}
        title={leaving === 'skip' ? 'Leave this step out' : 'Stop the plan here'}
      >
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (leaving === 'skip') void go('/skips', { step: step.id, reason: words.trim() }, 'Left out.');
            else
              void go(
                '/end',
                { how: 'stopped', ...(words.trim() === '' ? {} : { note: words.trim() }) },
                'The plan is stopped. What was done stays in the record.',
              );
          }}
        >
          {leaving === 'stop' && (
            <p>
              {plan.steps.length - count} steps are not done:{' '}
              {plan.steps
                .filter((one) => !Object.hasOwn(done, one.id))
                .slice(0, 4)
                .map((one) => one.title)
                .join('; ')}
              {plan.steps.length - count > 4 && '; …'}
            </p>
          )}
          <Field
            label={leaving === 'skip' ? 'Why' : 'Why, for whoever comes after'}
            value={words}
            required={leaving === 'skip'}
            maxLength={400}
            autoFocus
            autoComplete="off"
            onChange={(event) => setWords(event.target.value)}
          />
          <div className="flex justify-end">
            <Button look={leaving === 'stop' ? 'grave' : 'main'} type="submit" disabled={busy || (leaving === 'skip' && words.trim() === '')}>
              {leaving === 'skip' ? 'Leave it out' : 'Stop it'}
            </Button>
          </div>
        </form>
      </Dialog>
    </div>
  );
}

function EvidenceWords({ of }: { readonly of: StepEvidence | undefined }): ReactNode {
  if (!of || of.kind === 'tick') return null;
  if (of.kind === 'picture') {
    return (
      <a href={`/api/v1/papers/${of.paper}`} target="_blank" className="ml-2 text-action underline" rel="noreferrer">
        the picture
      </a>
    );
  }
  const text =
    of.kind === 'serial'
      ? of.serial
      : of.kind === 'text'
        ? of.text
        : of.kind === 'number'
          ? String(of.number)
          : `reads ${String(of.read)}, writes ${String(of.write)} MB/s`;
  return <span className="ml-2 font-mono">{text}</span>;
}
