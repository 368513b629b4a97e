import { notFound } from 'next/navigation';
import { readPlanStart } from '~/service/plans/readPlanStart';
import { CommissionForm } from '~/web/parts/plan/commission/CommissionForm';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Commission a unit' };

export default insidePage('keeper', async ({ app, params, now }) => {
  const start = await readPlanStart(app, params['id'] ?? '', now);
  if (!start) notFound();
  const { unit, drawers, rates } = start;
  return (
    <div className="p-5">
      <h1 className="text-xl">Commission {unit.state.name}</h1>
      <p className="mb-4 text-muted">
        Say which drives go in and what they become. The plan is made for {unit.state.profile.name} and these bays, and
        changes as you write. Nothing is recorded until you begin.
      </p>
      <CommissionForm id={unit.id} version={unit.version} unit={unit.state} drawers={drawers} rates={rates} />
    </div>
  );
});
