import type { ReactNode } from 'react';
import type { GroupsAhead } from '~/core/plan/engine/boxesOfStep';
import { stockWords } from '~/core/move/stock';
import { fitting } from '~/core/plan/engine/fitting';
import type { PlanStep } from '~/core/plan/plan';
import { unitsOfStep } from '~/core/plan/engine/unitsOfStep';
import type { PlanRun } from '~/core/planRun/planRun';
import { bayShort } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';
import { BoxGroups } from './BoxGroups';
import { EvidenceWords } from './EvidenceWords';
import { Sentence } from '~/web/parts/frame/Sentence';

/** The plan on paper: tick boxes, serials in large type, cautions, and room for values written by hand. */
export function PlanSheet({
  units,
  run,
  groups,
}: {
  /** The units it acts on, by id, the first first. */
  readonly units: Readonly<Record<string, UnitState>>;
  readonly run: PlanRun;
  /** The groups its first unit has when it is done, where it makes some. */
  readonly groups: GroupsAhead | null;
}): ReactNode {
  const { plan, done } = run;
  const ids = Object.keys(units);
  const unitOf = (step: PlanStep): UnitState => units[unitsOfStep(step, ids)[0] as string] as UnitState;
  return (
    <article className="hidden print:block" aria-hidden>
      <h1 className="text-xl">{plan.title}</h1>
      {Object.entries(units).map(([id, unit]) => (
        <p key={id}>
          {unit.name}: {unit.place.site}, {unit.place.room} · {unit.profile.name} · serial{' '}
          {unit.details.serial ?? '________________'}
        </p>
      ))}
      <p className="mt-1 text-sm">
        The maker’s manual, local codes and licensed practice come before this sheet. Earth yourself; unplug every
        supply before a case is opened; hold drives by their sides.
      </p>
      {plan.steps.map((step, i) => (
        <section key={step.id} className="break-inside-avoid">
          {step.part !== plan.steps[i - 1]?.part && <h2 className="mt-3 border-b border-black text-lg">{step.part}</h2>}
          <div className="mt-2 flex gap-3">
            <span className="mt-0.5 block h-4 w-4 shrink-0 border border-black text-center leading-4">
              {Object.hasOwn(done, step.id) ? '✓' : ''}
            </span>
            <div className="min-w-0 flex-1">
              <p className="font-semibold">
                <Sentence of={step.title} />
              </p>
              {step.caution !== undefined && <p className="font-semibold">Take care: {step.caution}</p>}
              <BoxGroups of={groups} step={step} isFlat={unitOf(step).profile.bays.trays === 'flat'} isPaper />
              {done[step.id]?.evidence ? (
                <p className="mt-1 text-lg">
                  <EvidenceWords of={done[step.id]?.evidence} unit={unitOf(step)} />
                </p>
              ) : (
                <Blank step={step} unit={unitOf(step)} />
              )}
            </div>
            <span className="shrink-0 text-sm">time ________</span>
          </div>
        </section>
      ))}
    </article>
  );
}

function Blank({ step, unit }: { readonly step: PlanStep; readonly unit: UnitState }): ReactNode {
  const { asks } = step;
  // Nobody knows yet how large a drive is that goes in: it stands on it.
  const size = fitting(step) && (
    <>
      {' '}
      size <span className="inline-block w-20 border-b border-black" />
    </>
  );
  if (asks.kind === 'tick') return null;
  if (asks.kind === 'serial')
    return (
      <p className="mt-1 font-mono text-lg">
        {asks.expects ?? 'serial'} <span className="inline-block w-64 border-b border-black" />
        {size}
      </p>
    );
  if (asks.kind === 'choice')
    return (
      <p className="mt-1 flex flex-wrap gap-x-5">
        {asks.options.map((option) => (
          <span key={option} className="flex gap-2">
            <span className="mt-0.5 block h-4 w-4 border border-black" /> {option}
          </span>
        ))}
      </p>
    );
  if (asks.kind === 'scans')
    return (
      <ol className="mt-1 grid grid-cols-2 gap-x-6">
        {asks.bays.map(({ bay, expects }) => (
          <li key={bay} className="flex gap-2 font-mono">
            <span className="mt-0.5 block h-4 w-4 shrink-0 border border-black" /> {bayShort(unit, bay)} {expects ?? ''}
            <span className="inline-block min-w-20 flex-1 border-b border-black" />
            {size}
          </li>
        ))}
      </ol>
    );
  if (asks.kind === 'stock')
    return (
      <p className="mt-1">
        {unit.stock ? unit.stock.lines.map(stockWords).join('; ') : 'What it does for people, a line each'}
        {[1, 2, 3].map((line) => (
          <span key={line} className="mt-4 block border-b border-black" />
        ))}
      </p>
    );
  if (asks.kind === 'drives')
    return (
      <ol className="mt-1">
        {Array.from({ length: asks.count }, (_, i) => (
          <li key={i} className="mt-2 flex gap-2">
            serial <span className="inline-block min-w-20 flex-1 border-b border-black" /> size{' '}
            <span className="inline-block w-24 border-b border-black" /> new, used, damaged
          </li>
        ))}
      </ol>
    );
  if (asks.kind === 'fates')
    return (
      <ul className="mt-1 grid gap-y-2">
        {asks.serials.map((serial) => (
          <li key={serial} className="flex gap-2">
            <span className="font-mono">{serial}</span> wiped: how, by whom, checked{' '}
            <span className="inline-block min-w-20 flex-1 border-b border-black" /> goes to{' '}
            <span className="inline-block min-w-20 flex-1 border-b border-black" />
          </li>
        ))}
      </ul>
    );
  if (asks.kind === 'items')
    return (
      <ul className="mt-1 grid grid-cols-2 gap-x-6 gap-y-1">
        {asks.items.map(({ what, count }) => (
          <li key={what} className="flex gap-2">
            <span className="mt-0.5 block h-4 w-4 shrink-0 border border-black" /> {count} {what}; missing{' '}
            <span className="inline-block min-w-10 flex-1 border-b border-black" />
          </li>
        ))}
      </ul>
    );
  if (asks.kind === 'copy')
    return (
      <ul className="mt-1 grid grid-cols-2 gap-x-6 gap-y-2">
        {[
          'where it is, or “none”',
          'last ran on',
          'versions, or a mirror',
          'off site: yes, no',
          'a file that came back',
          'on; opened: yes, no',
        ].map((label) => (
          <li key={label} className="flex gap-2">
            {label} <span className="inline-block min-w-20 flex-1 border-b border-black" />
          </li>
        ))}
      </ul>
    );
  const label =
    asks.kind === 'text' || asks.kind === 'number'
      ? asks.label
      : asks.kind === 'speed'
        ? 'reads, writes, MB/s'
        : asks.kind === 'page'
          ? 'what its page says, looked at twice'
          : 'picture taken';
  return (
    <p className="mt-1">
      {label} <span className="inline-block w-72 border-b border-black" />
    </p>
  );
}
