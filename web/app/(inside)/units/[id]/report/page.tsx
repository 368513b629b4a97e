import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { readKeptColumns } from '~/service/units/reportOperations';
import { findUnit } from '~/service/units/findUnit';
import { PasteReport } from '~/web/parts/unit/PasteReport';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Compare with its page' };

export default insidePage('keeper', async ({ app, params }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  return (
    <div className="max-w-[900px] p-5">
      <h1 className="text-xl">What does the page of {unit.state.name} say?</h1>
      <p className="mb-4 text-muted">
        Copy its list of drives, as text or CSV, and paste it here, or choose the file it wrote out. It is held against
        the record; nothing is stored until you accept it.{' '}
        <Link href={`/units/${unit.id}`} className="text-action underline">
          Back to the unit
        </Link>
      </p>
      <PasteReport id={unit.id} enclosures={unit.state.enclosures} kept={await readKeptColumns(app, unit)} />
    </div>
  );
});
