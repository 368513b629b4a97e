import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { readUsed } from '~/service/units/readUnit';
import { findUnit } from '~/service/units/findUnit';
import { PoolChangeForm } from '~/web/parts/unit/PoolChangeForm';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Its pools changed' };

export default insidePage('keeper', async ({ app, params }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  return (
    <div className="max-w-[720px] p-5 max-sm:p-4">
      <h1 className="text-xl">What changed of the pools of {unit.state.name}?</h1>
      <p className="mb-4 text-muted">
        What was done on the unit’s own page is written down here; this page does not touch the unit.{' '}
        <Link href={`/units/${unit.id}`} className="text-action underline">
          Back to the unit
        </Link>
      </p>
      <PoolChangeForm id={unit.id} version={unit.version} unit={unit.state} used={await readUsed(app, unit)} />
    </div>
  );
});
