import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import { nextStep } from '~/core/planRun/progress';
import type { PlanRun } from '~/core/planRun/planRun';
import { DataTable, type Column, type ListAddress } from '~/web/parts/table/DataTable';
import { Moment } from '~/web/parts/unit/Moment';

export interface PlanRow {
  readonly id: string;
  readonly unit: string;
  readonly run: PlanRun;
}

const nextOf = (run: PlanRun): string => nextStep(run)?.title ?? 'finish it';

const COLUMNS: readonly Column<PlanRow>[] = [
  {
    id: 'plan',
    head: 'Plan',
    value: ({ run }) => run.plan.title,
    cell: ({ id, unit, run }) => (
      <Link href={`/units/${unit}/plans/${id}`} className="font-semibold underline decoration-line">
        {run.plan.title}
      </Link>
    ),
  },
  { id: 'begun', head: 'Begun', value: ({ run }) => run.startedAt, cell: ({ run }) => <Moment at={run.startedAt} /> },
  {
    id: 'far',
    head: 'How far',
    value: ({ run }) => Object.keys(run.done).length / run.plan.steps.length,
    cell: ({ run }) => `${String(Object.keys(run.done).length)} of ${String(run.plan.steps.length)}`,
  },
  {
    id: 'next',
    head: 'Next',
    value: ({ run }) => (run.ended ? `${run.ended.how} ${run.ended.at}` : nextOf(run)),
    cell: ({ run }) =>
      run.ended ? (
        <>
          {run.ended.how} <Moment at={run.ended.at} />
        </>
      ) : (
        nextOf(run)
      ),
  },
];

/** Every plan, running and done. */
export function PlansTable({ plans, ...address }: { readonly plans: readonly PlanRow[] } & ListAddress): ReactNode {
  return <DataTable label="Plans" columns={COLUMNS} rows={plans} keyOf={({ id }) => id} {...address} />;
}
