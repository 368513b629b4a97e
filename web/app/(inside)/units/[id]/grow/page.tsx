import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { findUnit } from '~/service/units/unitOperations';
import { mayAct } from '~/service/access/viewer';
import { GrowForm } from '~/web/parts/plan/GrowForm';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Add drives' };

export default insidePage('reader', async ({ app, viewer, params, query }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  return (
    <div className="p-5 max-sm:p-4">
      <h1 className="text-xl">Add drives to {unit.state.name}</h1>
      <p className="mb-4 max-w-[720px] text-muted">
        Into free bays; nothing is pulled, and the pool is never thinner on the way. What is added is erased, and never
        comes out again but by a rebuild.
      </p>
      <GrowForm
        id={unit.id}
        version={unit.version}
        unit={unit.state}
        first={typeof query['pool'] === 'string' ? query['pool'] : undefined}
        mayRecord={mayAct(viewer, 'keeper')}
      />
    </div>
  );
});
