'use client';
import type { ReactNode } from 'react';
import type { DryStep, DryStop } from '~/core/plan/dryRun';
import type { PlanBody } from '~/core/plan/plan';
import { formatBytes } from '~/core/quantity/formatBytes';
import { marginWords } from '~/core/unit/standingWords';
import { Moment } from '~/web/parts/unit/Moment';

const WIDTH = 300;
const HEIGHT = 124;
const FOOT = 18;

/** What is ahead: margin against time as a step line from "you are here", and what the last steps will have made. */
export function PlanAhead({ plan, ahead }: { readonly plan: PlanBody; readonly ahead: readonly (DryStep | DryStop)[] }): ReactNode {
  const steps = ahead.filter((one): one is DryStep => one.kind === 'dry-step');
  const stop = ahead.find((one): one is DryStop => one.kind === 'dry-stop');
  const last = steps.at(-1);
  if (!last) return null;
  const margin = ({ margin: of }: DryStep): number | null => (Object.keys(of).length === 0 ? null : Math.min(...Object.values(of)));
  const most = Math.max(1, ...steps.map((one) => margin(one) ?? 0));
  const x = (i: number): number => 10 + (i / Math.max(1, steps.length)) * (WIDTH - 20);
  const y = (of: number | null): number => (of === null ? HEIGHT - FOOT : 26 + (1 - Math.max(0, of) / most) * (HEIGHT - FOOT - 46));
  const path = steps.map((one, i) => `${i === 0 ? `M${String(x(0))} ${String(y(margin(one)))}` : `V${String(y(margin(one)))}`} H${String(x(i + 1))}`).join(' ');
  const made = steps.find((one) => margin(one) !== null);
  const hazards = steps.flatMap(({ hazards: of }) => of);
  const title = (id: string): string => plan.steps.find((step) => step.id === id)?.title ?? '';
  return (
    <aside aria-label="What is ahead" className="shrink-0 overflow-y-auto border-line bg-surface p-4 max-lg:border-t lg:w-[332px] lg:border-l">
      <h2 className="text-lg">What is ahead</h2>
      <svg
        viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`}
        className="mt-2 w-full"
        role="img"
        aria-label={`Margin over the steps that are left: ${made ? `a pool from “${title(made.step)}” on, then ${marginWords(margin(last) ?? 0)}` : 'no pool'}`}
      >
        <line x1="10" x2={WIDTH - 10} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} stroke="var(--line)" />
        <path d={path} fill="none" stroke="var(--ink)" strokeWidth="2" />
        <circle cx={x(0)} cy={y(margin(steps[0] as DryStep))} r="4" fill="var(--action)" />
        <text x={x(0)} y={HEIGHT - 4} fontSize="12" fill="var(--muted)">
          you are here
        </text>
        <text x={WIDTH - 10} y={HEIGHT - 4} fontSize="12" fill="var(--muted)" textAnchor="end">
          {steps.length} steps on
        </text>
        <text x={WIDTH - 10} y={y(margin(last)) - 8} fontSize="12" fill="var(--ink)" textAnchor="end">
          {margin(last) === null ? 'no pool yet' : marginWords(margin(last) ?? 0)}
        </text>
      </svg>
      <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        {last.usableBytes > 0 && (
          <>
            <dt className="text-muted">Usable then</dt>
            <dd>{formatBytes(last.usableBytes)}</dd>
          </>
        )}
        <dt className="text-muted">At the earliest</dt>
        <dd>
          <Moment at={last.at} />
        </dd>
      </dl>
      {hazards.map(({ sentence }) => (
        <p key={sentence} className="mt-2 text-thinned">
          {sentence.replaceAll('planned-', 'bay ')}
        </p>
      ))}
      {stop && (
        <p className="mt-2 font-semibold text-thinned">
          It would stop at “{title(stop.step)}”: {stop.refusal.sentence}
        </p>
      )}
    </aside>
  );
}
