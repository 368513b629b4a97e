import { notFound } from 'next/navigation';
import { groupsAhead } from '~/core/plan/engine/groupsAhead';
import { isRefusal } from '~/core/value/refusal';
import { readKnown } from '~/service/plans/readKnown';
import { readKnownDrives } from '~/service/plans/readKnownDrives';
import { findRun } from '~/service/plans/stepOperations';
import { findUnit } from '~/service/units/findUnit';
import { mayAct } from '~/service/access/viewer';
import { PlanSheet } from '~/web/parts/plan/PlanSheet';
import { RestOfPlan } from '~/web/parts/plan/RestOfPlan';
import { restAhead } from '~/web/parts/plan/restAhead';
import { Runner } from '~/web/parts/plan/Runner';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Plan' };

export default insidePage('reader', async ({ app, viewer, params, query, now }) => {
  const [unit, found] = [await findUnit(app, params['id']), await findRun(app, params['id'], params['plan'])];
  if (isRefusal(unit) || isRefusal(found)) notFound();
  const { id: plan, run } = found.plan;
  const all = (await Promise.all(run.units.map((one) => findUnit(app, one)))).flatMap((one) =>
    isRefusal(one) ? [] : [one],
  );
  const units = Object.fromEntries(all.map(({ id, state }) => [id, state]));
  const [{ thought, work }, loose] = await Promise.all([readKnown(app, all, now), readKnownDrives(app)]);
  const step = typeof query['step'] === 'string' ? query['step'] : undefined;
  const ahead = restAhead({ units, run, work, now: now.toISOString() });
  const groups = groupsAhead(unit.state, run.plan, ahead);
  return (
    <>
      <Runner
        key={plan}
        id={unit.id}
        version={unit.version}
        unit={unit.state}
        planId={plan}
        run={run}
        initial={step}
        mayRecord={mayAct(viewer, 'keeper')}
        isOwner={mayAct(viewer, 'owner')}
        work={work}
        thought={thought}
        loose={loose}
        all={all.map(({ id, version, state }) => ({ id, version, state }))}
        now={now.toISOString()}
        groups={groups}
        rest={
          <RestOfPlan units={units} run={run} work={work} thought={thought} now={now.toISOString()} ahead={ahead} />
        }
      />
      <PlanSheet units={units} run={run} groups={groups} />
    </>
  );
});
