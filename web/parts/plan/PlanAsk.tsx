'use client';
import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import type { WishOf } from '~/core/plan/makers/makePlan';
import { planInTheWay } from '~/core/unit/applyPlanHere';
import type { UnitState } from '~/core/unit/state';
import type { PlanJob } from '~/schemas/plan';
import { Notice } from '~/web/parts/form/Notice';
import { HowTraysComeOut } from './HowTraysComeOut';
import { BeginPlan } from './BeginPlan';
import { PlanPreview } from './PlanPreview';
import type { Tried } from './usePlanTried';

/** What every form for a plan of a unit in use is given. */
export interface PlanFormProps {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly mayRecord: boolean;
}

interface Props extends PlanFormProps {
  readonly job: PlanJob;
  readonly wish: WishOf[PlanJob] | null;
  readonly tried: Tried;
  /** What is said while nothing is asked for yet. */
  readonly waiting?: string;
  readonly withSpace?: boolean;
  readonly children: ReactNode;
}

/** Plans in which a hand goes to a tray. */
const TOUCHES_TRAYS: ReadonlySet<PlanJob> = new Set([
  'commission',
  'replace',
  'replace-all',
  'grow',
  'convert',
  'new-pool',
  'hot-spare',
  'cache',
  'spare-in',
]);

/** What is asked for a plan, the button that begins it, and beside them the plan as it would be. */
export function PlanAsk({ unit, job, wish, tried, waiting, withSpace, mayRecord, children, ...at }: Props): ReactNode {
  const running = planInTheWay(unit, job);
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_380px]">
      <div className="grid grid-cols-[minmax(0,1fr)] gap-5">
        {running && (
          <Notice title={`“${running.title}” is under way`}>
            <Link href={`/units/${at.id}/plans/${running.id}`} className="text-action underline">
              Go on with it
            </Link>
            : drives are changed one at a time.
          </Notice>
        )}
        {mayRecord && TOUCHES_TRAYS.has(job) && <HowTraysComeOut id={at.id} version={at.version} unit={unit} />}
        {children}
        {mayRecord && (
          <BeginPlan {...at} job={job} wish={wish} isReady={tried.kind === 'tried' && running === undefined} />
        )}
      </div>
      <PlanAside
        unit={at.id}
        tried={tried}
        {...(waiting === undefined ? {} : { waiting })}
        withSpace={withSpace === true}
      />
    </div>
  );
}

/** The plan as it would be, in a box of its own. */
export function PlanAside(props: Parameters<typeof PlanPreview>[0]): ReactNode {
  return (
    <aside aria-label="The plan as it would be" className="border border-line bg-surface p-4" data-plan-preview>
      <h2 className="text-lg">The plan as it would be</h2>
      <PlanPreview {...props} />
    </aside>
  );
}
