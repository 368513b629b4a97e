import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { findUnit } from '~/service/units/unitOperations';
import { mayAct } from '~/service/access/viewer';
import { LargerForm } from '~/web/parts/plan/LargerForm';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Larger drives' };

export default insidePage('reader', async ({ app, viewer, params }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  return (
    <div className="p-5 max-sm:p-4">
      <h1 className="text-xl">Larger drives for {unit.state.name}</h1>
      <p className="mb-4 max-w-[720px] text-muted">
        One at a time: what shows signs first, then the oldest; each rebuilt and seen healthy before the next.{' '}
        {unit.state.profile.growth.expand === 'by-itself'
          ? 'On this family space comes by itself along the way.'
          : 'On this family space comes with one command at the end.'}
      </p>
      <LargerForm id={unit.id} version={unit.version} unit={unit.state} mayRecord={mayAct(viewer, 'keeper')} />
    </div>
  );
});
