'use client';
import { useState, type ReactNode } from 'react';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import { factsOf } from '~/core/layout/scheme';
import { poolsOf, type UnitState } from '~/core/unit/state';
import { BeginPlan } from './BeginPlan';
import { MarginTimeline, RiskFigures } from './MarginTimeline';
import { NewDriveChoice } from './NewDriveChoice';
import { PlanPreview } from './PlanPreview';
import { usePlanTried } from './usePlanTried';

/** Larger drives for a pool, one at a time: the space after each, and the days it takes. */
export function LargerForm({
  id,
  version,
  unit,
  mayRecord,
}: {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly mayRecord: boolean;
}): ReactNode {
  const pools = poolsOf(unit);
  const [pool, setPool] = useState(pools[0]?.id ?? '');
  const [drive, setDrive] = useState<NewDrive | null>(null);
  const wish = drive ? { pool, drive } : null;
  const tried = usePlanTried('replace-all', id, wish);
  const risk = tried.kind === 'tried' ? tried.risks.find((one) => one.pool === pool) : undefined;
  if (pools.length === 0) return <p className="text-muted">This unit has no pool to grow.</p>;
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_380px]">
      <div className="grid gap-5">
        {pools.length > 1 && (
          <label className="block max-w-[420px]">
            <span className="mb-1 block font-semibold">Pool</span>
            <select className="field" value={pool} onChange={(event) => setPool(event.target.value)}>
              {pools.map(({ id: of, name, scheme }) => (
                <option key={of} value={of}>
                  {name}, {factsOf(scheme).name}
                </option>
              ))}
            </select>
          </label>
        )}
        <NewDriveChoice candidates={[]} first={undefined} onDrive={setDrive} />
        {risk && (
          <section aria-label="Margin" className="max-w-[420px] border border-line bg-surface p-3">
            <MarginTimeline risk={risk} label="Margin against time" here={false} />
            <RiskFigures risk={risk} />
          </section>
        )}
        {mayRecord && <BeginPlan id={id} version={version} job="replace-all" wish={wish} isReady={tried.kind === 'tried'} />}
      </div>
      <aside aria-label="The plan as it would be" className="border border-line bg-surface p-4" data-plan-preview>
        <h2 className="text-lg">The plan as it would be</h2>
        <PlanPreview tried={tried} withSpace />
      </aside>
    </div>
  );
}
