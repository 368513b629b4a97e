import { notFound } from 'next/navigation';
import { own } from '~/core/value/own';
import { isRefusal } from '~/core/value/refusal';
import { readUsed } from '~/service/readUnit';
import { findUnit } from '~/service/unitOperations';
import { mayAct } from '~/service/viewer';
import { PlanSheet } from '~/web/parts/plan/PlanSheet';
import { Runner } from '~/web/parts/plan/Runner';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Plan' };

export default insidePage('reader', async ({ app, viewer, params, query, now }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  const run = own(unit.state.plans, params['plan'] ?? '');
  if (!run) notFound();
  const used = await readUsed(app, unit.id);
  const step = typeof query['step'] === 'string' ? query['step'] : undefined;
  return (
    <>
      <Runner
        key={run.id}
        id={unit.id}
        version={unit.version}
        unit={unit.state}
        run={run}
        initial={step}
        mayRecord={mayAct(viewer, 'keeper')}
        isOwner={mayAct(viewer, 'owner')}
        used={used}
        now={now.toISOString()}
      />
      <PlanSheet unit={unit.state} run={run} />
    </>
  );
});
