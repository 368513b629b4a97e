'use client';
import dynamic from 'next/dynamic';
import Link from '~/web/parts/frame/Link';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { Thought } from '~/core/outlook/lossAhead';
import { lastDone, nextStep, waitsFor } from '~/core/planRun/progress';
import type { ScanKnown } from '~/core/scan/judgeScan';
import type { GroupsAhead } from '~/core/plan/engine/boxesOfStep';
import type { PlanStep, StepEvidence } from '~/core/plan/plan';
import { hoursWords } from '~/core/quantity/hoursWords';
import { BayName } from '~/core/unit/bayName';
import { frontOf } from '~/core/unit/card';
import type { PlanRun } from '~/core/planRun/planRun';
import type { WorkKnown } from '~/core/rebuild/workKnown';
import type { UnitState } from '~/core/unit/state';
import { whyFrozen } from '~/core/plan/engine/frozen';
import { stockBefore } from '~/core/plan/engine/stockTaken';
import { unitsOfStep } from '~/core/plan/engine/unitsOfStep';
import { workAgain } from '~/core/plan/engine/workAgain';
import { expectedSerial } from '~/core/plan/engine/expectedSerial';
import { drivesRead } from '~/core/plan/engine/drivesRead';
import { api } from '~/web/parts/form/api';
import { Button, ButtonLink } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { Moment } from '~/web/parts/unit/Moment';
import { UnitFront } from '~/web/parts/unit/UnitFront';
import { BothFronts } from './BothFronts';
import { BoxGroups } from './BoxGroups';
import { EvidenceForm } from './EvidenceForm';
import { EvidenceWords } from './EvidenceWords';
import { jobOf } from './jobOf';
import type { Leaving } from './LeaveDialog';
import { RunSteps } from './RunSteps';
import { PageQuestion } from './PageQuestion';
import { forgetScans } from './scansKept';
import { StopPanel } from './StopPanel';
import { useRun } from './useRun';
import { Sentence } from '~/web/parts/frame/Sentence';

/** With it comes what reckons a wait: whoever has none does not wait for it. */
const WaitPanel = dynamic(() => import('./WaitPanel').then((part) => part.WaitPanel), {
  ssr: false,
  loading: () => (
    <p className="mb-5 min-h-48 border border-line bg-surface p-4 text-muted">Reckoning when it is done …</p>
  ),
});
/** Of use where the unit is asked how it is. */
const UnitSays = dynamic(() => import('~/web/parts/watch/UnitSays').then((part) => part.UnitSays), { ssr: false });
const CarryBack = dynamic(() => import('./CarryBack').then((part) => part.CarryBack), { ssr: false });
/** Only where another drive than the one meant is in somebody's hand. */
const WrongDriveOut = dynamic(() => import('./WrongDriveOut').then((part) => part.WrongDriveOut), { ssr: false });
const AfterWrongDrive = dynamic(() => import('./WrongDriveOut').then((part) => part.AfterWrongDrive), { ssr: false });
const LeaveDialog = dynamic(() => import('./LeaveDialog').then((part) => part.LeaveDialog), { ssr: false });
/** The same as the server draws, with the whole model: needed only while something here has not been sent. */
const RestOfPlan = dynamic(() => import('./RestOfPlan').then((part) => part.RestOfPlan), { ssr: false });

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly planId: string;
  readonly run: PlanRun;
  readonly initial: string | undefined;
  readonly mayRecord: boolean;
  readonly isOwner: boolean;
  /** What is recorded of the drives that may be taken in hand. */
  readonly loose: readonly ScanKnown[];
  /** What the work of its units is reckoned with. */
  readonly work: WorkKnown;
  /** What is thought of the drives of each pool. */
  readonly thought: Readonly<Record<string, Thought>>;
  /** Every unit it acts on, in the plan's order. */
  readonly all: readonly { readonly id: string; readonly version: number; readonly state: UnitState }[];
  readonly now: string;
  /** The groups its first unit has when it is done, where it makes some. */
  readonly groups: GroupsAhead | null;
  /** What is left of the plan, as the server sees it. */
  readonly rest: ReactNode;
}

/** What stops a plan that carries drives over, and is answered by carrying them back. */
const CARRIES_BACK: ReadonlySet<string> = new Set(['asks-to-erase', 'not-as-it-was']);

/** So long after a step is shown no tap confirms it. */
const TAP_MS = 1000;

type Stock = Extract<StepEvidence, { kind: 'stock' }>;

const KIND_WORDS = { check: 'Check', act: 'Do', wait: 'Wait', record: 'Write down' } as const;

/** A plan as it is worked through: steps on the left, one large in the middle, on the right what it risks and when. */
export function Runner({
  id,
  version,
  unit: recorded,
  planId,
  run: recordedRun,
  initial,
  mayRecord,
  isOwner,
  loose,
  work,
  thought,
  all,
  now,
  groups,
  rest,
}: Props): ReactNode {
  const elsewhere = useMemo(
    () => Object.fromEntries(all.flatMap((one) => (one.id === id ? [] : [[one.id, one.state] as const]))),
    [all, id],
  );
  const worker = useRun({ id, version, unit: recorded, plan: planId, run: recordedRun, loose, others: elsewhere });
  const { unit: here, others, run, queue, busy, fault, stopped, conflict, confirm, change, isLooking } = worker;
  const units = Object.fromEntries(all.map((one) => [one.id, one.id === id ? here : (others[one.id] ?? one.state)]));
  const { plan, done, ended, paused } = run;
  const next = nextStep(run);
  // Nothing chosen by hand: the plan leads.
  const [picked, setPicked] = useState(initial);
  const [kept, setKept] = useState<Extract<StepEvidence, { kind: 'wrong-out' }> | null>(null);
  const [leaving, setLeaving] = useState<Leaving | null>(null);
  const step = plan.steps.find((one) => one.id === picked) ?? next ?? (plan.steps.at(-1) as PlanStep);
  // A step is about the unit it acts on.
  const at = unitsOfStep(step, run.units)[0] ?? id;
  const unit = units[at] ?? here;
  const isDone = Object.hasOwn(done, step.id);
  const waiting = waitsFor(run, step);
  const before = isDone || ended ? undefined : lastDone(run);
  const count = Object.keys(done).length;
  const confirmedHere = queue.filter((one) => !one.wasStopped);
  const notYetSent = new Set(confirmedHere.map((one) => one.step));
  const job = jobOf(unit, step);
  const freezes = ended ? undefined : Object.values(units).flatMap((one) => whyFrozen(one, plan) ?? [])[0];
  const isLost = freezes?.code === 'pool-lost' && !isDone;
  // A drive that was in a hand: only where the step sends a hand to a tray, and only one that stands in a bay.
  const wrong = step.does.some(({ kind }) => kind === 'pull-drive')
    ? stopped?.interlocks.find(({ code, serial }) => code === 'wrong-serial' && unit.drives[serial]?.bay != null)
        ?.serial
    : undefined;
  const hasStopped = !isDone && !ended && waiting.length === 0 && workAgain(unit, step) !== null;
  const early = stopped?.interlocks.find(({ code }) => code === 'too-early');

  const head = useRef<HTMLHeadingElement>(null);
  const shownAt = useRef(0);
  useEffect(() => {
    const isFirst = shownAt.current === 0;
    shownAt.current = Date.now();
    // On a phone the next step begins at its heading, not where the last one was confirmed.
    if (!isFirst && window.innerWidth < 1024) head.current?.scrollIntoView({ block: 'start' });
  }, [step.id]);
  const choose = (to: string | undefined): void => {
    setPicked(to);
    worker.clear();
  };
  const sent = async (evidence: StepEvidence, override?: Parameters<typeof confirm>[2]): Promise<void> => {
    if (!(await confirm(step, evidence, override))) return;
    if (evidence.kind === 'scans') forgetScans(planId, step.id);
    setKept(evidence.kind === 'wrong-out' ? evidence : null);
    // The record has the work done; the unit's page has not: the end that was said too early is taken back.
    const ended =
      evidence.kind === 'page' &&
      step.asks.kind === 'page' &&
      (evidence.says === 'working' || evidence.says === 'stopped')
        ? endOf(step)
        : undefined;
    if (ended)
      await change(
        (expectedVersion) =>
          api('POST /units/{id}/plans/{plan}/back', { id, plan: planId, body: { expectedVersion, step: ended.id } }),
        `“${ended.title}” is not done after all.`,
      );
    setPicked(undefined);
  };
  /** The wait that was ended and on which a look at the page rests. */
  const endOf = (look: PlanStep): PlanStep | undefined =>
    plan.steps
      .slice(0, plan.steps.indexOf(look))
      .findLast(
        (one) =>
          Object.hasOwn(done, one.id) && one.does.some(({ kind }) => kind === 'finish-rebuild' || kind === 'take-back'),
      );

  return (
    <div className="flex min-h-full max-lg:flex-col lg:h-full print:hidden">
      <nav
        aria-label="Steps"
        className="flex shrink-0 flex-col border-line bg-surface p-4 max-lg:order-2 max-lg:border-t lg:w-[300px] lg:border-r"
      >
        <h1 className="text-lg">{plan.title}</h1>
        <p className="text-sm text-muted">
          {count} of {plan.steps.length} done
          {run.refused > 0 && `, stopped ${String(run.refused)} ${run.refused === 1 ? 'time' : 'times'}`}
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
        <RunSteps run={run} chosen={step.id} next={next?.id} notYetSent={notYetSent} onChoose={choose} />
      </nav>
      <section
        aria-label="Step"
        className="relative min-w-0 flex-1 overflow-y-auto p-6 max-sm:p-4"
        data-step={step.id}
        onClickCapture={(event) => {
          // The second tap of a hand that tapped twice is meant for the step before: a key is no tap.
          if (event.detail === 0 || Date.now() - shownAt.current > TAP_MS) return;
          event.preventDefault();
          event.stopPropagation();
        }}
      >
        {queue.length > 0 && (
          <div className="mb-4" data-not-yet-sent={confirmedHere.length}>
            <Notice title={`Not yet sent: ${notYetSentWords(confirmedHere.length, queue.length)}`}>
              <p>
                The server is not reached. What you confirm is kept in this browser and sent in order when the network
                is back. Go on.
              </p>
            </Notice>
          </div>
        )}
        {conflict && (
          <div className="mb-4" data-conflict={conflict.kind}>
            <Notice
              grave
              title={
                conflict.kind === 'behind'
                  ? `“${conflict.entry.title}” was done here while something else was recorded`
                  : `“${conflict.entry.title}” was done here, and cannot stand as it was`
              }
            >
              <p>{conflict.sentence}</p>
              {conflict.kind === 'refused' && (
                <p className="mt-2">
                  Do nothing more at the unit before this is settled: look at the step again, and record at the unit
                  what was really done.
                </p>
              )}
              <div className="mt-3 flex flex-wrap gap-2">
                {conflict.kind === 'behind' && (
                  <Button className="min-h-11" onClick={() => void worker.decide('after')}>
                    Both are true: send mine after it
                  </Button>
                )}
                <Button look="grave" className="min-h-11" onClick={() => void worker.decide('drop')}>
                  Drop what is not sent from here
                </Button>
              </div>
            </Notice>
          </div>
        )}
        {paused && !ended && (
          <div className="mb-4">
            <Notice title="It rests, with these words for whoever goes on">
              <p>
                “{paused.note}” <Moment at={paused.at} relative />
              </p>
            </Notice>
          </div>
        )}
        {kept && <AfterWrongDrive unit={unit} unitId={id} kept={kept} onClose={() => setKept(null)} />}
        {freezes && (
          <div className="mb-4 max-w-[640px]" data-frozen={freezes.code}>
            <Notice grave title={freezes.sentence}>
              <p className="text-lg">{freezes.back}</p>
              <p className="mt-3 flex flex-wrap gap-2">
                {freezes.code === 'another-takes-over' ? (
                  <Button look="main" className="min-h-11" onClick={() => setLeaving('stop')}>
                    Stop this plan…
                  </Button>
                ) : (
                  <ButtonLink look="main" href={`/units/${id}/rescue`}>
                    Open the rescue desk
                  </ButtonLink>
                )}
              </p>
            </Notice>
          </div>
        )}
        {/* What a step says was right for the unit as it was; of a lost pool it says nothing more. */}
        {!isLost && (
          <>
            <p className="mb-1 text-sm font-semibold text-muted lg:hidden">
              {plan.title}, step {plan.steps.indexOf(step) + 1} of {plan.steps.length}
            </p>
            <p className="text-muted">
              {KIND_WORDS[step.kind]}
              {/* Once it runs there is one time for it: that of the live estimate. */}
              {!job && step.hours !== undefined && step.hours >= 0.02 && ` · about ${hoursWords(step.hours)}`}
              {!job && step.between !== undefined && `, ${step.between.map(hoursWords).join(' to ')}`}
            </p>
            <h2 ref={head} className="mb-2 scroll-mt-4 text-[24px] leading-tight font-semibold max-sm:text-xl">
              <Sentence of={step.title} />
            </h2>
            <p className="max-w-[640px] text-lg">
              <Sentence of={step.why} />
            </p>
            {step.caution !== undefined && !isDone && (
              <div className="mt-3 max-w-[640px]">
                <Notice grave title="Take care">
                  <p>
                    <Sentence of={step.caution} />
                  </p>
                </Notice>
              </div>
            )}
            {all.length > 1 && <BothFronts units={Object.values(units)} step={step} />}
            {step.bay !== undefined && (
              <div
                className="relative mt-4 max-w-full overflow-x-auto"
                role="img"
                aria-label={`${BayName(unit, step.bay)} of ${unit.name}, seen from the front`}
              >
                <UnitFront
                  unit={frontOf(unit)}
                  size={unit.enclosures.length > 1 ? 'shelf' : 'page'}
                  chosen={step.bay}
                />
              </div>
            )}
            {at === id && <BoxGroups of={groups} step={step} isFlat={frontOf(unit).trays === 'flat'} />}
            {step.does.some(({ kind }) => kind === 'confirm-copies') && !isDone && (
              <p className="mt-3">
                <Link href="/listings" className="text-action underline">
                  Compare two lists of files
                </Link>
              </p>
            )}
            {!isDone && !ended && mayRecord && queue.length === 0 && (
              <UnitSays
                id={at}
                unit={unit}
                version={all.find((one) => one.id === at)?.version ?? version}
                step={step}
                isOpen={waiting.length === 0}
                busy={busy || isLooking}
                onEvidence={(evidence) => void sent(evidence)}
                onNews={worker.look}
              />
            )}
            <div className="mt-5 max-w-[640px]">
              {fault !== null && (
                <div className="mb-4">
                  <Notice grave>{fault}</Notice>
                </div>
              )}
              {stopped?.step === step.id && (
                <div className="mb-4">
                  {early ? (
                    <div
                      role="alert"
                      data-stopped="too-early"
                      className="grid gap-3 border-2 border-thinned bg-thinned-ground p-4"
                    >
                      <p className="text-lg font-semibold">{early.sentence}</p>
                      <p className="text-lg">{early.back}</p>
                      <PageQuestion
                        of={job?.task === 'copy' ? 'copy' : 'wait'}
                        busy={busy}
                        onEvidence={(evidence) => void sent(evidence)}
                      />
                    </div>
                  ) : (
                    <StopPanel
                      key={JSON.stringify(stopped.evidence)}
                      interlocks={stopped.interlocks}
                      isOwner={isOwner}
                      busy={busy}
                      onOverride={(override) => void sent(stopped.evidence, override)}
                    >
                      {stopped.interlocks.some(({ code }) => CARRIES_BACK.has(code)) && (
                        <CarryBack of={all[0]} mayRecord={mayRecord} isReady={!isLooking} />
                      )}
                      {stopped.evidence.kind === 'stock' && (
                        <Button
                          className="mt-3 min-h-11"
                          disabled={busy}
                          onClick={() => void sent({ ...(stopped.evidence as Stock), seen: true })}
                        >
                          {stopped.interlocks.some(({ code }) => code === 'names-taken')
                            ? 'They get other names: go on'
                            : 'What differs is meant: go on'}
                        </Button>
                      )}
                      {wrong !== undefined && (
                        <WrongDriveOut
                          unit={unit}
                          serial={wrong}
                          busy={busy}
                          onEvidence={(evidence) => void sent(evidence)}
                        />
                      )}
                    </StopPanel>
                  )}
                </div>
              )}
              {hasStopped && (
                <section data-work-stopped className="mb-5 grid gap-3 border-2 border-thinned bg-thinned-ground p-4">
                  <p className="text-lg font-semibold">By the record this work has stopped before its end.</p>
                  <p>
                    Pull nothing, and keep the drive that was taken out. Copy off first what cannot be made again; then
                    start it again in the unit’s page, on the same drive: read the serial it asks to erase.
                  </p>
                  {mayRecord && <PageQuestion of="again" busy={busy} onEvidence={(evidence) => void sent(evidence)} />}
                </section>
              )}
              {job && !isDone && (
                <WaitPanel
                  unit={unit}
                  job={job}
                  work={work}
                  totalBytes={step.does.flatMap((one) => (one.kind === 'finish-job' ? (one.bytes ?? []) : []))[0]}
                  hours={step.hours}
                  busy={busy}
                  onPercent={(percent) =>
                    void change(
                      (version) =>
                        // Where it runs on the other unit it is that one's ledger.
                        api('POST /units/{id}/events', {
                          id: at,
                          body: {
                            expectedVersion:
                              at === id ? version : (all.find((one) => one.id === at)?.version ?? version),
                            event: { kind: 'job-progressed', job: job.id, percent },
                          },
                        }).then((sent) => (at === id || sent.kind === 'refused' ? sent : { ...sent, answer: {} })),
                      `${String(percent)} % entered.`,
                    )
                  }
                />
              )}
              {isDone ? (
                <div className="grid gap-3">
                  <p className="text-lg">
                    {done[step.id]?.skipped === undefined ? 'Done' : `Left out: ${done[step.id]?.skipped ?? ''}`}{' '}
                    <Moment at={done[step.id]?.at ?? ''} />
                    <EvidenceWords of={done[step.id]?.evidence} unit={unit} />
                  </p>
                  {done[step.id]?.override && (
                    <p className="text-thinned">Against the record, by the owner: {done[step.id]?.override?.reason}</p>
                  )}
                  <div className="flex flex-wrap gap-2">
                    {next && (
                      <Button look="main" className="min-h-11" onClick={() => choose(undefined)}>
                        Go to the next step
                      </Button>
                    )}
                    {mayRecord && !ended && !notYetSent.has(step.id) && (
                      <Button
                        disabled={busy}
                        className="min-h-11"
                        onClick={() =>
                          void change(
                            (expectedVersion) =>
                              api('POST /units/{id}/plans/{plan}/back', {
                                id,
                                plan: planId,
                                body: { expectedVersion, step: step.id },
                              }),
                            'Taken back. What it changed is withdrawn.',
                          )
                        }
                      >
                        Take this step back
                      </Button>
                    )}
                  </div>
                </div>
              ) : waiting.length > 0 ? (
                <div className="text-lg">
                  <p>First:</p>
                  <ul className="mt-1 grid gap-1">
                    {waiting.map((one) => (
                      <li key={one.id}>
                        <button
                          type="button"
                          className="min-h-9 text-left text-action underline max-sm:min-h-11"
                          onClick={() => choose(one.id)}
                        >
                          <Sentence of={one.title} />
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
                  unit={unit}
                  units={units}
                  loose={loose}
                  sized={[...loose.map(({ serial, facts }) => ({ serial, ...facts })), ...drivesRead(done)]}
                  plan={planId}
                  expects={expectedSerial(unit, step)}
                  busy={busy}
                  before={stockBefore(step, units)}
                  onEvidence={(evidence) => void sent(evidence)}
                  onSkip={step.maySkip === true ? () => setLeaving('skip') : undefined}
                />
              ) : (
                <p className="text-muted">Not done yet.</p>
              )}
              {before && mayRecord && (
                <p className="mt-4 text-sm text-muted">
                  Done before this: “{before.title}”, <Moment at={done[before.id]?.at ?? ''} />.{' '}
                  <button
                    type="button"
                    className="text-action underline max-sm:min-h-11"
                    onClick={() => choose(before.id)}
                  >
                    Look at it, or take it back
                  </button>
                </p>
              )}
              {step.drive !== undefined && (
                <p className="mt-3">
                  <Link href={`/drives/${encodeURIComponent(step.drive)}`} className="text-action underline">
                    The page of {step.drive}
                  </Link>
                </p>
              )}
            </div>
          </>
        )}
        {!next && !ended && mayRecord && (
          <div className="mt-6 max-w-[640px]">
            <Notice title="Every step is done">
              <Button
                look="main"
                className="mt-2 min-h-11"
                disabled={busy || queue.length > 0}
                onClick={() =>
                  void change(
                    (expectedVersion) =>
                      api('POST /units/{id}/plans/{plan}/end', {
                        id,
                        plan: planId,
                        body: { expectedVersion, how: 'finished' },
                      }),
                    'The plan is finished.',
                  )
                }
              >
                Finish the plan
              </Button>
            </Notice>
          </div>
        )}
        <p className="mt-8 flex flex-wrap gap-x-5 gap-y-2 text-sm">
          {Object.entries(units).map(([one, { name }]) => (
            <Link key={one} href={`/units/${one}`} className="text-action underline">
              {name}
            </Link>
          ))}
          <button type="button" className="text-action underline" onClick={() => window.print()}>
            Print the sheet
          </button>
          {mayRecord && !ended && (
            <>
              <Link href={`/units/${id}/plans/${planId}/sheet`} className="text-action underline">
                Enter a sheet filled by hand
              </Link>
              <button type="button" className="text-action underline" onClick={() => setLeaving('hand-over')}>
                Hand over, or let it rest
              </button>
              <button type="button" className="text-thinned underline" onClick={() => setLeaving('stop')}>
                Stop the plan here
              </button>
            </>
          )}
        </p>
        <p className="mt-3 max-w-[640px] text-sm text-muted">
          The maker’s manual, local codes and licensed practice come before this plan.
        </p>
      </section>
      {queue.length === 0 ? rest : <RestOfPlan units={units} run={run} work={work} thought={thought} now={now} />}
      {leaving && (
        <LeaveDialog
          of={{ id, plan: planId }}
          leaving={leaving}
          run={run}
          step={step}
          busy={busy}
          onClose={() => setLeaving(null)}
          onChange={change}
        />
      )}
    </div>
  );
}

/** "2 steps, and one try that was stopped". */
function notYetSentWords(steps: number, all: number): string {
  const tries = all - steps;
  const done = `${String(steps)} ${steps === 1 ? 'step' : 'steps'}`;
  const stopped = tries === 1 ? 'one try that was stopped' : `${String(tries)} tries that were stopped`;
  return tries === 0 ? done : steps === 0 ? stopped : `${done}, and ${stopped}`;
}
