import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { findRun } from '~/service/plans/stepOperations';
import { findUnit } from '~/service/units/findUnit';
import { SheetForm } from '~/web/parts/plan/SheetForm';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Enter a sheet' };

export default insidePage('keeper', async ({ app, params }) => {
  const [unit, found] = [await findUnit(app, params['id']), await findRun(app, params['id'], params['plan'])];
  if (isRefusal(unit) || isRefusal(found) || found.plan.run.ended) notFound();
  const { id: plan, run } = found.plan;
  return (
    <div className="max-w-[1040px] p-5 max-sm:p-4">
      <h1 className="text-xl">{run.plan.title}: the sheet</h1>
      <p className="mb-4 max-w-[720px] text-muted">
        Copy the sheet from the top: what was ticked, its time, and what was written. All of it is entered, or nothing
        is. Serials are checked as they would have been at the shelf.{' '}
        <Link href={`/units/${unit.id}/plans/${plan}`} className="text-action underline">
          Back to the plan
        </Link>
      </p>
      <SheetForm id={unit.id} version={unit.version} plan={plan} run={run} />
    </div>
  );
});
