import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { findUnit } from '~/service/units/findUnit';
import { mayAct } from '~/service/access/viewer';
import { LampDecoder } from '~/web/parts/unit/LampDecoder';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Lamps' };

export default insidePage('reader', async ({ app, viewer, params, now }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  const { id, version, state } = unit;
  return (
    <div className="max-w-[760px] p-5">
      <h1 className="text-xl">What do you see or hear on {state.name}?</h1>
      <p className="mb-4 text-muted">
        The same lamp means different things on different families. This is {state.profile.name}.{' '}
        <Link href={`/units/${id}`} className="text-action underline">
          Back to the unit
        </Link>
      </p>
      <LampDecoder
        id={id}
        version={version}
        unit={state}
        now={now.toISOString()}
        mayRecord={mayAct(viewer, 'keeper')}
      />
    </div>
  );
});
