import { notFound } from 'next/navigation';
import { readPlanStart } from '~/service/plans/readPlanStart';
import { mayAct } from '~/service/access/viewer';
import { ReplaceForm } from '~/web/parts/plan/ReplaceForm';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Replace a drive' };

export default insidePage('reader', async ({ app, viewer, params, query }) => {
  const start = await readPlanStart(app, params['id'] ?? '');
  if (!start) notFound();
  const { unit, drawers } = start;
  return (
    <div className="p-5 max-sm:p-4">
      <h1 className="text-xl">Replace a drive of {unit.state.name}</h1>
      <p className="mb-4 max-w-[720px] text-muted">
        The plan is made for this bay, this pool and {unit.state.profile.name}. Nothing is recorded until you begin.
        Touch no bay yet: a beep means thinned, not broken.
      </p>
      <ReplaceForm
        id={unit.id}
        version={unit.version}
        unit={unit.state}
        drawers={drawers}
        serial={typeof query['serial'] === 'string' ? query['serial'] : undefined}
        mayRecord={mayAct(viewer, 'keeper')}
      />
    </div>
  );
});
